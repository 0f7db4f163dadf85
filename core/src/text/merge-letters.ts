import { filledBy, shapeArea } from '../geometry/clip.ts'
import { flattenPath, type Path, pathFromRing } from '../geometry/path.ts'
import { type Ring, ringsBounds } from '../geometry/ring.ts'

/** Chords lie so close to their curves where outlines are united, mm. */
const FLATTEN_MM = 0.004
/** Areas that differ by less are the same, share. */
const SAME_AREA = 2e-4

/**
 * Letters of outlines as one drawing: those that overlap, each other or themselves, become one outline, so that no cut runs
 * through them; all others keep their curves. @param letters each its paths, holes running against their outlines
 */
export function mergedLetters(letters: readonly (readonly Path[])[]): Path[] {
  const all = letters
    .filter((paths) => paths.length > 0)
    .map((paths) => {
      const rings = paths.map((path) => flattenPath(path, FLATTEN_MM))
      return { paths, rings, box: ringsBounds(rings), area: Math.abs(shapeArea(rings)) }
    })
  const order = all.map((_, i) => i).sort((a, b) => all[a].box.x0 - all[b].box.x0)
  const group = all.map((_, i) => i)
  const rootOf = (i: number): number => {
    while (group[i] !== i) i = group[i]
    return i
  }
  for (let i = 0; i < order.length; i++) {
    const one = all[order[i]].box
    for (let j = i + 1; j < order.length && all[order[j]].box.x0 < one.x1; j++) {
      const other = all[order[j]].box
      if (other.y0 < one.y1 && other.y1 > one.y0) group[rootOf(order[j])] = rootOf(order[i])
    }
  }
  const groups = new Map<number, number[]>()
  all.forEach((_, i) => {
    const root = rootOf(i)
    groups.set(root, [...(groups.get(root) ?? []), i])
  })
  return [...groups.values()].flatMap((members) => {
    const rings: Ring[] = members.flatMap((i) => all[i].rings)
    const apart = members.reduce((sum, i) => sum + all[i].area, 0)
    const united = filledBy('nonzero', rings)
    const overlaps = Math.abs(shapeArea(united) - apart) > SAME_AREA * apart
    return overlaps ? united.map(pathFromRing) : members.flatMap((i) => [...all[i].paths])
  })
}
