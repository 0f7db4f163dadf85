import { type JobDocument, type PictureOperation, picturedRoot } from '../job/document.ts'
import { framedSize } from '../picture/framing.ts'

/** The dots of a picture operation: their number, and where the first one's corner lies in job mm. */
export interface DotGrid {
  readonly columns: number
  readonly rows: number
  readonly x0: number
  readonly y0: number
  readonly pitch: number
}

/**
 * Whole dots at exactly the interval, centred on the placement: they may stand over or fall short by half a dot. A
 * picture as prepared has as many dots as it has pixels, whatever its place is.
 */
export function dotGrid(job: JobDocument, operation: Pick<PictureOperation, 'intervalMm' | 'node'>): DotGrid {
  const pitch = operation.intervalMm
  const root = picturedRoot(job, operation.node)
  const place = job.placements[root.id]
  const node = job.nodes[operation.node]
  const prepared = node.kind === 'picture' && node.dots.asPrepared ? framedSize(root, root.framing) : undefined
  const columns = Math.max(1, Math.round(prepared ? prepared.widthPx : place.widthMm / pitch))
  const rows = Math.max(1, Math.round(prepared ? prepared.heightPx : place.heightMm / pitch))
  return {
    columns,
    rows,
    pitch,
    x0: place.xMm + (place.widthMm - columns * pitch) / 2,
    y0: place.yMm + (place.heightMm - rows * pitch) / 2,
  }
}
