/** A lone line is seen as wide as this many pixels at least. */
const SEEN_PX = 1.2
/** So much of its surroundings may be made dark by it, 0–1: lines that lie close keep the tone that they really have. */
const MOST_MEAN = 0.35
/** Surroundings: so many pixels to every side. */
const AROUND = 2

/** How many pixels beside a view count for its border. */
export const BESIDE_PX = AROUND

/** Whether lines are so thin at a scale that they need it. @param widthPx of the line */
export const isThin = (widthPx: number): boolean => widthPx < SEEN_PX

/**
 * Lines that are thinner than a pixel, as the eye sees them from farther away: a hairline stays a line, instead of a shade that
 * nobody sees. Where lines lie close together their mean tone is left as it is.
 * @param cover share of every pixel that is covered, 0–1, row by row, BESIDE_PX more on every side
 * @param widthPx,heightPx of the view without what lies beside it @param linePx how wide the lines are, px
 */
export function seenLines(cover: Float32Array, widthPx: number, heightPx: number, linePx: number): Float32Array {
  const w = widthPx + 2 * AROUND
  const h = heightPx + 2 * AROUND
  const across = new Float32Array(w * h)
  const side = 2 * AROUND + 1
  for (let y = 0; y < h; y++)
    for (let x = AROUND; x < w - AROUND; x++) {
      let sum = 0
      for (let k = -AROUND; k <= AROUND; k++) sum += cover[y * w + x + k]
      across[y * w + x] = sum
    }
  const out = new Float32Array(widthPx * heightPx)
  const most = SEEN_PX / linePx
  for (let y = 0; y < heightPx; y++)
    for (let x = 0; x < widthPx; x++) {
      const at = (y + AROUND) * w + x + AROUND
      const own = cover[at]
      if (own === 0) continue
      let sum = 0
      for (let k = -AROUND; k <= AROUND; k++) sum += across[at + k * w]
      const gain = Math.min(most, Math.max(1, (MOST_MEAN * side * side) / sum))
      out[y * widthPx + x] = Math.min(1, own * gain)
    }
  return out
}
