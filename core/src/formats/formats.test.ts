import fc from 'fast-check'
import { strToU8, zipSync } from 'fflate'
import { describe, expect, it } from 'vitest'
import { flattenPath } from '../geometry/path.ts'
import { type Ring, ringArea, ringBounds } from '../geometry/ring.ts'
import { JobError } from '../job/document/job-error.ts'
import type { RawPicture } from '../picture/picture.ts'
import { assetName, packJob, unpackJob } from '../reading/job-file.ts'
import { sampleJob, squarePicture } from '../testing/sample-job.ts'
import { decodePng, encodePng, PictureError, pngSize } from './png.ts'
import { readSvg, SvgError } from './svg/svg.ts'
import { writeSvgPaths, writeSvgRings } from './svg/svg-write.ts'

/** How many damaged files of each format are tried. */
const MUTATIONS = 10_000

describe('PNG', () => {
  const raw = (channels: 1 | 2 | 3 | 4, deep: boolean): RawPicture => {
    const n = 13 * 7 * channels
    const samples = deep
      ? Uint16Array.from({ length: n }, (_, i) => (i * 7919) & 65_535)
      : Uint8Array.from({ length: n }, (_, i) => (i * 91) & 255)
    return { widthPx: 13, heightPx: 7, channels, samples, full: deep ? 65_535 : 255 }
  }

  it.each([1, 2, 3, 4] as const)('writes and reads %i channels in 8 and 16 bit', (channels) => {
    for (const deep of [false, true]) {
      const back = decodePng(encodePng(raw(channels, deep), { pixelsPerMm: 10 }))
      expect(back).toMatchObject({ widthPx: 13, heightPx: 7, channels, full: deep ? 65_535 : 255, pixelsPerMm: 10 })
      expect([...back.samples]).toEqual([...raw(channels, deep).samples])
    }
  })

  it('packs two tones at one bit a pixel', () => {
    const samples = Uint8Array.from({ length: 91 }, (_, i) => (i % 3 ? 255 : 0))
    const bytes = encodePng({ widthPx: 13, heightPx: 7, channels: 1, samples, full: 255 }, { oneBit: true })
    expect(bytes[24]).toBe(1)
    expect([...decodePng(bytes).samples]).toEqual([...samples])
  })

  it('refuses what claims too much before it decodes, and what is damaged', () => {
    const bytes = encodePng(raw(1, false))
    const claims = bytes.slice()
    new DataView(claims.buffer).setUint32(16, 60_000)
    new DataView(claims.buffer).setUint32(20, 60_000)
    expect(pngSize(claims)).toEqual({ widthPx: 60_000, heightPx: 60_000 })
    expect(() => decodePng(claims)).toThrow('claims 60000 × 60000 px')
    expect(() => decodePng(bytes.subarray(0, 40))).toThrow(PictureError)
    expect(() => decodePng(strToU8('no picture at all, just words, words, words'))).toThrow('not a PNG')
  })

  it('answers any change of its bytes with a picture or a sentence', () => {
    const bytes = encodePng(raw(3, false))
    fc.assert(
      fc.property(fc.integer({ min: 0, max: bytes.length - 1 }), fc.integer({ min: 1, max: 255 }), (at, by) => {
        const changed = bytes.slice()
        changed[at] ^= by
        try {
          decodePng(changed)
        } catch (cause) {
          expect(cause).toBeInstanceOf(PictureError)
        }
      }),
      { numRuns: MUTATIONS },
    )
  })
})

describe('SVG', () => {
  const rings = (text: string): Ring[] => readSvg(text).paths.map((path) => flattenPath(path, 0.001))
  const svg = (body: string, head = 'width="100mm" height="50mm" viewBox="0 0 100 50"'): string =>
    `<svg xmlns="http://www.w3.org/2000/svg" ${head}>${body}</svg>`

  it('reads back what it writes, in real mm', () => {
    const square = Float64Array.of(1, 2, 31, 2, 31, 22, 1, 22)
    const text = writeSvgRings([square], 100, 50)
    expect(text).toContain('width="100mm"')
    const back = readSvg(text)
    expect(back).toMatchObject({ page: { x0: 0, y0: 0, x1: 100, y1: 50 } })
    expect([...flattenPath(back.paths[0], 0.01)]).toEqual([...square])
    expect(readSvg(writeSvgPaths(back.paths, 100, 50)).paths).toEqual(back.paths)
  })

  it('knows the basic shapes, and scales a page by its view box', () => {
    const [rect, circle, ellipse, polygon] = rings(
      svg(
        '<rect x="1" y="2" width="3" height="4"/><circle cx="10" cy="10" r="5"/><ellipse cx="30" cy="10" rx="6" ry="2"/><polygon points="0,0 4,0 4,3"/>',
      ),
    )
    expect(ringArea(rect)).toBeCloseTo(12, 6)
    expect(Math.abs(ringArea(circle))).toBeCloseTo(Math.PI * 25, 1)
    expect(Math.abs(ringArea(ellipse))).toBeCloseTo(Math.PI * 12, 1)
    expect(Math.abs(ringArea(polygon))).toBeCloseTo(6, 6)
    const inches = rings(svg('<rect width="96" height="96"/>', 'width="2in" height="2in" viewBox="0 0 192 192"'))
    expect(ringBounds(inches[0]).x1).toBeCloseTo(25.4, 6)
    expect(ringBounds(rings(svg('<rect width="96" height="10"/>', ''))[0]).x1).toBeCloseTo(25.4, 6)
  })

  it('applies nested transforms from the inside out', () => {
    const [moved] = rings(
      svg('<g transform="translate(10 5) rotate(90)"><rect width="4" height="2" transform="scale(2 3)"/></g>'),
    )
    expect(ringBounds(moved).x0).toBeCloseTo(4, 6)
    expect(ringBounds(moved).x1).toBeCloseTo(10, 6)
    expect(ringBounds(moved).y0).toBeCloseTo(5, 6)
    expect(ringBounds(moved).y1).toBeCloseTo(13, 6)
  })

  it.each([
    ['<html/>', 'not an SVG'],
    ['<svg xmlns="http://www.w3.org/2000/svg"><path d="M0 0 L nonsense"/></svg>', 'no path that can be read'],
    ['<!DOCTYPE svg [<!ENTITY a "b">]><svg xmlns="http://www.w3.org/2000/svg"/>', 'damaged'],
    ['', 'SVG'],
  ])('refuses %s', (text, sentence) => {
    expect(() => readSvg(text)).toThrow(SvgError)
    expect(() => readSvg(text)).toThrow(sentence)
  })

  it('answers any change of a drawing with outlines or a sentence', () => {
    const text = svg('<g transform="rotate(9)"><path d="M1 2C3 4 5 6 7 8a3 4 0 1 0 9 9Z"/><circle cx="5" cy="5" r="3"/></g>')
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: text.length - 1 }),
        fc.string({ maxLength: 3 }),
        fc.integer({ min: 0, max: 4 }),
        (at, by, cut) => {
          try {
            readSvg(text.slice(0, at) + by + text.slice(at + cut))
          } catch (cause) {
            expect(cause).toBeInstanceOf(SvgError)
          }
        },
      ),
      { numRuns: MUTATIONS },
    )
  })

  it('repeats what our own drawings repeat, in its place', () => {
    const used = rings(
      svg('<defs><path id="tri" d="M0 0h4v3Z"/></defs><use href="#tri" x="5" y="1"/><use href="#tri" transform="scale(2)"/>'),
    )
    expect(used.map((ring) => ringBounds(ring).x1)).toEqual([expect.closeTo(9, 6), expect.closeTo(8, 6)])
    expect(ringBounds(used[0]).y0).toBeCloseTo(1, 6)
  })

  it('rounds the corners of rectangles by the area that they lose', () => {
    const [round] = rings(svg('<rect width="20" height="10" rx="3"/>'))
    expect(Math.abs(ringArea(round))).toBeCloseTo(200 - (4 - Math.PI) * 9, 1)
    const [half] = rings(svg('<rect width="20" height="10" ry="50" rx="5"/>'))
    expect(Math.abs(ringArea(half))).toBeCloseTo(200 - (4 - Math.PI) * 25, 1)
  })

  it('leaves out what is hidden or is no outline, tells it, and uses the rest of a damaged file', () => {
    const read = readSvg(
      svg(
        '<text>Saltmere</text><text/><image href="x.png"/><use href="other.svg#a"/><use href="#nobody"/>' +
          '<rect width="1" height="1" display="none"/><g visibility="hidden"><rect width="1" height="1"/></g>' +
          '<path d="M0 0 L nonsense"/><path d="M0 0h2v2Z"/>',
      ),
    )
    expect(read.paths).toHaveLength(1)
    expect(read.notices).toEqual([
      '2 texts left out.',
      '1 picture left out.',
      '1 reference to another file left out.',
      '1 reference to nothing left out.',
      '1 path left out: damaged.',
    ])
  })

  it('ends where copies of copies, or copies of themselves, would fill memory', () => {
    const lines = Array.from({ length: 12 }, (_, i) => `<g id="g${i + 1}">${`<use href="#g${i}"/>`.repeat(10)}</g>`).join('')
    const began = performance.now()
    expect(() => readSvg(svg(`<defs><rect id="g0" width="1" height="1"/>${lines}</defs><use href="#g12"/>`))).toThrow(SvgError)
    expect(() => readSvg(svg('<g id="a"><use href="#a"/></g>'))).toThrow('too deeply')
    // About a second here; a loaded machine may take longer, never for ever.
    expect(performance.now() - began).toBeLessThan(20_000)
  })

  it('does not follow groups that nest without end', () => {
    expect(() => readSvg(svg('<g>'.repeat(200) + '</g>'.repeat(200)))).toThrow('too deeply')
  })
})

describe('job files', () => {
  const asset = encodePng({ widthPx: 20, heightPx: 20, channels: 1, samples: squarePicture(10, 5).samples, full: 255 })
  const base = sampleJob({ picture: squarePicture(10, 5) })
  const source = base.nodes.source
  const job = { ...base, nodes: { ...base.nodes, source: { ...source, asset: assetName(asset) } } } as typeof base

  it('name assets by their SHA-256 (FIPS 180-4, “abc”)', () => {
    expect(assetName(strToU8('abc'))).toBe('ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad')
  })

  it('open to what was packed, and are the same bytes for the same job', () => {
    const file = packJob(job, () => asset)
    expect(file).toEqual(packJob(job, () => asset))
    const back = unpackJob(file)
    expect(back.job).toEqual(job)
    expect([...back.assets.keys()]).toEqual([assetName(asset)])
  })

  it('are refused with the reason: newer, picture missing, picture changed, no job, damaged', () => {
    const text = (value: unknown): Uint8Array => strToU8(JSON.stringify(value))
    const name = `assets/${assetName(asset)}.png`
    expect(() => unpackJob(zipSync({ 'job.json': text({ ...job, version: 99 }), [name]: asset }))).toThrow('newer Neotaxis')
    expect(() => unpackJob(zipSync({ 'job.json': text(job) }))).toThrow('“sample.png” is missing')
    expect(() => unpackJob(zipSync({ 'job.json': text(job), [name]: asset.slice(1) }))).toThrow('damaged')
    expect(() => unpackJob(zipSync({ 'other.txt': asset }))).toThrow('no job.json')
    expect(() => unpackJob(zipSync({ 'job.json': strToU8('{') }))).toThrow('damaged')
    expect(() => unpackJob(asset)).toThrow(JobError)
    const file = packJob(job, () => asset)
    fc.assert(
      fc.property(fc.integer({ min: 0, max: file.length - 1 }), fc.integer({ min: 1, max: 255 }), (at, by) => {
        const changed = file.slice()
        changed[at] ^= by
        try {
          unpackJob(changed)
        } catch (cause) {
          expect(cause).toBeInstanceOf(JobError)
        }
      }),
      { numRuns: MUTATIONS },
    )
  })
})
