import type { Stroke } from './bed.ts'

/** How a scan head's lens really bends its field: it is bent by so much at most, mm, of its own way, by a seed. */
export interface ScanLens {
  readonly mm: number
  readonly seed: number
}

/** What the controller adds to every place before its mirrors go there: at so many places each way, spread evenly, mm. */
export interface FieldTable {
  readonly points: number
  /** From the machine's zero along x, row after row along y. */
  readonly offsets: readonly (readonly [number, number])[]
}

/** It burns in parts so long, mm: within one it is straight. */
const PART_MM = 1

/** Pillow of one mirror, barrel of the other, a turn, a wrong size, and a little that no simple formula has. */
function bendOf({ mm, seed }: ScanLens, wide: number, deep: number): (x: number, y: number) => [number, number] {
  let state = (seed * 2654435761 + 7) >>> 0
  const draw = (): number => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0
    return 2 * (state / 2 ** 32) - 1
  }
  const own = Array.from({ length: 12 }, draw)
  const raw = (x: number, y: number): [number, number] => {
    const [u, v] = [(2 * x) / wide - 1, (2 * y) / deep - 1]
    return [
      (0.8 + 0.2 * own[0]) * u * v * v + 0.4 * own[1] * u ** 3 + 0.3 * own[2] * u + 0.2 * own[3] * v + 0.04 * own[4] * u ** 5,
      (-0.7 + 0.2 * own[5]) * v * u * u + 0.4 * own[6] * v ** 3 + 0.3 * own[7] * v - 0.2 * own[3] * u + 0.04 * own[8] * v ** 5,
    ]
  }
  let most = 0
  for (let i = 0; i <= 20; i++)
    for (let j = 0; j <= 20; j++) most = Math.max(most, Math.hypot(...raw((wide * i) / 20, (deep * j) / 20)))
  return (x, y) => {
    const [dx, dy] = raw(x, y)
    return [x + (mm * dx) / most, y + (mm * dy) / most]
  }
}

/** What a table says at a place, straight between its own. */
function tableAt({ points, offsets }: FieldTable, wide: number, deep: number, x: number, y: number): [number, number] {
  const at = (v: number, size: number): [number, number] => {
    const k = Math.min(points - 1, Math.max(0, (v / size) * (points - 1)))
    const i = Math.min(points - 2, Math.floor(k))
    return [i, k - i]
  }
  const [[i, a], [j, b]] = [at(x, wide), at(y, deep)]
  const of = (c: 0 | 1): number => {
    const node = (di: number, dj: number): number => offsets[(j + dj) * points + i + di][c]
    return (1 - b) * ((1 - a) * node(0, 0) + a * node(1, 0)) + b * ((1 - a) * node(0, 1) + a * node(1, 1))
  }
  return [of(0), of(1)]
}

/** Where a scan head's beam goes for the places that it is sent to. */
export class ScanField {
  /** What it was given by its owner. */
  table: FieldTable | undefined
  private bend: ((x: number, y: number) => [number, number]) | undefined
  private readonly wide: number
  private readonly deep: number

  constructor(wide: number, deep: number) {
    this.wide = wide
    this.deep = deep
  }

  /** Another lens is put in; none: one that bends nothing. */
  lens(lens: ScanLens | undefined): void {
    this.bend = lens && bendOf(lens, this.wide, this.deep)
  }

  get isStraight(): boolean {
    return !this.bend && !this.table
  }

  /** Where the beam lands that is sent to a place. */
  place(x: number, y: number): [number, number] {
    const [dx, dy] = this.table ? tableAt(this.table, this.wide, this.deep, x, y) : [0, 0]
    return this.bend ? this.bend(x + dx, y + dy) : [x + dx, y + dy]
  }

  /** A stroke as it really goes. */
  *strokes(stroke: Stroke): Generator<Stroke> {
    const { x0, y0, x1, y1 } = stroke
    const count = Math.max(1, Math.ceil(Math.hypot(x1 - x0, y1 - y0) / PART_MM))
    let from = this.place(x0, y0)
    for (let k = 1; k <= count; k++) {
      const to = this.place(x0 + ((x1 - x0) * k) / count, y0 + ((y1 - y0) * k) / count)
      yield { ...stroke, x0: from[0], y0: from[1], x1: to[0], y1: to[1] }
      from = to
    }
  }
}
