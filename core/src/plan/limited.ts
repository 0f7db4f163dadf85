import type { Bounds } from '../geometry/bounds.ts'
import { type JobDocument, mainPieceId } from '../job/document/document.ts'
import { chartOf } from '../job/document/pieces.ts'
import { moveAt, TrackRecorder } from '../motion/track.ts'
import { pointsToAxes } from '../space/chart.ts'
import type { PathEvent } from '../toolpath/events.ts'
import { type Driven, type MoveBlock, MoveWriter, type PlanSink } from '../toolpath/moves.ts'
import { WithinZone } from './within-zone.ts'

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
  const within = new WithinZone(new MoveWriter(sink), cornersFor, job.machine)
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
  /** The focus that somebody has set by then, if it is another one than at the start. */
  private focus: PathEvent | undefined
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
    else if (event.kind === 'refocus') this.focus = event
    else if (event.kind === 'set-up') this.focus = undefined
  }

  private begin(): void {
    if (this.begun) return
    this.begun = true
    if (this.waiting) this.writer.operation(this.waiting.id, [], this.waiting.driven)
    if (this.air) this.writer.event({ kind: 'air', on: true })
    if (this.focus) this.writer.event(this.focus)
    const { x, y, z, a } = this.last
    this.writer.moveAxes(x, y, z, a, 0, 0)
  }

  end(): void {
    if (!this.begun && this.waiting) this.writer.operation(this.waiting.id, [], this.waiting.driven)
    this.writer.flush()
  }
}
