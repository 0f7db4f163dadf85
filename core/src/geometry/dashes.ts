import type { Ring } from './ring.ts'

/** More dashes than this of one line are no dashes any more. */
const MOST = 100_000

/**
 * The dashes of a line (SVG 1.1, 11.4): drawn and left out in turns, again from the start of the pattern where it ends.
 * @param line a polyline, mm @param pattern lengths, mm; an odd number of them is taken twice @param offset where in it the line begins, mm
 * @returns polylines; the line itself where the pattern is none
 */
export function dashesOf(line: Ring, pattern: readonly number[], offset = 0): Ring[] {
  const lengths = pattern.length % 2 === 0 ? pattern : [...pattern, ...pattern]
  const whole = lengths.reduce((sum, each) => sum + each, 0)
  if (!(whole > 0) || lengths.some((each) => !(each >= 0))) return [line]
  let total = 0
  for (let i = 2; i < line.length; i += 2) total += Math.hypot(line[i] - line[i - 2], line[i + 1] - line[i - 1])
  if ((total / whole) * lengths.length > MOST) return [line]
  let at = ((offset % whole) + whole) % whole
  let k = 0
  while (at >= lengths[k]) {
    at -= lengths[k]
    k = (k + 1) % lengths.length
  }
  let left = lengths[k] - at
  const dashes: Ring[] = []
  let dash: number[] = k % 2 === 0 ? [line[0], line[1]] : []
  const end = (): void => {
    if (dash.length >= 2) dashes.push(Float64Array.from(dash.length === 2 ? [...dash, ...dash] : dash))
    dash = []
  }
  for (let i = 2; i < line.length; i += 2) {
    const [ax, ay, bx, by] = [line[i - 2], line[i - 1], line[i], line[i + 1]]
    const long = Math.hypot(bx - ax, by - ay)
    let gone = 0
    while (long - gone > left) {
      gone += left
      const [x, y] = [ax + ((bx - ax) * gone) / long, ay + ((by - ay) * gone) / long]
      if (k % 2 === 0) {
        dash.push(x, y)
        end()
      } else dash = [x, y]
      k = (k + 1) % lengths.length
      left = lengths[k]
    }
    left -= long - gone
    if (k % 2 === 0) dash.push(bx, by)
  }
  end()
  return dashes
}
