import { Arena } from '../kernels/kernel.ts'
import { blurRows } from './blur.ts'
import { pictureKernel } from './picture-kernel.ts'
import { type Plane, WHITE } from './plane.ts'

/** Wider than this nothing is sharpened: it would be a change of light. */
const WIDEST = 10

/**
 * Unsharp mask: what differs from the blurred picture by more than the threshold is strengthened.
 * @param radius of the blur (σ), dots, up to 10 @param amount percent @param threshold 0–255
 */
export function sharpen({ width, height, tone }: Plane, radius: number, amount: number, threshold: number): Uint16Array {
  const kernel = pictureKernel()
  const { run, room } = kernel
  const arena = new Arena(run.freeFrom())
  const sharp = arena.take(2 * width)
  const tones = arena.take(2 * width)
  const least = (threshold / 255) * WHITE
  const out = new Uint16Array(tone.length)
  room(arena.bytes)
  const put = (y: number): void => new Uint16Array(room(0).buffer, tones, width).set(tone.subarray(y * width, (y + 1) * width))
  blurRows(kernel, arena, width, height, Math.min(WIDEST, radius), {
    fetch: (y, at) => {
      put(y)
      run.fromTones(tones, width, at)
    },
    take: (y, at) => {
      put(y)
      run.sharpenRow(tones, at, width, amount / 100, least, sharp)
      out.set(new Uint16Array(room(0).buffer, sharp, width), y * width)
    },
  })
  return out
}
