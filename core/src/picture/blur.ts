import { Arena, type Kernel } from '../kernels/kernel.ts'
import { type PictureKernel, pictureKernel } from './picture-kernel.ts'

/** From this width on three box passes are quicker than weighing every neighbour, px. */
const WIDE = 10

/** Gaussian weights from the middle out to three widths, summing to 1 with both sides. */
function gaussianWeights(sigma: number): Float32Array {
  const radius = Math.max(1, Math.ceil(3 * sigma))
  const weights = Float64Array.from({ length: radius + 1 }, (_, k) => Math.exp((-k * k) / (2 * sigma * sigma)))
  const sum = weights.reduce((all, w, k) => all + (k === 0 ? w : 2 * w), 0)
  return Float32Array.from(weights, (w) => w / sum)
}

/** Fetches row y of a picture into the kernel's memory (f32), and takes the blurred row y from it. */
export interface BlurRows {
  readonly fetch: (y: number, at: number) => void
  readonly take: (y: number, at: number) => void
}

/**
 * A picture blurred by a Gaussian row by row, in the kernel's memory: across, then down over the rows around. Borders repeat
 * outwards. @param sigma pixels, up to 10
 */
export function blurRows(
  { run, room }: Kernel<PictureKernel>,
  arena: Arena,
  width: number,
  height: number,
  sigma: number,
  { fetch, take }: BlurRows,
): void {
  const weights = gaussianWeights(sigma)
  const radius = weights.length - 1
  const count = 2 * radius + 1
  const table = arena.take(weights.byteLength)
  const addresses = arena.take(4 * count)
  const raw = arena.take(4 * (width + 2 * radius + 16)) + 4 * radius
  const ring = Array.from({ length: count }, () => arena.take(4 * width + 16))
  const out = arena.take(4 * width + 16)
  const memory = room(arena.bytes)
  memory.set(new Uint8Array(weights.buffer), table)
  const view = new DataView(memory.buffer)
  let fetched = -1
  for (let y = 0; y < height; y++) {
    for (const last = Math.min(height - 1, y + radius); fetched < last; ) {
      fetched++
      fetch(fetched, raw)
      run.widenRow(raw, width, radius)
      run.blurRow(raw, width, table, radius, ring[fetched % count])
    }
    for (let k = -radius; k <= radius; k++) {
      const row = Math.min(height - 1, Math.max(0, y + k))
      view.setInt32(addresses + 4 * (k + radius), ring[row % count], true)
    }
    run.blurDown(addresses, width, table, radius, out)
    take(y, out)
  }
}

/** A plane blurred by a Gaussian, in place; of any width. @param plane row by row @param sigma pixels */
export function gaussian(plane: Float32Array, width: number, height: number, sigma: number): void {
  if (!(sigma > 0)) return
  if (sigma > WIDE) {
    boxes(plane, width, height, sigma)
    return
  }
  const kernel = pictureKernel()
  blurRows(kernel, new Arena(kernel.run.freeFrom()), width, height, sigma, {
    fetch: (y, at) => new Float32Array(kernel.room(0).buffer, at, width).set(plane.subarray(y * width, (y + 1) * width)),
    take: (y, at) => plane.set(new Float32Array(kernel.room(0).buffer, at, width), y * width),
  })
}

/**
 * Three box passes with fractional ends come within 3 % of a Gaussian at any width and cost the same for all (P. Gwosdek
 * et al., Scale Space and Variational Methods, 2011).
 */
function boxes(plane: Float32Array, width: number, height: number, sigma: number): void {
  const passes = 3
  // The box of radius r + α whose variance, `passes` times, is σ².
  const r = Math.floor(0.5 * Math.sqrt((12 * sigma * sigma) / passes + 1) - 0.5)
  const alpha =
    ((2 * r + 1) * (r * (r + 1) - (3 * sigma * sigma) / passes)) / (6 * ((sigma * sigma) / passes - (r + 1) * (r + 1)))
  const scale = 1 / (2 * r + 1 + 2 * alpha)
  const line = new Float32Array(width)
  for (let y = 0; y < height; y++) {
    const row = plane.subarray(y * width, (y + 1) * width)
    for (let pass = 0; pass < passes; pass++) {
      boxRow(row, line, width, r, alpha, scale)
      row.set(line)
    }
  }
  // Down the columns in strips, so that whole cache lines are used.
  const strip = 64
  const copy = new Float32Array(strip * height)
  const sums = new Float64Array(strip)
  for (let x0 = 0; x0 < width; x0 += strip) {
    const n = Math.min(strip, width - x0)
    for (let pass = 0; pass < passes; pass++) {
      for (let y = 0; y < height; y++) copy.set(plane.subarray(y * width + x0, y * width + x0 + n), y * strip)
      const at = (y: number): number => (y < 0 ? 0 : y >= height ? height - 1 : y) * strip
      sums.fill(0)
      for (let k = -r; k <= r; k++) for (let i = 0, o = at(k); i < n; i++) sums[i] += copy[o + i]
      for (let y = 0; y < height; y++) {
        const above = at(y - r - 1)
        const below = at(y + r + 1)
        const leaving = at(y - r)
        const out = y * width + x0
        for (let i = 0; i < n; i++) {
          plane[out + i] = (sums[i] + alpha * (copy[above + i] + copy[below + i])) * scale
          sums[i] += copy[below + i] - copy[leaving + i]
        }
      }
    }
  }
}

function boxRow(row: Float32Array, out: Float32Array, width: number, r: number, alpha: number, scale: number): void {
  const at = (x: number): number => row[x < 0 ? 0 : x >= width ? width - 1 : x]
  let sum = 0
  for (let k = -r; k <= r; k++) sum += at(k)
  const inner = width - r - 1
  for (let x = 0; x < width; x++) {
    if (x > r && x < inner) {
      out[x] = (sum + alpha * (row[x - r - 1] + row[x + r + 1])) * scale
      sum += row[x + r + 1] - row[x - r]
    } else {
      out[x] = (sum + alpha * (at(x - r - 1) + at(x + r + 1))) * scale
      sum += at(x + r + 1) - at(x - r)
    }
  }
}
