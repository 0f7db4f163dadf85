// Pictures in the ways that files have them, compared with another reader.
import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { decodePng, type RawPicture } from '@neotaxis/core'
import sharp from 'sharp'
import { afterAll, describe, expect, it } from 'vitest'
import { takeIn } from './take-in.ts'

const folder = mkdtempSync(join(tmpdir(), 'neotaxis-pictures-'))
afterAll(() => rmSync(folder, { recursive: true, force: true }))

const [W, H] = [61, 43]
/** Soft colours and a sharp corner: whatever is swapped, shifted or turned shows. */
const raw = Uint8Array.from({ length: W * H * 3 }, (_, i) => {
  const [x, y, c] = [Math.floor(i / 3) % W, Math.floor(i / 3 / W), i % 3]
  if (x < 9 && y < 6) return [230, 40, 10][c]
  return Math.round(c === 0 ? (255 * x) / W : c === 1 ? (255 * y) / H : 255 - (255 * (x + y)) / (W + H))
})
const image = () => sharp(raw, { raw: { width: W, height: H, channels: 3 } })
const source = join(folder, 'source.png')

/** A file made by the other program, as it reads it itself: RGB of 8 bit. */
async function both(
  name: string,
  ...how: readonly string[]
): Promise<{ readonly file: Uint8Array; readonly wanted: Uint8Array }> {
  writeFileSync(source, await image().png().toBuffer())
  // A kind of its own stands before the name.
  const [kind, plain] = name.includes(':') ? name.split(':') : [undefined, name]
  const made = join(folder, plain)
  execFileSync('convert', [source, ...how, kind ? `${kind}:${made}` : made])
  const wanted = execFileSync('convert', [made, '-auto-orient', '-alpha', 'off', '-depth', '8', '-colorspace', 'sRGB', 'rgb:-'])
  return { file: new Uint8Array(readFileSync(made)), wanted: new Uint8Array(wanted) }
}

/** How far colours lie apart at most, 0–255. */
function farthest({ channels, samples, full, widthPx, heightPx }: RawPicture, wanted: Uint8Array): number {
  let most = 0
  expect(wanted.length).toBe(widthPx * heightPx * 3)
  for (let i = 0; i < widthPx * heightPx; i++)
    for (let c = 0; c < 3; c++) {
      const own = (255 * samples[i * channels + (channels < 3 ? 0 : c)]) / full
      most = Math.max(most, Math.abs(own - wanted[3 * i + c]))
    }
  return most
}

describe('a picture file', () => {
  it.each([
    ['BMP of 24 bit', 'a.bmp', ['-type', 'truecolor']],
    ['BMP of 32 bit, with masks', 'b.bmp', ['-alpha', 'on']],
    ['BMP with a palette of 8 bit', 'c.bmp', ['-colors', '200', '-type', 'palette', '-compress', 'none']],
    ['BMP with a palette of 8 bit, in run lengths', 'd.bmp', ['-colors', '200', '-type', 'palette', '-compress', 'rle']],
    ['BMP of 4 bit', 'e.bmp', ['-colors', '14', '-type', 'palette', '-compress', 'none']],
    ['BMP of black and white', 'f.bmp', ['-monochrome', '-compress', 'none']],
    ['BMP of an old kind', 'bmp2:g.bmp', ['-type', 'truecolor']],
    ['BMP of 16 bit', 'h.bmp', ['-define', 'bmp:subtype=RGB565']],
    ['TIFF in separate planes', 'a.tiff', ['-interlace', 'plane']],
    ['TIFF in tiles', 'b.tiff', ['-define', 'tiff:tile-geometry=32x32']],
    ['TIFF of 16 bit', 'c.tiff', ['-depth', '16']],
    ['TIFF with a palette', 'd.tiff', ['-colors', '32', '-type', 'palette']],
    ['TIFF that is white at 0', 'e.tiff', ['-monochrome', '-define', 'quantum:polarity=min-is-white']],
    ['TIFF in LZW', 'f.tiff', ['-compress', 'lzw']],
    ['grey PNG of 1 bit', 'a.png', ['-monochrome']],
    ['PNG with a palette', 'b.png', ['-colors', '40', '-type', 'palette']],
    ['interlaced PNG', 'c.png', ['-interlace', 'line']],
    ['GIF', 'a.gif', ['-colors', '64']],
    ['WebP without loss', 'a.webp', ['-define', 'webp:lossless=true']],
  ] as const)('%s is what another reader reads, to 1 in 255', async (_, name, how) => {
    const { file, wanted } = await both(name, ...how)
    expect(farthest(decodePng((await takeIn(file)).bytes), wanted)).toBeLessThanOrEqual(1)
  })

  it('BMP in run lengths of 4 bit is what they say: runs, single ones, skips and ends of lines', async () => {
    const colours = [0, 80, 160, 240].flatMap((v) => [v, v, v, 0])
    // From the bottom up: three of 1 and 2 in turns, two of 3 by themselves; the line ends; two are skipped, three of 3; the end.
    const packed = [3, 0x12, 0, 3, 0x33, 0x30, 0, 0, 0, 2, 2, 0, 3, 0x33, 0, 1]
    const file = new Uint8Array(54 + colours.length + packed.length)
    const view = new DataView(file.buffer)
    file.set([0x42, 0x4d])
    view.setUint32(10, 54 + colours.length, true)
    for (const [at, value] of [
      [14, 40],
      [18, 6],
      [22, 2],
      [30, 2],
      [34, packed.length],
      [46, 4],
    ])
      view.setUint32(at, value, true)
    view.setUint16(26, 1, true)
    view.setUint16(28, 4, true)
    file.set(colours, 54)
    file.set(packed, 54 + colours.length)
    const { samples, channels } = decodePng((await takeIn(file)).bytes)
    expect(Array.from({ length: 12 }, (_, i) => samples[i * channels])).toEqual([
      0, 0, 240, 240, 240, 0, 80, 160, 80, 240, 240, 240,
    ])
  })

  it('prints nothing, tiled or not', async () => {
    const said: unknown[] = []
    const write = process.stdout.write
    process.stdout.write = ((text: unknown) => said.push(text) > 0) as never
    try {
      await takeIn((await both('t.tiff', '-define', 'tiff:tile-geometry=16x16')).file)
    } finally {
      process.stdout.write = write
    }
    expect(said).toEqual([])
  })

  it.each(['png', 'webp', 'jpeg', 'tiff'] as const)('held sideways is turned upright: %s', async (format) => {
    const made = image().withMetadata({ orientation: 6 })
    const file = new Uint8Array(
      await (format === 'png'
        ? made.png()
        : format === 'webp'
          ? made.webp({ lossless: true })
          : format === 'jpeg'
            ? made.jpeg({ quality: 100, chromaSubsampling: '4:4:4' })
            : made.tiff()
      ).toBuffer(),
    )
    const taken = await takeIn(file)
    expect([taken.widthPx, taken.heightPx]).toEqual([H, W])
    const { samples, channels } = decodePng(taken.bytes)
    // The red corner came from the top left to the top right.
    const [r, g] = [0, 1].map((c) => samples[channels * (2 * H + H - 3) + c])
    expect(r).toBeGreaterThan(200)
    expect(g).toBeLessThan(80)
  })

  it('of print is made one of the screen, and that is told', async () => {
    const file = new Uint8Array(await image().toColourspace('cmyk').jpeg({ quality: 95 }).toBuffer())
    const taken = await takeIn(file)
    expect(taken.notices).toEqual(['It is in CMYK, the colours of print: they were made those of a screen.'])
    const { samples, channels } = decodePng(taken.bytes)
    expect(channels).toBe(3)
    expect(samples[0]).toBeGreaterThan(samples[1] + 80)
  })

  it('of several pages is its first one, and that is told', async () => {
    writeFileSync(source, await image().png().toBuffer())
    const made = join(folder, 'pages.tiff')
    execFileSync('convert', [source, '(', source, '-negate', ')', made])
    const taken = await takeIn(new Uint8Array(readFileSync(made)))
    expect(taken.notices).toEqual(['It holds 2 pages: the first one was taken.'])
    expect([taken.widthPx, taken.heightPx]).toEqual([W, H])
  })
})
