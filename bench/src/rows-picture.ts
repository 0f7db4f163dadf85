import { execFileSync } from 'node:child_process'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { Arena } from '@neotaxis/core/kernels/kernel'
import { rowDither } from '@neotaxis/core/picture/dither'
import { wholeFrame } from '@neotaxis/core/picture/framing'
import { pictureKernel } from '@neotaxis/core/picture/picture-kernel'
import { prepareMarks } from '@neotaxis/core/picture/prepare'
import { resampleMarks } from '@neotaxis/core/picture/resample'
import { NO_TREATMENT, PLAIN_DOTS, type Treatment } from '@neotaxis/core/picture/steps'
import sharp from 'sharp'
import { pairSeconds, type Row, seconds, timeRow } from './measure.ts'
import { randomFrom } from './random.ts'

/** A soft, noisy grey picture, as photographs are. */
function photo(width: number, height: number, seed: number): Uint8Array {
  const random = randomFrom(seed)
  const samples = new Uint8Array(width * height)
  const waves = Array.from({ length: 6 }, () => [random() * 0.02, random() * 0.02, random() * 6, 30 * random()])
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      let v = 128
      for (const [fx, fy, phase, amplitude] of waves) v += amplitude * Math.sin(fx * x + fy * y + phase)
      samples[y * width + x] = Math.max(0, Math.min(255, v + 12 * (random() - 0.5)))
    }
  }
  return samples
}

const DITHER = ['-dither', 'FloydSteinberg', '-remap', 'pattern:gray50']

/** Our seconds and ImageMagick's for error diffusion, its file I/O taken off by runs that only read and write. */
async function magickPair(
  ours: () => void,
  samples: Uint8Array,
  width: number,
  height: number,
): Promise<readonly [number, number]> {
  const folder = mkdtempSync(join(tmpdir(), 'neotaxis-bench-'))
  try {
    const input = join(folder, 'in.pgm')
    const output = join(folder, 'out.pgm')
    writeFileSync(input, Buffer.concat([Buffer.from(`P5\n${width} ${height}\n255\n`), samples]))
    const program = ['convert-im6.q16', 'convert-im6', 'convert'].find((name) => {
      try {
        return execFileSync(name, ['-version'], { encoding: 'utf8' }).includes('ImageMagick 6')
      } catch {
        return false
      }
    })
    if (!program) throw new Error('ImageMagick is not there.')
    const limits = ['-limit', 'thread', '1']
    const io = seconds(() => execFileSync(program, [...limits, input, output]), 3)
    const [mine, whole] = await pairSeconds(ours, () => execFileSync(program, [...limits, input, ...DITHER, output]), 5)
    return [mine, Math.max(0.001, whole - io)]
  } finally {
    rmSync(folder, { recursive: true, force: true })
  }
}

export async function pictureRows(seed: number): Promise<Row[]> {
  const rows: Row[] = []
  for (const [width, height] of [
    [2500, 2000],
    [5000, 4000],
  ]) {
    const samples = photo(width, height, seed)
    const wanted = Float32Array.from(samples, (v) => 1 - v / 255)
    const dots = new Uint8Array(width * height)
    const diffuse = (): void => {
      const { run, room } = pictureKernel()
      const arena = new Arena(run.freeFrom())
      const dither = rowDither({ run, room }, arena, PLAIN_DOTS, width, 0.1)
      const at = arena.take(4 * width)
      const memory = room(arena.bytes)
      const row = new Float32Array(memory.buffer, at, width)
      for (let y = 0; y < height; y++) {
        row.set(wanted.subarray(y * width, (y + 1) * width))
        const made = dither(y, at)
        dots.set(memory.subarray(made, made + width), y * width)
      }
    }
    const times = await magickPair(diffuse, samples, width, height)
    const made = dots.reduce((sum, v) => sum + (v & 1), 0)
    const mean = wanted.reduce((sum, v) => sum + v, 0) / wanted.length
    const off = Math.abs(made / wanted.length - mean)
    rows.push(
      timeRow(
        `error diffusion ${(width * height) / 1e6} MP`,
        times,
        0.25,
        `mean tone off by ${(100 * off).toFixed(3)} % (0.5 % allowed)`,
      ),
    )
  }
  for (const megapixels of [2, 4, 8]) {
    const width = Math.round(Math.sqrt(megapixels * 1.5e6))
    const height = Math.round((megapixels * 1e6) / width)
    const source = wholeFrame({
      widthPx: 2 * width,
      heightPx: 2 * height,
      samples: photo(2 * width, 2 * height, seed),
      full: 255,
    })
    const on = true as const
    const corner = { kind: 'rectangle', add: true, x: 0, y: 0, width, height } as const
    const treatment: Treatment = {
      steps: {
        flatten: { kind: 'flatten', on, radiusMm: 8 },
        levels: { kind: 'levels', on, black: 20, white: 230, gamma: 1.2, ink: [], paper: [] },
        sharpen: { kind: 'sharpen', on, radius: 1.2, amount: 80, threshold: 3, mask: 'corner' },
        clean: { kind: 'clean', on, below: 0.03, specksMm2: 0.05 },
      },
      order: ['flatten', 'levels', 'sharpen', 'clean'],
      masks: { corner: { name: 'corner', feather: 20, parts: { a: corner }, order: ['a'] } },
    }
    const time = seconds(() => prepareMarks(source, treatment, PLAIN_DOTS, width, height, { pitchMm: 0.127 }), 3)
    rows.push({
      what: `whole treatment, ${megapixels} M dots of ${4 * megapixels} MP`,
      ours: 1000 * time,
      reference: undefined,
      unit: 'ms',
      target: undefined,
      note: `${((1000 * time) / megapixels).toFixed(0)} ms a million dots: even light, levels, masked sharpening, specks, dots`,
    })
  }
  const wide = photo(5000, 4000, seed)
  for (const kernel of ['jarvis-judice-ninke', 'atkinson', 'clustered', 'blue-noise'] as const) {
    const source = wholeFrame({ widthPx: 5000, heightPx: 4000, samples: wide, full: 255 })
    const made = { mean: 0 }
    const time = seconds(() => {
      const { meanTone, wantedTone } = prepareMarks(source, NO_TREATMENT, { ...PLAIN_DOTS, kernel }, 5000, 4000, { pitchMm: 0.1 })
      made.mean = Math.abs(meanTone - wantedTone)
    }, 3)
    rows.push({
      what: `${kernel} 20 MP, with its tone`,
      ours: 1000 * time,
      reference: undefined,
      unit: 'ms',
      target: undefined,
      note: `mean tone off by ${(100 * made.mean).toFixed(3)} %`,
    })
  }
  sharp.concurrency(1)
  sharp.cache(false)
  for (const [from, to] of [
    [5000, 2362],
    [2500, 5000],
  ]) {
    const samples = photo(from, from, seed + 1)
    const picture = { widthPx: from, heightPx: from, samples, full: 255 }
    const target = new Uint8Array(to * to)
    const table = Float32Array.from({ length: 256 }, (_, i) => i / 255)
    const ours = (): void => {
      const kernel = pictureKernel()
      const arena = new Arena(kernel.run.freeFrom())
      const grey = arena.take(to)
      resampleMarks(kernel, arena, picture, table, to, to, (y, at) => {
        kernel.run.greyRow(at, to, grey)
        target.set(kernel.room(0).subarray(grey, grey + to), y * to)
      })
    }
    const reference = (): Promise<unknown> =>
      sharp(samples, { raw: { width: from, height: from, channels: 1 } })
        .resize(to, to, { kernel: to < from ? 'linear' : 'lanczos3', fit: 'fill', fastShrinkOnLoad: false })
        .raw()
        .toBuffer()
    rows.push(
      timeRow(`resample ${(from * from) / 1e6} MP → ${((to * to) / 1e6).toFixed(1)} MP`, await pairSeconds(ours, reference), 1.5),
    )
  }
  return rows
}
