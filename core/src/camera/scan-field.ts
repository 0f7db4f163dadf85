import { Matrix, solve } from 'ml-matrix'
import { bedSize, type Machine } from '../machine/machine.ts'
import { inverseOf, mapped } from '../space/affine.ts'
import { bedToAxes } from '../space/chart.ts'
import type { SeenAt } from './marks.ts'

type Point = readonly [number, number]
type Field = Pick<Machine, 'axes' | 'zero'>

/** Marks that tell how a scan head bends its field: so many each way, from edge to edge but for an inset. */
const MARKS = 9
const INSET_MM = 6
const DOT_MM = 1.6
/** Fewer of them say too little. */
const LEAST_SEEN = 60
/** The bend is a polynomial of this degree over the field: fewer do not follow a lens, more follow noise. */
const DEGREE = 5
/** The table has so many places each way: straight between them is within hundredths of a mm of a lens. */
const TABLE_POINTS = 17
/** No lens bends more, mm: marks are looked for so far around their places, and nothing but card is seen there. */
const MOST_BENT_MM = 2.6

/** How a scan head's lens bends its field: for each place that was meant, how far beside it the beam lands, mm of the bed. */
export interface FieldBend {
  readonly offAt: (x: number, y: number) => Point
  /** The most that any mark lay beside its place, mm. */
  readonly largestMm: number
  /** What the bend does not explain of the marks, root of the mean square, mm. */
  readonly restMm: number
  readonly seen: number
  readonly of: number
}

/** What a scan head adds to every place, so that its beam lands where it is sent. */
export interface FieldTable {
  /** Places each way, evenly over the field. */
  readonly points: number
  /** From the machine's zero along its x, row after row along its y, µm. */
  readonly offsetsUm: readonly number[]
}

/** Where the marks are burned, mm of the bed. */
export function fieldMarks(machine: Field): Point[] {
  const { widthMm, heightMm } = bedSize(machine)
  const along = (k: number, size: number): number => INSET_MM + ((size - 2 * INSET_MM) * k) / (MARKS - 1)
  return Array.from(
    { length: MARKS * MARKS },
    (_, i): Point => [along(i % MARKS, widthMm), along(Math.floor(i / MARKS), heightMm)],
  )
}

/** The marks as an SVG drawing as large as the field. */
export function fieldMarksSvg(machine: Field): string {
  const { widthMm, heightMm } = bedSize(machine)
  const dots = fieldMarks(machine).map(([x, y]) => `<circle cx="${x}" cy="${y}" r="${DOT_MM / 2}"/>`)
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${widthMm}mm" height="${heightMm}mm" viewBox="0 0 ${widthMm} ${heightMm}"><g fill="#000">${dots.join('')}</g></svg>`
}

/** How the marks are looked for in a photo. */
export const FIELD_WISH = { reachMm: MOST_BENT_MM, leastMm: 0.5 * DOT_MM, mostMm: 1.5 * DOT_MM } as const

const powers: readonly Point[] = Array.from({ length: DEGREE + 1 }, (_, a) =>
  Array.from({ length: DEGREE + 1 - a }, (_, b): Point => [a, b]),
).flat()

/**
 * How a field is bent, by where its marks were seen: a polynomial in both directions, by least squares.
 * @throws RangeError with a sentence where too few marks were seen
 */
export function fieldBend(marks: readonly SeenAt[], machine: Field): FieldBend {
  const { widthMm, heightMm } = bedSize(machine)
  const terms = (x: number, y: number): number[] => {
    const [u, v] = [(2 * x) / widthMm - 1, (2 * y) / heightMm - 1]
    return powers.map(([a, b]) => u ** a * v ** b)
  }
  const seen = marks.flatMap(({ known, found }) => (found ? [{ known, off: [found[0] - known[0], found[1] - known[1]] }] : []))
  if (seen.length < LEAST_SEEN)
    throw new RangeError(
      `Only ${seen.length} of ${marks.length} marks are seen: lay the card flat, leave it where it was burned, and take away what covers it.`,
    )
  const ways = solve(new Matrix(seen.map(({ known }) => terms(...known))), new Matrix(seen.map(({ off }) => off)), true)
  const offAt = (x: number, y: number): Point => {
    const own = terms(x, y)
    const along = (c: number): number => own.reduce((sum, term, i) => sum + term * ways.get(i, c), 0)
    return [along(0), along(1)]
  }
  const rest = seen.reduce((sum, { known, off }) => {
    const [dx, dy] = offAt(...known)
    return sum + (dx - off[0]) ** 2 + (dy - off[1]) ** 2
  }, 0)
  return {
    offAt,
    largestMm: seen.reduce((most, { off }) => Math.max(most, Math.hypot(off[0], off[1])), 0),
    restMm: Math.sqrt(rest / seen.length),
    seen: seen.length,
    of: marks.length,
  }
}

/** The table that undoes a bend: the beam is sent so far beside each place that it lands on it. */
export function fieldTable({ offAt }: Pick<FieldBend, 'offAt'>, machine: Field): FieldTable {
  const { widthMm, heightMm } = bedSize(machine)
  const toAxes = bedToAxes(machine)
  const toBed = inverseOf(toAxes)
  const offsetsUm = Array.from({ length: TABLE_POINTS * TABLE_POINTS }, (_, i): number[] => {
    const at = (k: number, size: number): number => (size * k) / (TABLE_POINTS - 1)
    const [x, y] = mapped(toBed, at(i % TABLE_POINTS, widthMm), at(Math.floor(i / TABLE_POINTS), heightMm))
    let [dx, dy] = [0, 0]
    // The bend is small and smooth: each round is nearer by a hundredfold.
    for (let round = 0; round < 6; round++) {
      const [ex, ey] = offAt(x + dx, y + dy)
      dx = -ex
      dy = -ey
    }
    return [toAxes[0] * dx + toAxes[2] * dy, toAxes[1] * dx + toAxes[3] * dy].map((mm) => Math.round(1000 * mm))
  }).flat()
  return { points: TABLE_POINTS, offsetsUm }
}
