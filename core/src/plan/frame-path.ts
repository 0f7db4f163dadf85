import { type Bounds, isEmptyBounds } from '../geometry/bounds.ts'
import { combine } from '../geometry/clip.ts'
import { convexHull } from '../geometry/hull.ts'
import type { Ring } from '../geometry/ring.ts'
import { burnOrder, type JobDocument, mainPieceId } from '../job/document/document.ts'
import { chartOf, pieceChart } from '../job/document/pieces.ts'
import { outlineSize } from '../job/document/workpiece.ts'
import type { Supply } from '../lineage/supply.ts'
import type { Burning } from '../process/process.ts'
import { burningsOf, processOf } from '../process/table.ts'
import { broughtRound } from '../rotary/around.ts'
import { bedToAxes, pointsToAxes } from '../space/chart.ts'
import { poseBounds } from '../space/pose.ts'

/** What the head goes around when it shows where the job lies. */
export type FrameShape = 'bounds' | 'hull' | 'outline'

/**
 * The way around what a job burns, closed, machine mm; empty where it burns nothing. The true outline is that of all
 * cuts; where nothing is cut it is the box. Where a run is limited to a zone, what lies in it counts.
 * @param only ids of operations, default all
 */
export function framePath(
  job: JobDocument,
  supply: Supply,
  shape: FrameShape,
  only?: ReadonlySet<string>,
): (readonly [number, number])[][] {
  const burnings = burnOrder(job)
    .filter((id) => !only || only.has(id))
    .flatMap((id) => burningsOf(job, id, supply))
  const points = (ring: ArrayLike<number>): [number, number][] =>
    Array.from({ length: ring.length / 2 }, (_, i) => [ring[2 * i], ring[2 * i + 1]])
  /** Points of a face on the axes, mm. */
  const onAxes = ({ piece }: Burning, points: Float64Array): Float64Array =>
    pointsToAxes(pieceChart(job, piece), points).map((v) => v / 1000)
  const inZone = (context: Burning, rings: readonly Ring[]): Ring[] => {
    const onBed = rings.map((ring) => onAxes(context, ring))
    const zone = job.limits?.zone
    if (!zone || onBed.length === 0) return onBed
    // As a run has it: on the main piece's face, wherever that lies by then.
    const around = pointsToAxes(chartOf(job, mainPieceId(job), context.id), cornersOf(zone)).map((v) => v / 1000)
    return combine('intersect', onBed, [around])
  }
  const rings = burnings.flatMap((context) => inZone(context, processOf(context.operation).framed(context)))
  const corners = burnings.flatMap((context) => {
    const box = processOf(context.operation).extent(context)
    return isEmptyBounds(box) ? [] : inZone(context, [cornersOf(box)]).flatMap(points)
  })
  if (corners.length === 0) return []
  const clear = job.machine.turns && clearOfKeepOuts(job, corners)
  if (clear) return [clear]
  const closed = (way: readonly (readonly [number, number])[]): (readonly [number, number])[] => [...way, way[0]]
  if (shape === 'outline' && rings.length > 0) return rings.map((ring) => closed(points(ring)))
  if (shape === 'hull') return [closed(convexHull([...corners, ...rings.flatMap(points)]))]
  // From the corner that is the artwork's rear left, around as its box is written on the face.
  const axes = bedToAxes(job.machine)
  const [xs, ys] = [corners.map(([x]) => x), corners.map(([, y]) => y)]
  const [left, right] = [Math.min(...xs), Math.max(...xs)]
  const [rear, front] = axes[3] < 0 ? [Math.max(...ys), Math.min(...ys)] : [Math.min(...ys), Math.max(...ys)]
  return [
    closed([
      [left, rear],
      [right, rear],
      [right, front],
      [left, front],
    ]),
  ]
}

/** What turns is framed no faster than an eye follows and a hand can stop, mm/s of its surface. */
const SLOW_MM_S = 15

/** How fast a frame may go at most, mm/s; undefined: as it is wished. */
export const frameLimit = ({ turns }: JobDocument['machine']): number | undefined =>
  turns && Math.min(SLOW_MM_S, turns.device.speedMmS)

/**
 * The box of what is burned around something that turns, where a keep-out (the handle of a cup) would come under the head in it: turned the
 * other way round, so far as it goes without. @param corners four of each box that is burned, axes mm @returns undefined: nothing is in the way
 */
function clearOfKeepOuts(
  job: JobDocument,
  corners: readonly (readonly [number, number])[],
): (readonly [number, number])[] | undefined {
  const id = mainPieceId(job)
  const around = job.machine.axes.y.travelMm
  const range = (of: readonly number[]): [number, number] => [Math.min(...of), Math.max(...of)]
  const [left, right] = range(corners.map(([x]) => x))
  const [low, high] = range(corners.map(([, y]) => y))
  const turn = (y: number): number => broughtRound(y, around)
  const inTheWay = Object.values(job.workpieces[id].keepOuts)
    .map(({ outline, pose }) => poseBounds(pose, outlineSize(outline)))
    .map((box) => [...pointsToAxes(chartOf(job, id), cornersOf(box))].map((v) => v / 1000))
    .map((of) => ({ x: range(of.filter((_, i) => i % 2 === 0)), y: range(of.filter((_, i) => i % 2 === 1)) }))
    .find(({ x, y }) => x[0] < right && x[1] > left && turn(y[0] - low) < high - low)
  if (!inTheWay) return undefined
  const [from, to] = [inTheWay.y[1], inTheWay.y[0] + around]
  const spans: [number, number][] = []
  for (let i = 0; i + 3 < corners.length; i += 4) {
    const [a, b] = range(corners.slice(i, i + 4).map(([, y]) => y))
    const begins = from + turn(a - from)
    spans.push([Math.min(begins, to), Math.min(begins + b - a, to)])
  }
  const [first, last] = [Math.min(...spans.map(([a]) => a)), Math.max(...spans.map(([, b]) => b))]
  return [
    [left, first],
    [right, first],
    [right, last],
    [left, last],
    [left, first],
  ]
}

const cornersOf = ({ x0, y0, x1, y1 }: Bounds): Ring => Float64Array.of(x0, y0, x1, y0, x1, y1, x0, y1)

/** A program that goes along ways once, dark or with a weak beam. @param s S value, 0 dark @param isSlow no faster on the way there either */
export function frameProgram(
  ways: readonly (readonly (readonly [number, number])[])[],
  speedMmS: number,
  s: number,
  isSlow = false,
): string[] {
  const feed = `F${Number((speedMmS * 60).toFixed(1))}`
  const at = ([x, y]: readonly [number, number]): string => `X${Number(x.toFixed(3))}Y${Number(y.toFixed(3))}`
  const lines = ['G21', 'G90', 'M5']
  for (const way of ways) {
    lines.push(isSlow ? `G1${at(way[0])}${feed}` : `G0${at(way[0])}`, s > 0 ? `M4S${s}` : 'M5', `G1${feed}`)
    for (const point of way.slice(1)) lines.push(at(point))
    lines.push('M5')
  }
  return lines
}
