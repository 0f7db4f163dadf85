import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { flattenPath, type Path } from '../../geometry/path.ts'
import { type Ring, ringArea, ringsBounds } from '../../geometry/ring.ts'
import { drawingBounds, lookKey, looksOf, type Shape, type VectorDrawing } from '../../vector/drawing.ts'
import { readSvg } from './svg.ts'
import { writeSvgDrawing } from './svg-write.ts'

/** A page of 100 × 100 mm in mm. */
const svg = (inside: string): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="100mm" viewBox="0 0 100 100">${inside}</svg>`
const rings = (paths: readonly Path[]): Ring[] => paths.map((path) => flattenPath(path, 0.001))
const area = (paths: readonly Path[]): number => rings(paths).reduce((sum, ring) => sum + Math.abs(ringArea(ring)), 0)

describe('looks of shapes', () => {
  it('come from attributes, and are handed down; what is seen through is a tone on white', () => {
    const { shapes } = readSvg(
      svg(`<rect width="9" height="9" fill="#00f"/>
        <g id="deck" stroke="#00ff00" stroke-width="2" stroke-linecap="round" stroke-linejoin="round" transform="scale(2)"><path fill="none" d="M0 0h4v4z"/><circle r="2" fill="#abc"/></g>
        <rect width="9" height="9" fill="#000" opacity="0.5"/><rect width="9" height="9" fill="none"/><rect width="9" height="9" fill-opacity="0"/>`),
    )
    expect(shapes.map(({ look }) => look)).toEqual([
      { fill: '#0000ff' },
      { stroke: '#00ff00', strokeMm: 4, ends: {}, layer: 'deck' },
      { stroke: '#00ff00', strokeMm: 4, ends: {}, fill: '#aabbcc', layer: 'deck' },
      { fill: '#808080' },
    ])
    expect(looksOf({ shapes, notices: [] }).size).toBe(4)
  })

  it('know hidden, and shown again inside', () => {
    const { shapes } = readSvg(
      svg('<g visibility="hidden"><rect width="1" height="1"/><rect width="2" height="2" visibility="visible"/></g>'),
    )
    expect(shapes).toHaveLength(1)
  })
})

describe('clip paths', () => {
  const clip = '<clipPath id="c"><rect x="10" y="10" width="30" height="30"/></clipPath>'

  it('cut areas and lines off, and leave alone what lies within', () => {
    const read = (inside: string) => readSvg(svg(`<defs>${clip}</defs>${inside}`)).shapes
    expect(area(read('<rect width="20" height="20" clip-path="url(#c)"/>')[0].paths)).toBeCloseTo(100, 3)
    const [line] = read('<path d="M0 20H100" fill="none" stroke="#f00" clip-path="url(#c)"/>')
    expect(ringsBounds(rings(line.paths))).toMatchObject({ x0: 10, x1: 40 })
    expect(read('<circle cx="25" cy="25" r="5" clip-path="url(#c)"/>')[0].paths[0].kinds.includes(1)).toBe(true)
    expect(read('<rect x="60" width="20" height="20" clip-path="url(#c)"/>')).toEqual([])
  })

  it('reach into groups, meet each other, and move with what they clip', () => {
    const two = readSvg(
      svg(
        `<defs>${clip}<clipPath id="e"><circle cx="25" cy="25" r="10"/></clipPath></defs>
         <g clip-path="url(#c)" transform="translate(50 0)"><g clip-path="url(#e)"><rect width="100" height="100"/></g></g>`,
      ),
    )
    expect(area(two.paths)).toBeCloseTo(Math.PI * 100, 0)
    expect(drawingBounds(two).x0).toBeCloseTo(65, 2)
  })

  it('that are nowhere clip nothing; those in shares of the object fit it, a group too', () => {
    expect(readSvg(svg('<rect width="9" height="9" clip-path="url(#no)"/>')).shapes).toHaveLength(1)
    const half = '<clipPath id="b" clipPathUnits="objectBoundingBox"><rect width="0.5" height="1"/></clipPath>'
    const [shape] = readSvg(
      svg(`${half}<rect x="10" y="20" width="40" height="10" transform="scale(2)" clip-path="url(#b)"/>`),
    ).shapes
    expect(drawingBounds({ shapes: [shape] })).toEqual({ x0: 20, y0: 40, x1: 60, y1: 60 })
    const group = readSvg(
      svg(`${half}<g clip-path="url(#b)"><rect width="10" height="10"/><rect x="30" width="10" height="10"/></g>`),
    )
    expect(drawingBounds(group)).toEqual({ x0: 0, y0: 0, x1: 10, y1: 10 })
  })
})

describe('writing drawings', () => {
  it('keeps shapes, looks and layers', () => {
    const colour = fc.constantFrom('#000000', '#ff8000', '#12ab9c')
    const shape = fc.record({
      x: fc.integer({ min: 0, max: 50 }),
      w: fc.integer({ min: 1, max: 40 }),
      stroke: fc.option(colour, { nil: undefined }),
      fill: fc.option(colour, { nil: undefined }),
      layer: fc.constantFrom(undefined, 'holes', 'a "b" & <c>'),
    })
    fc.assert(
      fc.property(fc.array(shape, { minLength: 1, maxLength: 8 }), (list) => {
        const drawing: VectorDrawing = {
          notices: [],
          shapes: list.map(({ x, w, stroke, fill, layer }) => ({
            paths: [
              { closed: true, kinds: Uint8Array.of(0, 0, 0, 0), points: Float64Array.of(x, 0, x + w, 0, x + w, w, x, w, x, 0) },
            ],
            rule: 'evenodd' as const,
            look: { ...(stroke ? { stroke, strokeMm: 0.3 } : {}), ...(fill ? { fill } : {}), ...(layer ? { layer } : {}) },
          })),
        }
        const back = readSvg(writeSvgDrawing(drawing))
        const keys = (of: VectorDrawing): string[] => of.shapes.map(({ look }) => lookKey(look)).sort()
        // What nobody sees is written, and left out when it is read.
        const isSeen = ({ look }: Shape): boolean => look.fill !== undefined || look.stroke !== undefined
        const shown = { ...drawing, shapes: drawing.shapes.filter(isSeen) }
        expect(keys(back)).toEqual(keys(shown))
        expect(area(back.paths)).toBeCloseTo(area(shown.shapes.flatMap(({ paths }) => paths)), 3)
      }),
    )
  })
})
