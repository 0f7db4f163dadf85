import { withOperation } from '../edits/change.ts'
import type { JobDocument } from '../job/document/document.ts'
import type { Supply } from '../lineage/supply.ts'
import { startOf, type Track, TrackRecorder } from '../motion/track.ts'
import type { AreaOperation } from '../process/area/settings.ts'
import { both, PlanMeter, planJob } from './plan.ts'

export type FillName = 'sweep' | 'patches' | 'rings' | 'two-angles'

/** The ways in which an area can be filled, each as a change of the operation as it is. */
export const FILLS: Readonly<Record<FillName, (operation: AreaOperation) => Partial<AreaOperation>>> = {
  sweep: () => ({ strategy: 'sweep', crossDeg: undefined }),
  patches: () => ({ strategy: 'patches', crossDeg: undefined }),
  rings: () => ({ strategy: 'rings', crossDeg: undefined }),
  'two-angles': ({ deg, crossDeg }) => ({ strategy: 'sweep', crossDeg: crossDeg ?? (deg > 0 ? deg - 90 : deg + 90) }),
}

/** What one way of filling costs: the numbers are those of the program. */
export interface FillFacts {
  readonly name: FillName
  readonly seconds: number
  readonly travelMm: number
  readonly burnMm: number
  /** Share of what is burned that gets most of its dose at once, 0–1: there heat gathers. */
  readonly hot: number
}

/** The way in which an operation is filled now; undefined where it fills nothing. */
export function fillNow(job: JobDocument, id: string): FillName | undefined {
  const operation = job.operations[id]
  if (!operation || !('strategy' in operation)) return undefined
  return operation.strategy === 'sweep' && operation.crossDeg !== undefined ? 'two-angles' : operation.strategy
}

/** The job with an operation filled another way. */
export const filledAs = (job: JobDocument, id: string, name: FillName): JobDocument =>
  withOperation(job, id, FILLS[name](job.operations[id] as AreaOperation))

/** What an operation would cost, filled another way; planned as it would be run. @throws PlanError */
export function fillFacts(job: JobDocument, id: string, name: FillName, supply: Supply): FillFacts {
  const changed = filledAs(job, id, name)
  const meter = new PlanMeter(changed)
  const recorder = new TrackRecorder(changed.machine)
  planJob(changed, supply, both(meter, recorder), new Set([id]))
  const [{ seconds, travelMm, burnMm }] = meter.report().operations
  return { name, seconds, travelMm, burnMm, hot: hotShare(recorder.track()) }
}

/** The side of the cells in which heat is followed, µm: about as far as it spreads in the time that it lasts. */
const CELL = 1500
/** How long heat lasts, s: what came earlier has gone by then. */
const LASTS_S = 1.5
/** A cell is hot where this share of all that it gets is there at once. */
const AT_ONCE = 0.6

/**
 * Where heat gathers: each spot cools down exponentially and is heated by what is burned there; the share of all that is burned
 * in cells that hold most of their dose at one moment.
 */
export function hotShare(track: Track): number {
  interface Cell {
    now: number
    at: number
    most: number
    all: number
  }
  const cells = new Map<number, Cell>()
  const heat = (x: number, y: number, energy: number, at: number): void => {
    const key = Math.floor(x / CELL) * 100_003 + Math.floor(y / CELL)
    const cell = cells.get(key) ?? { now: 0, at, most: 0, all: 0 }
    cells.set(key, cell)
    cell.now = cell.now * Math.exp(-(at - cell.at) / LASTS_S) + energy
    cell.at = at
    cell.all += energy
    if (cell.now > cell.most) cell.most = cell.now
  }
  for (let i = 0; i < track.count; i++) {
    if (track.s[i] === 0) continue
    const from = startOf(track, i)
    const began = i === 0 ? 0 : track.seconds[i - 1]
    const [dx, dy] = [track.x[i] - from.x, track.y[i] - from.y]
    const long = Math.hypot(dx, dy)
    const steps = Math.max(1, Math.ceil((2 * long) / CELL))
    for (let k = 0; k < steps; k++) {
      const t = (k + 0.5) / steps
      heat(from.x + t * dx, from.y + t * dy, (long * track.s[i]) / steps, began + t * (track.seconds[i] - began))
    }
  }
  let all = 0
  let hot = 0
  for (const cell of cells.values()) {
    all += cell.all
    if (cell.most >= AT_ONCE * cell.all) hot += cell.all
  }
  return all === 0 ? 0 : hot / all
}
