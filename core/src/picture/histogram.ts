import type { GreyPicture } from './picture.ts'

/** How many pixels have each of 256 greys, fully transparent ones left out. */
export function histogram(picture: GreyPicture): Uint32Array {
  const counts = new Uint32Array(256)
  const shift = picture.full === 255 ? 0 : 8
  const { samples, alpha } = picture
  for (let i = 0; i < samples.length; i++) if (!alpha || alpha[i] > 0) counts[samples[i] >> shift]++
  return counts
}

/** The threshold 0–1 that best parts dark from light (N. Otsu, IEEE Trans. SMC 9(1), 1979). */
export function otsuThreshold(counts: Uint32Array): number {
  let total = 0
  let sum = 0
  for (let i = 0; i < 256; i++) {
    total += counts[i]
    sum += i * counts[i]
  }
  let darkCount = 0
  let darkSum = 0
  let best = -1
  let from = 127
  let to = 127
  for (let i = 0; i < 255; i++) {
    darkCount += counts[i]
    darkSum += i * counts[i]
    if (darkCount === 0 || darkCount === total) continue
    const apart = darkSum / darkCount - (sum - darkSum) / (total - darkCount)
    const between = darkCount * (total - darkCount) * apart * apart
    if (between > best * (1 + 1e-12)) {
      best = between
      from = i
      to = i
    } else if (between >= best * (1 - 1e-12)) to = i
  }
  return ((from + to) / 2 + 0.5) / 255
}
