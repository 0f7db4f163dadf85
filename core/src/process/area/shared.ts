import type { Bounds } from '../../geometry/bounds.ts'
import { unite } from '../../geometry/bounds.ts'

/**
 * Boxes in groups: those nearer to each other than a distance belong together, over any number of others between them.
 * @returns the group of each, numbered from 0
 */
export function groupsWithin(boxes: readonly Bounds[], distance: number): Int32Array {
  const n = boxes.length
  const parent = Int32Array.from({ length: n }, (_, i) => i)
  const rootOf = (i: number): number => {
    let at = i
    while (parent[at] !== at) {
      parent[at] = parent[parent[at]]
      at = parent[at]
    }
    return at
  }
  if (distance === Infinity) return new Int32Array(n)
  // Those that may be near are found by cells: as wide as boxes are on average, so that each lies in few of them.
  const all = boxes.reduce(unite, boxes[0] ?? { x0: 0, y0: 0, x1: 0, y1: 0 })
  const wide = boxes.reduce((sum, { x0, y0, x1, y1 }) => sum + x1 - x0 + y1 - y0, 0) / Math.max(1, 2 * n)
  const cell = Math.max(distance, wide, (all.x1 - all.x0 + all.y1 - all.y0) / (4 * Math.sqrt(n + 1)), 1e-6)
  const columns = Math.floor((all.x1 - all.x0) / cell) + 2
  const near = (a: Bounds, b: Bounds): boolean =>
    Math.hypot(Math.max(0, a.x0 - b.x1, b.x0 - a.x1), Math.max(0, a.y0 - b.y1, b.y0 - a.y1)) <= distance
  const cells = new Map<number, number[]>()
  boxes.forEach((box, i) => {
    const [left, right] = [box.x0 - distance, box.x1 + distance].map((x) =>
      Math.min(columns - 1, Math.max(0, Math.floor((x - all.x0) / cell))),
    )
    for (let row = Math.floor((box.y0 - distance - all.y0) / cell); row <= Math.floor((box.y1 + distance - all.y0) / cell); row++)
      for (let column = left; column <= right; column++) {
        const key = row * columns + column
        const here = cells.get(key)
        if (!here) {
          cells.set(key, [i])
          continue
        }
        for (const j of here) if (rootOf(i) !== rootOf(j) && near(box, boxes[j])) parent[rootOf(i)] = rootOf(j)
        here.push(i)
      }
  })
  const numbers = new Map<number, number>()
  return Int32Array.from({ length: n }, (_, i) => {
    const root = rootOf(i)
    const number = numbers.get(root) ?? numbers.size
    numbers.set(root, number)
    return number
  })
}
