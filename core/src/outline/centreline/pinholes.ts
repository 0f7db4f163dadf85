/** A gap whose lightest place is lighter than this share of the way from the threshold to paper is a gap indeed. */
const LIGHT = 0.6
/** So few pixels are no gap, however light, px. */
const SMALL = 3
/** Larger ones are no flaws of the picture's pixels, px. */
const LARGEST = 40

/**
 * Fills gaps in ink that are there only because a narrow gap falls into pixels: where strokes part at a sharp angle, or in noise. A
 * ring around such a gap would be no stroke. @param ink 1 where there is ink, its outermost pixels none
 * @param light lightness 0–255 of a pixel @param level threshold 0–255
 */
export function fillPinholes(ink: Uint8Array, width: number, light: (pixel: number) => number, level: number): void {
  const seen = new Uint8Array(ink.length)
  const steps = [-width, 1, width, -1]
  const enough = level + LIGHT * (255 - level)
  const gap: number[] = []
  // What hangs together with the border is outside: it is gone through first.
  const go = (start: number, most: number): { readonly whole: boolean; readonly lightest: number } => {
    gap.length = 0
    gap.push(start)
    seen[start] = 1
    let lightest = 0
    for (let k = 0; k < gap.length; k++) {
      const i = gap[k]
      if (k < most) lightest = Math.max(lightest, light(i))
      for (const step of steps) {
        const next = i + step
        if (next < 0 || next >= ink.length || ink[next] || seen[next]) continue
        seen[next] = 1
        gap.push(next)
      }
    }
    return { whole: gap.length <= most, lightest }
  }
  /** A narrow gap that goes on over a corner is one gap: the lighter of the two pixels beside the corner is no ink. */
  const open = (gap: readonly number[]): void => {
    const own = new Set(gap)
    for (const i of gap) {
      for (let k = 0; k < 4; k++) {
        const [one, other] = [i + steps[k], i + steps[(k + 1) & 3]]
        const over = i + steps[k] + steps[(k + 1) & 3]
        if (over < 0 || over >= ink.length || ink[over] || own.has(over) || !ink[one] || !ink[other]) continue
        ink[light(one) > light(other) ? one : other] = 0
        return
      }
    }
  }
  go(0, 0)
  for (let i = 0; i < ink.length; i++) {
    if (ink[i] || seen[i]) continue
    const { whole, lightest } = go(i, LARGEST)
    if (!whole) continue
    if (lightest < enough || gap.length < SMALL) for (const pixel of gap) ink[pixel] = 1
    else open(gap)
  }
}
