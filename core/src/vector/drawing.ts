import { type Bounds, EMPTY_BOUNDS, unite } from '../geometry/bounds.ts'
import { flattenPath, mapPath, type Path } from '../geometry/path.ts'
import { ringBounds } from '../geometry/ring.ts'
import type { StrokeEnds } from '../geometry/stroke-area.ts'

/** How a shape of a drawing looks. Colours are #rrggbb. */
export interface Look {
  readonly stroke?: string
  /** Width of the stroke; absent where the file gives none. */
  readonly strokeMm?: number
  readonly fill?: string
  /** How the stroke ends and goes around corners. */
  readonly ends?: StrokeEnds
  /** The layer, or the outermost named group. */
  readonly layer?: string
}

/** One shape: its paths are filled together. */
export interface Shape {
  readonly paths: readonly Path[]
  readonly look: Look
  /** How its inside is told where its paths overlap. */
  readonly rule: 'nonzero' | 'evenodd'
}

/** A vector drawing, mm, y down. */
export interface VectorDrawing {
  readonly shapes: readonly Shape[]
  /** The page, where the file has one. */
  readonly page?: Bounds
  /** What was left out or assumed, a sentence each. */
  readonly notices: readonly string[]
}

/** Shapes with one key look alike. */
export const lookKey = ({ stroke, strokeMm, fill, layer }: Look): string =>
  [stroke ?? '-', strokeMm === undefined ? '-' : strokeMm.toFixed(3), fill ?? '-', layer ?? ''].join(' ')

/** All that looks alike, with one shape's look, in the order of the drawing. */
export function looksOf({
  shapes,
}: VectorDrawing): ReadonlyMap<string, { readonly look: Look; readonly shapes: readonly Shape[] }> {
  const found = new Map<string, { look: Look; shapes: Shape[] }>()
  for (const shape of shapes) {
    const key = lookKey(shape.look)
    const known = found.get(key)
    if (known) known.shapes.push(shape)
    else found.set(key, { look: shape.look, shapes: [shape] })
  }
  return found
}

/** The box around all shapes, strokes without their width; empty where there are none. */
export const drawingBounds = ({ shapes }: Pick<VectorDrawing, 'shapes'>): Bounds =>
  shapes.reduce(
    (box, { paths }) => paths.reduce((sum, path) => unite(sum, ringBounds(flattenPath(path, 0.01))), box),
    EMPTY_BOUNDS,
  )

/** A drawing with every point moved by x·sx + dx, y·sy + dy. */
export const mapDrawing = (drawing: VectorDrawing, sx: number, sy: number, dx: number, dy: number): VectorDrawing => ({
  ...drawing,
  shapes: drawing.shapes.map((shape) => ({ ...shape, paths: shape.paths.map((path) => mapPath(path, sx, sy, dx, dy)) })),
})
