import { burnOrder, type JobDocument, mainPiece } from '../job/document/document.ts'
import type { Operation, ProcessName } from '../job/document/operation.ts'
import { pieceChart } from '../job/document/pieces.ts'
import { askedBy, burns, type Step } from '../job/document/steps.ts'
import type { Supply } from '../lineage/supply.ts'
import { type Clock, motionClock } from '../motion/clock.ts'
import type { Lead } from '../process/cut/leads.ts'
import type { Burning } from '../process/process.ts'
import type { Followed, Paths } from '../process/strokes.ts'
import { burningsOf, processOf } from '../process/table.ts'
import { type Chart, pointsToAxes } from '../space/chart.ts'
import { type PathEvent, standsFor } from '../toolpath/events.ts'
import { type Driven, type MoveBlock, MoveWriter, type PlanSink } from '../toolpath/moves.ts'
import { followingLens } from './following-lens.ts'
import { FocusInStrips } from './in-strips.ts'
import { planLimited } from './limited.ts'
import { withinLine } from './line-limit.ts'
import { type Following, type LedRing, writeLines, writeRings } from './paths.ts'
import { writePictureRows } from './picture-rows.ts'
import { writeSweeps, writeThreads } from './sweeps.ts'
import { tapered } from './tapered.ts'
import { writeMoves } from './written-moves.ts'

/** The name under which the way back to zero is reported. */
export const RETURN = 'return'

/** What is asked between one burn and the next, by the operation that follows: one line for each time the machine waits. */
export function askedBefore(job: JobDocument): ReadonlyMap<string, readonly string[]> {
  const texts = (steps: readonly Step[]): string[] => steps.flatMap((step) => askedBy(step) ?? [])
  return new Map([...waitsBefore(job)].map(([id, steps]) => [id, texts(steps)]))
}

/** The steps at which the machine waits, by the operation that follows them. */
function waitsBefore(job: JobDocument): ReadonlyMap<string, readonly Step[]> {
  const before = new Map<string, readonly Step[]>()
  let waiting: Step[] = []
  for (const id of job.order) {
    const step = job.steps[id]
    if (askedBy(step) !== undefined) waiting.push(step)
    if (!burns(step)) continue
    if (waiting.length > 0) before.set(step.operation, waiting)
    waiting = []
  }
  return before
}

/** What steps at which the machine waits are to it, one after the other. */
function waitFor(steps: readonly Step[]): PathEvent {
  const text = steps.flatMap((step) => askedBy(step) ?? []).join(' · ')
  return steps.some(({ kind }) => kind === 'set-up') ? { kind: 'set-up', name: text } : { kind: 'pause', text }
}

/** Operations → moves, in their order, then back to zero; what a run is limited to. @param only ids to run, default all */
export function planJob(job: JobDocument, supply: Supply, sink: PlanSink, only?: ReadonlySet<string>): void {
  const driven = withinLine(job, (all, to) => planWhole(all, supply, to, only))
  const slowed = new Map(
    Object.entries(driven.operations).flatMap(([id, operation]) => (operation === job.operations[id] ? [] : [[id, operation]])),
  )
  const plan = (to: PlanSink): void => planWhole(driven, supply, to, only, slowed)
  if (driven.limits) planLimited(driven, plan, sink)
  else plan(sink)
}

/** The same, whatever a run is limited to and the machine's line can take. @param slowed operations that are slower than they are set */
export function planWhole(
  job: JobDocument,
  supply: Supply,
  sink: PlanSink,
  only?: ReadonlySet<string>,
  slowed?: ReadonlyMap<string, Driven>,
): void {
  const writer = new MoveWriter(followingLens(job, tapered(job, sink)))
  const strips = new FocusInStrips(job, writer)
  const order = burnOrder(job).filter((id) => !only || only.has(id))
  const waits = waitsBefore(job)
  const asked = askedBefore(job)
  let air = false
  const switchAir = (on: boolean): void => {
    if (on !== air) writer.event({ kind: 'air', on })
    air = on
  }
  order.forEach((id, index) => {
    writer.operation(id, asked.get(id), slowed?.get(id))
    switchAir(job.operations[id].air)
    const steps = waits.get(id)
    if (steps) {
      // Out of the way of whoever works at the piece, once for all that is to be done there.
      writer.move(0, 0, 0, 0)
      const wait = waitFor(steps)
      writer.event(wait)
      if (wait.kind === 'set-up') strips.anew()
    }
    const share = (from: number, to: number) =>
      supply.progress && ((done: number) => supply.progress?.((index + from + (to - from) * done) / order.length))
    strips.write(id, (to, workpiece) =>
      writeOperation(to, job, id, { ...supply, progress: share(0, 0.5) }, share(0.5, 1), workpiece),
    )
  })
  switchAir(false)
  writer.operation(RETURN)
  writer.move(0, 0, 0, 0)
  writer.flush()
}

/**
 * One operation: its rows and written moves piece by piece, then its lines, then its rings, each in one good order.
 * @param workpiece only what lies on this one
 */
function writeOperation(
  writer: MoveWriter,
  job: JobDocument,
  id: string,
  preparing: Supply,
  writing?: (done: number) => void,
  workpiece?: string,
): void {
  const { machine } = job
  const operation = job.operations[id]
  const { strokes, strokesTogether } = processOf(operation)
  const offUm = offFocusUm(job, operation)
  if (offUm !== 0) writer.focus(offUm)
  const followed: { readonly how: Paths; readonly onAxes: Float64Array[]; readonly leads: readonly LedRing['lead'][] }[] = []
  const all = burningsOf(job, id, preparing)
  const burnings = workpiece === undefined ? all : all.filter(({ piece }) => piece.workpieceId === workpiece)
  for (const contexts of strokesTogether ? byWorkpiece(burnings) : burnings.map((context) => [context])) {
    const chart = pieceChart(job, contexts[0].piece)
    for (const each of strokesTogether?.(contexts) ?? strokes(contexts[0])) {
      if (each.form === 'rows') writePictureRows(writer, each, machine, chart, writing)
      else if (each.form === 'moves') writeMoves(writer, each, machine, chart)
      else if (each.form === 'sweeps') writeSweeps(writer, each, following(writer, job, each, offUm), machine, chart, writing)
      else if (each.form === 'threads') writeThreads(writer, each, following(writer, job, each, offUm), machine, chart, writing)
      else {
        const onAxes = each.paths.map((path) => pointsToAxes(chart, path))
        followed.push({ how: each, onAxes, leads: (each.leads ?? []).map((lead) => lead && leadOnAxes(chart, lead)) })
      }
    }
  }
  const lines = followed.filter(({ how }) => !how.closed)
  if (lines.length > 0) {
    const all = lines.flatMap(({ onAxes }) => onAxes)
    writeLines(writer, all, following(writer, job, lines[0].how, offUm), machine, writing)
  }
  const rings = followed.filter(({ how }) => how.closed)
  if (rings.length > 0) {
    const all = rings.flatMap(({ onAxes, leads }) => onAxes.map((points, i) => ({ points, ...(leads[i] && { lead: leads[i] }) })))
    writeRings(writer, all, following(writer, job, rings[0].how, offUm), machine, writing)
  }
  if (offUm !== 0) writer.focus(0)
}

/** How high the lens stands over its focus while an operation burns, µm: no deeper than the bed. 0 where it is set by hand. */
const offFocusUm = (job: JobDocument, { offFocusMm = 0 }: Operation): number =>
  job.machine.axes.z ? Math.round(1000 * Math.max(offFocusMm, -mainPiece(job).thicknessMm)) : 0

/** A lead with its ends on the axes, µm. */
function leadOnAxes(chart: Chart, { start, into, out }: Lead): LedRing['lead'] {
  const end = (at: readonly [number, number]): readonly [number, number] => {
    const [x, y] = pointsToAxes(chart, Float64Array.from(at))
    return [x, y]
  }
  return { start, ...(into && { into: end(into) }), ...(out && { out: end(out) }) }
}

/** How paths of an operation are followed on a machine. @param offUm how high its lens stands over the focus */
function following(
  writer: MoveWriter,
  job: JobDocument,
  how: Followed & { readonly overcutMm?: number },
  offUm: number,
): Following {
  const { machine } = job
  const { power, speedMmS, passes, leastPower = 0, passPowers = [], overcutMm = 0, focusStepMm = 0, restS = 0 } = how
  const s = (share: number): number => Math.round(share * machine.fullPowerS)
  const deeper = machine.axes.z ? 1000 * focusStepMm : 0
  // No deeper than the bed.
  const lowest = -1000 * mainPiece(job).thicknessMm
  const between = (pass: number): void => {
    if (restS > 0 && pass > 0 && pass < passes) writer.event({ kind: 'dwell', seconds: restS })
    // After the last one the lens goes back to where it began.
    if (deeper > 0) writer.focus(pass < passes ? Math.round(Math.max(lowest, offUm - pass * deeper)) : offUm)
  }
  return {
    speedMmS,
    passes: Array.from({ length: passes }, (_, pass) => s(power * (passPowers[pass] ?? 1))),
    leastS: s(Math.min(leastPower, power)),
    overcut: 1000 * overcutMm,
    between: passes > 1 && (deeper > 0 || restS > 0) ? between : undefined,
  }
}

/** Pieces that lie on one workpiece, together. */
function byWorkpiece(burnings: readonly Burning[]): Burning[][] {
  const lists = new Map<string, Burning[]>()
  for (const burning of burnings) {
    const list = lists.get(burning.piece.workpieceId) ?? []
    lists.set(burning.piece.workpieceId, list)
    list.push(burning)
  }
  return [...lists.values()]
}

export interface OperationReport {
  readonly id: string
  /** Its process. */
  readonly kind: ProcessName
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

  event(event: PathEvent): void {
    const seconds = standsFor(event)
    if (seconds !== undefined) this.clock.rest(seconds)
  }

  report(): PlanReport {
    const totals = this.clock.finish()
    const { machine } = this.job
    const operations = this.ids.flatMap((id, i): OperationReport[] => {
      const op = this.job.operations[id]
      if (!op) return []
      const { seconds, travelMm, burnMm } = totals[i]
      return [{ id, kind: op.process, seconds, travelMm, burnMm, ...processOf(op).dose(op, machine) }]
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
export function measureJob(job: JobDocument, supply: Supply, only?: ReadonlySet<string>): PlanReport {
  const meter = new PlanMeter(job)
  planJob(job, supply, meter, only)
  return meter.report()
}

/** Hands one plan to several sinks. */
export const both = (a: PlanSink, b: PlanSink): PlanSink => ({
  operation(id, asked, driven) {
    a.operation(id, asked, driven)
    b.operation(id, asked, driven)
  },
  moves(block) {
    a.moves(block)
    b.moves(block)
  },
  event(event) {
    a.event(event)
    b.event(event)
  },
})
