import { gaussian } from './blur.ts'
import { type Plane, WHITE } from './plane.ts'

/**
 * Unsharp mask: what differs from the blurred picture by more than the threshold is strengthened.
 * @param radius of the blur (σ), dots @param amount percent @param threshold 0–255
 */
export function sharpen(plane: Plane, radius: number, amount: number, threshold: number): Uint16Array {
  const { width, height, tone } = plane
  const soft = Float32Array.from(tone)
  gaussian(soft, width, height, radius)
  const strength = amount / 100
  const least = (threshold / 255) * WHITE
  const out = new Uint16Array(tone.length)
  for (let i = 0; i < tone.length; i++) {
    const difference = tone[i] - soft[i]
    const v = difference > least || difference < -least ? tone[i] + strength * difference : tone[i]
    out[i] = v < 0 ? 0 : v > WHITE ? WHITE : v + 0.5
  }
  return out
}
