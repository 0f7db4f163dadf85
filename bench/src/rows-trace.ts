import type { GreyPicture } from '@neotaxis/core'
import { DEFAULT_CORNER_DEG, DEFAULT_TOLERANCE_PX, trace } from '@neotaxis/core/outline/trace'
import sharp from 'sharp'
import { compareOutlines } from './accuracy.ts'
import { pairSeconds, type Row, timeRow } from './measure.ts'
import { potraceOn } from './potrace.ts'
import { randomFrom } from './random.ts'
import { glyphPicture, simplePicture } from './shapes.ts'

const MAKERS = { simple: simplePicture, 'glyph-rich': glyphPicture }
const SPECKS_PX = 2

/** Tracing against Debian's bitmap tracer: time and segments at 16 MP, accuracy on shapes of known geometry. */
export async function traceRows(seed: number): Promise<Row[]> {
  const rows: Row[] = []
  for (const [name, make] of Object.entries(MAKERS)) {
    for (const side of [2000, 4000]) {
      const { picture, truth } = make(side, randomFrom(seed))
      const options = {
        threshold: 0.5,
        channel: 'grey' as const,
        tolerancePx: DEFAULT_TOLERANCE_PX,
        cornerDeg: DEFAULT_CORNER_DEG,
        minAreaPx: SPECKS_PX,
      }
      const reference = potraceOn(picture, SPECKS_PX)
      const label = `trace ${name} ${(side * side) / 1e6} MP`
      rows.push(timeRow(label, await pairSeconds(() => trace(picture, options), reference.run), 0.5))
      if (side === 2000) {
        const paths = trace(picture, options)
        const theirs = reference.paths()
        const a = compareOutlines(paths, truth, side, side)
        const b = compareOutlines(theirs, truth, side, side)
        const segments = (list: readonly { kinds: Uint8Array }[]): number =>
          list.reduce((sum, { kinds }) => sum + kinds.length, 0)
        rows.push({ what: `${label}: RMS error`, ours: a.rms, reference: b.rms, unit: 'px', target: 0.25 })
        rows.push({ what: `${label}: max error`, ours: a.max, reference: b.max, unit: 'px', target: 1 })
        rows.push({ what: `${label}: segments`, ours: segments(paths), reference: segments(theirs), unit: '', target: 1 })
      }
      reference.end()
    }
  }
  rows.push(...(await noisyRows(seed)))
  return rows
}

/** Pieces and accuracy on pictures with the grain of a scan, or saved as JPEG, against the same reference. */
async function noisyRows(seed: number): Promise<Row[]> {
  const rows: Row[] = []
  const side = 1000
  const compared = (what: string, noisy: GreyPicture, truth: Parameters<typeof compareOutlines>[1]): void => {
    const reference = potraceOn(noisy, 20)
    reference.run()
    const theirs = reference.paths()
    reference.end()
    const paths = trace(noisy, {
      threshold: 0.5,
      channel: 'grey',
      tolerancePx: DEFAULT_TOLERANCE_PX,
      cornerDeg: DEFAULT_CORNER_DEG,
      minAreaPx: 20,
    })
    const count = (list: readonly { kinds: Uint8Array }[]): number => list.reduce((sum, { kinds }) => sum + kinds.length, 0)
    const [a, b] = [compareOutlines(paths, truth, side, side), compareOutlines(theirs, truth, side, side)]
    rows.push({ what: `trace simple 1 MP, ${what}: RMS error`, ours: a.rms, reference: b.rms, unit: 'px', target: 0.5 })
    rows.push({
      what: `trace simple 1 MP, ${what}: segments`,
      ours: count(paths),
      reference: count(theirs),
      unit: '',
      target: 1.5,
    })
  }
  for (const sigma of [0, 4, 8, 14, 20]) {
    const random = randomFrom(seed + sigma)
    const { picture, truth } = simplePicture(side, random)
    const grain = (): number => sigma * Math.sqrt(-2 * Math.log(random() + 1e-12)) * Math.cos(2 * Math.PI * random())
    const samples = Uint8Array.from(picture.samples, (v) =>
      Math.max(0, Math.min(255, Math.round(35 + (185 * v) / 255 + grain()))),
    )
    compared(`grain ${sigma}`, { ...picture, samples }, truth)
  }
  for (const quality of [50, 65, 80, 95]) {
    const { picture, truth } = simplePicture(side, randomFrom(seed + quality))
    const raw = { width: side, height: side, channels: 1 as const }
    const jpeg = await sharp(picture.samples as Uint8Array, { raw })
      .jpeg({ quality })
      .toBuffer()
    const samples = new Uint8Array(await sharp(jpeg).greyscale().raw().toBuffer())
    compared(`JPEG ${quality}`, { ...picture, samples }, truth)
  }
  return rows
}
