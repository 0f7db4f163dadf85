import fc from 'fast-check'
import { strToU8 } from 'fflate'
import { describe, expect, it } from 'vitest'
import { flattenPath, type Path } from '../../geometry/path.ts'
import { nearestOn, piecesOf } from '../../geometry/pieces.ts'
import { type Ring, ringArea, ringLength, ringsBounds } from '../../geometry/ring.ts'
import type { Shape, VectorDrawing } from '../../vector/drawing.ts'
import { readSvg } from '../svg/svg.ts'
import { writeSvgDrawing } from '../svg/svg-write.ts'
import { readDxf } from './dxf.ts'
import { indexColour } from './dxf-colours.ts'
import { DxfError } from './dxf-pairs.ts'
import { writeDxf } from './dxf-write.ts'

type Groups = readonly (string | number)[]
const lines = (...groups: Groups): string => groups.join('\n')
const dxf = (entities: string, { header = '', tables = '', blocks = '' } = {}): Uint8Array =>
  strToU8(
    `${lines(0, 'SECTION', 2, 'HEADER', 9, '$INSUNITS', 70, 4)}\n${header}${lines(0, 'ENDSEC', 0, 'SECTION', 2, 'TABLES')}\n${tables}${lines(0, 'ENDSEC', 0, 'SECTION', 2, 'BLOCKS')}\n${blocks}${lines(0, 'ENDSEC', 0, 'SECTION', 2, 'ENTITIES')}\n${entities}\n${lines(0, 'ENDSEC', 0, 'EOF')}\n`,
  )
const paths = (drawing: VectorDrawing): Path[] => drawing.shapes.flatMap((shape) => [...shape.paths])
const flat = (drawing: VectorDrawing): Ring[] => paths(drawing).map((path) => flattenPath(path, 0.0005))
const area = (drawing: VectorDrawing): number => flat(drawing).reduce((sum, ring) => sum + Math.abs(ringArea(ring)), 0)
const circle = (x: number, y: number, r: number): string => lines(0, 'CIRCLE', 8, 0, 10, x, 20, y, 40, r)

describe('entities', () => {
  it('are as large as they say, up is up', () => {
    const read = readDxf(dxf(`${circle(10, 20, 5)}\n${lines(0, 'LINE', 8, 'cuts', 10, 0, 20, 0, 11, 30, 21, 40)}`))
    const [round, line] = flat(read)
    expect(Math.abs(ringArea(round))).toBeCloseTo(Math.PI * 25, 1)
    expect(ringsBounds([round]).y0).toBeCloseTo(-25, 6)
    expect(Array.from(line, (v) => v + 0)).toEqual([0, 0, 30, -40])
    expect(read.shapes[1].look).toEqual({ stroke: '#000000', layer: 'cuts' })
  })

  it('arcs run counter-clockwise, over zero too', () => {
    const [arc] = flat(readDxf(dxf(lines(0, 'ARC', 10, 0, 20, 0, 40, 10, 50, 315, 51, 45))))
    const n = arc.length
    const length = ringLength(arc) - Math.hypot(arc[n - 2] - arc[0], arc[n - 1] - arc[1])
    expect(length).toBeCloseTo(5 * Math.PI, 2)
    expect(ringsBounds([arc]).x1).toBeCloseTo(10, 4)
  })

  it('polylines have bulges: two half circles are a circle, either way', () => {
    for (const bulge of [1, -1]) {
      const read = readDxf(dxf(lines(0, 'LWPOLYLINE', 90, 2, 70, 1, 10, -7, 20, 0, 42, bulge, 10, 7, 20, 0, 42, bulge)))
      expect(area(read)).toBeCloseTo(Math.PI * 49, 1)
    }
    const old = lines(
      0,
      'POLYLINE',
      70,
      1,
      0,
      'VERTEX',
      10,
      0,
      20,
      0,
      0,
      'VERTEX',
      10,
      4,
      20,
      0,
      42,
      0.41421356,
      0,
      'VERTEX',
      10,
      0,
      20,
      4,
      0,
      'SEQEND',
    )
    // A triangle, and the segment of a quarter circle of radius 4.
    expect(area(readDxf(dxf(old)))).toBeCloseTo(8 + (Math.PI * 16) / 4 - 8, 2)
  })

  it('ellipses have axes and parts', () => {
    const whole = readDxf(dxf(lines(0, 'ELLIPSE', 10, 5, 20, 5, 11, 6, 21, 8, 40, 0.5, 41, 0, 42, 2 * Math.PI)))
    expect(area(whole)).toBeCloseTo(Math.PI * 50, 1)
    const half = readDxf(dxf(lines(0, 'ELLIPSE', 10, 0, 20, 0, 11, 10, 21, 0, 40, 0.3, 41, 0, 42, Math.PI)))
    expect(paths(half)[0].closed).toBe(false)
    expect(area(half)).toBeCloseTo((Math.PI * 30) / 2, 1)
  })

  it('splines: a rational one is a circle, a cubic is exact, one through points meets them', () => {
    const w = Math.SQRT1_2
    const points = [
      [1, 0],
      [1, 1],
      [0, 1],
      [-1, 1],
      [-1, 0],
      [-1, -1],
      [0, -1],
      [1, -1],
      [1, 0],
    ]
    const knots = [0, 0, 0, 1, 1, 2, 2, 3, 3, 4, 4, 4]
    const rational = lines(
      0,
      'SPLINE',
      70,
      4,
      71,
      2,
      72,
      12,
      73,
      9,
      ...knots.flatMap((k) => [40, k]),
      ...points.flatMap((_, i) => [41, i % 2 ? w : 1]),
      ...points.flatMap(([x, y]) => [10, 10 * x, 20, 10 * y]),
    )
    const round = readDxf(dxf(rational))
    expect(area(round)).toBeCloseTo(Math.PI * 100, 1)
    for (const ring of flat(round))
      for (let i = 0; i < ring.length; i += 2) expect(Math.abs(Math.hypot(ring[i], ring[i + 1]) - 10)).toBeLessThan(0.001)
    const fit = lines(0, 'SPLINE', 70, 8, 71, 3, 74, 3, 11, 0, 21, 0, 11, 5, 21, 5, 11, 10, 21, 0)
    const [through] = paths(readDxf(dxf(fit)))
    expect(nearestOn([through], 5, -5)!.distance).toBeLessThan(1e-6)
  })

  it('inserts are placed, scaled, turned, repeated and nested, their base point taken off', () => {
    const blocks = [
      lines(0, 'BLOCK', 2, 'dot', 10, 1, 20, 1, 0, 'CIRCLE', 8, 0, 10, 1, 20, 1, 40, 1, 0, 'ENDBLK'),
      lines(
        0,
        'BLOCK',
        2,
        'pair',
        10,
        0,
        20,
        0,
        0,
        'INSERT',
        2,
        'dot',
        10,
        0,
        20,
        0,
        0,
        'INSERT',
        2,
        'dot',
        10,
        10,
        20,
        0,
        0,
        'ENDBLK',
      ),
    ].join('\n')
    const insert = lines(0, 'INSERT', 8, 'pins', 2, 'pair', 10, 100, 20, 50, 41, 2, 42, 2, 50, 90, 70, 3, 71, 1, 44, 30)
    const read = readDxf(dxf(insert, { blocks: `${blocks}\n` }))
    expect(read.shapes).toHaveLength(6)
    expect(area(read)).toBeCloseTo(6 * Math.PI * 4, 1)
    const middles = flat(read).map((ring) => {
      const b = ringsBounds([ring])
      return [Math.round((b.x0 + b.x1) / 2), Math.round((b.y0 + b.y1) / 2)]
    })
    // Turned by a quarter, columns of 30 run upwards, the second dot 20 above the first.
    expect(middles).toEqual([
      [100, -50],
      [100, -70],
      [100, -80],
      [100, -100],
      [100, -110],
      [100, -130],
    ])
    expect(read.shapes[0].look.layer).toBe('pins')
  })

  it('units are those of the file; without any, millimetres are taken and told', () => {
    const inches = strToU8(new TextDecoder().decode(dxf(circle(0, 0, 1))).replace('$INSUNITS\n70\n4', '$INSUNITS\n70\n1'))
    expect(area(readDxf(inches))).toBeCloseTo(Math.PI * 25.4 ** 2, 0)
    const none = strToU8(new TextDecoder().decode(dxf(circle(0, 0, 1))).replace('$INSUNITS\n70\n4', '$LUNITS\n70\n4'))
    expect(readDxf(none).notices).toEqual(['The drawing does not say its unit: millimetres are taken.'])
  })

  it('layers hide, colour and are kept; text and the rest is told', () => {
    const tables = `${lines(0, 'TABLE', 2, 'LAYER', 0, 'LAYER', 2, 'shown', 70, 0, 62, 1, 0, 'LAYER', 2, 'frozen', 70, 1, 62, 3, 0, 'LAYER', 2, 'off', 70, 0, 62, -5, 0, 'ENDTAB')}\n`
    const on = (layer: string, ...more: Groups): string => lines(0, 'CIRCLE', 8, layer, 10, 0, 20, 0, 40, 1, ...more)
    const read = readDxf(
      dxf(
        [
          on('shown'),
          on('frozen'),
          on('off'),
          on('shown', 62, 5),
          on('shown', 420, 0x123456),
          lines(0, 'TEXT', 1, 'Saltmere'),
          lines(0, 'MTEXT', 1, 'x'),
          lines(0, 'WIPEOUT', 8, 0),
        ].join('\n'),
        { tables },
      ),
    )
    expect(read.shapes.map(({ look }) => look.stroke)).toEqual(['#ff0000', '#0000ff', '#123456'])
    expect(read.notices).toEqual(['2 texts left out.', '1 unknown entity (WIPEOUT) left out.'])
    expect([indexColour(10), indexColour(90), indexColour(170), indexColour(251)]).toEqual([
      '#ff0000',
      '#00ff00',
      '#0000ff',
      '#505050',
    ])
  })
})

describe('bad files', () => {
  it('blocks that hold themselves, or are missing, end and are told', () => {
    const blocks = `${lines(0, 'BLOCK', 2, 'a', 0, 'INSERT', 2, 'b', 10, 0, 20, 0, 0, 'ENDBLK', 0, 'BLOCK', 2, 'b', 0, 'INSERT', 2, 'a', 10, 0, 20, 0, 0, 'ENDBLK')}\n`
    const read = readDxf(
      dxf(`${lines(0, 'INSERT', 2, 'a', 10, 0, 20, 0)}\n${lines(0, 'INSERT', 2, 'gone')}\n${circle(0, 0, 1)}`, { blocks }),
    )
    expect(read.notices).toEqual(['1 block that holds itself left out.', '1 block that is missing left out.'])
  })

  it('get a sentence: binary, other files, nothing in them, cut short', () => {
    const sentence = (bytes: Uint8Array): string => {
      try {
        readDxf(bytes)
        return ''
      } catch (cause) {
        expect(cause).toBeInstanceOf(DxfError)
        return (cause as Error).message
      }
    }
    expect(sentence(Uint8Array.of(65, 66, 0, 1, 2))).toMatch(/binary/)
    expect(sentence(strToU8('<svg/>'))).toBe('This is not a DXF drawing.')
    expect(sentence(dxf(lines(0, 'POINT', 8, 0)))).toBe('The DXF holds nothing to cut.')
    const whole = new TextDecoder().decode(dxf(`${circle(0, 0, 1)}\n${circle(5, 0, 1)}`))
    expect(readDxf(strToU8(whole.slice(0, whole.lastIndexOf('CIRCLE') + 8))).shapes).toHaveLength(1)
  })

  it('names in an old code page are read', () => {
    const bytes = dxf(lines(0, 'CIRCLE', 8, 'L_cher', 10, 0, 20, 0, 40, 1))
    bytes[bytes.findIndex((_, i) => String.fromCharCode(...bytes.subarray(i, i + 2)) === 'L_') + 1] = 0xf6
    expect(readDxf(bytes).shapes[0].look.layer).toBe('Löcher')
  })

  it('any change of a file is a drawing or a sentence', () => {
    const good = new TextDecoder().decode(
      dxf(
        `${circle(0, 0, 1)}\n${lines(0, 'LWPOLYLINE', 90, 2, 70, 1, 10, -7, 20, 0, 42, 1, 10, 7, 20, 0)}\n${lines(0, 'INSERT', 2, 'b', 10, 1, 20, 2, 70, 2)}`,
        { blocks: `${lines(0, 'BLOCK', 2, 'b', 0, 'LINE', 10, 0, 20, 0, 11, 5, 21, 5, 0, 'ENDBLK')}\n` },
      ),
    )
    let seed = 1
    const random = (n: number): number => {
      seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0
      return Math.floor((seed / 4294967296) * n)
    }
    const by = ['', '0', '-1', '1e999', 'NaN', 'INSERT', '\n', '99999999', 'SECTION', 'x']
    for (let i = 0; i < 10_000; i++) {
      const at = random(good.length)
      try {
        readDxf(strToU8(good.slice(0, at) + by[random(by.length)] + good.slice(at + random(6))))
      } catch (cause) {
        expect(cause).toBeInstanceOf(DxfError)
      }
    }
  })
})

/** A look without what DXF has no word for: how strokes end. */
const plain = ({ look: { ends: _, ...look } }: Shape) => look

describe('SVG to DXF to SVG', () => {
  it('comes back within 0.001 mm, with its layers and colours', () => {
    const number = fc.integer({ min: -400, max: 400 }).map((v) => v / 8)
    const segment = fc.oneof(
      fc.tuple(number, number).map(([x, y]) => `L${x} ${y}`),
      fc.tuple(number, number, number, number, number, number).map((v) => `C${v.join(' ')}`),
      fc.tuple(fc.integer({ min: 1, max: 60 }), number, number).map(([r, x, y]) => `A${r} ${r / 2} 30 0 1 ${x} ${y}`),
    )
    const shape = fc.record({
      start: fc.tuple(number, number),
      list: fc.array(segment, { minLength: 1, maxLength: 6 }),
      close: fc.boolean(),
      stroke: fc.constantFrom('#ff0000', '#0055aa'),
      layer: fc.constantFrom('', 'deck', 'hull'),
    })
    fc.assert(
      fc.property(fc.array(shape, { minLength: 1, maxLength: 5 }), (list) => {
        const text = `<svg xmlns="http://www.w3.org/2000/svg" width="200mm" height="200mm" viewBox="-100 -100 200 200">${list
          .map(({ start, list: segments, close, stroke, layer }) => {
            const path = `<path fill="none" stroke="${stroke}" stroke-width="0.2" d="M${start.join(' ')}${segments.join('')}${close ? 'Z' : ''}"/>`
            return layer ? `<g id="${layer}">${path}</g>` : path
          })
          .join('')}</svg>`
        const first = readSvg(text)
        // What has no length is no line in either.
        fc.pre(
          first.paths.length > 0 &&
            first.paths.every((path) => piecesOf(path).every((p) => Math.hypot(p[0] - p[2], p[1] - p[3]) > 0.01)),
        )
        const back = readSvg(writeSvgDrawing({ ...readDxf(strToU8(writeDxf(first))), page: first.page }))
        expect(back.shapes.map(plain).sort((a, b) => JSON.stringify(a).localeCompare(JSON.stringify(b)))).toEqual(
          first.shapes.map(plain).sort((a, b) => JSON.stringify(a).localeCompare(JSON.stringify(b))),
        )
        // The page's lower edge is where DXF begins to count: back to where it was.
        const shift = first.page.y1
        const near = back.paths.map((path) => {
          const ring = flattenPath(path, 0.0002)
          return {
            closed: path.closed,
            kinds: new Uint8Array(ring.length / 2 - 1),
            points: ring.map((v, i) => (i % 2 ? v + shift : v)),
          }
        })
        for (const path of first.paths)
          for (const ring of [flattenPath(path, 0.001)])
            for (let i = 0; i < ring.length; i += 2 * Math.max(1, ring.length >> 5))
              expect(nearestOn(near, ring[i], ring[i + 1])!.distance).toBeLessThan(0.001)
      }),
      { numRuns: 60 },
    )
  })
})
