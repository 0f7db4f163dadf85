import { burnedDots } from '../../forecast/burned-dots.ts'
import { darknessOfDots } from '../../forecast/darkness.ts'
import type { DotLayer } from '../../forecast/layers.ts'
import type { Bounds } from '../../geometry/bounds.ts'
import { coverage } from '../../geometry/coverage.ts'
import { type Ring, ringsBounds } from '../../geometry/ring.ts'
import { type BurnedPiece, pieceChart } from '../../job/document/pieces.ts'
import { type Machine, spotMm } from '../../machine/machine.ts'
import { dotReach } from '../../material/answer.ts'
import { type Burn, levelTones } from '../../material/level-powers.ts'
import { startOf } from '../../motion/track.ts'
import { asBytes } from '../../numeric/as-bytes.ts'
import { type Affine, inverseOf, mapped, SAME } from '../../space/affine.ts'
import { axesToPoint } from '../../space/chart.ts'
import { mappedRings } from '../../space/map-shapes.ts'
import type { Burning, Stretch } from '../process.ts'
import { fieldOf } from './fill.ts'
import type { AreaOperation } from './settings.ts'

/** A forecast has no more cells than this: of a large area at a fine interval one cell stands for several lines. */
const MOST_CELLS = 12_000_000

/** The cells by which an area is shown: straight along its lines, a line to a row. */
export interface AreaCells {
  readonly columns: number
  readonly rows: number
  readonly x0: number
  readonly y0: number
  readonly pitch: number
  readonly toField: Affine
  /** How much of each is within the area, 0–255. */
  readonly levels: Uint8Array
}

/** @param area simple rings on the face, mm @param goesOn asked between long parts of the work: it may throw */
export function cellsOfArea(
  area: readonly Ring[],
  { intervalMm, deg }: AreaOperation,
  toSweep: Affine,
  goesOn: () => void = () => {},
): AreaCells {
  const toField = fieldOf(toSweep, deg)
  const rings = mappedRings(toField, area)
  const box = ringsBounds(rings)
  const [wide, high] = [box.x1 - box.x0, box.y1 - box.y0]
  const pitch = Math.max(intervalMm, Math.sqrt((wide * high) / MOST_CELLS))
  const columns = Math.max(1, Math.ceil(wide / pitch))
  // As many lines as are burned, and one more at either side for what the edge cuts off.
  const rows = Math.max(1, Math.round(high / pitch)) + 2
  const x0 = (box.x0 + box.x1 - columns * pitch) / 2
  const y0 = (box.y0 + box.y1 - rows * pitch) / 2
  const inCells = rings.map((ring) => ring.map((value, i) => (value - (i % 2 === 0 ? x0 : y0)) / pitch))
  const shares = coverage(inCells, columns, rows)
  goesOn()
  return { columns, rows, x0, y0, pitch, toField, levels: asBytes(shares, 1) }
}

/** The burn of an area as rows of dots have it: every mark at full power. */
export function burnOfArea({ power, speedMmS, intervalMm, passes, passPowers = [], crossDeg }: AreaOperation): Burn {
  const sets = crossDeg === undefined ? 1 : 2
  return {
    power,
    minPower: 0,
    evenIn: 'power',
    speedMmS,
    intervalMm,
    passes: passes * sets,
    passPowers: passPowers.flatMap((share) => Array.from({ length: sets }, () => share)),
  }
}

/** How dark an area is after some passes, 0–255. @param passes default all */
function toneAfter({ job, operation, piece }: Burning<AreaOperation>, passes?: number): number {
  const burn = burnOfArea(operation)
  return levelTones(piece.material, job.machine, burn, passes)[255]
}

/** How late the beam follows along a line, in cells; where threads are followed it shows at their ends only. */
const lagOf = (machine: Machine, { strategy, speedMmS }: AreaOperation, pitch: number): number =>
  strategy === 'rings' ? 0 : (machine.riseTimeS * speedMmS) / pitch

/** The area as its operation leaves it. */
export function areaLayer(context: Burning<AreaOperation>, cells: AreaCells): Pick<DotLayer, 'dark' | 'pyramid'> {
  const tone = toneAfter(context)
  const ramp = Uint8Array.from({ length: 256 }, (_, level) => Math.round((tone * level) / 255))
  const { operation, job, piece } = context
  context.supply.progress?.(0)
  const dark = darknessOfDots(cells, ramp, lagOf(job.machine, operation, cells.pitch), operation.bothWays)
  context.supply.progress?.(0)
  return burnedDots(cells, dark, reachOf(job.machine, piece, operation) / cells.pitch)
}

const reachOf = (machine: Machine, { material }: BurnedPiece, { strategy }: AreaOperation): number =>
  strategy === 'rings' ? 0 : dotReach(material, machine.id)

/** Burned cells in their place. */
export function inPlace(
  { job, id, piece, operation }: Burning<AreaOperation>,
  { x0, y0, pitch, toField }: AreaCells,
  burned: Pick<DotLayer, 'dark' | 'pyramid'>,
): DotLayer {
  const same = toField.every((value, i) => value === SAME[i])
  return {
    kind: 'dots',
    operation: id,
    ...burned,
    reachMm: reachOf(job.machine, piece, operation),
    x0,
    y0,
    pitch,
    spot: Math.max(spotMm(job.machine), pitch),
    ...(same ? {} : { toFace: inverseOf(toField) }),
  }
}

/** The area as it is by a moment: what the lines driven so far have passed over. */
export function areaSoFar(context: Burning<AreaOperation>, cells: AreaCells, stretch: Stretch): DotLayer {
  const { job, operation, piece } = context
  const { track, first, move, end } = stretch
  const passes = operation.passes * (operation.crossDeg === undefined ? 1 : 2)
  const aPass = Math.max(1, (end - first) / passes)
  const done = Math.min(passes - 1, Math.floor((move - first) / aPass))
  const chart = pieceChart(job, piece)
  const touched = new Uint8Array(cells.levels.length)
  for (let i = first + Math.floor(done * aPass); i < move; i++) {
    if (track.s[i] === 0) continue
    const from = startOf(track, i)
    const ends = [axesToPoint(chart, from.x, from.y), axesToPoint(chart, track.x[i], track.y[i])]
    const [[ax, ay], [bx, by]] = ends.map(([x, y]) => mapped(cells.toField, x, y))
    touch(touched, cells, ax, ay, bx, by)
  }
  const before = done === 0 ? 0 : toneAfter(context, done)
  const after = toneAfter(context, done + 1)
  const dark = cells.levels.map((level, i) => Math.round(((touched[i] ? after : before) * level) / 255))
  return inPlace(context, cells, burnedDots(cells, dark, 0))
}

/** Marks the cells that a line passes over, as wide as the pitch. */
function touch(
  touched: Uint8Array,
  { columns, rows, x0, y0, pitch }: AreaCells,
  ax: number,
  ay: number,
  bx: number,
  by: number,
): void {
  const steps = Math.max(1, Math.ceil((2 * Math.hypot(bx - ax, by - ay)) / pitch))
  const level = Math.abs(by - ay) < 0.01 * pitch
  for (let k = 0; k <= steps; k++) {
    const column = Math.floor((ax + ((bx - ax) * k) / steps - x0) / pitch)
    const row = Math.floor((ay + ((by - ay) * k) / steps - y0) / pitch)
    for (const [c, r] of level ? [[column, row]] : around(column, row))
      if (c >= 0 && c < columns && r >= 0 && r < rows) touched[r * columns + c] = 1
  }
}

const around = (column: number, row: number): [number, number][] => [
  [column, row],
  [column - 1, row],
  [column + 1, row],
  [column, row - 1],
  [column, row + 1],
]

/** The box around an area whose lines reach its edge, grown by half the line's width. */
export const grownBox = ({ x0, y0, x1, y1 }: Bounds, by: number): Bounds => ({
  x0: x0 - by,
  y0: y0 - by,
  x1: x1 + by,
  y1: y1 + by,
})
