import { filledBy, offset, shapeArea } from '../../geometry/clip.ts'
import { type Ring, ringsBounds } from '../../geometry/ring.ts'
import { composed, moving, turning } from '../../space/affine.ts'
import { mappedRings } from '../../space/map-shapes.ts'
import { type Cells, cellsOf, emptyCells, Forbidden, put, type Stamp, stampOf } from './cells.ts'

/** A shape of which some are wanted. */
export interface Wanted {
  /** Filled by even-odd, mm. */
  readonly rings: readonly Ring[]
  readonly count: number
}

export interface NestSettings {
  /** Between pieces, mm. */
  readonly spacingMm?: number
  /** To the edge of the sheet, mm. */
  readonly marginMm?: number
  /** Angles that a piece may have, degrees clockwise. Grain is kept by 0 and 180. */
  readonly angles?: readonly number[]
  /** Told the share done; may throw to cancel. */
  readonly progress?: (done: number) => void
}

/** A piece that found its place: turned about its own origin, then moved. */
export interface Nested {
  /** Which of the wanted shapes. */
  readonly piece: number
  readonly deg: number
  readonly xMm: number
  readonly yMm: number
}

export interface Nest {
  readonly placed: readonly Nested[]
  /** How many of each wanted shape found no place. */
  readonly left: readonly number[]
  /** Share of the sheet that lies in pieces, 0–1. */
  readonly used: number
}

/** Angles of a piece that may lie anyhow. */
export const ANY_ANGLE: readonly number[] = Array.from({ length: 24 }, (_, i) => 15 * i)
export const QUARTER_TURNS: readonly number[] = [0, 90, 180, 270]

/** Cells along the longer side of the sheet: so fine that what is lost between pieces is little. */
const MOST_CELLS = 600
const LEAST_CELL_MM = 0.25

/** A wanted shape at one angle, and where it must not lie any more. */
interface Try {
  readonly deg: number
  readonly stamp: Stamp
  readonly forbidden: Forbidden
}

/**
 * Lays pieces out on a sheet, each where it reaches least far to the right, larger ones first; smaller ones go into gaps, holes too.
 * Several orders are tried, and the best is kept. Distances hold exactly: a cell that is touched is taken.
 * @param sheet filled by even-odd, mm
 */
export function nestPieces(wanted: readonly Wanted[], sheet: readonly Ring[], settings: NestSettings = {}): Nest {
  const { spacingMm = 0, marginMm = 0, angles = QUARTER_TURNS, progress } = settings
  const shapes = wanted.map(({ rings }) => filledBy('evenodd', rings))
  const areas = shapes.map(shapeArea)
  const whole = filledBy('evenodd', sheet)
  const room = marginMm > 0 ? offset(whole, -marginMm) : whole
  const nothing = { placed: [], left: wanted.map(({ count }) => count), used: 0 }
  if (room.length === 0) return nothing
  const box = ringsBounds(room)
  const cell = Math.max(LEAST_CELL_MM, Math.max(box.x1 - box.x0, box.y1 - box.y0) / MOST_CELLS)
  const columns = Math.floor((box.x1 - box.x0) / cell + 1e-9)
  const rows = Math.floor((box.y1 - box.y0) / cell + 1e-9)
  const inCells = room.map((ring) => ring.map((v, i) => (v - (i % 2 === 0 ? box.x0 : box.y0)) / cell))
  const free = cellsOf(inCells, columns, rows, 1 - 1e-6)
  const taken = emptyCells(columns, rows)
  for (let i = 0; i < taken.bits.length; i++) taken.bits[i] = ~free.bits[i]
  clearBelow(taken)
  const stamps = shapes.map((shape) =>
    angles.map((deg) => {
      const turned = mappedRings(turning(deg), shape)
      return { deg, stamp: stampOf(turned, spacingMm > 0 ? offset(turned, spacingMm) : turned, cell) }
    }),
  )
  const orders = ordersOf(wanted, stamps, areas)
  let best: (Nest & { readonly reach: number }) | undefined
  // Many angles are greedy ones: the quarter turns among them are tried by themselves as well.
  const few = stamps.map((all) => all.filter(({ deg }) => deg % 90 === 0))
  const attempts = [
    ...RULES.flatMap((rule) => orders.map((order) => ({ rule, order, at: few }))),
    ...RULES.map((rule) => ({ rule, order: orders[0], at: stamps })),
  ].filter(({ at }, k) => at[0].length > 0 && (at === few || few[0].length < stamps[0].length || k === 0))
  attempts.forEach(({ rule, order, at }, k) => {
    const made = layOut(order, at, taken, rule, (done) => progress?.((k + done) / attempts.length))
    const used = made.placed.reduce((sum, { piece }) => sum + areas[piece], 0) / shapeArea(whole)
    if (best && (used < best.used - 1e-9 || (used < best.used + 1e-9 && made.reach >= best.reach))) return
    const left = wanted.map(({ count }, i) => count - made.placed.filter(({ piece }) => piece === i).length)
    const placed = made.placed.map(({ piece, deg, column, row, stamp }) => ({
      piece,
      deg,
      xMm: box.x0 + column * cell - stamp.offset[0],
      yMm: box.y0 + row * cell - stamp.offset[1],
    }))
    best = { placed, left, used, reach: made.reach }
  })
  if (!best) return nothing
  const { placed, left, used } = best
  return { placed, left, used }
}

/** The polygons of a piece where it was put. */
export const nestedRings = (rings: readonly Ring[], { deg, xMm, yMm }: Nested): Ring[] =>
  mappedRings(composed(turning(deg), moving(xMm, yMm)), rings)

/** Bits below the last row are none. */
function clearBelow({ columns, rows, words, bits }: Cells): void {
  const over = rows & 31
  if (over === 0) return
  for (let c = 0; c < columns; c++) bits[(c + 1) * words - 1] |= ~((1 << over) - 1)
}

/** What is least where a piece lies best: a measure in cells, by the column where its reach begins. */
type Rule = (stamp: Stamp, column: number) => number
const RULES: readonly Rule[] = [
  // How far it reaches to the right; where its weight lies; where it begins.
  ({ right }, column) => column + right,
  ({ middle }, column) => column + middle,
  (_, column) => column,
]

/** Orders in which pieces are laid: by area, by the longer side, by height; each shape as often as it is wanted. */
function ordersOf(
  wanted: readonly Wanted[],
  stamps: readonly (readonly { readonly stamp: Stamp }[])[],
  areas: readonly number[],
): number[][] {
  const sides = stamps.map(([{ stamp }]) => [stamp.reach.columns, stamp.reach.rows])
  const by = (measure: (i: number) => number): number[] =>
    wanted
      .map((_, i) => i)
      .sort((a, b) => measure(b) - measure(a))
      .flatMap((i) => Array.from({ length: wanted[i].count }, () => i))
  const all = [by((i) => areas[i]), by((i) => Math.max(...sides[i])), by((i) => sides[i][0] + sides[i][1])]
  return all.filter((order, k) => all.findIndex((other) => other.every((v, i) => v === order[i])) === k)
}

function layOut(
  order: readonly number[],
  stamps: readonly (readonly { readonly deg: number; readonly stamp: Stamp }[])[],
  blocked: Cells,
  rule: Rule,
  progress: (done: number) => void,
) {
  const taken = emptyCells(blocked.columns, blocked.rows)
  // Of the shape that is being laid: those before it are done with.
  let own: Try[] = []
  let of = -1
  let isFull = false
  const placed: { piece: number; deg: number; column: number; row: number; stamp: Stamp }[] = []
  let reach = 0
  order.forEach((piece, n) => {
    progress(n / order.length)
    if (piece !== of) {
      of = piece
      isFull = false
      own = stamps[piece].map(({ deg, stamp }) => {
        const forbidden = new Forbidden(blocked, stamp)
        forbidden.take(taken, 0, taken.columns)
        return { deg, stamp, forbidden }
      })
    }
    if (isFull) return
    let best: { readonly tried: Try; readonly at: readonly [number, number] } | undefined
    let least = Infinity
    for (const tried of own) {
      const at = tried.forbidden.first()
      if (!at) continue
      // Of those that are as good, what lies highest.
      const far = rule(tried.stamp, at[0]) + (at[1] + tried.stamp.low) / (1000 * taken.rows)
      if (far < least) {
        least = far
        best = { tried, at }
      }
    }
    if (!best) {
      isFull = true
      return
    }
    const { tried, at } = best
    const { body, right } = tried.stamp
    const [column, row] = at
    const fresh = emptyCells(taken.columns, taken.rows)
    put(fresh, body, column, row)
    put(taken, body, column, row)
    if (order[n + 1] === piece) for (const { forbidden } of own) forbidden.take(fresh, column, column + body.columns)
    placed.push({ piece, deg: tried.deg, column, row, stamp: tried.stamp })
    reach = Math.max(reach, column + right)
  })
  return { placed, reach }
}
