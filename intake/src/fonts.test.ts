// Fonts as they come: packed, variable, from both ends; and all that this machine has.
import { execFileSync } from 'node:child_process'
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { coverage, decodePng, drawnSvg, flattenPath, ringsBounds, runsOf, type Typeface, toGrey } from '@neotaxis/core'
import { FontError, readFont } from '@neotaxis/core/text/outline-font'
import { describe, expect, it } from 'vitest'
import { plainFont } from './plain-font.ts'
import { takeIn } from './take-in.ts'

const { resolve } = createRequire(import.meta.url)
const file = (name: string): Uint8Array => new Uint8Array(readFileSync(resolve(name)))
const SLAB = '@fontsource/besley/files/besley-latin-400-normal'
const VARIABLE = '@fontsource-variable/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-wght-normal.woff2'

const wide = (face: Typeface, text: string): number => face.set(text).reduce((sum, { advance }) => sum + advance, 0)
const boxOf = (face: Typeface, text: string) =>
  Object.values(ringsBounds(face.set(text).flatMap(({ paths }) => paths.map((path) => flattenPath(path, 0.001))))).map((v) =>
    Number(v.toFixed(4)),
  )
const points = (face: Typeface, text: string): number[][] =>
  face.set(text).flatMap(({ paths }) => paths.map((path) => [...path.points]))

const fontFiles = (): string[] =>
  readdirSync('/usr/share/fonts', { recursive: true, withFileTypes: true })
    .filter((entry) => entry.isFile() && /\.(ttf|otf|ttc)$/.test(entry.name))
    .map((entry) => join(entry.parentPath, entry.name))

/** Intersection over union of a letter as it is drawn here and by ImageMagick, both in their own boxes; undefined where the font lacks it. */
function sameInk(path: string, face: Typeface, letter: string): number | undefined {
  const outlines = face.set(letter).flatMap(({ paths }) => paths.map((each) => flattenPath(each, 0.0005)))
  if (outlines.length === 0) return undefined
  const png = execFileSync(
    'convert',
    [
      ...['-size', '2600x2600', 'xc:white', '-font', path, '-pointsize', '1600', '-gravity', 'center'],
      ...['-annotate', '0', letter, '-trim', '+repage', '-depth', '8', 'png:-'],
    ],
    { stdio: ['ignore', 'pipe', 'ignore'], maxBuffer: 1e8 },
  )
  const { widthPx: w, heightPx: h, samples } = toGrey(decodePng(new Uint8Array(png)))
  if (w < 20 || h < 20) return undefined
  const { x0, y0, x1, y1 } = ringsBounds(outlines)
  const [sx, sy] = [w / (x1 - x0), h / (y1 - y0)]
  // A letter that the font lacks is drawn as something else there.
  if (Math.abs(sx / sy - 1) > 0.02) return undefined
  const cover = coverage(
    outlines.map((ring) => ring.map((v, i) => (i % 2 === 0 ? (v - x0) * sx : (v - y0) * sy))),
    w,
    h,
  )
  let both = 0
  let either = 0
  for (let i = 0; i < cover.length; i++) {
    const [a, b] = [Math.min(1, Math.abs(cover[i])), 1 - samples[i] / 255]
    both += Math.min(a, b)
    either += Math.max(a, b)
  }
  return both / either
}

describe('a font', () => {
  it('packed as WOFF2 is the one that is packed as WOFF', async () => {
    const [one, other] = [readFont(file(`${SLAB}.woff`)), readFont(await plainFont(file(`${SLAB}.woff2`)))]
    expect(other.name).toBe(one.name)
    expect(wide(other, 'Office AVA')).toBeCloseTo(wide(one, 'Office AVA'), 9)
    expect(boxOf(other, 'Office AVA')).toEqual(boxOf(one, 'Office AVA'))
    const kept = await takeIn(file(`${SLAB}.woff2`))
    expect(kept.font?.name).toBe(one.name)
    expect(String.fromCharCode(...kept.bytes.subarray(0, 4))).not.toBe('wOF2')
    await expect(takeIn(file(`${SLAB}.woff2`).subarray(0, 900))).rejects.toThrow('damaged')
    await expect(plainFont(new TextEncoder().encode('wOF2 and no more'))).rejects.toThrow(FontError)
  })

  it('joins its ligatures and kerns its pairs', () => {
    const face = readFont(file(`${SLAB}.woff`))
    expect(wide(face, 'AV')).toBeLessThan(wide(face, 'A') + wide(face, 'V') - 0.05)
    expect(face.set('office').length).toBeLessThanOrEqual(6)
  })

  it('that is variable has its axes, and is as bold as they say', async () => {
    const bytes = await plainFont(file(VARIABLE))
    const usual = readFont(bytes)
    expect(usual.axes?.map(({ tag }) => tag)).toEqual(['wght'])
    const [thin, bold] = [readFont(bytes, { wght: 200 }), readFont(bytes, { wght: 800 })]
    const stem = (face: Typeface): number => {
      const { x0, x1 } = ringsBounds(face.set('l')[0].paths.map((path) => flattenPath(path, 0.001)))
      return x1 - x0
    }
    expect(stem(bold)).toBeGreaterThan(1.5 * stem(thin))
    // Beyond its ends it is as at its ends.
    expect(points(readFont(bytes, { wght: 5000 }), 'l')).toEqual(points(bold, 'l'))
    const text = {
      kind: 'text',
      text: 'Tide',
      font: { kind: 'strokes' },
      capMm: 8,
      letterMm: 0,
      lineShare: 1.6,
      align: 'left',
    } as const
    expect(drawnSvg(text, bold).svg).not.toBe(drawnSvg(text, thin).svg)
  })

  it('sets a line from both ends: what runs from right to left stands so, numbers in it do not', () => {
    const [alef, bet] = ['\u05d0', '\u05d1']
    expect(runsOf(`tide ${alef}${bet} 12`)).toEqual([
      { text: 'tide ', isRightToLeft: false },
      { text: '12', isRightToLeft: false },
      { text: `${alef}${bet} `, isRightToLeft: true },
    ])
    expect(runsOf('plain text')).toEqual([{ text: 'plain text', isRightToLeft: false }])
    expect(runsOf('')).toEqual([])
  })

  it('draws its letters as the renderer of another house does', async () => {
    const temporary = mkdtempSync(join(tmpdir(), 'neotaxis-letters-'))
    writeFileSync(join(temporary, 'slab.ttf'), await plainFont(file(`${SLAB}.woff2`)))
    const machine = fontFiles().filter((path) => /\.(ttf|otf)$/.test(path))
    // Every so many of those that are there.
    const step = Math.max(1, Math.floor(machine.length / 8))
    const tried = [join(temporary, 'slab.ttf'), ...machine.filter((_, i) => i % step === 0).slice(0, 8)]
    let compared = 0
    let sum = 0
    for (const path of tried) {
      let face: Typeface
      try {
        face = readFont(new Uint8Array(readFileSync(path)))
      } catch {
        continue
      }
      for (const letter of ['R', 'e', '8']) {
        const share = sameInk(path, face, letter)
        if (share === undefined) continue
        compared++
        // Hair lines differ by how their pixels are rounded.
        expect(share, `${path} ${letter}`).toBeGreaterThan(0.98)
        sum += share
      }
    }
    rmSync(temporary, { recursive: true, force: true })
    expect(compared).toBeGreaterThan(2)
    // A font that is hinted for screens snaps its stems even when it is large.
    expect(sum / compared).toBeGreaterThan(0.99)
  }, 120_000)

  it('of this machine is read, whichever it is', () => {
    const files = fontFiles()
    const refused = files.flatMap((path) => {
      try {
        readFont(new Uint8Array(readFileSync(path))).set('Tide table 12')
        return []
      } catch (cause) {
        // Pictures instead of outlines are no letters that could be burned.
        return /letters are pictures/.test((cause as Error).message) ? [] : [`${path}: ${(cause as Error).message}`]
      }
    })
    // What the tests install brings a few.
    expect(files.length).toBeGreaterThan(0)
    expect(refused).toEqual([])
  })
})
