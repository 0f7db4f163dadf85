import type { DarkSpot } from './spots.ts'

/** A neighbour is where it is expected within this share of the way to it. */
const NEAR = 0.33

export type Way = readonly [number, number]
/** A spot that is a dot of a board, and the ways to its neighbours in the photo, px. */
export interface Found {
  readonly spot: number
  readonly column: number
  readonly row: number
  readonly right: Way
  readonly down: Way
}

/** Spots by squares of the photo, to find the nearest one of a place. */
export class SpotGrid {
  private readonly cells = new Map<number, number[]>()
  private readonly spots: readonly DarkSpot[]
  private readonly cell: number

  constructor(spots: readonly DarkSpot[]) {
    this.spots = spots
    const area = spots.map(({ areaPx }) => areaPx).sort((a, b) => a - b)[spots.length >> 1] ?? 1
    this.cell = 4 * Math.sqrt(area)
    spots.forEach(({ u, v }, i) => {
      const key = this.key(Math.floor(u / this.cell), Math.floor(v / this.cell))
      const list = this.cells.get(key)
      if (list) list.push(i)
      else this.cells.set(key, [i])
    })
  }

  private key(cx: number, cy: number): number {
    return cx * 65_536 + cy
  }

  /** Numbers of spots nearer to a place than a distance. */
  near(u: number, v: number, far: number): number[] {
    const out: number[] = []
    const reach = Math.ceil(far / this.cell)
    const [cx, cy] = [Math.floor(u / this.cell), Math.floor(v / this.cell)]
    for (let y = cy - reach; y <= cy + reach; y++)
      for (let x = cx - reach; x <= cx + reach; x++)
        for (const i of this.cells.get(this.key(x, y)) ?? [])
          if (Math.hypot(this.spots[i].u - u, this.spots[i].v - v) <= far) out.push(i)
    return out
  }

  nearest(u: number, v: number, far: number): number | undefined {
    let best: number | undefined
    let least = far
    for (const i of this.near(u, v, far)) {
      const d = Math.hypot(this.spots[i].u - u, this.spots[i].v - v)
      if (d < least) {
        least = d
        best = i
      }
    }
    return best
  }
}

/** Whether spots are seen about as large as each other. @param times how much larger one may be */
const likeSized = (a: DarkSpot, b: DarkSpot, times: number): boolean => a.areaPx < times * b.areaPx && b.areaPx < times * a.areaPx

/** Dots from one to the next, each where the ways at its neighbour say. @param unlike how much larger one may be than the next, area */
export function walked(
  spots: readonly DarkSpot[],
  grid: SpotGrid,
  begin: Found,
  { columns, rows }: { readonly columns: number; readonly rows: number },
  unlike = 3.5,
): Map<number, Found> {
  const found = new Map<number, Found>()
  const used = new Set<number>([begin.spot])
  const key = (column: number, row: number): number => row * columns + column
  found.set(key(begin.column, begin.row), begin)
  const queue = [begin]
  for (let at = queue.shift(); at; at = queue.shift()) {
    const { u, v } = spots[at.spot]
    for (const [dc, dr] of [
      [1, 0],
      [-1, 0],
      [0, 1],
      [0, -1],
    ] as const) {
      const [column, row] = [at.column + dc, at.row + dr]
      if (column < 0 || row < 0 || column >= columns || row >= rows || found.has(key(column, row))) continue
      const way: Way = dc !== 0 ? [dc * at.right[0], dc * at.right[1]] : [dr * at.down[0], dr * at.down[1]]
      const far = NEAR * Math.hypot(...way)
      const spot = grid.nearest(u + way[0], v + way[1], far)
      if (spot === undefined || used.has(spot) || !likeSized(spots[spot], spots[at.spot], unlike)) continue
      const real: Way = [spots[spot].u - u, spots[spot].v - v]
      const next: Found = {
        spot,
        column,
        row,
        right: dc !== 0 ? [dc * real[0], dc * real[1]] : at.right,
        down: dr !== 0 ? [dr * real[0], dr * real[1]] : at.down,
      }
      used.add(spot)
      found.set(key(column, row), next)
      queue.push(next)
    }
  }
  return found
}
