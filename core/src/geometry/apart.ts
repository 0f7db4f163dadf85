import type { Bounds } from './bounds.ts'
import { type Ring, ringBounds } from './ring.ts'

/**
 * Parts rings into groups that lie farther than `gap` from each other, by their boxes: what is worked out for each group
 * alone is then the same as for all at once, and much quicker, because polygon operations grow faster than their input.
 * @param lists rings of one or two shapes, mm @returns for each group the rings of each list
 */
export function apart(lists: readonly (readonly Ring[])[], gap: number): Ring[][][] {
  const rings = lists.flatMap((list, l) => list.map((ring) => ({ ring, list: l, box: ringBounds(ring) })))
  const order = rings.map((_, i) => i).sort((a, b) => rings[a].box.x0 - rings[b].box.x0)
  const root = rings.map((_, i) => i)
  const find = (i: number): number => {
    let at = i
    while (root[at] !== at) {
      root[at] = root[root[at]]
      at = root[at]
    }
    return at
  }
  const near = (a: Bounds, b: Bounds): boolean => a.y0 <= b.y1 + gap && b.y0 <= a.y1 + gap
  let open: number[] = []
  for (const i of order) {
    const { box } = rings[i]
    open = open.filter((j) => rings[j].box.x1 + gap >= box.x0)
    for (const j of open) if (near(rings[j].box, box)) root[find(i)] = find(j)
    open.push(i)
  }
  const groups = new Map<number, Ring[][]>()
  rings.forEach(({ ring, list }, i) => {
    const key = find(i)
    let group = groups.get(key)
    if (!group) {
      group = lists.map(() => [])
      groups.set(key, group)
    }
    group[list].push(ring)
  })
  return [...groups.values()]
}
