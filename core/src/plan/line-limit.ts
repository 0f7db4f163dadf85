import { GcodeWriter } from '../formats/gcode.ts'
import type { JobDocument } from '../job/document/document.ts'
import type { Operation } from '../job/document/operation.ts'
import { type Machine, powerFor, wattsAt } from '../machine/machine.ts'
import type { Clock } from '../motion/clock.ts'
import { motionClock } from '../motion/clock.ts'
import { type PathEvent, standsFor } from '../toolpath/events.ts'
import type { MoveBlock, PlanSink } from '../toolpath/moves.ts'

/** What an operation asks of a controller's line where it is densest, as a share of what the line can: above 1 it starves. */
export interface LineDemand {
  readonly id: string
  readonly share: number
  /** What is sent there, a second. */
  readonly bytesS: number
  readonly linesS: number
}

/** Whether anybody measured what a machine's line can take: else it is taken as fast enough. */
export const hasSlowLine = ({ lineBytesS, linesS }: Machine): boolean => lineBytesS !== undefined || linesS !== undefined

/** A line that is used to the last is late now and then. */
const MARGIN = 0.95
/** Weaker than this a beam is not driven: it would not be lit at all. */
const LEAST_POWER = 0.01

/** Follows a plan and finds, operation by operation, the stretch of as many moves as the controller knows ahead that is driven fastest. */
class DemandMeter implements PlanSink {
  readonly parts: { id: string; moves: number; bytes: number; fastest: number }[] = []
  private readonly depth: number
  private readonly clock: Clock
  private readonly writer: GcodeWriter
  /** When each of the last moves ended, and the operation of each move that was not timed yet. */
  private readonly ends: Float64Array
  private readonly waiting: number[] = []
  private timed = 0

  constructor(machine: Machine) {
    this.depth = machine.plannerDepth
    this.ends = new Float64Array(this.depth)
    this.clock = motionClock(machine, (ends) => {
      for (const end of ends) this.take(end)
    })
    this.writer = new GcodeWriter({ head: [], operation: () => '' }, (bytes) => {
      const part = this.parts.at(-1)
      if (part) part.bytes += bytes.length
    })
  }

  private take(end: number): void {
    const at = this.waiting[this.timed++]
    const part = this.parts[at]
    const slot = this.timed % this.depth
    const before = this.ends[slot]
    this.ends[slot] = end
    // Only stretches that lie in one operation: between two of them the machine travels.
    if (this.timed > this.depth && this.waiting[this.timed - 1 - this.depth] === at)
      part.fastest = Math.min(part.fastest, end - before)
  }

  operation(id: string): void {
    this.clock.section()
    this.parts.push({ id, moves: 0, bytes: 0, fastest: Number.POSITIVE_INFINITY })
  }

  moves(block: MoveBlock): void {
    const at = this.parts.length - 1
    this.parts[at].moves += block.count
    for (let i = 0; i < block.count; i++) this.waiting.push(at)
    this.writer.moves(block)
    this.clock.add(block)
  }

  event(event: PathEvent): void {
    const seconds = standsFor(event)
    if (seconds !== undefined) this.clock.rest(seconds)
  }

  demands({ lineBytesS = Number.POSITIVE_INFINITY, linesS = Number.POSITIVE_INFINITY }: Machine): LineDemand[] {
    this.clock.finish()
    return this.parts.map(({ id, moves, bytes, fastest }) => {
      const lines = this.depth / fastest
      const each = moves > 0 ? bytes / moves : 0
      return { id, bytesS: lines * each, linesS: lines, share: Math.max((lines * each) / lineBytesS, lines / linesS) }
    })
  }
}

/** What the operations of a plan ask of the line. @param plan puts it into a sink */
export function lineDemands(machine: Machine, plan: (sink: PlanSink) => void): LineDemand[] {
  const meter = new DemandMeter(machine)
  plan(meter)
  return meter.demands(machine)
}

/** An operation driven so much slower that the line keeps up, with the same dose; undefined where its power would be none. */
export function slowedFor(
  { share }: LineDemand,
  operation: Operation,
  machine: Machine,
): Pick<Operation, 'speedMmS' | 'power'> | undefined {
  const slower = share / MARGIN
  const power = powerFor(machine, wattsAt(machine, operation.power) / slower)
  if (power < LEAST_POWER) return undefined
  return { speedMmS: Math.floor((100 * operation.speedMmS) / slower) / 100, power: Math.round(1e4 * power) / 1e4 }
}

/** The job as its machine's line can take it: what is too dense is driven slower, with the same dose. */
export function withinLine(job: JobDocument, plan: (job: JobDocument, sink: PlanSink) => void): JobDocument {
  const { machine } = job
  if (!hasSlowLine(machine)) return job
  const operations = { ...job.operations }
  for (const demand of lineDemands(machine, (sink) => plan(job, sink))) {
    const operation = operations[demand.id]
    if (!operation || demand.share <= 1) continue
    const slowed = slowedFor(demand, operation, machine)
    if (!slowed) continue
    const least = 'minPower' in operation ? { minPower: operation.minPower * (slowed.power / operation.power) } : {}
    operations[demand.id] = { ...operation, ...slowed, ...least } as Operation
  }
  return { ...job, operations }
}
