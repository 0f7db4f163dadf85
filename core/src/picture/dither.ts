import type { Arena, Kernel as Compiled } from '../kernels/kernel.ts'
import { blueNoiseRanks, TILE } from './blue-noise.ts'
import type { PictureKernel } from './picture-kernel.ts'
import type { Dots, Kernel } from './steps.ts'

/** Takes the place of one row of marks wanted (f32, 0–1) and gives the place of its dots (bytes, 0–255). Rows come top to bottom. */
export type RowDither = (y: number, wanted: number) => number

/**
 * Published weights of error diffusion, in parts of the divisor: two ahead in the row; from two behind to two ahead in the
 * row below; the same two rows below. J. Jarvis, C. Judice and W. Ninke, Comp. Graphics and Image Proc. 5, 1976; P. Stucki,
 * IBM Research RZ1060, 1981; D. Burkes, 1988; F. Sierra, 1989–90; B. Atkinson, as R. Ulichney, Digital Halftoning, 1987,
 * lists such kernels. Atkinson's passes on three quarters of the error only.
 */
const WEIGHTS: Partial<Record<Kernel, readonly [divisor: number, ...parts: number[]]>> = {
  'jarvis-judice-ninke': [48, 7, 5, 3, 5, 7, 5, 3, 1, 3, 5, 3, 1],
  stucki: [42, 8, 4, 2, 4, 8, 4, 2, 1, 2, 4, 2, 1],
  burkes: [32, 8, 4, 2, 4, 8, 4, 2, 0, 0, 0, 0, 0],
  sierra: [32, 5, 3, 2, 4, 5, 4, 2, 0, 2, 3, 2, 0],
  'sierra-two-row': [16, 4, 3, 1, 2, 3, 2, 1, 0, 0, 0, 0, 0],
  'sierra-lite': [4, 2, 0, 0, 1, 1, 0, 0, 0, 0, 0, 0, 0],
  atkinson: [8, 1, 1, 0, 1, 1, 1, 0, 0, 0, 1, 0, 0],
}

/**
 * A dither for rows of `columns` dots, working in the kernel's memory. It keeps the error of the rows above, so use one
 * for each picture. @param pitchMm distance of dots, for screens with lines per inch
 */
export function rowDither(
  { run, room }: Compiled<PictureKernel>,
  arena: Arena,
  dots: Pick<Dots, 'kernel' | 'serpentine' | 'linesPerInch' | 'angleDeg'>,
  columns: number,
  pitchMm: number,
): RowDither {
  const { kernel } = dots
  const out = arena.take(columns)
  run.beginDots()
  const kept = (values: Float32Array): number => {
    const at = arena.take(values.byteLength)
    room(arena.bytes).set(new Uint8Array(values.buffer, values.byteOffset, values.byteLength), at)
    return at
  }
  if (kernel === 'none') {
    return (_y, wanted) => {
      run.greyRow(wanted, columns, out)
      return out
    }
  }
  if (kernel === 'threshold') {
    return (_y, wanted) => {
      run.thresholdRow(wanted, columns, out)
      return out
    }
  }
  const ahead = (y: number): number => (dots.serpentine && (y & 1) === 1 ? -1 : 1)
  if (kernel === 'floyd-steinberg') {
    const errors = [kept(new Float32Array(columns + 2)), kept(new Float32Array(columns + 2))]
    return (y, wanted) => {
      run.floydSteinbergRow(wanted, columns, ahead(y), errors[y & 1], errors[1 - (y & 1)], out)
      return out
    }
  }
  if (kernel === 'clustered') {
    const hills = Float32Array.from({ length: 1024 }, (_, i) => Math.cos((2 * Math.PI * i) / 1024))
    const wave = kept(hills)
    // One period's dots are the steps of its tones: what lies between is shared out among periods.
    const step = Math.min(0.5, ((dots.linesPerInch * pitchMm) / 25.4) ** 2)
    const own = kept(Float32Array.from(blueNoiseRanks(), (rank) => (rank + 0.5) / (TILE * TILE) - 0.5))
    const frequency = (dots.linesPerInch * pitchMm) / 25.4
    const du = Math.cos((dots.angleDeg * Math.PI) / 180) * frequency
    const dv = -Math.sin((dots.angleDeg * Math.PI) / 180) * frequency
    const even = kept(evenSteps(hills, du, dv))
    const madeUp = kept(new Float32Array(columns))
    const off = kept(new Float32Array(columns + 1))
    const reach = Math.ceil(2 / frequency)
    return (y, wanted) => {
      // Places within 64 periods, so that a tall picture loses nothing.
      // Off the middle, so that no two dots of a period stand equally high.
      const u = 0.137 - dv * y
      const v = 0.061 + du * y
      run.clusteredRow(wanted, columns, within64(u), within64(v), du, dv, wave, even, step, own, madeUp, reach, off, out)
      return out
    }
  }
  const weights = WEIGHTS[kernel]
  if (weights) {
    const [divisor, ...parts] = weights
    const table = kept(Float32Array.from(parts, (part) => part / divisor))
    const errors = [0, 1, 2].map(() => kept(new Float32Array(columns + 4)))
    return (y, wanted) => {
      run.diffuseRow(wanted, columns, ahead(y), table, errors[y % 3], errors[(y + 1) % 3], errors[(y + 2) % 3], out)
      return out
    }
  }
  const { side, ranks } = screenRanks(kernel)
  const thresholds = kept(Float32Array.from(ranks, (rank) => (rank + 0.5) / (side * side)))
  return (y, wanted) => {
    run.orderedRow(wanted, columns, thresholds + 4 * side * (y % side), side, out)
    return out
  }
}

const within64 = (v: number): number => v - 64 * Math.floor(v / 64)

/** Bayer's matrix (B. Bayer, IEEE ICC 1973): ranks 0…side² − 1. @param side a power of two */
function bayer(side: number): number[] {
  let ranks = [0]
  for (let size = 1; size < side; size *= 2) {
    const next = new Array<number>(4 * size * size)
    for (let y = 0; y < size; y++) {
      for (let x = 0; x < size; x++) {
        const rank = 4 * ranks[y * size + x]
        next[y * 2 * size + x] = rank
        next[y * 2 * size + x + size] = rank + 2
        next[(y + size) * 2 * size + x] = rank + 3
        next[(y + size) * 2 * size + x + size] = rank + 1
      }
    }
    ranks = next
  }
  return ranks
}

/** Tiles of a Bayer screen whose ranks differ in small, so that tones between its few own ones come out in the mean. */
const BETWEEN = 16

/** Ranks of an ordered screen that repeats after `side` dots both ways. */
function screenRanks(kernel: Kernel): { readonly side: number; readonly ranks: ArrayLike<number> } {
  if (kernel === 'blue-noise') return { side: TILE, ranks: blueNoiseRanks() }
  const own = kernel === 'bayer-4' ? 4 : 8
  const ranks = bayer(own)
  const between = bayer(BETWEEN)
  const side = own * BETWEEN
  return {
    side,
    ranks: Float64Array.from({ length: side * side }, (_, i) => {
      const x = i % side
      const y = Math.floor(i / side)
      const tile = Math.floor(y / own) * BETWEEN + Math.floor(x / own)
      return ranks[(y % own) * own + (x % own)] * BETWEEN * BETWEEN + between[tile]
    }),
  }
}

/**
 * Thresholds for the hills −2…2 of cos + cos, so that each tone covers its share: one less their distribution, over the
 * dots as they really fall on this ruling and angle.
 */
function evenSteps(wave: Float32Array, du: number, dv: number): Float32Array {
  const place = (t: number): number => Math.floor((t - Math.floor(t)) * 1024)
  const side = 240
  // Fading out at the window's ends (Hann), so that a part of a period there counts for nothing.
  const fade = Float64Array.from({ length: side }, (_, i) => Math.sin((Math.PI * (i + 0.5)) / side) ** 2)
  const counts = new Float64Array(4097)
  let all = 0
  for (let y = 0; y < side; y++) {
    for (let x = 0; x < side; x++) {
      const u = 0.137 - dv * y + du * x
      const v = 0.061 + du * y + dv * x
      const weight = fade[x] * fade[y]
      counts[Math.floor((wave[place(u)] + wave[place(v)] + 2) * 1024)] += weight
      all += weight
    }
  }
  const out = new Float32Array(4097)
  let below = 0
  for (let i = 0; i <= 4096; i++) {
    out[i] = 1 - (below + counts[i] / 2) / all
    below += counts[i]
  }
  return out
}
