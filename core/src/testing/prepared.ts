import { type Framed, wholeFrame } from '../picture/framing.ts'
import type { GreyPicture } from '../picture/picture.ts'
import { type Marks, type PrepareOptions, prepareMarks } from '../picture/prepare.ts'
import { type Dots, NO_TREATMENT, PLAIN_DOTS, type Treatment, type TreatmentStep } from '../picture/steps.ts'

/** For tests: a treatment of these steps in this order. */
export const treatment = (...list: readonly TreatmentStep[]): Treatment => ({
  ...NO_TREATMENT,
  steps: Object.fromEntries(list.map((step, i) => [`s${i}`, step])),
  order: list.map((_, i) => `s${i}`),
})

/** For tests: a picture in dots of 0.1 mm. */
export const prepared = (
  picture: GreyPicture | Framed,
  columns: number,
  rows: number,
  dots: Partial<Dots> = {},
  steps: Treatment = NO_TREATMENT,
  options: Partial<PrepareOptions> = {},
): Marks =>
  prepareMarks('picture' in picture ? picture : wholeFrame(picture), steps, { ...PLAIN_DOTS, ...dots }, columns, rows, {
    pitchMm: 0.1,
    ...options,
  })
