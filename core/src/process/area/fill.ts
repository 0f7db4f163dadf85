import { type Bounds, isEmptyBounds } from '../../geometry/bounds.ts'
import { offset, shapesOf } from '../../geometry/clip.ts'
import { type Ring, ringsBounds } from '../../geometry/ring.ts'
import { shortTour } from '../../geometry/tour.ts'
import { type Affine, composed, inverseOf, mapped, turning } from '../../space/affine.ts'
import { mappedRings } from '../../space/map-shapes.ts'
import { type Lines, linesOfPiece } from './lines.ts'
import { cellsOf } from './patches.ts'
import { ringsOf } from './rings.ts'
import type { AreaOperation } from './settings.ts'
import { groupsWithin } from './shared.ts'

/** Lines that are swept one after the other, and how they lie on the face. */
export interface SweptSet {
  readonly lines: Lines
  readonly toFace: Affine
}

/** What fills an area: lines at full speed, or threads that are followed. */
export type Fill =
  | { readonly form: 'sweeps'; readonly sets: readonly SweptSet[] }
  | { readonly form: 'threads'; readonly threads: readonly Ring[] }

type Settings = Pick<AreaOperation, 'strategy' | 'intervalMm' | 'deg' | 'crossDeg' | 'begins' | 'shareMm' | 'insetMm'>

/** How an area lies for lines at an angle: its rows along x. @param toSweep face → straight along the machine's own x */
export const fieldOf = (toSweep: Affine, deg: number): Affine => (deg === 0 ? toSweep : composed(toSweep, turning(-deg)))

/**
 * An area filled with lines by its strategy.
 * @param area simple rings on the face, outer ones with positive area, mm
 * @param toSweep face → sweep: straight along the machine's own x @param progress called with the share done; may throw to cancel
 */
export function filled(area: readonly Ring[], settings: Settings, toSweep: Affine, progress?: (done: number) => void): Fill {
  const inside = settings.insetMm > 0 ? offset(area, -settings.insetMm, { simple: true }) : area
  if (settings.strategy === 'rings') return { form: 'threads', threads: ringThreads(inside, settings, progress) }
  const { deg, crossDeg } = settings
  const angles = crossDeg === undefined ? [deg] : [deg, crossDeg]
  return {
    form: 'sweeps',
    sets: angles.flatMap((angle, i) =>
      sweptAt(inside, settings, fieldOf(toSweep, angle), progress && ((done) => progress((i + done) / angles.length))),
    ),
  }
}

function sweptAt(area: readonly Ring[], settings: Settings, toField: Affine, progress?: (done: number) => void): SweptSet[] {
  const { strategy, intervalMm, shareMm, begins } = settings
  const toFace = inverseOf(toField)
  const pieces = shapesOf(mappedRings(toField, area)).map((rings) => ({ rings, box: ringsBounds(rings) }))
  const together = strategy === 'patches' ? 0 : (shareMm ?? Infinity)
  const groups = grouped(
    pieces,
    groupsWithin(
      pieces.map(({ box }) => box),
      together,
    ),
  )
  const sets: Lines[] = []
  for (const [i, { rings, box }] of groups.entries()) {
    if (i % 64 === 0) progress?.(i / groups.length)
    const lines = linesOfPiece(rings, intervalMm, box)
    const some = strategy === 'patches' ? cellsOf(lines) : [lines]
    for (const each of some) if (each.u.length > 0) sets.push(begins === 'near' ? upsideDown(each) : each)
  }
  return inGoodOrder(sets).map((lines) => ({ lines, toFace }))
}

interface Piece {
  readonly rings: readonly Ring[]
  readonly box: Bounds
}

/** Pieces of each group as one. */
function grouped(pieces: readonly Piece[], groupOf: Int32Array): Piece[] {
  const lists: Piece[][] = []
  pieces.forEach((piece, i) => {
    const list = lists[groupOf[i]] ?? []
    lists[groupOf[i]] = list
    list.push(piece)
  })
  return lists.map((list) => {
    const rings = list.flatMap((piece) => piece.rings)
    return { rings, box: ringsBounds(rings) }
  })
}

/** The same lines from the last to the first. */
function upsideDown({ v, first, u }: Lines): Lines {
  const n = v.length
  const out = { v: Float64Array.from(v).reverse(), first: new Int32Array(n + 1), u: new Float64Array(u.length) }
  for (let k = 0; k < n; k++) {
    const own = u.subarray(first[n - 1 - k], first[n - k])
    out.u.set(own, out.first[k])
    out.first[k + 1] = out.first[k] + own.length
  }
  return out
}

/** Sets one after the other with little travel between them. */
function inGoodOrder(sets: readonly Lines[]): Lines[] {
  if (sets.length < 3) return [...sets]
  const middle = ({ v, u }: Lines): readonly [number, number] => [(u[0] + u[u.length - 1]) / 2, (v[0] + v[v.length - 1]) / 2]
  const places = sets.map(middle)
  const first = places.reduce((best, place, i) => (place[1] < places[best][1] ? i : best), 0)
  const order = [first, ...[...sets.keys()].filter((i) => i !== first)]
  const tour = shortTour(
    Float64Array.from(order, (i) => places[i][0]),
    Float64Array.from(order, (i) => places[i][1]),
  )
  return Array.from(tour, (at) => sets[order[at]])
}

function ringThreads(area: readonly Ring[], { intervalMm, begins }: Settings, progress?: (done: number) => void): Ring[] {
  const pieces = shapesOf(area)
  const boxes = pieces.map((rings) => ringsBounds(rings))
  const order = boxes.map((_, i) => i)
  const tour =
    order.length < 3
      ? order
      : shortTour(
          Float64Array.from(boxes, ({ x0, x1 }) => (x0 + x1) / 2),
          Float64Array.from(boxes, ({ y0, y1 }) => (y0 + y1) / 2),
        )
  const threads: Ring[] = []
  let at: readonly [number, number] = [0, 0]
  for (const [done, i] of [...tour].entries()) {
    const made = ringsOf(
      pieces[i],
      intervalMm,
      begins === 'near',
      at,
      progress && ((part) => progress((done + part) / order.length)),
    )
    for (const thread of made.threads) threads.push(thread)
    const last = threads.at(-1)
    if (last) at = [last[last.length - 2], last[last.length - 1]]
  }
  return threads
}

/** The box around all that a fill burns on the face, mm. */
export function fillBounds(fill: Fill): Bounds {
  if (fill.form === 'threads') return ringsBounds(fill.threads)
  const box = { x0: Infinity, y0: Infinity, x1: -Infinity, y1: -Infinity }
  for (const { lines, toFace } of fill.sets)
    eachStretch(lines, (u0, u1, v) => {
      for (const u of [u0, u1]) {
        const [x, y] = mapped(toFace, u, v)
        box.x0 = Math.min(box.x0, x)
        box.y0 = Math.min(box.y0, y)
        box.x1 = Math.max(box.x1, x)
        box.y1 = Math.max(box.y1, y)
      }
    })
  return isEmptyBounds(box) ? { x0: Infinity, y0: Infinity, x1: -Infinity, y1: -Infinity } : box
}

/** Every stretch that lines burn. */
export function eachStretch({ v, first, u }: Lines, visit: (u0: number, u1: number, v: number) => void): void {
  for (let k = 0; k < v.length; k++) for (let i = first[k]; i + 1 < first[k + 1]; i += 2) visit(u[i], u[i + 1], v[k])
}
