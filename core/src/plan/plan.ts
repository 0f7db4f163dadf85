import type { Bench } from '../job/bench.ts'
import type { JobDocument, Operation } from '../job/document.ts'
import { kerfRings, outlineLines } from '../job/evaluate.ts'
import { kerfSide } from '../job/hold.ts'
import { operationMarks } from '../job/pictured.ts'
import { wattsAt } from '../machine/machine.ts'
import { areaDose, lineDose } from '../material/material.ts'
import { type Clock, motionClock } from '../motion/clock.ts'
import { writeCutPaths, writeLinePaths } from './cut-paths.ts'
import { machineFrame } from './frame.ts'
import { dotGrid } from './grid.ts'
import { levelPowers } from './level-powers.ts'
import { type MoveBlock, MoveWriter, type PlanSink } from './moves.ts'
import { writePictureRows } from './picture-rows.ts'
import { writeProgramMoves } from './program-moves.ts'

/** More dots than this are refused: they would take days to burn. */
export const MAX_DOTS = 400_000_000

/** The name under which the way back to zero is reported. */
export const RETURN = 'return'

/** A job that cannot be planned; `message` is a sentence for the operator. */
export class PlanError extends Error {}

/** Operations → moves, in run order, then back to zero. @param only ids to run, default all */
export function planJob(job: JobDocument, bench: Bench, sink: PlanSink, only?: ReadonlySet<string>): void {
  const frame = machineFrame(job)
  const { machine } = job
  const writer = new MoveWriter(sink)
  const order = job.runOrder.filter((id) => !only || only.has(id))
  order.forEach((id, index) => {
    const operation = job.operations[id]
    const s = Math.round(operation.power * machine.fullPowerS)
    writer.operation(id)
    if (operation.pauseBefore) {
      // Out of the way of whoever works at the piece.
      writer.move(0, 0, 0, 0)
      writer.rest()
    }
    const share = (from: number, to: number) =>
      bench.progress && ((done: number) => bench.progress?.((index + from + (to - from) * done) / order.length))
    const preparing: Bench = { ...bench, progress: share(0, 0.5) }
    const writing = share(0.5, 1)
    if (operation.kind === 'picture') {
      const grid = dotGrid(job, operation)
      if (grid.columns * grid.rows > MAX_DOTS)
        throw new PlanError(
          `${grid.columns} × ${grid.rows} dots are more than can be planned. Choose a larger interval or a smaller picture.`,
        )
      const powers = levelPowers(job.material, machine, operation)
      writePictureRows(writer, operationMarks(job, operation, preparing), grid, operation, machine, frame, powers, writing)
    } else if (operation.kind === 'program') writeProgramMoves(writer, job, operation, bench, frame)
    else {
      // What stays in its place first: lines; then what may free a part.
      writeLinePaths(writer, outlineLines(job, operation.node, preparing), operation, machine, frame, s, writing)
      const rings = kerfRings(job, operation.node, (kerfSide(operation) * operation.kerfMm) / 2, preparing)
      writeCutPaths(writer, rings, operation, machine, frame, s, writing)
    }
  })
  writer.operation(RETURN)
  writer.move(0, 0, 0, 0)
  writer.flush()
}

export interface OperationReport {
  readonly id: string
  readonly kind: Operation['kind']

  readonly seconds: number
  readonly travelMm: number
  readonly burnMm: number
  readonly doseJPerMm?: number
  readonly doseJPerMm2?: number
}

export interface PlanReport {
  readonly seconds: number
  readonly travelMm: number
  readonly burnMm: number
  /** What is burned, machine mm: [x0, y0, x1, y1]; null where nothing is. */
  readonly bounds: readonly [number, number, number, number] | null
  readonly operations: readonly OperationReport[]
  readonly returnSeconds: number
}

/** Times, ways and bounds of a plan, as a sink beside others. */
export class PlanMeter implements PlanSink {
  private readonly job: JobDocument
  private readonly clock: Clock
  private readonly ids: string[] = []

  constructor(job: JobDocument) {
    this.job = job
    this.clock = motionClock(job.machine)
  }

  operation(id: string): void {
    this.clock.section()
    this.ids.push(id)
  }

  moves(block: MoveBlock): void {
    this.clock.add(block)
  }

  rest(): void {
    this.clock.rest()
  }

  report(): PlanReport {
    const totals = this.clock.finish()
    const { machine } = this.job
    const operations = this.ids.flatMap((id, i): OperationReport[] => {
      const op = this.job.operations[id]
      if (!op) return []
      const { seconds, travelMm, burnMm } = totals[i]
      const dose =
        op.kind === 'cut'
          ? { doseJPerMm: lineDose(wattsAt(machine, op.power), op.speedMmS) * op.passes }
          : op.kind === 'program'
            ? {}
            : { doseJPerMm2: areaDose(wattsAt(machine, op.power), op.speedMmS, op.intervalMm) * op.passes }
      return [{ id, kind: op.kind, seconds, travelMm, burnMm, ...dose }]
    })
    const sum = (of: 'seconds' | 'travelMm' | 'burnMm'): number => totals.reduce((total, part) => total + part[of], 0)
    return {
      seconds: sum('seconds'),
      travelMm: sum('travelMm'),
      burnMm: sum('burnMm'),
      bounds: this.clock.burned(),
      operations,
      returnSeconds: totals[this.ids.indexOf(RETURN)]?.seconds ?? 0,
    }
  }
}

/** Times, ways and bounds of a job. */
export function measureJob(job: JobDocument, bench: Bench, only?: ReadonlySet<string>): PlanReport {
  const meter = new PlanMeter(job)
  planJob(job, bench, meter, only)
  return meter.report()
}

/** Hands one plan to several sinks. */
export const both = (a: PlanSink, b: PlanSink): PlanSink => ({
  operation(id) {
    a.operation(id)
    b.operation(id)
  },
  moves(block) {
    a.moves(block)
    b.moves(block)
  },
  rest() {
    a.rest()
    b.rest()
  },
})
