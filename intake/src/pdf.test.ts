// Pages of PDFs, made by a renderer of another house and compared with what they were made from.
import { execFileSync } from 'node:child_process'
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { decodePng, PictureError } from '@neotaxis/core'
import { afterAll, describe, expect, it } from 'vitest'
import { takeIn } from './take-in.ts'

const folder = mkdtempSync(join(tmpdir(), 'neotaxis-pdf-'))
afterAll(() => rmSync(folder, { recursive: true, force: true }))
/** Four by two pixels. */
const PNG =
  'iVBORw0KGgoAAAANSUhEUgAAAAQAAAACCAIAAADwyuo0AAAAIUlEQVR4nAXBMQEAAAzCsGrqPTmIQBgClwAeFocQLzYuPj1aBfGQNdHyAAAAAElFTkSuQmCC'
const at = (name: string): string => join(folder, name)
const page = (inside: string, size = 'width="80mm" height="50mm" viewBox="0 0 80 50"'): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" ${size}>${inside}</svg>`

function pdfOf(...svgs: readonly string[]): Uint8Array {
  const files = svgs.map((svg, i) => {
    writeFileSync(at(`page${i}.svg`), svg)
    return at(`page${i}.svg`)
  })
  execFileSync('rsvg-convert', ['-f', 'pdf', '-o', at('made.pdf'), ...files])
  return new Uint8Array(readFileSync(at('made.pdf')))
}
const pixels = (svg: string | Uint8Array) => {
  writeFileSync(at('look.svg'), svg)
  return decodePng(new Uint8Array(execFileSync('rsvg-convert', ['-w', '160', '--background-color=white', at('look.svg')])))
}
/** The share of pixels that are clearly another colour. */
function differing(a: string | Uint8Array, b: string | Uint8Array): number {
  const [one, other] = [pixels(a), pixels(b)]
  expect(Math.abs(one.heightPx - other.heightPx)).toBeLessThanOrEqual(1)
  const n = 160 * Math.min(one.heightPx, other.heightPx)
  let off = 0
  for (let i = 0; i < n; i++)
    if ([0, 1, 2].some((c) => Math.abs(one.samples[i * one.channels + c] - other.samples[i * other.channels + c]) > 64)) off++
  return off / n
}

describe('a page of a PDF', () => {
  it('is the drawing that it was made from: paths, dashes, clips, tones, text as outlines', async () => {
    const svg = page(
      `<clipPath id="c"><circle cx="20" cy="25" r="12"/></clipPath><rect x="5" y="10" width="30" height="30" fill="#246" clip-path="url(#c)"/>
       <path d="M45 10L75 40" stroke="#d00" stroke-width="2" stroke-dasharray="4 2"/><rect x="60" y="5" width="9" height="9" fill-opacity="0.4"/>
       <text x="42" y="46" font-size="7">Office 12</text>`,
    )
    const { bytes, drawing } = await takeIn(pdfOf(svg))
    expect(differing(svg, bytes)).toBeLessThan(0.01)
    expect(drawing!.notices).toEqual([])
    expect(drawing!.shapes).toBeGreaterThan(8)
  })

  it('of thirty flags looks as they do', async () => {
    const flags = join(dirname(createRequire(import.meta.url).resolve('flag-icons/package.json')), 'flags', '4x3')
    const files = readdirSync(flags).filter((_, i) => i % 9 === 0)
    const off: string[] = []
    for (const file of files) {
      const svg = readFileSync(join(flags, file), 'utf8')
      const share = differing(svg, (await takeIn(pdfOf(svg))).bytes)
      if (share > 0.01) off.push(`${file}: ${(100 * share).toFixed(2)} %`)
    }
    expect(files.length).toBeGreaterThan(29)
    expect(off.length).toBeLessThanOrEqual(1)
  })

  it('is chosen among several, and that is told', async () => {
    const bytes = pdfOf(page('<rect width="10" height="10"/>'), page('<rect width="30" height="20"/>'))
    const first = await takeIn(bytes)
    expect(first.drawing).toMatchObject({ widthMm: expect.closeTo(10, 2), notices: ['It holds 2 pages: page 1 was taken.'] })
    expect((await takeIn(bytes, 2)).drawing).toMatchObject({ widthMm: expect.closeTo(30, 2), heightMm: expect.closeTo(20, 2) })
    await expect(takeIn(bytes, 3)).rejects.toThrow('there is no page 3')
  })

  it('is read from any kind of bytes, and tells which page it is', async () => {
    const bytes = pdfOf(page('<rect width="10" height="10"/>'), page('<rect width="30" height="20"/>'))
    expect((await takeIn(Buffer.from(bytes), 2)).pdf).toEqual({ page: 2, pages: 2 })
  })

  it('that only its owner may change is read; one that is locked gets a sentence', async () => {
    const file = (name: string): Uint8Array => readFileSync(new URL(`./testing/${name}.pdf`, import.meta.url))
    expect((await takeIn(file('owned'))).drawing).toMatchObject({ widthMm: expect.closeTo(30, 2) })
    await expect(takeIn(file('locked'))).rejects.toThrow('The PDF is locked with a password.')
  })

  it('that is nothing but a picture is that picture, as large as it stands there', async () => {
    const taken = await takeIn(pdfOf(page(`<image href="data:image/png;base64,${PNG}" width="40" height="20"/>`)))
    expect(taken.drawing).toBeUndefined()
    expect([taken.widthPx, taken.heightPx]).toEqual([4, 2])
    expect(taken.widthPx / taken.pixelsPerMm!).toBeCloseTo(40, 0)
  })

  it('with a picture beside a drawing is the drawing, and the picture is told', async () => {
    const svg = page(`<rect x="50" width="10" height="10"/><image href="data:image/png;base64,${PNG}" width="40" height="20"/>`)
    expect((await takeIn(pdfOf(svg))).drawing!.notices).toEqual(['1 picture left out.'])
  })

  it('that is damaged, cut short or empty gets a sentence', async () => {
    const whole = pdfOf(page('<rect width="10" height="10"/>'))
    for (const bytes of [whole.subarray(0, 300), new TextEncoder().encode('%PDF-1.7 and nothing more')]) {
      await expect(takeIn(bytes)).rejects.toThrow(PictureError)
      await expect(takeIn(bytes)).rejects.toThrow('The PDF is damaged and cannot be read.')
    }
    await expect(takeIn(pdfOf(page('')))).rejects.toThrow('no line and no area')
  })
})
