import { decodePng, encodePng, PictureError, type RawPicture } from '@neotaxis/core'
import fc from 'fast-check'
import sharp from 'sharp'
import { describe, expect, it } from 'vitest'
import { takeIn } from './take-in.ts'

const W = 24
const H = 16
/** Left half dark, right half light, a mark at the top left: shows every way it can be turned. */
const raw = Uint8Array.from({ length: W * H * 3 }, (_, i) => {
  const x = Math.floor(i / 3) % W
  const y = Math.floor(i / 3 / W)
  return x < 4 && y < 4 ? 0 : x < W / 2 ? 80 : 220
})
const image = () => sharp(raw, { raw: { width: W, height: H, channels: 3 } })
/** The same as a BMP of 24 bit: rows from the bottom up, blue first, each filled to four bytes. */
async function bmp(): Promise<Buffer> {
  const stride = (3 * W + 3) & ~3
  const out = Buffer.alloc(54 + stride * H)
  out.write('BM')
  out.writeUInt32LE(out.length, 2)
  out.writeUInt32LE(54, 10)
  out.writeUInt32LE(40, 14)
  out.writeInt32LE(W, 18)
  out.writeInt32LE(H, 22)
  out.writeUInt16LE(1, 26)
  out.writeUInt16LE(24, 28)
  for (let y = 0; y < H; y++)
    for (let i = 0; i < 3 * W; i++) out[54 + (H - 1 - y) * stride + i] = raw[3 * W * y + 3 * Math.floor(i / 3) + 2 - (i % 3)]
  return out
}
const png = (picture: RawPicture): Uint8Array => encodePng(picture)

describe('takeIn', () => {
  it.each([
    ['JPEG', () => image().jpeg({ quality: 95 }).toBuffer(), 12],
    ['progressive JPEG', () => image().jpeg({ quality: 95, progressive: true }).toBuffer(), 12],
    ['GIF', () => image().gif().toBuffer(), 6],
    ['TIFF', () => image().tiff({ compression: 'lzw' }).toBuffer(), 0],
    ['WebP', () => image().webp({ lossless: true }).toBuffer(), 0],
    ['BMP', bmp, 0],
    ['PNG with a palette', () => image().png({ palette: true }).toBuffer(), 2],
  ])('reads %s', async (_name, make, off) => {
    const { bytes, widthPx, heightPx, hasAlpha } = await takeIn(new Uint8Array(await make()))
    expect([widthPx, heightPx, hasAlpha]).toEqual([W, H, false])
    const { samples, channels } = decodePng(bytes)
    const at = (x: number, y: number): number => samples[(y * W + x) * channels]
    for (const [x, y, v] of [
      [1, 1, 0],
      [6, 10, 80],
      [20, 10, 220],
    ])
      expect(Math.abs(at(x, y) - v)).toBeLessThanOrEqual(off)
  })

  it('reads small files out of a larger buffer, as Node gives them', async () => {
    for (const made of [image().jpeg(), image().webp(), image().gif(), image().tiff(), image().png()]) {
      const file = await made.toBuffer()
      const pool = Buffer.concat([Buffer.from('{"before": 1}'), file, Buffer.from('behind')])
      const { widthPx } = await takeIn(pool.subarray(13, 13 + file.length))
      expect(widthPx).toBe(W)
    }
  })

  it('turns pictures as the camera held them, and reads their resolution', async () => {
    const turned = await image().withMetadata({ orientation: 6, density: 254 }).jpeg({ quality: 95 }).toBuffer()
    const taken = await takeIn(new Uint8Array(turned))
    expect([taken.widthPx, taken.heightPx]).toEqual([H, W])
    expect(taken.pixelsPerMm).toBeCloseTo(10, 1)
    const { samples, channels } = decodePng(taken.bytes)
    expect(samples[(1 * H + H - 2) * channels]).toBeLessThan(30)
  })

  it('keeps a plain PNG byte for byte, in 8 and 16 bit, and says whether anything shows through', async () => {
    const deep = png({ widthPx: 3, heightPx: 2, channels: 1, samples: Uint16Array.of(0, 9, 99, 999, 9999, 65_535), full: 65_535 })
    expect((await takeIn(deep)).bytes).toBe(deep)
    const clear = png({ widthPx: 2, heightPx: 1, channels: 4, samples: Uint8Array.of(1, 2, 3, 255, 4, 5, 6, 0), full: 255 })
    expect((await takeIn(clear)).hasAlpha).toBe(true)
    const opaque = png({ widthPx: 2, heightPx: 1, channels: 4, samples: Uint8Array.of(1, 2, 3, 255, 4, 5, 6, 255), full: 255 })
    expect((await takeIn(opaque)).hasAlpha).toBe(false)
  })

  it('keeps 16 bits and the resolution of a grey TIFF', async () => {
    const deep = Uint16Array.from({ length: W * H }, (_, i) => i * 150 + 7)
    const tiff = await sharp(deep, { raw: { width: W, height: H, channels: 1 } })
      .toColourspace('grey16')
      .tiff({ compression: 'deflate', xres: 20, yres: 20 })
      .toBuffer()
    const taken = await takeIn(new Uint8Array(tiff))
    const { samples, full } = decodePng(taken.bytes)
    expect(full).toBe(65_535)
    expect([...samples]).toEqual([...deep])
    expect(taken.pixelsPerMm).toBeCloseTo(20, 1)
  })

  it('keeps a mesh as it is, and tells its size', async () => {
    const bytes = new Uint8Array(134)
    const view = new DataView(bytes.buffer)
    view.setUint32(80, 1, true)
    for (const [k, v] of [0, 0, 0, 30, 0, 0, 0, 20, 5].entries()) view.setFloat32(96 + 4 * k, v, true)
    const { mesh, widthPx, heightPx, bytes: kept } = await takeIn(bytes)
    expect(mesh).toEqual({ width: 30, height: 20, depth: 5, triangles: 1, dropped: 0 })
    expect([widthPx, heightPx]).toEqual([1600, 1067])
    expect(kept).toBe(bytes)
  })

  it('takes drawings in as they are, with their size and what was left out', async () => {
    const bytes = new TextEncoder().encode(
      '<svg xmlns="http://www.w3.org/2000/svg" width="40mm" height="30mm" viewBox="0 0 40 30"><image href="x.png" width="3" height="3"/><rect x="5" y="5" width="30" height="12"/></svg>',
    )
    const { drawing, bytes: kept } = await takeIn(bytes)
    expect(drawing).toMatchObject({ widthMm: 30, heightMm: 12, shapes: 1 })
    expect(drawing!.notices).toHaveLength(1)
    expect(kept).toBe(bytes)
  })

  it('names a picture by what is in it: the same file, the same name', async () => {
    const file = new Uint8Array(await image().tiff().toBuffer())
    expect((await takeIn(file)).asset).toBe((await takeIn(file.slice())).asset)
  })

  it('refuses what is no picture, cut short, or claims too much, each with a sentence', async () => {
    const refuse = async (bytes: Uint8Array, sentence: string): Promise<void> => {
      await expect(takeIn(bytes)).rejects.toThrow(PictureError)
      await expect(takeIn(bytes)).rejects.toThrow(sentence)
    }
    await refuse(new Uint8Array(0), 'The file is empty')
    await refuse(new TextEncoder().encode('words and more words, but no picture'), 'no picture that can be read')
    const jpeg = new Uint8Array(await image().jpeg().toBuffer())
    await refuse(jpeg.subarray(0, jpeg.length - 30), 'cut short')
    const claims = png({ widthPx: 2, heightPx: 2, channels: 1, samples: new Uint8Array(4), full: 255 }).slice()
    new DataView(claims.buffer).setUint32(16, 60_000)
    new DataView(claims.buffer).setUint32(20, 60_000)
    await refuse(claims, 'claims 60000 × 60000 px')
    await refuse(
      new TextEncoder().encode('<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"/>'),
      'holds no line and no area',
    )
  })

  it.each([
    ['JPEG', () => image().jpeg().toBuffer()],
    ['GIF', () => image().gif().toBuffer()],
    ['WebP', () => image().webp().toBuffer()],
    ['TIFF', () => image().tiff().toBuffer()],
    ['PNG', () => image().png().toBuffer()],
    ['BMP', bmp],
  ])('answers any change of a %s with a picture or a sentence, soon', { timeout: 600_000 }, async (_, make) => {
    const file = new Uint8Array(await make())
    let slowest = 0
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.tuple(fc.double({ min: 0, max: 0.999, noNaN: true }), fc.integer({ min: 0, max: 255 })), {
          minLength: 1,
          maxLength: 6,
        }),
        fc.oneof(fc.constant(1), fc.double({ min: 0.3, max: 1, noNaN: true })),
        async (changes, keep) => {
          const bytes = file.slice(0, Math.ceil(file.length * keep))
          for (const [at, value] of changes) bytes[Math.floor(at * bytes.length)] = value
          const began = performance.now()
          let megapixels = 0
          try {
            const { widthPx, heightPx } = await takeIn(bytes)
            megapixels = (widthPx * heightPx) / 1e6
          } catch (cause) {
            expect(cause).toBeInstanceOf(PictureError)
          }
          // A changed size may be a large picture, which takes its time.
          slowest = Math.max(slowest, (performance.now() - began) / (1 + megapixels))
        },
      ),
      { numRuns: 10_000 },
    )
    expect(slowest).toBeLessThan(2000)
  })

  it.each([false, true])('unpacks a GIF of many codes, its table filled and begun anew (interlaced: %s)', async (interlaced) => {
    const side = 300
    const noise = Uint8Array.from(
      { length: side * side * 3 },
      (_, i) => ((Math.imul(Math.floor(i / 3), 2654435761) >>> 27) & 31) * 8,
    )
    const file = await sharp(noise, { raw: { width: side, height: side, channels: 3 } })
      .gif({ colours: 64, dither: 0, effort: 1, progressive: interlaced })
      .toBuffer()
    const wanted = await sharp(file).removeAlpha().toColourspace('b-w').raw().toBuffer()
    const got = decodePng((await takeIn(new Uint8Array(file))).bytes)
    expect([got.widthPx, got.heightPx]).toEqual([side, side])
    const step = got.channels
    for (let i = 0; i < side * side; i++) if (got.samples[step * i] !== wanted[i]) throw new Error(`pixel ${i} differs`)
  })

  it('reads good pictures after many damaged ones as before them', async () => {
    const file = new Uint8Array(await image().jpeg().toBuffer())
    const before = (await takeIn(file)).asset
    for (let at = 2; at < file.length - 2; at += 3) {
      const damaged = file.slice()
      damaged[at] ^= 0xff
      await takeIn(damaged).catch(() => undefined)
    }
    expect((await takeIn(file)).asset).toBe(before)
  })
})
