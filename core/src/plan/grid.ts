import type { PictureOperation, Placement } from '../job/document.ts'

/** The dots of a picture operation: their number, and where the first one's corner lies in job mm. */
export interface DotGrid {
  readonly columns: number
  readonly rows: number
  readonly x0: number
  readonly y0: number
  readonly pitch: number
}

/** Whole dots at exactly the interval, centred on the placement: they may stand over or fall short by half a dot. */
export function dotGrid(placement: Placement, operation: Pick<PictureOperation, 'intervalMm'>): DotGrid {
  const pitch = operation.intervalMm
  const columns = Math.max(1, Math.round(placement.widthMm / pitch))
  const rows = Math.max(1, Math.round(placement.heightMm / pitch))
  return {
    columns,
    rows,
    pitch,
    x0: placement.xMm + (placement.widthMm - columns * pitch) / 2,
    y0: placement.yMm + (placement.heightMm - rows * pitch) / 2,
  }
}
