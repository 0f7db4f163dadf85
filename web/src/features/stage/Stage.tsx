import { Box, useTheme } from '@mui/material'
import {
  type Bounds,
  burnOrder,
  faceSize,
  type JobDocument,
  mainPiece,
  materialOf,
  moved,
  outlineOfFace,
  placeOf,
  resized,
  sourceOf,
  turnedTo,
  turnOfPlace,
  type Workpiece,
} from '@neotaxis/core'
import { type PointerEvent as ReactPointerEvent, useEffect, useLayoutEffect, useMemo, useRef } from 'react'
import { useDispatch, useSelector } from '../../store/hooks.ts'
import { abandoned } from '../../store/job-slice.ts'
import { store } from '../../store/store.ts'
import { anchored, selected } from '../../store/view-slice.ts'
import { runColour } from '../../theme/run-ramp.ts'
import { onTrack, trackOf } from '../../workers/tracks.ts'
import { evaluatedNow, isWorkedOut, lookAt, onEvaluated, painted, useEvaluation } from '../../workers/use-evaluation.ts'
import { onCommand } from '../bar/commands.ts'
import { momentNow, onMoment } from '../rehearsal/moment.ts'
import { selectedNode } from '../selection.ts'
import { useChange, useEdit } from '../use-edit.ts'
import { DimensionLines } from './DimensionLines.tsx'
import { ForecastLayer, wholeOf } from './forecast-layer.ts'
import { operationAt } from './hit.ts'
import { MomentPainter } from './moment-painter.ts'
import { OutlineLayer } from './outline-layer.ts'
import { Pins } from './Pins.tsx'
import { SelectionBox } from './SelectionBox.tsx'
import { StageTools } from './StageTools.tsx'
import { drawArtwork } from './source-pictures.ts'
import { fitView, type StageView, zoomed } from './stage-view.ts'
import { useRepaint } from './use-repaint.ts'
import { useStageView } from './use-stage-view.ts'
import { WorkState } from './WorkState.tsx'
import { ZoneBox } from './ZoneBox.tsx'

type Drag =
  | { readonly kind: 'pan'; readonly x: number; readonly y: number; readonly view: StageView }
  | { readonly kind: 'move'; readonly x: number; readonly y: number; readonly node: string; moving: boolean }
  | {
      readonly kind: 'resize'
      readonly h: number
      readonly v: number
      readonly node: string
      readonly box: Bounds
      readonly x: number
      readonly y: number
      moving: boolean
    }
  | {
      readonly kind: 'turn'
      readonly node: string
      /** Around which place of the screen, and how it lay and where the pointer was then, degrees. */
      readonly cx: number
      readonly cy: number
      readonly deg: number
      readonly from: number
      readonly x: number
      readonly y: number
      moving: boolean
    }

interface Props {
  readonly job: JobDocument
  /** Only looked at: nothing is selected or moved. */
  readonly passive?: boolean
  /** What is run of the job, where that is not all of it as it stands. */
  readonly trackJob?: JobDocument
  /** Operations that were burned on this piece before. */
  readonly burnedBefore?: readonly string[]
  /** Told of a double click: job mm. */
  readonly onPlace?: (x: number, y: number) => void
}

const NONE: readonly string[] = []

/** Room around the workpiece for what stands over it, CSS px. */
const ROOMY = { x: 70, top: 44, bottom: 118 }
const QUIET = { x: 24, top: 52, bottom: 24 }

/** The angle of a way on the screen, degrees clockwise. */
const degOf = (dx: number, dy: number): number => (Math.atan2(dy, dx) * 180) / Math.PI

/** The edge of the workpiece as the view shows it, CSS px. */
function facePath({ outline }: Workpiece, view: StageView): Path2D {
  const path = new Path2D()
  for (const ring of outlineOfFace(outline)) {
    for (let i = 0; i < ring.length; i += 2) {
      const [x, y] = [(ring[i] - view.x) * view.scale, (ring[i + 1] - view.y) * view.scale]
      if (i === 0) path.moveTo(x, y)
      else path.lineTo(x, y)
    }
    path.closePath()
  }
  return path
}

/** Pointer movement in CSS pixels before a press counts as a drag. */
const SLACK = 4

/** The workpiece after the burn, with the selection's box, dimension lines and pins over it. */
export function Stage({ job, passive = false, trackJob = job, burnedBefore = NONE, onPlace }: Props) {
  const theme = useTheme()
  const dispatch = useDispatch()
  const drawing = useEvaluation((state) => state.drawing)
  const drawn = useEvaluation((state) => state.drawn)
  const measure = useEvaluation((state) => state.measure)
  const settled = useEvaluation(() => isWorkedOut(job))
  const { selection, shows, screenPxPerMm } = useSelector((state) => state.view)
  const { show, finish } = useChange()
  const edit = useEdit()
  const frame = useRef<HTMLDivElement>(null)
  const canvas = useRef<HTMLCanvasElement>(null)
  const burn = useRef<ForecastLayer>(undefined)
  const moments = useRef<MomentPainter>(undefined)
  const layers = useRef<{ readonly run: OutlineLayer; readonly chosen: OutlineLayer }>(undefined)
  const drag = useRef<Drag>(undefined)
  const fingers = useRef(new Map<number, { x: number; y: number }>())

  const [repaint, paintWith] = useRepaint()
  useEffect(() => {
    const made = new ForecastLayer(repaint)
    burn.current = made
    const painter = new MomentPainter(repaint)
    moments.current = painter
    const run = new OutlineLayer(repaint)
    const chosen = new OutlineLayer(repaint)
    layers.current = { run, chosen }
    const renew = (): void => {
      const { drawing } = evaluatedNow()
      run.renew(drawing)
      chosen.renew(drawing)
      repaint()
    }
    const stops = [onMoment(repaint), onTrack(repaint), onEvaluated(renew)]
    return () => {
      made.end()
      painter.end()
      run.end()
      chosen.end()
      for (const stop of stops) stop()
    }
  }, [repaint])

  const piece = mainPiece(job)
  const { widthMm, heightMm } = faceSize(piece)
  const { size, view, setView, whole, at } = useStageView(frame, widthMm, heightMm, passive ? QUIET : ROOMY)

  const node = passive ? undefined : selectedNode(job, selection)
  const box = node && drawing?.bounds[node] && Number.isFinite(drawing.bounds[node].x0) ? drawing.bounds[node] : undefined
  // While the artwork is dragged, its box goes along before the outlines are there.
  const shift = useMemo(() => {
    if (!node || !drawn?.nodes[node]) return { x: 0, y: 0 }
    const source = sourceOf(job, node)
    const now = placeOf(job, source)
    const then = drawn.placements[source]
    if (!then || now.widthMm !== then.widthMm || now.deg !== then.deg) return { x: 0, y: 0 }
    return { x: now.xMm - then.xMm, y: now.yMm - then.yMm }
  }, [node, job, drawn])
  const shownBox = box && { x0: box.x0 + shift.x, x1: box.x1 + shift.x, y0: box.y0 + shift.y, y1: box.y1 + shift.y }

  useEffect(() => {
    lookAt(node ? [node] : [])
  }, [node])

  const chosen = node ? job.nodes[node] : undefined
  const zone = chosen?.kind === 'trace' ? chosen.zone : undefined

  const paintNow = (): void => {
    const element = canvas.current
    if (!element || !view || size.width === 0 || !layers.current) return
    const { run, chosen } = layers.current
    // The newest outlines, even before the page shows what else comes of them.
    const { drawing } = evaluatedNow()
    const ratio = window.devicePixelRatio || 1
    const pxWide = Math.round(size.width * ratio)
    const pxHigh = Math.round(size.height * ratio)
    if (element.width !== pxWide) element.width = pxWide
    if (element.height !== pxHigh) element.height = pxHigh
    const context = element.getContext('2d')!
    context.setTransform(ratio, 0, 0, ratio, 0, 0)
    context.clearRect(0, 0, size.width, size.height)
    const face = facePath(piece, view)
    context.save()
    // A soft shadow in a few steps: a real blur costs more than all the rest.
    context.strokeStyle = 'rgb(0 0 0 / 2.5%)'
    context.fillStyle = 'rgb(0 0 0 / 2.5%)'
    context.lineJoin = 'round'
    context.translate(0, 3)
    for (const by of [0, 1, 2, 3, 4, 6, 8]) {
      context.lineWidth = 2 * by
      context.fill(face, 'evenodd')
      if (by > 0) context.stroke(face)
    }
    context.translate(0, -3)
    context.fillStyle = theme.palette.shop.bed
    context.fill(face, 'evenodd')
    context.restore()
    context.save()
    context.clip(face, 'evenodd')
    if (!drawing) {
      context.fillStyle = `rgb(${materialOf(job).look.surface.join(' ')})`
      context.fill(face, 'evenodd')
    }
    const moment = momentNow()
    const track = shows === 'forecast' && moment.seconds !== null ? trackOf(trackJob) : undefined
    if (shows === 'forecast' && !track) burn.current?.draw(context, view, size.width, size.height, ratio, wholeOf(job))
    context.restore()
    if (track && moment.seconds !== null) {
      const { bed, hot, halo } = theme.palette.shop
      const look = { ratio, width: size.width, height: size.height, bed, hot, halo, ink: theme.palette.text.primary }
      moments.current?.draw(context, view, look, trackJob, track, { ...moment, seconds: moment.seconds }, burnedBefore)
    }
    if (shows === 'artwork') {
      context.fillStyle = `rgb(${materialOf(job).look.surface.join(' ')})`
      context.fill(face, 'evenodd')
      drawArtwork(context, job, view, repaint)
    }
    const colour = (index: number): string => runColour(index, burnOrder(job).length).fill
    const inOrder = burnOrder(job).map((id, index) => ({ node: job.operations[id].of[0], colour: colour(index), widthPx: 2 }))
    run.draw(context, view, size, ratio, drawing, shows === 'artwork' ? inOrder : [])
    const around = node && [
      { node, colour: theme.palette.shop.halo, widthPx: 4, alpha: 0.55 },
      { node, colour: theme.palette.primary.main, widthPx: 1.6 },
    ]
    const place = node && placeOf(job, node)
    chosen.draw(context, view, size, ratio, drawing, around || [], place ? { x: place.xMm, y: place.yMm } : undefined)
    if (run.settled && chosen.settled) painted('outline', job)
    if (burn.current?.settled) painted('burn', job)
    frame.current!.dataset.settled = String(
      settled && run.settled && chosen.settled && ((track ? moments.current : burn.current)?.settled ?? false),
    )
    frame.current!.dataset.moment = track && moment.seconds !== null ? moment.seconds.toFixed(6) : ''
  }
  useLayoutEffect(() => paintWith(paintNow))

  const startResize = (h: number, v: number) => (event: ReactPointerEvent) => {
    if (!node || !shownBox) return
    event.stopPropagation()
    frame.current!.setPointerCapture(event.pointerId)
    drag.current = { kind: 'resize', h, v, node, box: shownBox, ...at(event), moving: false }
  }

  const startTurn = (event: ReactPointerEvent): void => {
    if (!node || !shownBox || !view) return
    event.stopPropagation()
    frame.current!.setPointerCapture(event.pointerId)
    const place = placeOf(job, node)
    const cx = (place.xMm + place.widthMm / 2 - view.x) * view.scale
    const cy = (place.yMm + place.heightMm / 2 - view.y) * view.scale
    const { x, y } = at(event)
    drag.current = { kind: 'turn', node, cx, cy, deg: place.deg ?? 0, from: degOf(x - cx, y - cy), x, y, moving: false }
  }

  const down = (event: ReactPointerEvent): void => {
    if (!view) return
    const { x, y } = at(event)
    fingers.current.set(event.pointerId, { x, y })
    frame.current!.setPointerCapture(event.pointerId)
    if (fingers.current.size === 2) {
      if (drag.current?.kind !== 'pan') dispatch(abandoned())
      drag.current = undefined
      return
    }
    if (event.button === 1 || !drawing || passive) {
      drag.current = { kind: 'pan', x, y, view }
      return
    }
    const mx = view.x + x / view.scale
    const my = view.y + y / view.scale
    const hit = operationAt(job, drawing, mx, my, 7 / view.scale)
    // What is selected already is dragged from anywhere in its box.
    const inside = shownBox && mx >= shownBox.x0 && mx <= shownBox.x1 && my >= shownBox.y0 && my <= shownBox.y1
    if (hit && !(inside && node && sourceOf(job, job.operations[hit].of[0]) === sourceOf(job, node)))
      dispatch(selected({ kind: 'operation', id: hit }))
    if (hit || inside) {
      const target = hit ? job.operations[hit].of[0] : node!
      drag.current = { kind: 'move', x, y, node: inside && node ? node : target, moving: false }
    } else drag.current = { kind: 'pan', x, y, view }
  }

  const move = (event: ReactPointerEvent): void => {
    if (!view || !fingers.current.has(event.pointerId)) {
      if (drag.current?.kind !== 'resize' && drag.current?.kind !== 'turn') return
    }
    const { x, y } = at(event)
    if (fingers.current.size === 2) {
      const before = [...fingers.current.values()]
      fingers.current.set(event.pointerId, { x, y })
      const after = [...fingers.current.values()]
      const span = (p: { x: number; y: number }[]): number => Math.hypot(p[0].x - p[1].x, p[0].y - p[1].y)
      const mid = (p: { x: number; y: number }[]) => ({ x: (p[0].x + p[1].x) / 2, y: (p[0].y + p[1].y) / 2 })
      const m = mid(after)
      const o = mid(before)
      setView(
        (v) =>
          v &&
          zoomed(
            { ...v, x: v.x - (m.x - o.x) / v.scale, y: v.y - (m.y - o.y) / v.scale },
            span(after) / Math.max(1, span(before)),
            m.x,
            m.y,
          ),
      )
      return
    }
    const d = drag.current
    if (!d || !view) return
    const dx = (x - d.x) / view.scale
    const dy = (y - d.y) / view.scale
    if (d.kind === 'pan') {
      setView({ ...d.view, x: d.view.x - dx, y: d.view.y - dy })
      return
    }
    if (!d.moving && Math.hypot(x - d.x, y - d.y) < SLACK) return
    d.moving = true
    if (d.kind === 'move') {
      const straight = event.shiftKey
      show((base) =>
        moved(base, d.node, straight && Math.abs(dx) < Math.abs(dy) ? 0 : dx, straight && Math.abs(dx) >= Math.abs(dy) ? 0 : dy),
      )
    } else if (d.kind === 'turn') {
      const by = degOf(x - d.cx, y - d.cy) - d.from
      const step = event.shiftKey ? 15 : event.altKey ? 0.1 : 1
      show((base) => turnedTo(base, d.node, Math.round((d.deg + by) / step) * step))
    } else {
      const { box: from, h, v } = d
      const free = event.altKey
      const width = Math.max(1, from.x1 - from.x0 + h * dx)
      const height = Math.max(1, from.y1 - from.y0 + v * dy)
      const byWidth = h !== 0 && (v === 0 || width / (from.x1 - from.x0) >= height / (from.y1 - from.y0) || free)
      const wanted =
        free && h !== 0 && v !== 0 ? { widthMm: width, heightMm: height } : byWidth ? { widthMm: width } : { heightMm: height }
      show((base) => resized(base, d.node, from, wanted, { anchorX: (1 - h) / 2, anchorY: (1 - v) / 2, keepRatio: !free }))
    }
  }

  const up = (event: ReactPointerEvent): void => {
    fingers.current.delete(event.pointerId)
    const d = drag.current
    drag.current = undefined
    if (!d) return
    if (d.kind === 'pan') {
      const { x, y } = at(event)
      if (Math.hypot(x - d.x, y - d.y) < SLACK && event.button !== 1 && !passive) dispatch(selected(null))
    } else if (d.moving)
      finish(d.kind === 'move' ? 'move the artwork' : d.kind === 'turn' ? 'turn the artwork' : 'resize the artwork')
    else if (d.kind === 'resize') dispatch(anchored({ h: Math.sign(d.h) as -1 | 0 | 1, v: Math.sign(d.v) as -1 | 0 | 1 }))
  }

  useEffect(() =>
    onCommand({
      ...(node
        ? { 'turn-quarter': () => edit('turn a quarter', (base) => turnedTo(base, node, turnOfPlace(base, node) + 90)) }
        : {}),
    }),
  )

  const keys = (event: React.KeyboardEvent): void => {
    if (event.target !== frame.current) return
    const by = event.altKey ? 0.1 : event.shiftKey ? 10 : 1
    const way = { ArrowLeft: [-by, 0], ArrowRight: [by, 0], ArrowUp: [0, -by], ArrowDown: [0, by] }[event.key]
    if (way && node) {
      event.preventDefault()
      edit(`move ${by} mm`, (base) => moved(base, node, way[0], way[1]))
    }
    const turn = { PageUp: -1, PageDown: 1 }[event.key]
    if (turn && node) {
      event.preventDefault()
      const deg = turn * (event.altKey ? 0.1 : event.shiftKey ? 15 : 1)
      edit(`turn ${Math.abs(deg)}°`, (base) => turnedTo(base, node, turnOfPlace(base, node) + deg))
    }
    if (event.key === 'Escape') {
      if (store.getState().job.document !== store.getState().job.base) dispatch(abandoned())
      else dispatch(selected(null))
    }
  }

  const centre = { x: size.width / 2, y: size.height / 2 }
  const realSize = (): void => setView((v) => (v && screenPxPerMm ? zoomed(v, screenPxPerMm / v.scale, centre.x, centre.y) : v))
  const closeUp = (): void => {
    if (shownBox) setView(fitView(shownBox, size.width, size.height, { x: 90, top: 70, bottom: 130 }))
  }

  return (
    <Box
      ref={frame}
      tabIndex={0}
      role="application"
      aria-label={
        passive
          ? 'Workpiece as it is burned'
          : 'Workpiece after the burn. Arrow keys move the selected artwork, Page Up and Page Down turn it.'
      }
      data-testid="stage"
      onPointerDown={down}
      onPointerMove={move}
      onPointerUp={up}
      onPointerCancel={up}
      onKeyDown={keys}
      onDoubleClick={(event) => {
        const { x, y } = at(event)
        if (view) onPlace?.(view.x + x / view.scale, view.y + y / view.scale)
      }}
      sx={{
        position: 'relative',
        overflow: 'hidden',
        height: '100%',
        touchAction: 'none',
        bgcolor: 'shop.surround',
        cursor: 'default',
        '&:focus-visible': { outlineOffset: -3 },
      }}
    >
      <canvas ref={canvas} style={{ position: 'absolute', inset: 0, width: '100%', height: '100%' }} aria-hidden />
      {view && node && zone && !passive && <ZoneBox id={node} zone={zone} place={placeOf(job, node)} view={view} />}
      {view && shownBox && node && (
        <>
          <SelectionBox
            box={shownBox}
            view={view}
            onHandle={startResize}
            onTurn={startTurn}
            width={size.width}
            height={size.height}
          />
          <DimensionLines job={job} node={node} box={shownBox} view={view} width={size.width} height={size.height} />
        </>
      )}
      {view && measure && !passive && <Pins job={job} findings={measure.findings} view={view} />}
      <StageTools
        onWhole={whole}
        onReal={realSize}
        onCloseUp={closeUp}
        onZoom={(factor) => setView((v) => v && zoomed(v, factor, centre.x, centre.y))}
        scale={view?.scale}
      />
      <WorkState />
    </Box>
  )
}
