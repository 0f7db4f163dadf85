import type { Bounds } from '../geometry/bounds.ts'
import { type JobDocument, mainPieceId } from '../job/document/document.ts'
import { chartOf } from '../job/document/pieces.ts'
import type { Machine } from '../machine/machine.ts'
import { moveAt, TrackRecorder } from '../motion/track.ts'
import { pointsToAxes } from '../space/chart.ts'
import type { PathEvent } from '../toolpath/events.ts'
import { type Driven, type MoveBlock, MoveWriter, type PlanSink } from '../toolpath/moves.ts'

/** Plans a job into a sink. */
type Plan = (sink: PlanSink) => void

/** The part of a plan that a run is limited to: what lies in its zone, from its moment on. */
export function planLimited(job: JobDocument, plan: Plan, sink: PlanSink): void {
  const { zone, fromSeconds = 0 } = job.limits ?? {}
  const inZone: Plan = zone ? (to) => planInZone(job, zone, plan, to) : plan
  if (fromSeconds <= 0) {
    inZone(sink)
    return
  }
  const recorder = new TrackRecorder(job.machine)
  inZone(recorder)
  const later = new FromMove(sink, moveAt(recorder.track(), fromSeconds))
  inZone(later)
  later.end()
}

function planInZone(job: JobDocument, zone: Bounds, plan: Plan, sink: PlanSink): void {
  const { x0, y0, x1, y1 } = zone
  // A set-up may have laid the workpiece anew: the zone lies on its face, wherever that is.
  const cornersFor = (operation?: string): Float64Array =>
    pointsToAxes(chartOf(job, mainPieceId(job), operation), Float64Array.of(x0, y0, x1, y0, x1, y1, x0, y1))
  const within = new WithinZone(sink, cornersFor, job.machine)
  plan(within)
  within.end()
}

/** Passes on what comes from a move on: the head goes there dark, and everything stands as it stood then. */
class FromMove implements PlanSink {
  private readonly writer: MoveWriter
  private readonly first: number
  private seen = 0
  private last = { x: 0, y: 0, z: 0, a: 0 }
  private waiting: { readonly id: string; readonly driven: Driven | undefined } | undefined
  private air = false
  private begun = false

  constructor(sink: PlanSink, first: number) {
    this.first = first
    this.writer = new MoveWriter(sink)
  }

  operation(id: string, asked: readonly string[], driven?: Driven): void {
    if (this.begun) this.writer.operation(id, asked, driven)
    else this.waiting = { id, driven }
  }

  moves(block: MoveBlock): void {
    for (let i = 0; i < block.count; i++) {
      const to = { x: block.x[i], y: block.y[i], z: block.z?.[i] ?? this.last.z, a: block.a?.[i] ?? this.last.a }
      if (this.seen++ >= this.first) {
        this.begin()
        this.writer.moveAxes(to.x, to.y, to.z, to.a, block.s[i], block.speed[i])
      }
      this.last = to
    }
  }

  event(event: PathEvent): void {
    if (this.begun) this.writer.event(event)
    // What was asked before is done; the air stands as it stood.
    else if (event.kind === 'air') this.air = event.on
  }

  private begin(): void {
    if (this.begun) return
    this.begun = true
    if (this.waiting) this.writer.operation(this.waiting.id, [], this.waiting.driven)
    if (this.air) this.writer.event({ kind: 'air', on: true })
    const { x, y, z, a } = this.last
    this.writer.moveAxes(x, y, z, a, 0, 0)
  }

  end(): void {
    if (!this.begun && this.waiting) this.writer.operation(this.waiting.id, [], this.waiting.driven)
    this.writer.flush()
  }
}

/** Dark moves beyond which the way between two burns is made anew: a rapid move and its run-up are left as they are. */
const AS_PLANNED = 2

/** Burns only within a convex zone; ways outside are made shorter where nothing is burned on them. Axes µm. */
class WithinZone implements PlanSink {
  private readonly writer: MoveWriter
  private readonly cornersFor: (operation?: string) => Float64Array
  private corners: Float64Array
  private readonly machine: Machine
  private last = { x: 0, y: 0, z: 0, a: 0 }
  /** Dark moves that were not made yet. */
  private pending: { x: number; y: number; z: number; a: number; speed: number; planned: boolean }[] = []

  constructor(sink: PlanSink, cornersFor: (operation?: string) => Float64Array, machine: Machine) {
    this.writer = new MoveWriter(sink)
    this.cornersFor = cornersFor
    this.corners = cornersFor()
    this.machine = machine
  }

  operation(id: string, asked: readonly string[], driven?: Driven): void {
    this.corners = this.cornersFor(id)
    this.writer.operation(id, asked, driven)
  }

  moves(block: MoveBlock): void {
    for (let i = 0; i < block.count; i++) {
      const { last } = this
      const to = { x: block.x[i], y: block.y[i], z: block.z?.[i] ?? last.z, a: block.a?.[i] ?? last.a }
      const [s, speed] = [block.s[i], block.speed[i]]
      const span = s === 0 ? undefined : insideOf(this.corners, last.x, last.y, to.x, to.y)
      if (!span) this.pending.push({ ...to, speed, planned: s === 0 })
      else {
        const at = (share: number) => ({
          ...to,
          x: Math.round(last.x + (to.x - last.x) * share),
          y: Math.round(last.y + (to.y - last.y) * share),
        })
        const [from, end] = [at(span[0]), at(span[1])]
        this.goTo(from, to, last, speed)
        this.writer.moveAxes(end.x, end.y, end.z, end.a, s, speed)
        if (span[1] < 1) this.pending.push({ ...to, speed, planned: false })
      }
      this.last = to
    }
  }

  event(event: PathEvent): void {
    this.settle()
    this.writer.event(event)
  }

  /** Dark to where the beam is lit next: as planned where that is near, else straight, with as much of a run-up as there is. */
  private goTo(
    from: { readonly x: number; readonly y: number; readonly z: number; readonly a: number },
    to: { readonly x: number; readonly y: number },
    start: { readonly x: number; readonly y: number },
    speed: number,
  ): void {
    const { pending, writer } = this
    if (pending.length <= AS_PLANNED && pending.every(({ planned }) => planned)) {
      for (const move of pending) writer.moveAxes(move.x, move.y, move.z, move.a, 0, move.speed)
    } else {
      const long = Math.hypot(to.x - start.x, to.y - start.y) || 1
      const { x, y } = this.machine.axes
      const runUp = (1000 * speed ** 2) / (2 * Math.min(x.accelerationMmS2, y.accelerationMmS2))
      const back = Math.min(runUp, Math.hypot(from.x - start.x, from.y - start.y))
      const [bx, by] = [from.x - ((to.x - start.x) / long) * back, from.y - ((to.y - start.y) / long) * back]
      writer.moveAxes(Math.round(bx), Math.round(by), from.z, from.a, 0, 0)
    }
    this.pending = []
    if (writer.x !== from.x || writer.y !== from.y) writer.moveAxes(from.x, from.y, from.z, from.a, 0, speed)
  }

  /** The head goes where it is meant to be, straight. */
  private settle(): void {
    const last = this.pending.at(-1)
    if (last) this.writer.moveAxes(last.x, last.y, last.z, last.a, 0, 0)
    this.pending = []
  }

  end(): void {
    this.settle()
    this.writer.flush()
  }
}

/** The share of a line within a convex polygon: from, to; undefined where it stays outside (after M. Cyrus, J. Beck, 1978). */
function insideOf(corners: Float64Array, x0: number, y0: number, x1: number, y1: number): readonly [number, number] | undefined {
  const n = corners.length
  let area = 0
  for (let i = 0, j = n - 2; i < n; j = i, i += 2) area += corners[j] * corners[i + 1] - corners[i] * corners[j + 1]
  const way = area > 0 ? 1 : -1
  let [from, to] = [0, 1]
  for (let i = 0, j = n - 2; i < n; j = i, i += 2) {
    const [nx, ny] = [-(corners[i + 1] - corners[j + 1]) * way, (corners[i] - corners[j]) * way]
    const start = (x0 - corners[j]) * nx + (y0 - corners[j + 1]) * ny
    const end = (x1 - corners[j]) * nx + (y1 - corners[j + 1]) * ny
    if (start < 0 && end < 0) return undefined
    if (start < 0) from = Math.max(from, start / (start - end))
    else if (end < 0) to = Math.min(to, start / (start - end))
  }
  return from < to ? [from, to] : undefined
}
