import type { Lines } from './lines.ts'

/**
 * Lines in cells, so that the head stays where it works: a cell goes on from line to line as long as one stretch follows on one, and
 * ends where the area parts or comes together (boustrophedon decomposition; H. Choset, P. Pignon: Coverage path planning, 1997).
 * @returns each cell's lines from top to bottom, each of one stretch
 */
export function cellsOf({ v, first, u }: Lines): Lines[] {
  interface Cell {
    readonly v: number[]
    readonly u: number[]
    /** Where its last stretch lies, and on which line. */
    row: number
  }
  const cells: Cell[] = []
  let open: Cell[] = []
  for (let k = 0; k < v.length; k++) {
    const stretches: (readonly [number, number])[] = []
    for (let i = first[k]; i + 1 < first[k + 1]; i += 2) stretches.push([u[i], u[i + 1]])
    const before = open.filter(({ row }) => row === k - 1)
    // Both are in order: who meets whom is found by walking along both at once.
    const over: number[][] = stretches.map(() => [])
    const under: number[][] = before.map(() => [])
    for (let a = 0, b = 0; a < before.length && b < stretches.length; ) {
      const [left, right] = before[a].u.slice(-2)
      const [from, to] = stretches[b]
      if (left <= to && from <= right) {
        over[b].push(a)
        under[a].push(b)
      }
      if (right < to) a++
      else b++
    }
    open = stretches.map(([from, to], b) => {
      const [a] = over[b]
      const goesOn = over[b].length === 1 && under[a].length === 1
      const cell: Cell = goesOn ? before[a] : { v: [], u: [], row: k }
      if (!goesOn) cells.push(cell)
      cell.v.push(v[k])
      cell.u.push(from, to)
      cell.row = k
      return cell
    })
  }
  return cells.map((cell) => ({
    v: Float64Array.from(cell.v),
    first: Int32Array.from({ length: cell.v.length + 1 }, (_, i) => 2 * i),
    u: Float64Array.from(cell.u),
  }))
}
