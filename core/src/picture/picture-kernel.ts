import { kernelMaker } from '../kernels/kernel.ts'
import { PICTURE_WASM } from '../kernels/picture.wasm.ts'

/** What `kernels/src/picture` does: see there. Rows are f32, places in its memory are bytes. */
export interface PictureKernel {
  freeFrom(): number
  marks8(samples: number, alpha: number, n: number, table: number, out: number): void
  marks16(samples: number, alpha: number, n: number, table: number, out: number): void
  addRow(row: number, n: number, weight: number, sum: number): void
  splitRow(row: number, n: number, weight: number, sum: number, nextWeight: number, next: number): void
  sumSix(rows: number, weights: number, n: number, out: number): void
  averageAcross(
    row: number,
    size: number,
    sums: number,
    cells: number,
    parts: number,
    columns: number,
    share: number,
    out: number,
  ): void
  lanczosAcross(row: number, starts: number, weights: number, columns: number, out: number): void
  clamp(row: number, n: number): void
  beginDots(): void
  wantedMarks(): number
  madeMarks(): number
  markedDots(): number
  greyRow(wanted: number, n: number, out: number): void
  thresholdRow(wanted: number, n: number, out: number): void
  fromTones(tones: number, n: number, out: number): void
  toTones(marks: number, n: number, out: number): void
  toMarks(tones: number, alpha: number, n: number, out: number): void
  widenRow(row: number, n: number, radius: number): void
  blurRow(row: number, n: number, weights: number, radius: number, out: number): void
  blurDown(rows: number, n: number, weights: number, radius: number, out: number): void
  sharpenRow(tones: number, soft: number, n: number, strength: number, least: number, out: number): void
  diffuseRow(
    wanted: number,
    n: number,
    ahead: number,
    weights: number,
    now: number,
    next: number,
    last: number,
    out: number,
  ): void
  orderedRow(wanted: number, n: number, thresholds: number, period: number, out: number): void
  clusteredRow(
    wanted: number,
    n: number,
    u: number,
    v: number,
    du: number,
    dv: number,
    wave: number,
    even: number,
    step: number,
    own: number,
    madeUp: number,
    reach: number,
    off: number,
    out: number,
  ): void
  throughTable(row: number, n: number, table: number): void
  floydSteinbergRow(wanted: number, n: number, ahead: number, above: number, below: number, out: number): void
}

/** The kernel of picture preparation; one picture is prepared to its end before the next. */
export const pictureKernel = kernelMaker<PictureKernel>(PICTURE_WASM).kept
