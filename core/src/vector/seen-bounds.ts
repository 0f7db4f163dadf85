import { type Bounds, unite } from '../geometry/bounds.ts'
import { flattenPath } from '../geometry/path.ts'
import { closedLine, ringsBounds } from '../geometry/ring.ts'
import { strokeArea } from '../geometry/stroke-area.ts'
import { drawingBounds, type VectorDrawing } from './drawing.ts'

/** A stroke of this width or more is meant to be seen as wide as it is, mm; a thinner one stands for its line. */
export const BOLD_MM = 0.5

const CHORD_MM = 0.01

/** The box around all that a drawing shows: bold strokes with their width, thin ones as the lines that they are. */
export function seenBounds(drawing: Pick<VectorDrawing, 'shapes'>): Bounds {
  let box = drawingBounds(drawing)
  for (const { paths, look } of drawing.shapes) {
    if (!look.stroke || !((look.strokeMm ?? 0) >= BOLD_MM)) continue
    const lines = paths.map((path) => (path.closed ? closedLine(flattenPath(path, CHORD_MM)) : flattenPath(path, CHORD_MM)))
    const rings = strokeArea(lines, look.strokeMm! / 2, look.ends)
    if (rings.length > 0) box = unite(box, ringsBounds(rings))
  }
  return box
}
