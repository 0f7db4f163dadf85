import { Box, Button, ToggleButton, ToggleButtonGroup, useTheme } from '@mui/material'
import {
  axisMm,
  type Bounds,
  burnedAt,
  type JobDocument,
  mainPiece,
  moved,
  onceAround,
  onFace,
  outlineSize,
  radiiAlong,
  wayAround,
} from '@neotaxis/core'
import { Canvas, type ThreeEvent, useThree } from '@react-three/fiber'
import { useEffect, useMemo, useRef, useState } from 'react'
import { CanvasTexture, type PerspectiveCamera, SRGBColorSpace } from 'three'
import { Quiet, Words } from '../../parts/words.tsx'
import { useDispatch, useSelector } from '../../store/hooks.ts'
import { selected, turningShown } from '../../store/view-slice.ts'
import { onForecast, paintForecast } from '../../workers/engine.ts'
import { useEvaluation } from '../../workers/use-evaluation.ts'
import { selectedNodes } from '../selection.ts'
import { useChange } from '../use-edit.ts'
import { drawFace, textureView } from './face-texture.ts'
import { roundGeometry } from './round-geometry.ts'

/** How far a key turns it, degrees; and how far a drag of one CSS px. */
const KEY_DEG = 7.5
const DRAG_DEG = 0.45
/** Artwork is meant from so near, mm. */
const NEAR_MM = 1.5
/** Along the axis a profile is made of so many rings. */
const RINGS = 48
const TILT_MOST = 80
const FOV_DEG = 30

interface Standing {
  readonly turn: number
  readonly tilt: number
  readonly near: number
}
const FIRST: Standing = { turn: 0, tilt: 18, near: 1 }

const hasGraphics = (): boolean => {
  try {
    return document.createElement('canvas').getContext('webgl2') !== null
  } catch {
    return false
  }
}

/** The piece as it turns, after the burn: it is turned by a drag beside artwork, artwork is chosen and dragged on it. */
export default function TurningView({ job }: { readonly job: JobDocument }) {
  const dispatch = useDispatch()
  const { palette } = useTheme()
  const [standing, setStanding] = useState(FIRST)
  const [can] = useState(hasGraphics)
  const [isPainted, setPainted] = useState(false)
  const hold = useRef<{ x: number; y: number } | undefined>(undefined)
  const own = useRef<HTMLDivElement>(null)
  // Keys turn it at once.
  useEffect(() => own.current?.focus({ preventScroll: true }), [])
  const turnBy = (turn: number, tilt: number): void =>
    setStanding((now) => ({
      ...now,
      turn: (now.turn + turn + 360) % 360,
      tilt: Math.min(TILT_MOST, Math.max(-TILT_MOST, now.tilt + tilt)),
    }))
  const closer = (by: number): void => setStanding((now) => ({ ...now, near: Math.min(4, Math.max(0.5, now.near * by)) }))
  const keys: Record<string, () => void> = {
    ArrowUp: () => turnBy(-KEY_DEG, 0),
    ArrowDown: () => turnBy(KEY_DEG, 0),
    ArrowLeft: () => turnBy(0, -KEY_DEG),
    ArrowRight: () => turnBy(0, KEY_DEG),
    '+': () => closer(1.25),
    '-': () => closer(0.8),
    Home: () => setStanding(FIRST),
    Escape: () => void dispatch(turningShown(false)),
  }
  return (
    <Box
      sx={{ position: 'absolute', inset: 0, bgcolor: 'shop.surround', zIndex: 2 }}
      data-testid="turning-view"
      data-turn={standing.turn.toFixed(1)}
      data-painted={isPainted}
    >
      {can ? (
        <Box
          ref={own}
          role="application"
          aria-label="The piece as it turns. Up and down turn it, left and right tilt it, Home puts it back, Escape lays it flat."
          tabIndex={0}
          onKeyDown={(event) => {
            const act = keys[event.key]
            if (!act || event.ctrlKey || event.metaKey || event.altKey) return
            event.preventDefault()
            event.stopPropagation()
            act()
          }}
          onWheel={(event) => closer(event.deltaY < 0 ? 1.1 : 1 / 1.1)}
          onPointerDown={(event) => {
            hold.current = { x: event.clientX, y: event.clientY }
          }}
          onPointerMove={(event) => {
            if (!hold.current || event.buttons === 0) return
            const { x, y } = hold.current
            turnBy((event.clientY - y) * DRAG_DEG, (event.clientX - x) * DRAG_DEG)
            hold.current = { x: event.clientX, y: event.clientY }
          }}
          onPointerUp={() => {
            hold.current = undefined
          }}
          sx={{ position: 'absolute', inset: 0, touchAction: 'none', cursor: 'grab' }}
        >
          <Canvas frameloop="demand" flat dpr={[1, 2]} camera={{ fov: FOV_DEG }}>
            <Round
              job={job}
              standing={standing}
              onPainted={() => setPainted(true)}
              onHeld={() => {
                hold.current = undefined
              }}
            />
          </Canvas>
        </Box>
      ) : (
        <Words style={{ padding: 80 }}>
          This browser draws nothing in three dimensions: look at the face laid flat, or allow it hardware or software rendering.
        </Words>
      )}
      <Box sx={{ position: 'absolute', left: 12, top: 10, display: 'flex', gap: 1 }}>
        <ToggleButtonGroup
          exclusive
          size="small"
          value="turning"
          sx={{ bgcolor: 'background.paper' }}
          aria-label="How the piece is seen"
        >
          <ToggleButton value="flat" onClick={() => dispatch(turningShown(false))} data-testid="laid-flat">
            laid flat
          </ToggleButton>
          <ToggleButton value="turning">as it turns</ToggleButton>
        </ToggleButtonGroup>
        <Button
          size="small"
          onClick={() => setStanding(FIRST)}
          sx={{ bgcolor: 'background.paper', border: 1, borderColor: 'divider', color: palette.text.primary }}
        >
          from the front
        </Button>
      </Box>
      {can && (
        <Quiet style={{ position: 'absolute', left: 0, right: 0, bottom: 14, textAlign: 'center' }}>
          Drag artwork to move it, beside it to turn the piece; the wheel comes closer.
        </Quiet>
      )}
    </Box>
  )
}

interface RoundProps {
  readonly job: JobDocument
  readonly standing: Standing
  /** The forecast is on it. */
  readonly onPainted: () => void
  /** Artwork is held: the piece does not turn along. */
  readonly onHeld: () => void
}

function Round({ job, standing, onPainted, onHeld }: RoundProps) {
  const dispatch = useDispatch()
  const { palette } = useTheme()
  const { show, finish } = useChange()
  const { camera, invalidate, size } = useThree()
  const selection = useSelector((state) => state.view.selection)
  const also = useSelector((state) => state.view.also)
  const drawing = useEvaluation((state) => state.drawing)
  const piece = mainPiece(job)
  const around = onceAround(piece) ?? 1
  const { widthMm } = outlineSize(piece.outline)
  const radii = useMemo(() => radiiAlong(piece.surface, RINGS), [piece.surface])
  const largest = Math.max(...radii)
  const axis = piece.surface.kind === 'flat' ? widthMm : axisMm(piece.surface, widthMm)
  const geometry = useMemo(() => roundGeometry(radii, axis), [radii, axis])
  useEffect(() => () => geometry.dispose(), [geometry])
  const [texture] = useState(() => {
    const made = new CanvasTexture(document.createElement('canvas'))
    made.colorSpace = SRGBColorSpace
    made.anisotropy = 8
    return made
  })
  const [burn, setBurn] = useState<ImageBitmap>()
  const view = textureView(job)
  const key = JSON.stringify(view)
  // biome-ignore lint/correctness/useExhaustiveDependencies: the view by its numbers
  useEffect(() => {
    let ended = false
    const stop = onForecast(() => {
      void paintForecast(view).then((made) => {
        if (!made) return
        if (ended) made.bitmap.close()
        else {
          setBurn(made.bitmap)
          onPainted()
        }
      })
    })
    return () => {
      ended = true
      stop()
    }
  }, [key])
  const boxes = selectedNodes(job, selection, also).flatMap((id): Bounds[] => {
    const box = drawing?.bounds[id]
    return box && Number.isFinite(box.x0) ? [box] : []
  })
  useEffect(() => {
    const canvas = texture.image as HTMLCanvasElement
    if (canvas.width !== view.widthPx || canvas.height !== view.heightPx) {
      canvas.width = view.widthPx
      canvas.height = view.heightPx
      texture.dispose()
    }
    const context = canvas.getContext('2d')
    if (!context) return
    const { ask, halo } = palette.shop
    drawFace(context, job, burn, boxes, { seam: ask, free: ask, selected: palette.primary.main, halo })
    texture.needsUpdate = true
    invalidate()
  })
  /** The place of the face under the pointer, mm. */
  const placeOn = (event: ThreeEvent<PointerEvent>): readonly [number, number] | undefined =>
    event.uv && [event.uv.x * widthMm, (1 - event.uv.y) * around]
  const held = useRef<{ node: string; at: readonly [number, number]; moves: boolean } | undefined>(undefined)
  const take = (event: ThreeEvent<PointerEvent>): void => {
    const at = placeOn(event)
    if (!at || !drawing) return
    const found = [0, -around, around].flatMap((by) => burnedAt(job, drawing, at[0], at[1] + by, NEAR_MM) ?? [])[0]
    if (!found) return
    event.stopPropagation()
    onHeld()
    dispatch(selected({ kind: 'node', id: found.node }))
    held.current = { node: found.node, at, moves: false }
    ;(event.target as Element).setPointerCapture(event.pointerId)
  }
  const drag = (event: ThreeEvent<PointerEvent>): void => {
    const at = placeOn(event)
    if (!held.current || !at) return
    event.stopPropagation()
    onHeld()
    const { node, at: from } = held.current
    const [dx, dy] = [at[0] - from[0], wayAround(from[1], at[1], around)]
    if (!held.current.moves && Math.hypot(dx, dy) < NEAR_MM / 2) return
    held.current.moves = true
    show((base) => onFace(moved(base, node, dx, dy), node))
  }
  const drop = (): void => {
    if (held.current?.moves) finish('move')
    held.current = undefined
  }
  // As far away as it must be to be seen whole.
  const wide = Math.max(widthMm / Math.min(1.6, size.width / size.height), 2.2 * largest)
  const away = (1.2 * wide) / (2 * Math.tan((FOV_DEG * Math.PI) / 360)) / standing.near + largest
  useEffect(() => {
    const eye = camera as PerspectiveCamera
    eye.position.set(0, 0, away)
    eye.near = away / 50
    eye.far = 4 * away
    eye.updateProjectionMatrix()
    invalidate()
  }, [camera, invalidate, away])
  const dark = palette.mode === 'dark'
  return (
    <>
      <ambientLight intensity={dark ? 1.1 : 1.5} />
      <directionalLight position={[-0.6 * away, 0.9 * away, away]} intensity={1.6} />
      <group rotation={[0.12, (standing.tilt * Math.PI) / 180, 0]}>
        <group rotation={[(standing.turn * Math.PI) / 180, 0, 0]}>
          <mesh geometry={geometry} onPointerDown={take} onPointerMove={drag} onPointerUp={drop} onPointerCancel={drop}>
            <meshStandardMaterial map={texture} roughness={0.75} metalness={0.05} />
          </mesh>
          {([-1, 1] as const).map((end) => (
            <mesh key={end} position={[(end * axis) / 2, 0, 0]} rotation={[0, (end * Math.PI) / 2, 0]}>
              <circleGeometry args={[end < 0 ? radii[0] : (radii.at(-1) ?? 0), 72]} />
              <meshStandardMaterial color={palette.shop.bed} roughness={0.9} />
            </mesh>
          ))}
        </group>
      </group>
    </>
  )
}
