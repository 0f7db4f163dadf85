// Drawings that nobody here made, compared in pixels with a renderer of another house.
import { execFileSync } from 'node:child_process'
import { readdirSync, readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { dirname, join } from 'node:path'
import { coverage, decodePng, mapRing, type RawPicture, type Ring, readVectorFile, type Shape, seenArea } from '@neotaxis/core'
import { describe, expect, it } from 'vitest'
import { resolvedDrawing } from './resolved-drawing.ts'

const WIDE_PX = 160
const { resolve } = createRequire(import.meta.url)
const FLAGS = join(dirname(resolve('flag-icons/package.json')), 'flags', '4x3')
const ICONS = join(dirname(resolve('@tabler/icons/package.json')), 'icons')

/** So many files of a folder, spread over all of it. */
function spread(folder: string, most: number): string[] {
  const files = readdirSync(folder).filter((name) => name.endsWith('.svg'))
  const step = Math.max(1, files.length / most)
  return Array.from({ length: Math.min(most, files.length) }, (_, i) => join(folder, files[Math.floor(i * step)]))
}

/** A drawing painted shape after shape, each as it is seen, in its colours on white. */
function painted(bytes: Uint8Array, { widthPx: w, heightPx: h }: RawPicture): Float32Array {
  const { shapes, page } = readVectorFile(resolvedDrawing(bytes))
  const { x0, y0, x1, y1 } = page!
  const [sx, sy] = [w / (x1 - x0), h / (y1 - y0)]
  const out = new Float32Array(3 * w * h).fill(255)
  const paint = (shape: Shape, hex: string): void => {
    const rings: Ring[] = seenArea([shape]).map((ring) => mapRing(ring, sx, sy, -x0 * sx, -y0 * sy))
    const covered = coverage(rings, w, h)
    const rgb = [1, 3, 5].map((i) => Number.parseInt(hex.slice(i, i + 2), 16))
    for (let i = 0; i < covered.length; i++)
      for (let k = 0; k < 3; k++) out[3 * i + k] += (rgb[k] - out[3 * i + k]) * Math.min(1, covered[i])
  }
  for (const shape of shapes) {
    const { fill, stroke, ...look } = shape.look
    if (fill) paint({ ...shape, look: { ...look, fill } }, fill)
    if (stroke) paint({ ...shape, look: { ...look, stroke } }, stroke)
  }
  return out
}

/** The share of pixels that are clearly another colour. */
function differing(file: string): number {
  const png = decodePng(
    new Uint8Array(
      execFileSync('rsvg-convert', ['-w', String(WIDE_PX), '--background-color=white', file], { maxBuffer: 1 << 26 }),
    ),
  )
  const ours = painted(new Uint8Array(readFileSync(file)), png)
  const { channels, samples } = png
  let off = 0
  const n = png.widthPx * png.heightPx
  for (let i = 0; i < n; i++) {
    let most = 0
    for (let k = 0; k < 3; k++) most = Math.max(most, Math.abs(ours[3 * i + k] - samples[channels * i + (channels < 3 ? 0 : k)]))
    if (most > 64) off++
  }
  return off / n
}

describe('drawings of others', () => {
  it.each([
    ['flags', spread(FLAGS, 160)],
    ['icons of lines', spread(join(ICONS, 'outline'), 140)],
    ['filled icons', spread(join(ICONS, 'filled'), 120)],
  ])('%s look as another renderer draws them: at most one in a hundred differs in more than 1 %% of its pixels', (_, files) => {
    const off = files.map((file) => ({ file, share: differing(file) })).filter(({ share }) => share > 0.01)
    expect(off.map(({ file, share }) => `${file.split('/').at(-1)}: ${(100 * share).toFixed(2)} %`).length).toBeLessThanOrEqual(
      Math.floor(files.length / 100),
    )
  })
})
