import type { Bounds } from '../geometry/bounds.ts'
import { combine, filledBy, shapeArea, shapesOf, together } from '../geometry/clip.ts'
import { flattenPath } from '../geometry/path.ts'
import { type Ring, ringsBounds } from '../geometry/ring.ts'
import type { Shape } from './drawing.ts'

/** More shapes without a fill are not asked in pairs whether they cross. */
const MOST_ASKED = 2000

/** One shape's own area, and the box around it. */
interface Area {
  readonly rings: readonly Ring[]
  readonly box: Bounds
}

/**
 * The area that shapes are together, as a cut takes them: each by its own rule. What is filled with one colour is one; so is what crosses
 * each other. A mere outline, or another colour, within another one is a hole in it, as drawings of parts mean it.
 * @param chordMm how near chords lie to curves @returns rings in mm; as they were drawn, with every corner, where nothing lies over each other
 */
export function figureOf(shapes: readonly Shape[], chordMm: number): Ring[] {
  const drawn = shapes.flatMap(({ paths, look }) =>
    paths.filter((path) => path.closed || look.fill).map((path) => flattenPath(path, chordMm)),
  )
  const made = united(shapes, chordMm)
  return isAsDrawn(drawn, made) ? drawn : made
}

/** Whether rings by even-odd are what they became: then they stay as they were drawn, with every corner and in their order. */
function isAsDrawn(drawn: readonly Ring[], made: readonly Ring[]): boolean {
  if (drawn.length !== made.length) return false
  const corners = (rings: readonly Ring[]): number => rings.reduce((sum, ring) => sum + ring.length, 0)
  if (Math.abs(corners(drawn) - corners(made)) > drawn.length * 4) return false
  const rings = combine('exclude', drawn, made)
  return shapeArea(rings) < SAME * Math.max(1, shapeArea(made))
}

/** Two figures whose difference is less than this share of them are the same. */
const SAME = 1e-4

function united(shapes: readonly Shape[], chordMm: number): Ring[] {
  const areas: Area[] = []
  const add = (rings: readonly Ring[]): void => {
    if (rings.length > 0) areas.push({ rings, box: ringsBounds(rings as Ring[]) })
  }
  const colours = new Map<string, Ring[]>()
  for (const { paths, rule, look } of shapes) {
    const own = filledBy(
      rule,
      paths.filter((path) => path.closed || look.fill).map((path) => flattenPath(path, chordMm)),
    )
    if (!look.fill) add(own)
    else colours.set(look.fill, [...(colours.get(look.fill) ?? []), ...own])
  }
  for (const rings of colours.values()) for (const part of shapesOf(together(rings))) add(part)
  return combine(
    'union',
    crossingUnited(areas).flatMap(({ rings }) => rings),
  )
}

const apart = (a: Bounds, b: Bounds): boolean => a.x1 <= b.x0 || b.x1 <= a.x0 || a.y1 <= b.y0 || b.y1 <= a.y0

/** Areas of which those that cross are one. */
function crossingUnited(areas: readonly Area[]): readonly Area[] {
  if (areas.length < 2 || areas.length > MOST_ASKED) return areas
  const made: Area[] = []
  for (const area of areas) {
    let own = area
    for (let i = 0; i < made.length; ) {
      if (!apart(made[i].box, own.box) && cross(made[i], own)) {
        const rings = together([...made[i].rings, ...own.rings])
        own = { rings, box: ringsBounds(rings) }
        made.splice(i, 1)
        i = 0
      } else i++
    }
    made.push(own)
  }
  return made
}

/** What two areas share is less than this share of the smaller one where they only touch, and all but it where one lies within the other. */
const TOUCHING = 1e-6

function cross(a: Area, b: Area): boolean {
  const shared = shapeArea(combine('intersect', a.rings, b.rings))
  const smaller = Math.min(shapeArea(a.rings), shapeArea(b.rings))
  return shared > TOUCHING * smaller && shared < (1 - TOUCHING) * smaller
}
