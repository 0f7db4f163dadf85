import type { Bounds } from '../geometry/bounds.ts'
import type { Calibration } from './calibrate.ts'

/** A part of the bed, and how far off places are told there at most, mm; null where no mark was seen. */
export interface TrustCell extends Bounds {
  readonly mm: number | null
}

/** Places that are told farther off are not trusted, mm. */
export const TRUSTED_MM = 0.3
/** The bed is looked at in cells about as wide as this share of its longer side. */
const CELLS = 12

/** How far off places are told over a bed, cell by cell, row by row. */
export function trustMap(
  { errors }: Pick<Calibration, 'errors'>,
  { widthMm, heightMm }: { readonly widthMm: number; readonly heightMm: number },
): { readonly columns: number; readonly rows: number; readonly cells: readonly TrustCell[] } {
  const cell = Math.max(widthMm, heightMm) / CELLS
  const [columns, rows] = [Math.max(1, Math.round(widthMm / cell)), Math.max(1, Math.round(heightMm / cell))]
  const [w, h] = [widthMm / columns, heightMm / rows]
  const most = new Array<number | null>(columns * rows).fill(null)
  for (const { mm, x, y } of errors) {
    const [c, r] = [Math.floor(x / w), Math.floor(y / h)]
    if (c < 0 || r < 0 || c >= columns || r >= rows) continue
    const i = r * columns + c
    most[i] = Math.max(most[i] ?? 0, mm)
  }
  return {
    columns,
    rows,
    cells: most.map((mm, i) => {
      const [x, y] = [(i % columns) * w, Math.floor(i / columns) * h]
      return { x0: x, y0: y, x1: x + w, y1: y + h, mm }
    }),
  }
}

/** Whether a box of the bed lies where a calibration may be trusted. */
export function isTrusted(
  calibration: Pick<Calibration, 'errors'>,
  bed: { readonly widthMm: number; readonly heightMm: number },
  { x0, y0, x1, y1 }: Bounds,
): boolean {
  return trustMap(calibration, bed).cells.every(
    (cell) => cell.x1 <= x0 || cell.x0 >= x1 || cell.y1 <= y0 || cell.y0 >= y1 || (cell.mm !== null && cell.mm <= TRUSTED_MM),
  )
}

/** Marks on the frame are expected so far outside the corners of the bed, mm. */
const FRAME_MM = 15

/** Where marks on the frame are looked for: beside the corners of the bed. */
export const framePlaces = ({
  widthMm: w,
  heightMm: h,
}: {
  readonly widthMm: number
  readonly heightMm: number
}): (readonly [number, number])[] => [
  [-FRAME_MM, -FRAME_MM],
  [w + FRAME_MM, -FRAME_MM],
  [w + FRAME_MM, h + FRAME_MM],
  [-FRAME_MM, h + FRAME_MM],
]
