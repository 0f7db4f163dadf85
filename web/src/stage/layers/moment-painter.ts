import {
  burnsRows,
  type Chart,
  chartOf,
  headAt,
  type JobDocument,
  lineColour,
  mainPieceId,
  materialOf,
  partOf,
  processOf,
  spotMm,
  startOf,
  type Track,
} from '@neotaxis/core'
import type { Moment } from '../../features/rehearsal/moment.ts'
import type { Upright } from '../spaces.ts'
import type { StageView } from '../stage-view.ts'
import { SeenForecast, wholeOf } from './seen-forecast.ts'
import { travelNear } from './travel-near.ts'

/** More travel than this is not drawn move by move. */
const MOST_TRAVEL = 200_000

interface Look {
  readonly ratio: number
  readonly bed: string
  readonly hot: string
  readonly ink: string
  readonly halo: string
}

interface CutSoFar {
  readonly key: string
  move: number
  /** Where the first pass has been, and where all have, job mm. */
  readonly once: Path2D
  readonly through: Path2D
  readonly passes: Map<string, number>
}

/** From here on everything is said in mm of the sweep: the face turned as it lies, rows along the machine's own x. */
function toSweep(context: CanvasRenderingContext2D, { scale, x, y }: StageView, { fromSweep }: Chart): void {
  context.transform(scale, 0, 0, scale, -x * scale, -y * scale)
  context.transform(...fromSweep)
}

/**
 * Paints the workpiece at a moment of the run: what is burned by then by the operations before, and by
 * the one under way as far as it is; the head with its travel near
 * it, and all travel where that is wanted.
 */
export class MomentPainter {
  private readonly layers = new Map<string, SeenForecast>()
  /** What the last picture was made of. */
  private shown = new Set<SeenForecast>()

  private readonly repaint: () => void
  private cut: CutSoFar | undefined
  private travel: { readonly track: Track; readonly path: Path2D } | undefined

  constructor(repaint: () => void) {
    this.repaint = repaint
  }

  end(): void {
    for (const layer of this.layers.values()) layer.end()
    this.layers.clear()
  }

  get settled(): boolean {
    return [...this.shown].every((layer) => layer.settled)
  }

  /** @param burnedBefore operations that an earlier run of the same piece burned */
  draw(
    context: CanvasRenderingContext2D,
    upright: Upright,
    look: Look,
    job: JobDocument,
    track: Track,
    { seconds, head: real, travel }: Moment & { readonly seconds: number },
    burnedBefore: readonly string[],
  ): void {
    this.shown = new Set()
    const { view } = upright
    const chart = chartOf(job, mainPieceId(job))
    const head = headAt(track, seconds)
    const part = partOf(track, Math.min(head.move, track.count - 1))
    const over = head.move >= track.count
    const done = [...burnedBefore, ...track.parts.slice(0, over ? undefined : part).map(({ id }) => id)]
    this.layerOf(done).draw(context, upright, look.ratio, wholeOf(job))
    const id = track.parts[part]?.id
    const operation = id === undefined || over ? undefined : job.operations[id]
    const toJob = (): void => toSweep(context, view, chart)
    if (burnsRows(operation)) this.dotsSoFar(context, upright, look, job, track, part, head, [...done, id!], operation.passes)
    if (operation && !burnsRows(operation)) {
      const width =
        'kerfMm' in operation ? operation.kerfMm : 'intervalMm' in operation ? operation.intervalMm : spotMm(job.machine)
      const opens = processOf(operation).cutting !== undefined
      const { once, through } = this.cutSoFar(track, part, head.move, operation.passes, chart)
      context.save()
      toJob()
      context.lineCap = 'round'
      context.lineJoin = 'round'
      const { look: its } = materialOf(job)
      context.strokeStyle = `rgb(${(opens ? its.edge : lineColour(its)).join(' ')} / 72%)`
      // What only marks is seen at any scale.
      context.lineWidth = opens ? width + 0.44 : Math.max(width, 1.2 / view.scale)
      context.stroke(once)
      context.strokeStyle = look.bed
      context.lineWidth = Math.max(width, 0.8 / view.scale)
      if (opens) context.stroke(through)
      const from = startOf(track, head.move)
      if (head.burning) {
        context.beginPath()
        context.moveTo(chart.fromX(from.x), chart.fromY(from.y))
        context.lineTo(chart.fromX(head.x * 1000), chart.fromY(head.y * 1000))
        context.strokeStyle = operation.passes > 1 ? `rgb(${materialOf(job).look.edge.join(' ')})` : look.bed
        context.stroke()
      }
      context.restore()
    }
    context.save()
    toJob()
    context.strokeStyle = look.ink
    context.lineWidth = 0.8 / view.scale
    if (travel) {
      context.globalAlpha = 0.28
      context.stroke(this.travelPath(track, chart))
    }
    // What the head came by and where it goes next; the farther, the paler.
    if (!over)
      for (const { move, near } of travelNear(track, head.move)) {
        const from = startOf(track, move)
        context.globalAlpha = 0.65 * near
        context.setLineDash([5 / view.scale, 4 / view.scale])
        context.beginPath()
        context.moveTo(chart.fromX(from.x), chart.fromY(from.y))
        context.lineTo(chart.fromX(track.x[move]), chart.fromY(track.y[move]))
        context.stroke()
      }
    context.setLineDash([])
    context.globalAlpha = 1
    const at = real ?? head
    const x = chart.fromX(at.x * 1000)
    const y = chart.fromY(at.y * 1000)
    for (const [colour, width] of [
      [look.halo, 5],
      [at.burning ? look.hot : look.ink, 2.2],
    ] as const) {
      context.strokeStyle = colour
      context.lineWidth = width / view.scale
      context.beginPath()
      context.arc(x, y, 9 / view.scale, 0, 2 * Math.PI)
      context.moveTo(x - 14 / view.scale, y)
      context.lineTo(x - 5 / view.scale, y)
      context.moveTo(x + 5 / view.scale, y)
      context.lineTo(x + 14 / view.scale, y)
      context.moveTo(x, y - 14 / view.scale)
      context.lineTo(x, y - 5 / view.scale)
      context.moveTo(x, y + 5 / view.scale)
      context.lineTo(x, y + 14 / view.scale)
      context.stroke()
    }
    context.restore()
  }

  private layerOf(only: readonly string[]): SeenForecast {
    const key = only.join(' ')
    const known = this.layers.get(key)
    if (known) {
      this.shown.add(known)
      return known
    }
    const made = new SeenForecast(this.repaint, only)
    this.layers.set(key, made)
    this.shown.add(made)

    for (const [old, layer] of this.layers) {
      if (this.layers.size <= 3) break
      layer.end()
      this.layers.delete(old)
    }
    return made
  }

  /** Rows that are burned show the picture; the row under way as far as the head is. */
  private dotsSoFar(
    context: CanvasRenderingContext2D,
    upright: Upright,
    look: Look,
    job: JobDocument,
    track: Track,
    part: number,
    head: ReturnType<typeof headAt>,
    only: readonly string[],
    passes: number,
  ): void {
    const chart = chartOf(job, mainPieceId(job))
    const first = track.parts[part].firstMove
    const end = track.parts[part + 1]?.firstMove ?? track.count
    const aPass = Math.max(1, (end - first) / passes)
    const pass = Math.min(passes - 1, Math.floor((head.move - first) / aPass))
    const firstOfPass = first + Math.floor(pass * aPass)
    const row = track.y[Math.min(head.move, end - 1)]
    // Where the row under way begins to burn.
    let from = head.move
    while (from > firstOfPass && track.y[from - 1] === row) from--
    const startX = chart.fromX(startOf(track, from).x)
    const headX = chart.fromX(head.x * 1000)
    const operation = job.operations[track.parts[part].id]
    const half = burnsRows(operation) ? operation.intervalMm / 2 : 0
    let top = firstOfPass
    while (top < head.move && track.s[top] === 0) top++
    const startY = chart.fromY(track.y[top])
    const y = chart.fromY(row)
    const down = y >= startY
    const done = new Path2D()
    const [y0, y1] = down ? [startY - half, y - half] : [y + half, startY + half]
    if (y1 > y0) done.rect(-1e4, y0, 3e4, y1 - y0)
    if (from < head.move || head.burning) done.rect(Math.min(startX, headX), y - half, Math.abs(headX - startX), 2 * half)
    const paint = (clip: Path2D | null, alpha: number): void => {
      context.save()
      const straight = context.getTransform()
      toSweep(context, upright.view, chart)
      if (clip) context.clip(clip)
      context.setTransform(straight)
      context.globalAlpha = alpha
      this.layerOf(only).draw(context, upright, look.ratio, wholeOf(job))
      context.restore()
    }
    if (pass > 0) paint(null, pass / passes)
    paint(done, (pass + 1) / passes)
  }

  private cutSoFar(track: Track, part: number, move: number, passes: number, chart: Chart): CutSoFar {
    const key = `${part} ${track.count} ${track.seconds[track.count - 1]} ${chart.fromX(0)} ${chart.fromY(0)}`
    const first = track.parts[part].firstMove
    if (this.cut?.key !== key || this.cut.move > move)
      this.cut = { key, move: first, once: new Path2D(), through: new Path2D(), passes: new Map() }
    const cut = this.cut
    const to = Math.min(move, track.parts[part + 1]?.firstMove ?? track.count)
    for (let i = cut.move; i < to; i++) {
      if (track.s[i] === 0) continue
      const from = startOf(track, i)
      const edge = `${from.x},${from.y},${track.x[i]},${track.y[i]}`
      const count = passes === 1 ? 1 : (cut.passes.get(edge) ?? 0) + 1
      if (passes > 1) cut.passes.set(edge, count)
      for (const path of [...(count === 1 ? [cut.once] : []), ...(count === passes ? [cut.through] : [])]) {
        path.moveTo(chart.fromX(from.x), chart.fromY(from.y))
        path.lineTo(chart.fromX(track.x[i]), chart.fromY(track.y[i]))
      }
    }
    cut.move = Math.max(cut.move, to)
    return cut
  }

  private travelPath(track: Track, chart: Chart): Path2D {
    if (this.travel?.track === track) return this.travel.path
    const path = new Path2D()
    let drawn = 0
    for (let i = 0; i < track.count && drawn < MOST_TRAVEL; i++) {
      if (track.s[i] > 0) continue
      const from = startOf(track, i)
      path.moveTo(chart.fromX(from.x), chart.fromY(from.y))
      path.lineTo(chart.fromX(track.x[i]), chart.fromY(track.y[i]))
      drawn++
    }
    this.travel = { track, path }
    return path
  }
}
