import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { pathsOf } from '../formats/svg/path-data.ts'
import { flattenPath, type Path } from '../geometry/path.ts'
import { ringsBounds } from '../geometry/ring.ts'
import { lineUnder } from './line-under.ts'
import { setText } from './set-text.ts'
import { STROKE_FONT } from './stroke-font.ts'
import type { TextSpec } from './text-spec.ts'

const PLAIN: TextSpec = {
  kind: 'text',
  text: '',
  font: { kind: 'strokes' },
  capMm: 10,
  letterMm: 0,
  lineShare: 1.6,
  align: 'left',
}
const boxOf = (paths: readonly Path[]) => ringsBounds(paths.map((path) => flattenPath(path, 0.002)))
const written = (spec: Partial<TextSpec>) => setText({ ...PLAIN, ...spec }, STROKE_FONT)

describe('a text in a box', () => {
  it('is broken into lines between words, in the middle of its height, each where it is aligned', () => {
    const box = { kind: 'box', widthMm: 80, heightMm: 60 } as const
    const one = boxOf(written({ text: 'HAM', along: box }).paths)
    expect((one.y0 + one.y1) / 2).toBeCloseTo(30, 0)
    expect(one.y1 - one.y0).toBeCloseTo(10, 1)
    const three = boxOf(written({ text: 'HARBOUR HOUSE HUT', along: box }).paths)
    expect(three.y1 - three.y0).toBeCloseTo(10 * (1 + 2 * 1.6), 1)
    expect(three.x1).toBeLessThanOrEqual(80)
    const right = boxOf(written({ text: 'HUT', align: 'right', along: box }).paths)
    expect(80 - right.x1).toBeLessThan(3)
    const middle = boxOf(written({ text: 'HUH', align: 'middle', along: box }).paths)
    expect((middle.x0 + middle.x1) / 2).toBeCloseTo(40, 0)
  })

  it('never leaves it: its capitals get lower only where they must, and that is told', () => {
    fc.assert(
      fc.property(
        fc.array(fc.stringMatching(/^[A-Z]{1,12}$/), { minLength: 1, maxLength: 24 }),
        fc.integer({ min: 20, max: 200 }),
        fc.integer({ min: 12, max: 120 }),
        fc.constantFrom('left' as const, 'middle' as const, 'right' as const),
        (words, widthMm, heightMm, align) => {
          const { paths, notices } = written({ text: words.join(' '), align, along: { kind: 'box', widthMm, heightMm } })
          const { x0, y0, x1, y1 } = boxOf(paths)
          expect(x0).toBeGreaterThan(-0.6)
          expect(x1).toBeLessThan(widthMm + 0.6)
          // A little below the base line stand J and Q.
          expect(y0).toBeGreaterThan(-0.6)
          expect(y1).toBeLessThan(heightMm + 3)
          const free = written({ text: words.join(' ') }).paths
          if (notices.length > 0) expect(boxOf(free).x1 > widthMm || heightMm < 27).toBe(true)
        },
      ),
      { numRuns: 60 },
    )
    expect(() => written({ text: 'HARBOUR', along: { kind: 'box', widthMm: 1, heightMm: 1 } })).toThrow(
      /does not fit into its box/,
    )
  })

  it('has letters of one height in all entries of a list', () => {
    const series = { entries: ['H', 'HARBOURMASTER'], columns: 1, pitchXMm: 10, pitchYMm: 100 }
    const { paths } = written({ text: '{}', series, along: { kind: 'box', widthMm: 60, heightMm: 20 } })
    const high = (from: number, to: number) => {
      const own = paths.filter(({ points }) => points[1] >= from && points[1] < to)
      return boxOf(own).y1 - boxOf(own).y0
    }
    expect(high(0, 50)).toBeCloseTo(high(100, 150), 1)
  })
})

describe('the line under a text', () => {
  const circle = pathsOf('M40 20A20 20 0 0 1 0 20A20 20 0 0 1 40 20Z')
  /** The middle of a text that is put at a place of a circle of 20 mm around 20, 20. */
  const putAt = (deg: number, lines = circle): readonly [number, number] => {
    const turn = (deg * Math.PI) / 180
    const line = lineUnder(lines, 20 + 20 * Math.cos(turn), 20 + 20 * Math.sin(turn))!
    const { paths } = written({ text: 'II', capMm: 2, align: line.align, along: { kind: 'path', data: line.data } })
    const { x0, y0, x1, y1 } = boxOf(paths)
    return [(x0 + x1) / 2, (y0 + y1) / 2]
  }

  it('has the middle of the text where it is put, heads up, whichever way the outline was drawn', () => {
    for (const lines of [circle, pathsOf('M40 20A20 20 0 0 0 0 20A20 20 0 0 0 40 20Z')])
      for (const deg of [-90, -60, -20, 20, 75, 90, 110, 200]) {
        const [x, y] = putAt(deg, lines)
        const turn = (deg * Math.PI) / 180
        const r = Math.hypot(x - 20, y - 20)
        expect(Math.abs(((Math.atan2(y - 20, x - 20) - turn + 3 * Math.PI) % (2 * Math.PI)) - Math.PI)).toBeLessThan(0.05)
        // Over the upper half outside, over the lower one inside.
        if (Math.sin(turn) < 0) expect(r).toBeGreaterThan(20.5)
        else expect(r).toBeLessThan(19.5)
      }
  })

  it('of an open one is followed from the left, the text at its begin, its middle or its end', () => {
    const line = pathsOf('M100 10L0 10')
    expect(lineUnder(line, 5, 12)).toEqual({ data: expect.stringMatching(/^M0 10/), align: 'left' })
    expect(lineUnder(line, 55, 12)!.align).toBe('middle')
    expect(lineUnder(line, 95, 8)!.align).toBe('right')
    expect(lineUnder([], 0, 0)).toBeUndefined()
  })
})
