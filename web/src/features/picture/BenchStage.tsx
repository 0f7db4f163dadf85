import { Box, Button, useTheme } from '@mui/material'
import { burnsRows, type JobDocument, type Placement, picturedRoot, placeOf } from '@neotaxis/core'
import {
  type ReactNode,
  type PointerEvent as ReactPointerEvent,
  useEffect,
  useLayoutEffect,
  useMemo,
  useRef,
  useState,
} from 'react'
import { isWorkedOut, painted, useEvaluation } from '../../workers/use-evaluation.ts'
import { ForecastLayer, wholeOf } from '../stage/forecast-layer.ts'
import { fitView, type StageView, zoomed } from '../stage/stage-view.ts'
import { useRepaint } from '../stage/use-repaint.ts'
import { WorkState } from '../stage/WorkState.tsx'
import { type BenchMap, benchMap } from './bench-map.ts'
import { useBenchMask, useBenchPicture } from './use-bench-picture.ts'

interface Props {
  readonly job: JobDocument
  readonly node: string
  readonly operation: string | undefined
  /** The operation whose burn is shown on the left in place of the source. */
  readonly beside: { readonly operation: string; readonly name: string; readonly onWork: () => void } | undefined
  /** Framing steps that are done in what is shown; undefined: all, with the burn beside the source. */
  readonly upTo: number | undefined
  /** Seen from the other side. */
  readonly flipped: boolean
  readonly loupe: boolean
  readonly mask: string | undefined
  /** What a tool draws over the picture, and does with the pointer. */
  readonly overlay: (map: BenchMap) => ReactNode
}

const LOUPE_PX = 86
const NONE: readonly string[] = []

/** Source and burn under a movable edge, and a loupe that shows every dot. */
export function BenchStage({ job, node, operation, beside, upTo, flipped, loupe, mask, overlay }: Props) {
  const { palette } = useTheme()
  const root = picturedRoot(job, node)
  const source = useBenchPicture(job, node, root.id, upTo)
  const tint = useBenchMask(job, node, root.id, mask)
  const frame = useRef<HTMLDivElement>(null)
  const canvas = useRef<HTMLCanvasElement>(null)
  const [size, setSize] = useState({ width: 0, height: 0 })
  const [view, setView] = useState<StageView>()
  const [edge, setEdge] = useState(0.5)
  const [spy, setSpy] = useState<{ x: number; y: number }>()
  const settled = useEvaluation(() => isWorkedOut(job))
  const burned = useMemo(() => (operation ? [operation] : NONE), [operation])
  const all = useRef<ForecastLayer>(undefined)
  const near = useRef<ForecastLayer>(undefined)
  const other = useRef<ForecastLayer>(undefined)
  const otherId = beside?.operation

  const framing = upTo === undefined ? root.framing : root.framing.slice(0, upTo)
  const own = placeOf(job, root.id)
  const place = useMemo((): Placement => {
    if (upTo === undefined) return own
    // While it is framed the picture lies for itself, a pixel a tenth.
    const { frame: whole } = benchMap(root, framing, own, { x: 0, y: 0, scale: 1 }, 0, false)
    return { ...own, xMm: 0, yMm: 0, widthMm: whole.widthPx / 10, heightMm: whole.heightPx / 10 }
  }, [upTo, own, root, framing])

  const [repaint, paintWith] = useRepaint()

  useEffect(() => {
    all.current = new ForecastLayer(repaint, burned)
    near.current = new ForecastLayer(repaint, burned)
    return () => {
      all.current?.end()
      near.current?.end()
    }
  }, [repaint, burned])

  useEffect(() => {
    if (otherId === undefined) return
    other.current = new ForecastLayer(repaint, [otherId])
    return () => {
      other.current?.end()
      other.current = undefined
    }
  }, [repaint, otherId])

  useLayoutEffect(() => {
    const element = frame.current
    if (!element) return
    const watch = new ResizeObserver(([entry]) => setSize({ width: entry.contentRect.width, height: entry.contentRect.height }))
    watch.observe(element)
    return () => watch.disconnect()
  }, [])

  // A framing that changes how large it lies shows it whole again.
  const shape = `${upTo} ${place.widthMm.toFixed(2)} ${place.heightMm.toFixed(2)} ${size.width} ${size.height}`
  // biome-ignore lint/correctness/useExhaustiveDependencies: only its shape
  useEffect(() => {
    if (size.width < 10) return
    const box = { x0: place.xMm, y0: place.yMm, x1: place.xMm + place.widthMm, y1: place.yMm + place.heightMm }
    setView(fitView(box, size.width, size.height, { x: 42, top: 48, bottom: 62 }))
  }, [shape])

  /** Where it lies, job mm: nothing beside it is shown. */
  const lies = { x0: place.xMm, y0: place.yMm, x1: place.xMm + place.widthMm, y1: place.yMm + place.heightMm }
  const { x: viewX = 0, y: viewY = 0, scale = 1 } = view ?? {}
  // Seen from behind the picture's own middle stays where it is.
  const seen: StageView = flipped
    ? { scale, y: viewY, x: 2 * (place.xMm + place.widthMm / 2) - viewX - size.width / scale }
    : { x: viewX, y: viewY, scale }
  const map = benchMap(root, framing, place, seen, size.width, flipped)

  const paintNow = (): void => {
    const element = canvas.current
    if (!element || !view) return
    const ratio = window.devicePixelRatio || 1
    if (element.width !== Math.round(size.width * ratio)) element.width = Math.round(size.width * ratio)
    if (element.height !== Math.round(size.height * ratio)) element.height = Math.round(size.height * ratio)
    const context = element.getContext('2d')!
    const straight = (): void => context.setTransform(ratio, 0, 0, ratio, 0, 0)
    const turned = (): void => (flipped ? context.setTransform(-ratio, 0, 0, ratio, size.width * ratio, 0) : straight())
    straight()
    context.fillStyle = palette.shop.surround
    context.fillRect(0, 0, size.width, size.height)
    const [ax, ay] = map.frameToScreen(0, 0)
    const [bx, by] = map.frameToScreen(map.frame.widthPx, map.frame.heightPx)
    const left = Math.min(ax, bx)
    const width = Math.abs(bx - ax)
    const split = upTo === undefined ? edge * size.width : size.width
    const picture = (image: ImageBitmap): void => {
      turned()
      context.imageSmoothingEnabled = map.scale < 3
      const x = flipped ? size.width - left - width : left
      context.drawImage(image, x, ay, width, by - ay)
    }
    const part = (from: number, to: number, draw: () => void): void => {
      context.save()
      straight()
      context.beginPath()
      context.rect(Math.max(left, from), ay, Math.max(0, Math.min(left + width, to) - Math.max(left, from)), by - ay)
      context.clip()
      draw()
      context.restore()
    }
    const burn = (of: ForecastLayer): void => {
      turned()
      context.imageSmoothingEnabled = true
      of.draw(context, seen, size.width, size.height, ratio, lies)
    }
    part(0, split, () => {
      straight()
      context.fillStyle = '#ffffff'
      context.fillRect(left, ay, width, by - ay)
      if (other.current && upTo === undefined) burn(other.current)
      else if (source) picture(source)
    })
    if (upTo === undefined)
      part(split, size.width, () => {
        if (all.current) burn(all.current)
      })
    if (tint) part(0, size.width, () => picture(tint))
    straight()
    if (upTo === undefined) {
      context.fillStyle = palette.shop.raised
      context.fillRect(split - 1, ay - 14, 2, by - ay + 28)
    }
    if (loupe && spy && upTo === undefined) drawLoupe(context, ratio)
    const burnt = (all.current?.settled ?? false) && (other.current?.settled ?? true)
    if (burnt && upTo === undefined) painted('burn', job)
    frame.current?.setAttribute('data-settled', String(settled && source !== undefined && (burnt || upTo !== undefined)))
  }

  const drawLoupe = (context: CanvasRenderingContext2D, ratio: number): void => {
    if (!spy) return
    const op = operation ? job.operations[operation] : undefined
    const pitch = burnsRows(op) ? op.intervalMm : 0.1
    const close = Math.max(scale * 3, 7 / pitch)
    const at = flipped ? size.width - spy.x : spy.x
    const mmX = seen.x + at / scale
    const mmY = seen.y + spy.y / scale
    const side = 2 * LOUPE_PX
    context.save()
    context.setTransform(ratio, 0, 0, ratio, 0, 0)
    context.beginPath()
    context.arc(spy.x, spy.y, LOUPE_PX, 0, 2 * Math.PI)
    context.clip()
    const dx = spy.x - LOUPE_PX
    const dy = spy.y - LOUPE_PX
    if (flipped) context.setTransform(-ratio, 0, 0, ratio, (dx + side) * ratio, dy * ratio)
    else context.setTransform(ratio, 0, 0, ratio, dx * ratio, dy * ratio)
    context.fillStyle = palette.shop.surround
    context.fillRect(0, 0, side, side)
    near.current?.draw(
      context,
      { x: mmX - LOUPE_PX / close, y: mmY - LOUPE_PX / close, scale: close },
      side,
      side,
      ratio,
      wholeOf(job),
    )
    context.restore()
    context.setTransform(ratio, 0, 0, ratio, 0, 0)
    context.lineWidth = 3
    context.strokeStyle = palette.shop.raised
    context.beginPath()
    context.arc(spy.x, spy.y, LOUPE_PX, 0, 2 * Math.PI)
    context.stroke()
    const text = `${(side / close).toFixed(1)} mm across`
    context.font = '600 12px "Atkinson Hyperlegible Next Variable", sans-serif'
    const wide = context.measureText(text).width + 14
    context.fillStyle = palette.shop.raised
    context.fillRect(spy.x - wide / 2, spy.y + LOUPE_PX - 8, wide, 20)
    context.fillStyle = palette.text.primary
    context.textAlign = 'center'
    context.fillText(text, spy.x, spy.y + LOUPE_PX + 6)
  }

  useLayoutEffect(() => paintWith(paintNow))

  const drag = useRef<{ kind: 'pan'; x: number; y: number; view: StageView } | { kind: 'edge' } | undefined>(undefined)
  const place_ = (event: ReactPointerEvent): { x: number; y: number } => {
    const box = frame.current!.getBoundingClientRect()
    return { x: event.clientX - box.left, y: event.clientY - box.top }
  }
  const press = (event: ReactPointerEvent): void => {
    const at = place_(event)
    if (!view) return
    drag.current =
      upTo === undefined && Math.abs(at.x - edge * size.width) < 14 ? { kind: 'edge' } : { kind: 'pan', x: at.x, y: at.y, view }
    ;(event.currentTarget as HTMLElement).setPointerCapture(event.pointerId)
  }
  const move = (event: ReactPointerEvent): void => {
    const at = place_(event)
    setSpy(at)
    const now = drag.current
    if (now?.kind === 'edge') setEdge(Math.min(0.98, Math.max(0.02, at.x / size.width)))
    else if (now)
      setView({ ...now.view, x: now.view.x - (at.x - now.x) / now.view.scale, y: now.view.y - (at.y - now.y) / now.view.scale })
  }
  useEffect(() => {
    const element = frame.current
    if (!element) return
    const wheel = (event: WheelEvent): void => {
      event.preventDefault()
      const box = element.getBoundingClientRect()
      setView((now) => now && zoomed(now, Math.exp(-event.deltaY * 0.0016), event.clientX - box.left, event.clientY - box.top))
    }
    element.addEventListener('wheel', wheel, { passive: false })
    return () => element.removeEventListener('wheel', wheel)
  }, [])

  const label = {
    position: 'absolute',
    top: 12,
    px: 1.2,
    py: 0.3,
    fontSize: 13,
    fontWeight: 700,
    bgcolor: 'shop.raised',
    border: 1,
    borderColor: 'divider',
    borderRadius: 1,
    pointerEvents: 'none',
  } as const
  return (
    <Box
      ref={frame}
      data-testid="bench-stage"
      onPointerDown={press}
      onPointerMove={move}
      onPointerUp={() => {
        drag.current = undefined
      }}
      onPointerLeave={() => setSpy(undefined)}
      sx={{ position: 'absolute', inset: 0, overflow: 'hidden', touchAction: 'none', cursor: loupe ? 'none' : 'default' }}
    >
      <canvas ref={canvas} style={{ position: 'absolute', width: '100%', height: '100%' }} />
      {upTo === undefined && (
        <>
          <Box sx={{ position: 'absolute', top: 12, left: 14, display: 'flex', alignItems: 'center', gap: 1 }}>
            <Box sx={{ ...label, position: 'static' }}>{beside ? `as ${beside.name}, after the burn` : 'source, framed'}</Box>
            {beside && (
              <Button
                size="small"
                onPointerDown={(event) => event.stopPropagation()}
                onClick={beside.onWork}
                data-testid="other-way"
                sx={{ bgcolor: 'shop.raised', minHeight: 28, py: 0 }}
              >
                Run this instead
              </Button>
            )}
          </Box>
          <Box sx={{ ...label, right: 14 }}>
            {beside ? `as ${beside.name === 'dots' ? 'relief' : 'dots'}, ` : ''}
            {flipped ? 'after the burn, from the front' : 'after the burn'}
          </Box>
          <Box
            role="slider"
            tabIndex={0}
            aria-label={beside ? 'Edge between both burns' : 'Edge between source and burn'}
            aria-valuemin={0}
            aria-valuemax={100}
            aria-valuenow={Math.round(edge * 100)}
            onKeyDown={(event) => {
              const by = event.key === 'ArrowLeft' ? -0.02 : event.key === 'ArrowRight' ? 0.02 : 0
              if (by === 0) return
              event.preventDefault()
              setEdge((now) => Math.min(0.98, Math.max(0.02, now + by)))
            }}
            sx={{
              position: 'absolute',
              left: edge * size.width - 7,
              top: '50%',
              width: 14,
              height: 44,
              mt: '-22px',
              borderRadius: 1.5,
              bgcolor: 'shop.raised',
              border: 2,
              borderColor: 'primary.main',
              cursor: 'ew-resize',
            }}
          />
        </>
      )}
      {view && overlay(map)}
      <WorkState />
    </Box>
  )
}
