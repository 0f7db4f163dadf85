// Fonts as they come: packed, variable, from both ends; and all that this machine has.
import { readdirSync, readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { join } from 'node:path'
import { drawnSvg, flattenPath, ringsBounds, runsOf, type Typeface } from '@neotaxis/core'
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

  it('of this machine is read, whichever it is', () => {
    const folder = '/usr/share/fonts'
    const files = readdirSync(folder, { recursive: true, withFileTypes: true })
      .filter((entry) => entry.isFile() && /\.(ttf|otf|ttc)$/.test(entry.name))
      .map((entry) => join(entry.parentPath, entry.name))
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
