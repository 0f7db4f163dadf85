import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { combine, shapeArea } from '../geometry/clip.ts'
import { flattenPath, mapPath, type Path } from '../geometry/path.ts'
import { ringsBounds } from '../geometry/ring.ts'
import { mergedLetters } from './merge-letters.ts'
import { FontError, readFont } from './outline-font.ts'
import { columnOf, numberSeries, readTable } from './series.ts'
import { setText } from './set-text.ts'
import { STROKE_FONT } from './stroke-font.ts'
import type { TextSpec } from './text-spec.ts'

const { resolve } = createRequire(import.meta.url)
const file = (name: string) => new Uint8Array(readFileSync(resolve(`@fontsource/${name}.woff`)))
const SLAB = file('besley/files/besley-latin-700-normal')
const HAND = file('caveat/files/caveat-latin-700-normal')
const slab = readFont(SLAB)
const hand = readFont(HAND)
const PLAIN: TextSpec = {
  kind: 'text',
  text: '',
  font: { kind: 'strokes' },
  capMm: 10,
  letterMm: 0,
  lineShare: 2,
  align: 'left',
}
const rings = (paths: readonly Path[]) => paths.map((path) => flattenPath(path, 0.002))
const boxOf = (paths: readonly Path[]) => ringsBounds(rings(paths))

describe('a text', () => {
  it('has capitals as high as asked for, in strokes and in outlines', () => {
    for (const face of [STROKE_FONT, slab]) {
      const { y0, y1 } = boxOf(setText({ ...PLAIN, text: 'HEIL', capMm: 7 }, face).paths)
      expect(y1).toBeCloseTo(0, 1)
      expect(y0).toBeCloseTo(-7, 1)
    }
  })

  it('stands in lines at their distance, that meet at the left, in the middle or at the right', () => {
    const of = (align: TextSpec['align'], text: string) => boxOf(setText({ ...PLAIN, align, text }, slab).paths)
    expect(of('left', 'H\nH').y1 - of('left', 'H').y1).toBeCloseTo(20, 6)
    expect(of('left', 'Hide').x0).toBeGreaterThan(-0.5)
    expect(of('right', 'Hide').x1).toBeLessThan(0.5)
    const middle = of('middle', 'HIH')
    expect(middle.x0 + middle.x1).toBeCloseTo(0, 0)
  })

  it('is wider by the gap between its letters, and kerned where the font says so', () => {
    const wide = (text: string, letterMm: number) => {
      const box = boxOf(setText({ ...PLAIN, text, letterMm }, slab).paths)
      return box.x1 - box.x0
    }
    expect(wide('HHHH', 2) - wide('HHHH', 0)).toBeCloseTo(6, 6)
    const [a, v] = slab.set('AV')
    expect(a.advance + v.advance).toBeLessThan(slab.set('A')[0].advance + slab.set('V')[0].advance - 0.05)
  })

  it('stands on a circle with every letter at its distance, its middle at the top or at the bottom', () => {
    for (const at of ['top', 'bottom'] as const) {
      const text = setText({ ...PLAIN, text: 'IIIIIII', along: { kind: 'circle', diameterMm: 80, at } }, STROKE_FONT)
      for (const { points } of text.paths) {
        expect(Math.hypot(points[0], points[1])).toBeCloseTo(40, 2)
        // Heads outwards over the top, inwards along the bottom.
        expect(Math.hypot(points[2], points[3])).toBeCloseTo(at === 'top' ? 50 : 30, 2)
      }
      const middle = text.paths[3].points
      expect(middle[0]).toBeCloseTo(0, 2)
      expect(Math.sign(middle[1])).toBe(at === 'top' ? -1 : 1)
    }
    // A second line goes around a smaller circle.
    const two = setText({ ...PLAIN, text: 'I\nI', along: { kind: 'circle', diameterMm: 80, at: 'top' } }, STROKE_FONT)
    expect(Math.hypot(two.paths[1].points[0], two.paths[1].points[1])).toBeCloseTo(20, 2)
  })

  it('stands on any line with both feet, and says when it is too long for it', () => {
    const along = { kind: 'path', data: 'M0 0C30 -30 60 30 90 0' } as const
    const spec = { ...PLAIN, text: 'IIII', capMm: 4, along }
    const line = flattenPath(
      { closed: false, kinds: Uint8Array.of(1), points: Float64Array.of(0, 0, 30, -30, 60, 30, 90, 0) },
      0.0001,
    )
    for (const { points } of setText(spec, STROKE_FONT).paths) {
      let nearest = Infinity
      for (let i = 0; i < line.length; i += 2)
        nearest = Math.min(nearest, Math.hypot(line[i] - points[0], line[i + 1] - points[1]))
      expect(nearest).toBeLessThan(0.3)
    }
    expect(() => setText({ ...spec, text: 'a text that is far too long for this line' }, STROKE_FONT)).toThrow(/mm long/)
    expect(() => setText({ ...spec, along: { kind: 'path', data: 'M0 0' } }, STROKE_FONT)).toThrow('no line')
  })

  it('is written once for each entry, in rows at their pitch', () => {
    const series = { entries: ['1', '2', '3', '4'], columns: 2, pitchXMm: 30, pitchYMm: 25 }
    const one = setText({ ...PLAIN, text: 'No. 4' }, STROKE_FONT).paths
    const all = setText({ ...PLAIN, text: 'No. {}', series }, STROKE_FONT).paths
    const last = all.slice(-one.length)
    one.forEach((path, i) => {
      expect(last[i].points[0]).toBeCloseTo(path.points[0] + 30, 9)
      expect(last[i].points[1]).toBeCloseTo(path.points[1] + 25, 9)
    })
    expect(() =>
      setText({ ...PLAIN, text: 'x'.repeat(3000), series: { ...series, entries: Array(20).fill('{}') } }, slab),
    ).not.toThrow()
    expect(() =>
      setText({ ...PLAIN, text: `${'x'.repeat(3000)}{}`, series: { ...series, entries: Array(20).fill('y') } }, slab),
    ).toThrow('letters')
  })

  it('tells which letters are missing, and writes the others', () => {
    const { paths, notices } = setText({ ...PLAIN, text: 'A\u4e2dB' }, STROKE_FONT)
    expect(paths.length).toBeGreaterThan(2)
    expect(notices[0]).toContain('“\u4e2d”')
    expect(setText({ ...PLAIN, text: 'Ärger, naïve, São, Łódź, Straße' }, STROKE_FONT).notices).toEqual([])
  })
})

describe('letters of outlines', () => {
  it('that overlap become one outline: what is covered stays, no line crosses it', () => {
    const { paths } = setText({ ...PLAIN, text: 'keeper', letterMm: -1.2 }, hand)
    const own = rings(paths)
    const united = combine('union', own)
    expect(shapeArea(own)).toBeCloseTo(shapeArea(united), 1)
    expect(paths.length).toBeLessThan(setText({ ...PLAIN, text: 'keeper', letterMm: 3 }, hand).paths.length)
  })

  it('that stand apart keep their curves', () => {
    const letters = slab.set('OX').map(({ paths }, i) => ({
      glyph: paths,
      paths: paths.map((path) => mapPath(path, 10, 10, 30 * i, 0)),
    }))
    expect(mergedLetters(letters)).toEqual(letters.flatMap(({ paths }) => paths))
  })
})

describe('a font', () => {
  it('that is none, is broken or of another kind is refused with a sentence', () => {
    expect(() => readFont(new TextEncoder().encode('hello'))).toThrow(FontError)
    expect(() => readFont(new TextEncoder().encode('wOF2 and more'))).toThrow('WOFF2')
    expect(() => readFont(SLAB.slice(0, 3000))).toThrow('damaged')
  })

  it('damaged anywhere is read or refused, and never hangs', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 4, max: SLAB.length - 1 }), fc.integer({ min: 0, max: 255 })), {
          minLength: 1,
          maxLength: 12,
        }),
        (changes) => {
          const bytes = SLAB.slice()
          for (const [at, value] of changes) bytes[at] = value
          try {
            setText({ ...PLAIN, text: 'Salt' }, readFont(bytes))
          } catch (cause) {
            expect(cause).toBeInstanceOf(FontError)
          }
        },
      ),
      { numRuns: 60 },
    )
  })
})

describe('a series', () => {
  it('counts with zeros in front', () => {
    expect(numberSeries(8, 11, 1, 3)).toEqual(['008', '009', '010', '011'])
    expect(numberSeries(10, 1, -4, 1)).toEqual(['10', '6', '2'])
    expect(() => numberSeries(1, 9, -1, 1)).toThrow('never comes')
    expect(() => numberSeries(1, 1e6, 1, 1)).toThrow('at most')
  })

  it('comes from a column of a table, however it is parted', () => {
    for (const separator of [',', ';', '\t']) {
      const table = readTable(
        `\ufeffname${separator}boat\n"Vey${separator} Mara"${separator}Tern\n\nIlo${separator}\nTove${separator}Gannet\n`,
      )
      expect(table.columns).toEqual(['name', 'boat'])
      expect(columnOf(table, 0)).toEqual([`Vey${separator} Mara`, 'Ilo', 'Tove'])
      expect(columnOf(table, 1)).toEqual(['Tern', 'Gannet'])
    }
    expect(() => readTable('name')).toThrow('one row only')
  })
})
