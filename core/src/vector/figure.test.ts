import { describe, expect, it } from 'vitest'
import { readDrawing } from '../formats/read-drawing.ts'
import { readSvg } from '../formats/svg/svg.ts'
import { combine, offset, shapeArea } from '../geometry/clip.ts'
import { dashesOf } from '../geometry/dashes.ts'
import { closedLine, type Ring, ringLength } from '../geometry/ring.ts'
import { strokeArea } from '../geometry/stroke-area.ts'
import { figureOf } from './figure.ts'

const page = (inside: string): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="100mm" viewBox="0 0 100 100">${inside}</svg>`
const figure = (inside: string): Ring[] => figureOf(readSvg(page(inside)).shapes, 0.001)
const area = (inside: string): number => shapeArea(combine('union', figure(inside)))
const line = 'fill="none" stroke="#f00" stroke-width="0.1"'

describe('several shapes as one figure', () => {
  it('lie over each other as one where they are filled alike, each by its own rule', () => {
    expect(area('<rect width="20" height="20"/><rect x="10" y="10" width="20" height="20"/>')).toBeCloseTo(700, 3)
    expect(area('<rect width="20" height="20"/><rect x="5" y="5" width="5" height="5"/>')).toBeCloseTo(400, 3)
    const twice = 'M0 0H20V20H0Z M5 5H15V15H5Z'
    expect(area(`<path d="${twice}" fill-rule="evenodd"/><rect x="50" width="9" height="9"/>`)).toBeCloseTo(381, 3)
    expect(area(`<path d="${twice}"/><rect x="50" width="9" height="9"/>`)).toBeCloseTo(481, 3)
    // The same twice is there once.
    expect(area('<circle cx="20" cy="20" r="10"/><circle cx="20" cy="20" r="10"/>')).toBeCloseTo(Math.PI * 100, 0)
  })

  it('are one where outlines cross, and a hole where one lies within another', () => {
    expect(area(`<rect width="20" height="20" ${line}/><rect x="10" y="10" width="20" height="20" ${line}/>`)).toBeCloseTo(700, 3)
    expect(area(`<rect width="20" height="20" ${line}/><rect x="5" y="5" width="5" height="5" ${line}/>`)).toBeCloseTo(375, 3)
    expect(area(`<rect width="20" height="20" ${line}/><rect x="5" y="5" width="5" height="5" fill="#222"/>`)).toBeCloseTo(375, 3)
    // An island in a hole is there again.
    expect(
      area(
        [20, 12, 4]
          .map((side) => `<rect x="${10 - side / 2}" y="${10 - side / 2}" width="${side}" height="${side}" ${line}/>`)
          .join(''),
      ),
    ).toBeCloseTo(400 - 144 + 16, 3)
  })

  it('stay as they are drawn where nothing lies over each other', () => {
    const rings = figure(`<path d="M0 0H10L20 0V20H0Z" ${line}/><rect x="40" width="5" height="5" ${line}/>`)
    expect([...rings[0]]).toEqual([0, 0, 10, 0, 20, 0, 20, 20, 0, 20])
    expect(rings).toHaveLength(2)
  })
})

describe('the box of a drawing', () => {
  it('is that of what is seen: bold strokes with their width, thin ones as lines', () => {
    const of = (inside: string) => readDrawing(new TextEncoder().encode(page(inside)))
    const ring = of('<circle cx="50" cy="50" r="30" fill="none" stroke="#000" stroke-width="20"/>')
    expect([ring.widthMm, ring.heightMm]).toEqual([expect.closeTo(80, 1), expect.closeTo(80, 1)])
    expect(ring.lines.x1 - ring.lines.x0).toBeCloseTo(60, 2)
    expect(of(`<rect width="20" height="10" ${line}/>`)).toMatchObject({ widthMm: 20, heightMm: 10 })
    expect(of('<path d="M10 10H30" fill="none" stroke="#000" stroke-width="4"/>')).toMatchObject({ widthMm: 20, heightMm: 4 })
  })
})

describe('strokes', () => {
  const square = Float64Array.of(0, 0, 20, 0, 20, 20, 0, 20)

  it('go around a closed line without an end, in and out', () => {
    const around = closedLine(square)
    expect(shapeArea(strokeArea([around], 1, { join: 'mitre', cap: 'butt' }))).toBeCloseTo(22 ** 2 - 18 ** 2, 3)
    expect(shapeArea(strokeArea([around], 1, { join: 'bevel', cap: 'butt' }))).toBeCloseTo(22 ** 2 - 18 ** 2 - 4 * 0.5, 3)
    expect(shapeArea(strokeArea([around], 1))).toBeCloseTo(22 ** 2 - 18 ** 2 - (4 - Math.PI), 1)
    // One that crosses itself covers what it covers once.
    const eight = closedLine(Float64Array.of(0, 0, 20, 20, 20, 0, 0, 20))
    const made = shapeArea(strokeArea([eight], 0.5, { join: 'bevel', cap: 'butt' }))
    expect(made).toBeGreaterThan(0.9 * (ringLength(Float64Array.of(0, 0, 20, 20, 20, 0, 0, 20)) - 2))
    expect(made).toBeLessThan(ringLength(Float64Array.of(0, 0, 20, 20, 20, 0, 0, 20)) + 1)
  })

  it('without a length are their caps', () => {
    const dot = Float64Array.of(5, 5, 5, 5)
    expect(shapeArea(strokeArea([dot], 2))).toBeCloseTo(4 * Math.PI, 0)
    expect(shapeArea(strokeArea([dot], 2, { cap: 'square' }))).toBeCloseTo(16, 3)
    expect(strokeArea([dot], 2, { cap: 'butt' })).toEqual([])
  })

  it('in dashes go on around corners, and begin where they are said to', () => {
    const bent = Float64Array.of(0, 0, 5, 0, 5, 5)
    expect(dashesOf(bent, [4, 2]).map((dash) => [...dash])).toEqual([
      [0, 0, 4, 0],
      [5, 1, 5, 5],
    ])
    // An odd pattern is taken twice: 3 on, 3 off.
    expect(dashesOf(Float64Array.of(0, 0, 10, 0), [3], -1).map((dash) => [...dash])).toEqual([
      [1, 0, 4, 0],
      [7, 0, 10, 0],
    ])
    expect(dashesOf(bent, [0, 0])).toEqual([bent])
    expect(dashesOf(bent, [-1, 2])).toEqual([bent])
  })
})

it('an outline of any size that fits is read, cut and grown', () => {
  const corners = Array.from({ length: 100_000 }, (_, i) => {
    const a = (2 * Math.PI * i) / 100_000
    const r = 40 + 0.02 * Math.sin(900 * a)
    return `${(50 + r * Math.cos(a)).toFixed(4)} ${(50 + r * Math.sin(a)).toFixed(4)}`
  })
  const text = `<path d="M${corners.join('L')}Z" ${line}/>`
  const rings = figure(text)
  expect(rings[0].length).toBeGreaterThan(140_000)
  expect(shapeArea(strokeArea([closedLine(rings[0])], 0.05))).toBeGreaterThan(20)
})

it('noise is grown and shrunk as a plain outline is, in seconds, and can be stopped', () => {
  let seed = 7
  const random = (): number => {
    seed = (seed * 1103515245 + 12345) % 2147483648
    return seed / 2147483648
  }
  const n = 20_000
  const ring = new Float64Array(2 * n)
  for (let i = 0; i < n; i++) {
    const a = (2 * Math.PI * i) / n
    const r = 100 + 2 * random() - 1
    ring.set([r * Math.cos(a), r * Math.sin(a)], 2 * i)
  }
  // Whoever looks from 5 mm away sees the outermost of it: nearly a circle of 106 mm.
  const grown = offset([ring], 5)
  expect(grown).toHaveLength(1)
  expect(shapeArea(grown)).toBeGreaterThan(Math.PI * 105.8 ** 2)
  expect(shapeArea(grown)).toBeLessThan(Math.PI * 106 ** 2)
  const shrunk = offset([ring], -5)
  expect(shapeArea(shrunk)).toBeLessThan(Math.PI * 94.2 ** 2)
  expect(shapeArea(shrunk)).toBeGreaterThan(Math.PI * 94 ** 2 * 0.998)
  const stopped = (): Ring[] =>
    offset([ring], 5, {
      progress: (done) => {
        if (done > 0.3) throw new Error('enough')
      },
    })
  expect(stopped).toThrow('enough')
}, 120_000)
