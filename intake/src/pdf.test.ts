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
/** A page of 200 × 60 pt by hand: a font T of drawings, a shading S of one triangle, a layer L that is hidden. */
function handMade(content: string): Uint8Array {
  const triangle = [
    0, 120, 10, 255, 0, 0, 0, 160, 10, 255, 60, 0, 0, 160, 50, 255, 0, 60, 0, 120, 10, 255, 0, 0, 0, 160, 50, 255, 0, 60, 0, 120,
    50, 255, 30, 30,
  ]
  const stream = (dict: string, data: string): string => `<< ${dict} /Length ${data.length} >>\nstream\n${data}\nendstream`
  const objects = [
    '<< /Type /Catalog /Pages 2 0 R /OCProperties << /OCGs [9 0 R] /D << /OFF [9 0 R] >> >> >>',
    '<< /Type /Pages /Kids [3 0 R] /Count 1 >>',
    '<< /Type /Page /Parent 2 0 R /MediaBox [0 0 200 60] /Contents 4 0 R /Resources << /Font << /T 5 0 R >> /Shading << /S 8 0 R >> /Properties << /L 9 0 R >> >> >>',
    stream('', content.replace('/L BDC', '/OC /L BDC').replace('/Visible BDC', '/P << >> BDC')),
    '<< /Type /Font /Subtype /Type3 /FontBBox [0 0 1000 1000] /FontMatrix [0.001 0 0 0.001 0 0] /CharProcs << /a 6 0 R /b 7 0 R >> /Encoding << /Type /Encoding /Differences [97 /a /b] >> /FirstChar 97 /LastChar 98 /Widths [1000 1000] /Resources << >> >>',
    stream('', '1000 0 0 0 700 700 d1 0 0 700 700 re f'),
    stream('', '1000 0 0 0 700 700 d1 0 0 m 700 0 l 350 700 l f'),
    stream(
      '/ShadingType 4 /ColorSpace /DeviceRGB /BitsPerCoordinate 8 /BitsPerComponent 8 /BitsPerFlag 8 /Decode [0 255 0 255 0 1 0 1 0 1]',
      String.fromCharCode(...triangle),
    ),
    '<< /Type /OCG /Name (Hidden) >>',
  ]
  const text = `%PDF-1.7\n${objects.map((body, i) => `${i + 1} 0 obj\n${body}\nendobj\n`).join('')}trailer << /Root 1 0 R /Size ${objects.length + 1} >>\n%%EOF`
  return Uint8Array.from(text, (c) => c.charCodeAt(0))
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

  it('shades as it shades there: along a line, between circles, in tiles, through masks, a group as one', async () => {
    const svg = page(
      `<defs><linearGradient id="a" x2="1" y2="0.5"><stop stop-color="#000"/><stop offset="0.6" stop-color="#2a6"/><stop offset="1" stop-color="#fff"/></linearGradient>
       <linearGradient id="l" gradientUnits="userSpaceOnUse" x1="2" x2="9" gradientTransform="rotate(30)" spreadMethod="pad"><stop stop-color="#024"/><stop offset="1" stop-color="#fe0"/></linearGradient>
       <radialGradient id="r" fx="0.35" fy="0.4"><stop stop-color="#ff0"/><stop offset="1" stop-color="#036" stop-opacity="0.3"/></radialGradient>
       <pattern id="p" width="4" height="3" patternUnits="userSpaceOnUse" patternTransform="rotate(20)"><circle cx="2" cy="1.5" r="1.2" fill="#a00"/></pattern>
       </defs>
       <rect x="2" y="2" width="24" height="14" fill="url(#a)"/><circle cx="40" cy="10" r="8" fill="url(#r)"/>
       <path d="M55 4L75 4L65 16Z" fill="url(#l)" stroke="url(#a)" stroke-width="1.5"/>
       <rect x="2" y="20" width="24" height="12" fill="url(#p)"/><g opacity="0.4"><rect x="55" y="20" width="10" height="10"/><rect x="60" y="24" width="12" height="8"/></g>
       <text x="4" y="46" font-size="10" fill="url(#a)">Shoal</text>`,
    )
    const { bytes, drawing } = await takeIn(pdfOf(svg))
    expect(differing(svg, bytes)).toBeLessThan(0.01)
    expect(drawing!.notices.filter((notice) => /left out/.test(notice))).toEqual([])
  })

  it('has letters that are drawings, and triangles that shade, and not what its layers hide', async () => {
    const made = handMade(
      `/L BDC 1 0 0 rg 10 10 40 40 re f EMC
       /Visible BDC EMC BT /T 20 Tf 60 20 Td 0 0.4 0 rg (ab) Tj ET
       q 120 10 40 40 re W n /S sh Q`,
    )
    const { bytes, drawing } = await takeIn(made)
    expect(drawing!.notices).toEqual([])
    // As wide and high as a letter: a square of 14 pt and a triangle, 20 pt from one to the next.
    const wanted = `<svg xmlns="http://www.w3.org/2000/svg" width="200pt" height="60pt" viewBox="0 0 200 60"><g transform="matrix(1 0 0 -1 0 60)">
       <path fill="#060" d="M60 20h14v14h-14zM80 20h14l-7 14z"/>
       <path fill="#f00" d="M120 10h40v40h-40z"/></g></svg>`
    expect(differing(wanted, bytes)).toBeLessThan(0.02)
    expect(differing(wanted.replace(/<path fill="#f00".*?>/, ''), bytes)).toBeGreaterThan(0.05)
    const withoutLayer = differing(wanted.replace('fill="#f00" d="', 'fill="#f00" d="M10 10h40v40h-40z'), bytes)
    expect(withoutLayer).toBeGreaterThan(0.1)
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
    expect(off).toEqual([])
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
