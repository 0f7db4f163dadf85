import { type FoundMark, registered } from './registration.ts'

/** How a print came out against its drawing: how much wider and higher, and how far its right angles are off, degrees. */
export interface PrintSize {
  readonly x: number
  readonly y: number
  readonly askewDeg: number
}

/** With fewer marks than this the errors of single ones would be taken for a print that is stretched one way. */
const LEAST_BOTH_WAYS = 4

/** How a print came out, by its marks: both ways by four and more, as a whole by three; undefined where they tell nothing. */
export function printSize(marks: readonly FoundMark[]): PrintSize | undefined {
  if (marks.length < LEAST_BOTH_WAYS) {
    const fit = marks.length === LEAST_BOTH_WAYS - 1 ? registered(marks, 'similarity') : undefined
    return fit && !('not' in fit) ? { x: fit.scale, y: fit.scale, askewDeg: 0 } : undefined
  }
  const fit = registered(marks, 'affine')
  if ('not' in fit) return undefined
  const [a, b, c, d] = fit.map
  const x = Math.hypot(a, b)
  const y = Math.abs(a * d - b * c) / x
  return { x, y, askewDeg: (Math.asin((a * c + b * d) / (x * Math.hypot(c, d))) * 180) / Math.PI }
}
