// The kernel of picture preparation: rows of samples → marks at another pitch → dots. Compiled to `core/src/kernels/picture.ts`.

export { blurDown, blurRow, fromTones, sharpenRow, toMarks, toTones, widenRow } from './blur'
export { diffuseRow } from './diffuse'
export { beginDots, floydSteinbergRow, greyRow, madeMarks, markedDots, thresholdRow, wantedMarks } from './dither'
export { addRow, averageAcross, clamp, lanczosAcross, marks8, marks16, splitRow, sumSix } from './resample'
export { clusteredRow, orderedRow, throughTable } from './screen'

/** Where memory is free for the caller. */
export function freeFrom(): usize {
  return __heap_base
}
