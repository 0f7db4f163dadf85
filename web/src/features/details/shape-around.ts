import { type Bounds, type Drawn, grouped, type JobDocument, micro } from '@neotaxis/core'
import { drawnInto } from '../draw/drawn-into.ts'

/** What is cut around artwork, beside its own outline. */
export type AroundShape = 'rectangle' | 'rounded' | 'circle'

/** A shape around a box, centred on it. */
export interface ShapeAround {
  readonly drawn: Drawn
  readonly widthMm: number
  readonly heightMm: number
  /** Its rear left corner, mm of the face. */
  readonly at: { readonly xMm: number; readonly yMm: number }
}

interface Wanted {
  readonly distanceMm: number
  readonly radiusMm: number
  /** Typed: they count instead of the distance. */
  readonly widthMm?: number
  readonly heightMm?: number
}

/** The shape around a box at a distance, or of a size. A circle goes around its corners. */
export function shapeAround(shape: AroundShape, { x0, y0, x1, y1 }: Bounds, wanted: Wanted): ShapeAround {
  const { distanceMm, radiusMm } = wanted
  const across = Math.hypot(x1 - x0, y1 - y0) + 2 * distanceMm
  const widthMm = micro(wanted.widthMm ?? (shape === 'circle' ? across : x1 - x0 + 2 * distanceMm))
  const heightMm = micro(wanted.heightMm ?? (shape === 'circle' ? across : y1 - y0 + 2 * distanceMm))
  return {
    drawn:
      shape === 'circle'
        ? { kind: 'ellipse', widthMm, heightMm }
        : { kind: 'rectangle', widthMm, heightMm, radiusMm: shape === 'rounded' ? radiusMm : 0 },
    widthMm,
    heightMm,
    at: { xMm: micro((x0 + x1 - widthMm) / 2), yMm: micro((y0 + y1 - heightMm) / 2) },
  }
}

/**
 * Draws a shape around artwork, cut last and grouped with it, so that they never slide apart.
 * @returns the change of the job @throws Error with a sentence where it cannot be drawn
 */
export async function withShapeAroundIt(
  job: JobDocument,
  roots: readonly string[],
  { drawn, at }: ShapeAround,
  tag: string,
): Promise<(base: JobDocument) => JobDocument> {
  const change = await drawnInto(job, drawn, at, tag, 'cut-lines')
  return (base) => {
    const { job: whole, root } = change(base)
    return root === undefined
      ? whole
      : roots.filter((id) => id in whole.nodes).reduce((sum, id) => grouped(sum, id, root, tag), whole)
  }
}
