/** A window over the workpiece: which piece of it, at which scale. */
export interface View {
  /** Upper left corner, job mm. */
  readonly x: number
  readonly y: number
  readonly pxPerMm: number
  readonly widthPx: number
  readonly heightPx: number
}
