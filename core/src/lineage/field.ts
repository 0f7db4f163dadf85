import { type JobDocument, picturedRoot } from '../job/document/document.ts'
import { type BurnedPiece, pieceChart } from '../job/document/pieces.ts'
import { framedSize } from '../picture/framing.ts'
import { type Affine, mapped, quarterTurns } from '../space/affine.ts'
import { readDeg, type Size, turnedSize } from '../space/pose.ts'
import { canLieTrue, placedBounds } from './true-to-face.ts'

/**
 * The dots of a picture operation: straight rows that the machine drives along its own x, in the sweep of the workpiece (its
 * face turned as it lies on the bed). Where the workpiece is not turned, the sweep is the face.
 */
export interface DotField {
  readonly columns: number
  readonly rows: number
  /** Where the first dot's corner lies, sweep mm. */
  readonly x0: number
  readonly y0: number
  readonly pitch: number
  /** From the sweep to the face of the workpiece. */
  readonly toFace: Affine
  /** How the artwork is turned in the sweep, degrees: its own turn and the workpiece's together. */
  readonly deg: number
}

/** Whether dots that are prepared already stay as they are: turned by quarters at most, and never between pixels. */
export function staysAsPrepared(
  job: JobDocument,
  piece: Pick<BurnedPiece, 'node' | 'placement' | 'pose' | 'workpiece'>,
): boolean {
  const node = job.nodes[piece.node]
  if (node?.kind !== 'picture' || !node.dots.asPrepared) return false
  if (piece.placement.trueToFace && canLieTrue(piece.workpiece)) return false
  return quarterTurns(sweptDeg(piece)) !== undefined
}

/** How artwork is turned in the sweep that it is burned in, degrees. */
export const sweptDeg = ({ placement, pose }: Pick<BurnedPiece, 'placement' | 'pose'>): number =>
  readDeg((placement.deg ?? 0) + (pose.deg ?? 0))

/**
 * Whole dots at exactly the interval, centred on the placement: they may stand over or fall short by half a dot. A
 * picture as prepared has as many dots as it has pixels, whatever its place is.
 */
export function dotField(job: JobDocument, { intervalMm: pitch }: { readonly intervalMm: number }, piece: BurnedPiece): DotField {
  const { node, place: placeId, placement: place } = piece
  const chart = pieceChart(job, piece)
  const deg = sweptDeg(piece)
  const quarter = quarterTurns(deg)
  const upright = quarter === undefined || quarter % 2 === 0
  const root = picturedRoot(job, node, placeId)
  const prepared = staysAsPrepared(job, piece) ? framedSize(root, root.framing) : undefined
  if (place.trueToFace && canLieTrue(piece.workpiece)) return trueField(job, pitch, piece)
  const box = quarter === undefined ? turnedSize(place, deg) : place
  const wide = prepared ? prepared.widthPx : box.widthMm / pitch
  const high = prepared ? prepared.heightPx : box.heightMm / pitch
  const columns = Math.max(1, Math.round(upright ? wide : high))
  const rows = Math.max(1, Math.round(upright ? high : wide))
  const field = { columns, rows, pitch, toFace: chart.fromSweep, deg }
  if (deg === 0 && chart.deg === 0)
    return {
      ...field,
      x0: place.xMm + (place.widthMm - columns * pitch) / 2,
      y0: place.yMm + (place.heightMm - rows * pitch) / 2,
    }
  const [x, y] = mapped(chart.toSweep, place.xMm + place.widthMm / 2, place.yMm + place.heightMm / 2)
  return { ...field, x0: x - (columns * pitch) / 2, y0: y - (rows * pitch) / 2 }
}

/** The dots around a picture that is true to its face, wherever it reaches there. */
function trueField(job: JobDocument, pitch: number, piece: BurnedPiece): DotField {
  const { toSweep, fromSweep } = pieceChart(job, piece)
  const { x0, y0, x1, y1 } = placedBounds(job, piece.placement)
  const corners = [mapped(toSweep, x0, y0), mapped(toSweep, x1, y0), mapped(toSweep, x1, y1), mapped(toSweep, x0, y1)]
  const [xs, ys] = [corners.map(([x]) => x), corners.map(([, y]) => y)]
  const [left, top] = [Math.min(...xs), Math.min(...ys)]
  const columns = Math.max(1, Math.ceil((Math.max(...xs) - left) / pitch))
  const rows = Math.max(1, Math.ceil((Math.max(...ys) - top) / pitch))
  return { columns, rows, pitch, toFace: fromSweep, deg: sweptDeg(piece), x0: left, y0: top }
}

/** The middle of a dot on the face of the workpiece, mm. */
export const dotOnFace = ({ x0, y0, pitch, toFace }: DotField, column: number, row: number): readonly [number, number] =>
  mapped(toFace, x0 + (column + 0.5) * pitch, y0 + (row + 0.5) * pitch)

/** The size at which one pixel is one dot. */
export function preparedSize(job: JobDocument, node: string, intervalMm: number): Size {
  const root = picturedRoot(job, node)
  const { widthPx, heightPx } = framedSize(root, root.framing)
  const micro = (mm: number): number => Math.round(mm * 1000) / 1000
  return { widthMm: micro(widthPx * intervalMm), heightMm: micro(heightPx * intervalMm) }
}
