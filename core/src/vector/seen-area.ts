import { filledBy, together } from '../geometry/clip.ts'
import { flattenPath } from '../geometry/path.ts'
import { closedLine, type Ring } from '../geometry/ring.ts'
import { strokeArea } from '../geometry/stroke-area.ts'
import type { Shape } from './drawing.ts'

const CHORD_MM = 0.005
/** A stroke without a width is drawn as wide as this, mm. */
const HAIRLINE_MM = 0.1

/**
 * The area that shapes cover as they are seen: fills by their rules, strokes as wide as they are.
 * @returns rings in mm, outer ones against holes
 */
export function seenArea(shapes: readonly Shape[]): Ring[] {
  const rings = shapes.flatMap(({ paths, look, rule }) => {
    const flat = paths.map((path) => flattenPath(path, CHORD_MM))
    const filled = look.fill ? filledBy(rule, flat) : []
    const lines = flat.map((ring, i) => (paths[i].closed ? closedLine(ring) : ring))
    const stroked = look.stroke ? strokeArea(lines, Math.max(HAIRLINE_MM, look.strokeMm ?? 0) / 2, look.ends) : []
    return [...filled, ...stroked]
  })
  return together(rings)
}
