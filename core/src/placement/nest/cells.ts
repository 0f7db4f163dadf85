import type { Bounds } from '../../geometry/bounds.ts'
import { coverage } from '../../geometry/coverage.ts'
import { mapRing, type Ring, ringsBounds } from '../../geometry/ring.ts'

/** Bits of cells, column by column: 32 cells of a column to a word, so that a first free place is found from left to right. */
export interface Cells {
  readonly columns: number
  readonly rows: number
  /** Words of a column. */
  readonly words: number
  readonly bits: Uint32Array
}

export function emptyCells(columns: number, rows: number): Cells {
  const words = Math.ceil(rows / 32)
  return { columns, rows, words, bits: new Uint32Array(columns * words) }
}

/** Cells of which a filled shape covers more than a share. @param rings in cells */
export function cellsOf(rings: readonly Ring[], columns: number, rows: number, moreThan: number): Cells {
  const shares = coverage(rings, columns, rows)
  const out = emptyCells(columns, rows)
  for (let c = 0; c < columns; c++)
    for (let r = 0; r < rows; r++) if (shares[r * columns + c] > moreThan) out.bits[c * out.words + (r >>> 5)] |= 1 << (r & 31)
  return out
}

/** A shape as it is tried and as it is put down. */
export interface Stamp {
  /** Every cell that it touches, and every one that what keeps its distance touches. */
  readonly body: Cells
  readonly reach: Cells
  /** How many cells before the body's first one the reach begins. */
  readonly ahead: readonly [number, number]
  /** From the shape's own mm to those of the body's first cell. */
  readonly offset: readonly [number, number]
  /** Where the body ends, and where its weight lies, cells from where it begins. */
  readonly right: number
  readonly low: number
  readonly middle: number
}

/** Less of a cell than this is numbers' noise. */
const TOUCHED = 1e-6

/** @param rings simple, mm @param grown the same, wider by the distance that is kept @param cell mm */
export function stampOf(rings: readonly Ring[], grown: readonly Ring[], cell: number): Stamp {
  const own = ringsBounds(rings)
  const box = ringsBounds(grown)
  const before = (mm: number): number => Math.max(0, Math.ceil(mm / cell - 1e-9))
  const ahead = [before(own.x0 - box.x0), before(own.y0 - box.y0)] as const
  const cells = (of: readonly Ring[], x0: number, y0: number, { x1, y1 }: Bounds): Cells => {
    const size = (from: number, to: number): number => Math.max(1, Math.ceil((to - from) / cell - 1e-9))
    const inCells = of.map((ring) => mapRing(ring, 1 / cell, 1 / cell, -x0 / cell, -y0 / cell))
    return cellsOf(inCells, size(x0, x1), size(y0, y1), TOUCHED)
  }
  return {
    body: cells(rings, own.x0, own.y0, own),
    reach: cells(grown, own.x0 - ahead[0] * cell, own.y0 - ahead[1] * cell, box),
    ahead,
    offset: [own.x0, own.y0],
    right: (own.x1 - own.x0) / cell,
    low: (own.y1 - own.y0) / cell,
    middle: (centreX(rings) - own.x0) / cell,
  }
}

/** Where the weight of a filled shape lies along x. @param rings simple, holes turning against their outer ring */
function centreX(rings: readonly Ring[]): number {
  let [sum, moment] = [0, 0]
  for (const ring of rings)
    for (let i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2) {
      const cross = ring[j] * ring[i + 1] - ring[i] * ring[j + 1]
      sum += cross
      moment += ((ring[j] + ring[i]) * cross) / 3
    }
  return moment / sum
}

/** Sets in `into` what a stamp sets, its first cell at a place. */
export function put(into: Cells, { columns, rows, words, bits }: Cells, column: number, row: number): void {
  for (let c = 0; c < columns; c++) {
    const to = (column + c) * into.words
    if (column + c < 0 || column + c >= into.columns) continue
    orShifted(into.bits, to, into.words, bits, c * words, Math.ceil(rows / 32), row)
  }
}

/** Ors words into a column, moved down by a number of bits; what leaves the column is dropped. */
function orShifted(
  into: Uint32Array,
  base: number,
  length: number,
  from: Uint32Array,
  at: number,
  count: number,
  down: number,
): void {
  const whole = down >> 5
  const part = down & 31
  for (let w = 0; w < count; w++) {
    const word = from[at + w]
    if (word === 0) continue
    const to = whole + w
    if (to >= 0 && to < length) into[base + to] |= word << part
    if (part !== 0 && to + 1 >= 0 && to + 1 < length) into[base + to + 1] |= word >>> (32 - part)
  }
}

/** Where a stamp's body must not begin: a place is set where any of its cells would lie on one that is taken. */
export class Forbidden {
  readonly cells: Cells
  private readonly reach: readonly Run[]

  /** @param sheet what of it is no sheet: the body keeps off it; other pieces are kept away from by the reach */
  constructor(sheet: Cells, { body, reach, ahead }: Stamp) {
    this.cells = emptyCells(sheet.columns, sheet.rows)
    const { words, bits } = this.cells
    for (let c = 0; c < sheet.columns; c++)
      for (let r = 0; r < sheet.rows; r++)
        if (c + body.columns > sheet.columns || r + body.rows > sheet.rows) bits[c * words + (r >>> 5)] |= 1 << (r & 31)
    this.reach = runsOf(reach).map(({ column, row, length }) => ({ column: column - ahead[0], row: row - ahead[1], length }))
    this.takeBy(runsOf(body), sheet, 0, sheet.columns)
  }

  /** Takes in pieces that lie in some columns. */
  take(pieces: Cells, from: number, to: number): void {
    this.takeBy(this.reach, pieces, from, to)
  }

  /** A place is forbidden by a run of the stamp where any cell under it is taken. */
  private takeBy(runs: readonly Run[], taken: Cells, from: number, to: number): void {
    const { columns, words, bits } = this.cells
    const doubled: Uint32Array[] = []
    // Runs that begin before the body look at cells above the sheet's first one: empty words stand for them.
    const above = Math.ceil(Math.max(0, ...runs.map(({ row }) => -row)) / 32)
    for (let c = Math.max(0, from); c < Math.min(taken.columns, to); c++) {
      const column = new Uint32Array(above + taken.words)
      column.set(taken.bits.subarray(c * taken.words, (c + 1) * taken.words), above)
      let last = column.length - 1
      while (last >= 0 && column[last] === 0) last--
      if (last < 0) continue
      // doubled[k]: bit r is set where any of the 2^k cells from r on is taken.
      doubled.length = 0
      doubled.push(column)
      for (const { column: at, row, length } of runs) {
        const place = c - at
        if (place < 0 || place >= columns) continue
        const k = 31 - Math.clz32(length)
        while (doubled.length <= k) doubled.push(widened(doubled[doubled.length - 1], 1 << (doubled.length - 1)))
        let first = 0
        while (doubled[k][first] === 0) first++
        // Two overlapping powers of two cover a run.
        const down = 32 * (first - above) - row
        orShifted(bits, place * words, words, doubled[k], first, last + 1 - first, down)
        const rest = length - (1 << k)
        if (rest > 0) orShifted(bits, place * words, words, doubled[k], first, last + 1 - first, down - rest)
      }
    }
  }

  /** The first place that is free, from left to right, each column from its beginning. */
  first(): readonly [number, number] | undefined {
    const { columns, rows, words, bits } = this.cells
    for (let c = 0; c < columns; c++)
      for (let w = 0; w < words; w++) {
        const free = ~bits[c * words + w]
        if (free === 0) continue
        const row = 32 * w + 31 - Math.clz32(free & -free)
        if (row < rows) return [c, row]
      }
    return undefined
  }
}

/** Each bit with the one so many further on. */
function widened(of: Uint32Array, by: number): Uint32Array {
  const out = Uint32Array.from(of)
  orShifted(out, 0, out.length, of, 0, of.length, -by)
  return out
}

/** Cells of a column that lie together. */
interface Run {
  readonly column: number
  readonly row: number
  readonly length: number
}

function runsOf({ columns, rows, words, bits }: Cells): Run[] {
  const runs: Run[] = []
  for (let c = 0; c < columns; c++) {
    let from = -1
    for (let r = 0; r <= rows; r++) {
      const on = r < rows && (bits[c * words + (r >>> 5)] >>> (r & 31)) & 1
      if (on && from < 0) from = r
      else if (!on && from >= 0) {
        runs.push({ column: c, row: from, length: r - from })
        from = -1
      }
    }
  }
  return runs
}
