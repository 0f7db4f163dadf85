import { filledBy, shapeArea } from '../geometry/clip.ts'
import { flattenPath, mapPath, type Path, pathFromRing } from '../geometry/path.ts'
import { type Ring, ringBounds } from '../geometry/ring.ts'

/** Chords lie so close to their curves where outlines are united, mm. */
const FLATTEN_MM = 0.004
/** Areas that differ by less are the same, share. */
const SAME_AREA = 2e-4
/** Letters are looked at in this size to see whether they overlap themselves, mm. */
const LOOK_MM = 20

/** A letter in its place. */
export interface PlacedLetter {
  readonly paths: readonly Path[]
  /** The letter as its font has it: the same for every place where it stands. */
  readonly glyph: readonly Path[]
}

const overlapping = new WeakMap<readonly Path[], boolean>()

/** Whether the outlines of a letter overlap each other or themselves: looked at once for every letter of a font. */
function overlapsItself(glyph: readonly Path[]): boolean {
  const known = overlapping.get(glyph)
  if (known !== undefined) return known
  const rings = glyph.map((path) => flattenPath(mapPath(path, LOOK_MM, LOOK_MM, 0, 0), FLATTEN_MM))
  const found = united(rings, Math.abs(shapeArea(rings))) !== undefined
  overlapping.set(glyph, found)
  return found
}

/** Rings as one shape; undefined where they are one already. @param apart the sum of their areas, holes taken off */
function united(rings: readonly Ring[], apart: number): Ring[] | undefined {
  const together = filledBy('nonzero', rings)
  return Math.abs(shapeArea(together) - apart) > SAME_AREA * apart ? together : undefined
}

/** The box around all points, those that only pull a curve too: never smaller than the letter. */
function boxOf(paths: readonly Path[]) {
  const box = { x0: Infinity, y0: Infinity, x1: -Infinity, y1: -Infinity }
  for (const { points } of paths) {
    const { x0, y0, x1, y1 } = ringBounds(points)
    box.x0 = Math.min(box.x0, x0)
    box.y0 = Math.min(box.y0, y0)
    box.x1 = Math.max(box.x1, x1)
    box.y1 = Math.max(box.y1, y1)
  }
  return box
}

/**
 * Letters of outlines as one drawing: those that overlap, each other or themselves, become one outline, so that no cut runs
 * through them; all others keep their curves. Holes run against their outlines.
 */
export function mergedLetters(letters: readonly PlacedLetter[]): Path[] {
  const all = letters.filter(({ paths }) => paths.length > 0).map((letter) => ({ ...letter, box: boxOf(letter.paths) }))
  const order = all.map((_, i) => i).sort((a, b) => all[a].box.x0 - all[b].box.x0)
  const group = all.map((_, i) => i)
  const rootOf = (i: number): number => {
    while (group[i] !== i) {
      group[i] = group[group[i]]
      i = group[i]
    }
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
    const members = groups.get(rootOf(i))
    if (members) members.push(i)
    else groups.set(rootOf(i), [i])
  })
  return [...groups.values()].flatMap((members) => {
    const own = members.flatMap((i) => [...all[i].paths])
    if (members.length === 1 && !overlapsItself(all[members[0]].glyph)) return own
    const rings = members.map((i) => all[i].paths.map((path) => flattenPath(path, FLATTEN_MM)))
    const apart = rings.reduce((sum, each) => sum + Math.abs(shapeArea(each)), 0)
    return united(rings.flat(), apart)?.map(pathFromRing) ?? own
  })
}
