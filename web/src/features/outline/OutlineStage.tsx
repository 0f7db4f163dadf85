import { Box, useTheme } from '@mui/material'
import {
  type Bounds,
  faceSize,
  flattenPath,
  isOutline,
  type JobDocument,
  mainPiece,
  materialOf,
  nearestOn,
  type OutlineStep,
  type Path,
  piecesOf,
  placeOf,
  placeOn,
  ringBounds,
  sourceOf,
} from '@neotaxis/core'
import { type PointerEvent as ReactPointerEvent, useCallback, useEffect, useLayoutEffect, useRef, useState } from 'react'
import { useSelector } from '../../store/hooks.ts'
import type { OutlineView } from '../../workers/shared.ts'
import { evaluatedNow, isWorkedOut, lookAt, onEvaluated, painted, useEvaluation } from '../../workers/use-evaluation.ts'
import { useBenchPicture } from '../picture/use-bench-picture.ts'
import { OutlineLayer } from '../stage/outline-layer.ts'
import { StageTools } from '../stage/StageTools.tsx'
import { sourceImage } from '../stage/source-pictures.ts'
import { fitView, type StageView, zoomed } from '../stage/stage-view.ts'
import { useRepaint } from '../stage/use-repaint.ts'
import { useStageView } from '../stage/use-stage-view.ts'
import { WorkState } from '../stage/WorkState.tsx'
import { ZoneBox } from '../stage/ZoneBox.tsx'
import { BridgeHandles } from './BridgeHandles.tsx'
import type { OutlineTool } from './OutlineTools.tsx'

interface Props {
  readonly job: JobDocument
  readonly node: string
  readonly view: OutlineView
  readonly tool: OutlineTool | null
  /** How much of the picture under the outline shows, 0–1. */
  readonly fade: number
  readonly onStep: (name: string, step: OutlineStep) => void
  /** A bridge at a place, in shares of the artwork. */
  readonly onBridge: (x: number, y: number) => void
}

const ROOM = { x: 40, top: 40, bottom: 70 }
/** Nodes are shown where there are fewer in view. */
const MOST_NODES = 4000
/** A press this near to an outline means it, CSS px. */
const NEAR = 10
const SLACK = 4

type Held =
  | { readonly kind: 'pan'; readonly x: number; readonly y: number; readonly view: StageView }
  | { readonly kind: 'box'; readonly x: number; readonly y: number }
  | { readonly kind: 'node'; readonly x: number; readonly y: number; readonly from: readonly [number, number] }

/** An outline over the picture that it comes from, with its nodes; what clean-up took away stays as a faint line. */
export function OutlineStage({ job, node, view: shown, tool, fade, onStep, onBridge }: Props) {
  const { palette } = useTheme()
  const screenPxPerMm = useSelector((state) => state.view.screenPxPerMm)
  const frame = useRef<HTMLDivElement>(null)
  const canvas = useRef<HTMLCanvasElement>(null)
  const source = sourceOf(job, node)
  const place = placeOf(job, source)
  const drawing = useEvaluation((state) => state.drawing)
  const settled = useEvaluation(() => isWorkedOut(job))
  const { size, view, setView, whole, at } = useStageView(
    frame,
    faceSize(mainPiece(job)).widthMm,
    faceSize(mainPiece(job)).heightMm,
    ROOM,
  )
  const held = useRef<Held>(undefined)
  const [box, setBox] = useState<{ x0: number; y0: number; x1: number; y1: number }>()
  /** Where a node is dragged to by now, CSS px. */
  const [dragged, setDragged] = useState<readonly [number, number]>()
  /** The first of two places of a stretch, job mm. */
  const [first, setFirst] = useState<readonly [number, number]>()
  const [crowded, setCrowded] = useState(false)
  const root = job.nodes[source]
  const pictured = root.kind === 'source' || root.kind === 'mesh'
  const picture = useBenchPicture(job, node, source, undefined)
  const bounds = drawing?.bounds[node]
  const each = job.nodes[node]
  const parent = isOutline(each) && each.kind !== 'trace' && each.kind !== 'part' ? each.from : undefined
  useEffect(() => {
    lookAt(parent ? [parent, node] : [node])
  }, [parent, node])
  const trace = each.kind === 'clean' ? each.from : node
  const traced = job.nodes[trace]
  const zone = traced?.kind === 'trace' ? traced.zone : undefined

  const close = useCallback(() => {
    const around: Bounds | undefined =
      bounds && Number.isFinite(bounds.x0)
        ? bounds
        : { x0: place.xMm, y0: place.yMm, x1: place.xMm + place.widthMm, y1: place.yMm + place.heightMm }
    if (size.width > 0) setView(fitView(around, size.width, size.height, { x: 60, top: 50, bottom: 80 }))
  }, [bounds, place, size, setView])
  // The artwork as large as it fits, once it is known.
  const looked = useRef(false)
  useEffect(() => {
    if (looked.current || !bounds || size.width === 0) return
    looked.current = true
    close()
  }, [bounds, size, close])
  // biome-ignore lint/correctness/useExhaustiveDependencies: another tool begins anew
  useEffect(() => setFirst(undefined), [tool])

  const [repaint, paintWith] = useRepaint()
  const layer = useRef<OutlineLayer>(undefined)
  useEffect(() => {
    const made = new OutlineLayer(repaint)
    layer.current = made
    const stop = onEvaluated(() => {
      made.renew(evaluatedNow().drawing)
      repaint()
    })
    return () => {
      made.end()
      stop()
    }
  }, [repaint])

  const paintNow = (): void => {
    const element = canvas.current
    if (!element || !view || size.width === 0 || !layer.current) return
    const ratio = window.devicePixelRatio || 1
    const { drawing, drawn } = evaluatedNow()
    if (element.width !== Math.round(size.width * ratio)) element.width = Math.round(size.width * ratio)
    if (element.height !== Math.round(size.height * ratio)) element.height = Math.round(size.height * ratio)
    const context = element.getContext('2d')!
    context.setTransform(ratio, 0, 0, ratio, 0, 0)
    context.clearRect(0, 0, size.width, size.height)
    const px = (x: number): number => (x - view.x) * view.scale
    const py = (y: number): number => (y - view.y) * view.scale
    const workpiece = faceSize(mainPiece(job))
    context.fillStyle = `rgb(${materialOf(job).look.surface.join(' ')})`
    context.fillRect(px(0), py(0), workpiece.widthMm * view.scale, workpiece.heightMm * view.scale)
    // As it came it has its colours; in its frame it is grey.
    const plain = root.kind === 'source' && !root.framing.some(({ on }) => on)
    const under = (plain ? sourceImage(root.asset, repaint) : undefined) ?? picture
    if (under && fade > 0) {
      context.globalAlpha = fade
      context.drawImage(under, px(place.xMm), py(place.yMm), place.widthMm * view.scale, place.heightMm * view.scale)
      context.globalAlpha = 1
    }
    const before = parent && {
      node: parent,
      colour: inkOn(materialOf(job).look.surface),
      widthPx: 1.4,
      alpha: 0.75,
      broken: true,
    }
    layer.current.draw(context, view, size, ratio, drawing, [
      ...(before ? [before] : []),
      { node, colour: palette.shop.halo, widthPx: 3.6, alpha: 0.7 },
      { node, colour: palette.primary.main, widthPx: 1.7 },
    ])
    context.lineJoin = 'round'
    const wanted = tool?.kind === 'node' || tool?.kind === 'start'
    const tooMany = wanted && !paintNodes(context, shown.paths, view, size, palette)
    if (tooMany !== crowded) setCrowded(tooMany)
    if (first) ring(context, px(first[0]), py(first[1]), palette.primary.main)
    if (layer.current.settled) painted('outline', job)
    frame.current!.dataset.settled = String(settled && drawn === job && layer.current.settled)
  }
  useLayoutEffect(() => paintWith(paintNow))

  const scale = view?.scale ?? 1
  const mm = (x: number, y: number): readonly [number, number] => [(view?.x ?? 0) + x / scale, (view?.y ?? 0) + y / scale]
  const share = ([x, y]: readonly [number, number]): { x: number; y: number } => ({
    x: (x - place.xMm) / place.widthMm,
    y: (y - place.yMm) / place.heightMm,
  })
  /** The place on the outlines nearest to a point; undefined where none is near enough. */
  const onLine = (x: number, y: number): readonly [number, number] | undefined => {
    const found = nearestOn(shown.paths, x, y)
    if (!found || found.distance * scale > NEAR) return undefined
    return placeOn(piecesOf(shown.paths[found.path])[found.piece], found.t)
  }
  const nodeNear = (x: number, y: number): readonly [number, number] | undefined => {
    let best: readonly [number, number] | undefined
    let least = NEAR / scale
    for (const [nx, ny] of nodesOf(shown.paths)) {
      const far = Math.hypot(nx - x, ny - y)
      if (far < least) {
        least = far
        best = [nx, ny]
      }
    }
    return best
  }

  const down = (event: ReactPointerEvent): void => {
    if (!view) return
    const { x, y } = at(event)
    frame.current!.setPointerCapture(event.pointerId)
    const [mx, my] = mm(x, y)
    const node = tool?.kind === 'node' && tool.change === 'move' ? nodeNear(mx, my) : undefined
    if (event.button !== 0 || !tool) held.current = { kind: 'pan', x, y, view }
    else if (tool.kind === 'erase') held.current = { kind: 'box', x, y }
    else if (node) held.current = { kind: 'node', x, y, from: node }
    else held.current = { kind: 'pan', x, y, view }
  }

  const move = (event: ReactPointerEvent): void => {
    const { x, y } = at(event)
    const h = held.current
    if (!h || !view) return
    if (h.kind === 'node') setDragged([x, y])
    if (h.kind === 'pan') setView({ ...h.view, x: h.view.x - (x - h.x) / view.scale, y: h.view.y - (y - h.y) / view.scale })
    if (h.kind === 'box') setBox({ x0: Math.min(x, h.x), y0: Math.min(y, h.y), x1: Math.max(x, h.x), y1: Math.max(y, h.y) })
  }

  const up = (event: ReactPointerEvent): void => {
    const h = held.current
    held.current = undefined
    setBox(undefined)
    setDragged(undefined)
    if (!h || !view || !tool) return
    const { x, y } = at(event)
    const pressed = Math.hypot(x - h.x, y - h.y) < SLACK
    const here = mm(x, y)
    if (h.kind === 'box') {
      if (pressed) eraseOne(...here)
      else {
        const a = share(mm(Math.min(x, h.x), Math.min(y, h.y)))
        const b = share(mm(Math.max(x, h.x), Math.max(y, h.y)))
        onStep('take away in a box', {
          kind: 'erase',
          on: true,
          ...a,
          width: b.x - a.x,
          height: b.y - a.y,
          touched: event.shiftKey,
        })
      }
    } else if (h.kind === 'node') {
      if (!pressed) onStep('move a node', { kind: 'node', on: true, change: 'move', at: share(h.from), to: share(here) })
    } else if (pressed) press(here)
  }

  const eraseOne = (x: number, y: number): void => {
    const found = nearestOn(shown.paths, x, y)
    if (!found || found.distance * scale > NEAR) return
    const b = ringBounds(flattenPath(shown.paths[found.path], 0.01))
    const more = 0.01
    const a = share([b.x0 - more, b.y0 - more])
    const z = share([b.x1 + more, b.y1 + more])
    onStep('take one away', { kind: 'erase', on: true, ...a, width: z.x - a.x, height: z.y - a.y, touched: false })
  }

  const press = ([x, y]: readonly [number, number]): void => {
    if (tool?.kind === 'stretch') {
      const spot = onLine(x, y)
      if (!spot) return
      if (!first) {
        setFirst(spot)
        return
      }
      setFirst(undefined)
      onStep(tool.as === 'gone' ? 'cut a stretch away' : `a stretch ${tool.as}`, {
        kind: 'stretch',
        on: true,
        from: share(first),
        to: share(spot),
        as: tool.as,
      })
    } else if (tool?.kind === 'node' && tool.change !== 'move') {
      const spot = tool.change === 'add' ? onLine(x, y) : nodeNear(x, y)
      if (spot) onStep(NODE_EDITS[tool.change], { kind: 'node', on: true, change: tool.change, at: share(spot) })
    } else if (tool?.kind === 'bridge') {
      const spot = onLine(x, y)
      if (spot) {
        const at = share(spot)
        onBridge(at.x, at.y)
      }
    } else if (tool?.kind === 'start') {
      const spot = onLine(x, y)
      if (spot) onStep('begin here', { kind: 'start', on: true, at: share(spot) })
    }
  }

  const centre = { x: size.width / 2, y: size.height / 2 }
  return (
    <Box
      ref={frame}
      tabIndex={0}
      role="application"
      aria-label="Outline over its picture"
      data-testid="outline-stage"
      onPointerDown={down}
      onPointerMove={move}
      onPointerUp={up}
      onPointerCancel={() => {
        held.current = undefined
        setBox(undefined)
        setDragged(undefined)
      }}
      sx={{
        position: 'relative',
        overflow: 'hidden',
        height: '100%',
        touchAction: 'none',
        bgcolor: 'shop.surround',
        cursor: tool ? 'crosshair' : 'default',
        '&:focus-visible': { outlineOffset: -3 },
      }}
    >
      <canvas ref={canvas} style={{ position: 'absolute', inset: 0, width: '100%', height: '100%' }} aria-hidden />
      {view && zone && pictured && <ZoneBox id={trace} zone={zone} place={place} view={view} />}
      {view && each.kind === 'bridged' && drawing?.outlines[each.from] && (
        <BridgeHandles job={job} id={node} node={each} rings={drawing.outlines[each.from]} view={view} />
      )}
      {box && (
        <Box
          sx={{
            position: 'absolute',
            left: box.x0,
            top: box.y0,
            width: box.x1 - box.x0,
            height: box.y1 - box.y0,
            border: 2,
            borderStyle: 'dashed',
            borderColor: 'primary.main',
            pointerEvents: 'none',
          }}
        />
      )}
      {crowded && (
        <Box
          sx={{
            position: 'absolute',
            left: 16,
            bottom: 12,
            px: 1.2,
            py: 0.5,
            borderRadius: 1,
            bgcolor: 'shop.raised',
            fontSize: 13,
          }}
        >
          Come closer: more than {MOST_NODES} nodes are in view.
        </Box>
      )}
      {dragged && (
        <Box
          sx={{
            position: 'absolute',
            left: dragged[0] - 6,
            top: dragged[1] - 6,
            width: 12,
            height: 12,
            borderRadius: '50%',
            border: 2,
            borderColor: 'primary.main',
            pointerEvents: 'none',
          }}
        />
      )}
      <StageTools
        onWhole={whole}
        onReal={() => screenPxPerMm && setView((v) => v && zoomed(v, screenPxPerMm / v.scale, centre.x, centre.y))}
        onCloseUp={close}
        onZoom={(factor) => setView((v) => v && zoomed(v, factor, centre.x, centre.y))}
        scale={view?.scale}
        plain
      />
      <WorkState />
    </Box>
  )
}

/** What is seen on a surface, whatever the theme: a dark line on a light one, a light one on a dark one. */
const inkOn = ([r, g, b]: readonly [number, number, number]): string =>
  0.2126 * r + 0.7152 * g + 0.0722 * b > 110 ? '#1f1a15' : '#f4efe6'

const NODE_EDITS = { add: 'add a node', remove: 'remove a node', corner: 'make a corner', smooth: 'make it smooth' } as const

/** Every node of the paths, with whether it is the first of a closed one. */
function* nodesOf(paths: readonly Path[]): Generator<readonly [number, number, boolean]> {
  for (const { kinds, points, closed } of paths) {
    let at = 0
    for (let k = 0; k <= kinds.length - (closed ? 1 : 0); k++) {
      yield [points[at], points[at + 1], closed && k === 0]
      if (k < kinds.length) at += kinds[k] === 0 ? 2 : 6
    }
  }
}

function paintNodes(
  context: CanvasRenderingContext2D,
  paths: readonly Path[],
  view: StageView,
  size: { readonly width: number; readonly height: number },
  { primary, background }: { readonly primary: { readonly main: string }; readonly background: { readonly paper: string } },
): boolean {
  const inView: (readonly [number, number, boolean])[] = []
  for (const [nx, ny, begins] of nodesOf(paths)) {
    const x = (nx - view.x) * view.scale
    const y = (ny - view.y) * view.scale
    if (x < -5 || y < -5 || x > size.width + 5 || y > size.height + 5) continue
    if (inView.length === MOST_NODES) return false
    inView.push([x, y, begins])
  }
  context.lineWidth = 1.4
  context.strokeStyle = primary.main
  for (const [x, y, begins] of inView) {
    context.fillStyle = begins ? primary.main : background.paper
    context.beginPath()
    context.arc(x, y, begins ? 4.2 : 3.2, 0, 7)
    context.fill()
    context.stroke()
  }
  return true
}

function ring(context: CanvasRenderingContext2D, x: number, y: number, colour: string): void {
  context.lineWidth = 2
  context.strokeStyle = colour
  context.beginPath()
  context.arc(x, y, 7, 0, 7)
  context.stroke()
}
