import { strFromU8 } from 'fflate'
import { type Bounds, isEmptyBounds } from '../geometry/bounds.ts'
import { drawingBounds, mapDrawing, type VectorDrawing } from '../vector/drawing.ts'
import { seenBounds } from '../vector/seen-bounds.ts'
import { readDxf } from './dxf/dxf.ts'
import { DxfError, isDxf } from './dxf/dxf-pairs.ts'
import { readSvg, SvgError } from './svg/svg.ts'

/** A drawing that cannot be used; `message` is a sentence for the operator. */
export class DrawingError extends Error {}

/** Larger files are refused unread. */
const MAX_BYTES = 60_000_000

/** Whether bytes are a vector drawing, by how they begin. */
export function drawingKind(bytes: Uint8Array): 'svg' | 'dxf' | undefined {
  const head = strFromU8(bytes.subarray(0, 4000), true)
  if (/^(\xef\xbb\xbf)?\s*</.test(head) && /<svg[\s/>]/i.test(strFromU8(bytes.subarray(0, 100_000), true))) return 'svg'
  return isDxf(head) ? 'dxf' : undefined
}

/** A drawing as its file has it. @throws DrawingError with a sentence */
export function readVectorFile(bytes: Uint8Array): VectorDrawing {
  const kind = drawingKind(bytes)
  if (!kind) throw new DrawingError('This is no drawing that can be read. SVG and text DXF are understood.')
  if (bytes.length > MAX_BYTES)
    throw new DrawingError(`The drawing has ${Math.round(bytes.length / 1e6)} MB; at most ${MAX_BYTES / 1e6} MB can be read.`)
  try {
    return kind === 'svg' ? readSvg(strFromU8(bytes)) : readDxf(bytes)
  } catch (cause) {
    if (cause instanceof SvgError || cause instanceof DxfError) throw new DrawingError(cause.message, { cause })
    throw new DrawingError('The drawing is damaged and cannot be read.', { cause })
  }
}

/** A drawing whose box begins at the origin, and that box. */
export interface PlacedDrawing extends VectorDrawing {
  readonly widthMm: number
  readonly heightMm: number
  /** The box of its lines alone, without the width of bold strokes. */
  readonly lines: Bounds
}

/** Reads a drawing for a job: what it draws begins at the origin. @throws DrawingError */
export function readDrawing(bytes: Uint8Array): PlacedDrawing {
  const drawing = readVectorFile(bytes)
  const box = seenBounds(drawing)
  if (isEmptyBounds(box)) throw new DrawingError('The drawing holds no line and no area.')
  const [widthMm, heightMm] = [box.x1 - box.x0, box.y1 - box.y0]
  if (!(Math.max(widthMm, heightMm) > 1e-3)) throw new DrawingError('The drawing is no larger than a point.')
  const { x0, y0, x1, y1 } = drawingBounds(drawing)
  const lines = { x0: x0 - box.x0, y0: y0 - box.y0, x1: x1 - box.x0, y1: y1 - box.y0 }
  return { ...mapDrawing(drawing, 1, 1, -box.x0, -box.y0), widthMm, heightMm, lines }
}
