import { drawingBounds, flattenPath, readVectorFile, ringsBounds, type Shape, seenArea, shapeArea } from '@neotaxis/core'
import { plainText } from '@neotaxis/core/formats/dxf/dxf-text'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { resolvedDrawing, transformAttribute } from './resolved-drawing.ts'

/** A page of 100 × 100 mm in mm. */
const page = (inside: string, attributes = 'width="100mm" height="100mm" viewBox="0 0 100 100"'): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" ${attributes}>${inside}</svg>`
const read = (text: string | Uint8Array) => {
  const bytes = typeof text === 'string' ? new TextEncoder().encode(text) : text
  return readVectorFile(resolvedDrawing(bytes))
}
const shapes = (inside: string): readonly Shape[] => read(page(inside)).shapes
const seen = (inside: string): number => shapeArea(seenArea(shapes(inside)))
const box = (inside: string) => drawingBounds({ shapes: shapes(inside) })
const rounded = (bounds: ReturnType<typeof box>) => Object.values(bounds).map((v) => Number(v.toFixed(2)))

describe('a drawing is as a viewer shows it', () => {
  it('in its units: 10 mm are 10 mm wherever they stand', () => {
    const { shapes: all } = read(page('<rect x="10mm" y="1cm" width="20mm" height="0.5in"/>', 'width="100mm" height="100mm"'))
    expect(rounded(drawingBounds({ shapes: all }))).toEqual([10, 10, 30, 22.7])
  })

  it('on its page: as large as fits, cut at, or drawn out, and at the side that is said', () => {
    const at = (how: string) => {
      const { shapes: all, page: sheet } = read(
        page('<rect width="50" height="50"/>', `width="100mm" height="50mm" viewBox="0 0 50 50" preserveAspectRatio="${how}"`),
      )
      return [rounded(drawingBounds({ shapes: all })), rounded(sheet!)]
    }
    expect(at('xMidYMid meet')[0]).toEqual([25, 0, 75, 50])
    expect(at('xMinYMin meet')[0]).toEqual([0, 0, 50, 50])
    expect(at('none')[0]).toEqual([0, 0, 100, 50])
    expect(at('xMidYMax slice')[0]).toEqual([0, -50, 100, 50])
    expect(at('none')[1]).toEqual([0, 0, 100, 50])
  })

  it('with transforms of styles, in the units of styles', () => {
    expect(rounded(box('<rect width="10" height="10" style="fill:red; transform: translate(20px, 30px) scale(50%)"/>'))).toEqual([
      20, 30, 25, 35,
    ])
    const turned = box('<rect width="10" height="10" style="transform:rotate(0.25turn)"/>')
    expect(rounded(turned)).toEqual([-10, 0, 0, 10])
    expect(transformAttribute('translateX(1in) rotate(200grad) skew(10deg, 5deg) scaleY(2)')).toBe(
      'translate(96 0) rotate(180) skewX(10) skewY(5) scale(1 2)',
    )
  })

  it('in its colours: of any notation, the stronger rule first; what is seen through as tone, what is not seen as nothing', () => {
    const fills = (inside: string) => shapes(inside).map(({ look }) => look.fill)
    expect(
      fills(`<style>.a{fill:blue !important} rect{fill:lime}</style><rect class="a" width="1" height="1" style="fill:red"/>
        <rect width="1" height="1"/><circle r="1" fill="hsl(120, 100%, 25%)"/><circle r="1" fill="currentColor" color="#123456"/>`),
    ).toEqual(['#0000ff', '#00ff00', '#007f00', '#123456'])
    expect(fills('<rect width="5" height="5" fill="#000" fill-opacity="0.5"/>')).toEqual(['#808080'])
    expect(fills('<g opacity="0.5"><rect width="5" height="5" opacity="0.5"/></g>')).toEqual(['#bfbfbf'])
    for (const nothing of [
      'fill-opacity="0"',
      'opacity="0"',
      'fill="rgba(0,0,0,0)"',
      'fill="none"',
      'visibility="hidden"',
      'display="none"',
      'fill="transparent"',
    ])
      expect(shapes(`<rect width="5" height="5" ${nothing}/><circle r="1"/>`), nothing).toHaveLength(1)
  })

  it('cut by clip paths and masks, each with its own rule', () => {
    const star = 'M0 0H20V20H0Z M5 5H15V15H5Z'
    const clip = (rule: string) =>
      `<clipPath id="c"><path d="${star}" clip-rule="${rule}"/></clipPath><rect width="30" height="30" clip-path="url(#c)"/>`
    expect(seen(clip('evenodd'))).toBeCloseTo(300, 1)
    expect(seen(clip('nonzero'))).toBeCloseTo(400, 1)
    const mask = '<mask id="m"><rect width="20" height="20" fill="white"/><circle cx="10" cy="10" r="5" fill="black"/></mask>'
    expect(seen(`${mask}<rect width="20" height="20" mask="url(#m)"/>`)).toBeCloseTo(400 - Math.PI * 25, 0)
    const half = '<mask id="h" maskContentUnits="objectBoundingBox"><rect width="0.5" height="1" fill="white"/></mask>'
    expect(seen(`${half}<rect x="10" width="20" height="20" mask="url(#h)"/>`)).toBeCloseTo(200, 1)
    const soft = read(
      page('<mask id="s"><rect width="20" height="20" fill="#888"/></mask><rect width="9" height="9" mask="url(#s)"/>'),
    )
    expect(soft.notices).toEqual(['A soft mask cuts where it is half light.'])
    // A wide stroke that is cut is what is left of it, not a line with ends of its own.
    const cut =
      '<clipPath id="d"><rect width="20" height="2"/></clipPath><path d="M0 2H40" stroke="#000" stroke-width="4" clip-path="url(#d)"/>'
    expect(seen(cut)).toBeCloseTo(40, 1)
  })

  it('with dashes as strokes, markers as shapes, and strokes that end and turn as they do', () => {
    const dashed = shapes(
      '<path d="M0 0H20" fill="none" stroke="#f00" stroke-width="0.1" stroke-dasharray="3 2" stroke-dashoffset="1"/>',
    )
    const lines = dashed.flatMap(({ paths }) => paths.map((path) => ringsBounds([flattenPath(path, 0.01)])))
    expect(lines.map(({ x0, x1 }) => [x0, x1].map((x) => Number(x.toFixed(3))))).toEqual([
      [0, 2],
      [4, 7],
      [9, 12],
      [14, 17],
      [19, 20],
    ])
    const mark =
      '<marker id="m" markerWidth="4" markerHeight="4" refX="2" refY="2" markerUnits="userSpaceOnUse"><rect width="4" height="4"/></marker>'
    expect(seen(`${mark}<path d="M10 10H50" fill="none" marker-end="url(#m)" marker-start="url(#m)"/>`)).toBeCloseTo(32, 1)
    const line = (more: string) => seen(`<path d="M10 10H30" fill="none" stroke="#000" stroke-width="4" ${more}/>`)
    expect(line('')).toBeCloseTo(80, 1)
    expect(line('stroke-linecap="square"')).toBeCloseTo(96, 1)
    expect(line('stroke-linecap="round"')).toBeCloseTo(80 + 4 * Math.PI, 0)
    const corner = (more: string) => seen(`<path d="M10 10H30V30" fill="none" stroke="#000" stroke-width="4" ${more}/>`)
    expect(corner('')).toBeCloseTo(160, 1)
    expect(corner('stroke-linejoin="bevel"')).toBeCloseTo(158, 1)
    expect(corner('stroke-linejoin="round"')).toBeCloseTo(156 + Math.PI, 1)
    // A point sharper than its limit is cut straight across.
    expect(corner('stroke-miterlimit="1"')).toBeCloseTo(158, 1)
    // Stretched more one way than the other, a stroke is too: across by 1, along by 3.
    expect(seen('<g transform="scale(3 1)"><path d="M10 0V20" fill="none" stroke="#000" stroke-width="2"/></g>')).toBeCloseTo(
      120,
      1,
    )
  })

  it('with what is repeated, switched, named by an entity, or drawn up to where it is damaged', () => {
    expect(
      seen('<defs><g id="a"><rect width="5" height="5"/></g></defs><use href="#a"/><use xlink:href="#a" x="20" y="3"/>'),
    ).toBeCloseTo(50, 2)
    expect(seen('<switch><rect systemLanguage="xx" width="9" height="9"/><rect width="4" height="4"/></switch>')).toBeCloseTo(
      16,
      2,
    )
    const entity = `<!DOCTYPE svg [<!ENTITY side "6"><!ENTITY ink "fill:#123456">]>${page('<rect width="&side;" height="&side;" style="&ink;"/>')}`
    expect(read(entity).shapes[0].look.fill).toBe('#123456')
    expect(rounded(drawingBounds(read(entity)))).toEqual([0, 0, 6, 6])
    expect(rounded(box('<path d="M0 0L5 5 10 0 L x 9" fill="none" stroke="#000"/>'))).toEqual([0, 0, 10, 5])
    // Drawn huge and shown small.
    expect(seen('<path d="M0 0H2e6V2e6H0Z" transform="scale(.00001)"/>')).toBeCloseTo(400, 1)
  })

  it('with its text as outlines, and the font that was meant told', () => {
    const { shapes: all, notices } = read(
      page('<text x="10" y="50" font-size="10" font-family="Saltmere Grotesk, serif">Tide</text>'),
    )
    expect(all.length).toBeGreaterThan(0)
    const { x0, x1, y0, y1 } = drawingBounds({ shapes: all })
    expect([x0, y1]).toEqual([expect.closeTo(10, -0.5), expect.closeTo(50, 0)])
    expect(x1 - x0).toBeGreaterThan(12)
    expect(y1 - y0).toBeGreaterThan(5)
    expect(notices).toEqual(['Text was set in the fonts that ship, not in “Saltmere Grotesk”: check how it runs.'])
  })

  it('with the names of its layers, and in any encoding that it says', () => {
    const layered = read(
      page(
        `<g xmlns:i="urn:made-here" i:groupmode="layer" i:label="Cut first" id="layer7"><rect width="3" height="3"/></g>
         <g xmlns:i="urn:made-here" i:groupmode="layer" i:label="Score &amp; more"><rect width="3" height="3"/></g>
         <g id="plain"><g id="inner"><rect width="3" height="3"/></g></g>`,
      ),
    )
    expect(layered.shapes.map(({ look }) => look.layer)).toEqual(['Cut first', 'Score & more', 'plain'])
    const latin = Buffer.from(
      `<?xml version="1.0" encoding="ISO-8859-1"?>${page('<g id="Möwe"><rect width="3" height="3"/></g>')}`,
      'latin1',
    )
    expect(read(new Uint8Array(latin)).shapes[0].look.layer).toBe('Möwe')
  })
})

describe('a DXF with text', () => {
  const dxf = (...entities: readonly (readonly (readonly [number, string | number])[])[]): Uint8Array => {
    const all = [
      [0, 'SECTION'],
      [2, 'HEADER'],
      [9, '$INSUNITS'],
      [70, 4],
      [0, 'ENDSEC'],
      [0, 'SECTION'],
      [2, 'ENTITIES'],
      ...entities.flat(),
      [0, 'ENDSEC'],
      [0, 'EOF'],
    ]
    return new TextEncoder().encode(all.map((pair) => pair.join('\n')).join('\n'))
  }
  const line = [
    [0, 'LINE'],
    [8, 'cuts'],
    [10, 0],
    [20, 0],
    [11, 50],
    [21, 0],
  ] as const

  it('has it as outlines, as high as it says, where it says, turned as it says; the font is told', () => {
    const { shapes: all, notices } = read(
      dxf(
        line,
        [
          [0, 'TEXT'],
          [8, 'names'],
          [62, 1],
          [10, 10],
          [20, 5],
          [40, 8],
          [1, 'HE'],
        ],
        [
          [0, 'TEXT'],
          [10, 100],
          [20, 0],
          [40, 4],
          [50, 90],
          [1, 'HH'],
        ],
      ),
    )
    const [, text, upright] = all
    expect(text.look).toMatchObject({ fill: '#ff0000', layer: 'names' })
    const at = drawingBounds({ shapes: [text] })
    // Up is up: its base line at y 5 lies 5 mm over the line, which is the bottom of the drawing.
    expect(at.y1 - at.y0).toBeCloseTo(8, 1)
    expect(at.y1).toBeCloseTo(-5, 1)
    expect(at.x0).toBeGreaterThan(10)
    const turned = drawingBounds({ shapes: [upright] })
    expect(turned.x1 - turned.x0).toBeCloseTo(4, 1)
    expect(turned.y1 - turned.y0).toBeGreaterThan(5)
    expect(notices).toEqual([expect.stringMatching(/^2 texts were set in .* not in the fonts of the drawing/)])
  })

  it('knows middles, blocks of several lines, and what its signs stand for', () => {
    const middle = read(
      dxf(line, [
        [0, 'TEXT'],
        [10, 0],
        [20, 0],
        [11, 25],
        [21, 30],
        [40, 6],
        [72, 1],
        [73, 2],
        [1, 'OHO'],
      ]),
    ).shapes[1]
    const { x0, x1, y0, y1 } = drawingBounds({ shapes: [middle] })
    expect((x0 + x1) / 2).toBeCloseTo(25, 0)
    expect((y0 + y1) / 2).toBeCloseTo(-30, 0)
    const block = read(
      dxf(line, [
        [0, 'MTEXT'],
        [10, 0],
        [20, 40],
        [40, 3],
        [71, 1],
        [1, '{\\fSome Font|b0|i0;Tide} 12%%d\\PBell'],
      ]),
    ).shapes[1]
    const lines = drawingBounds({ shapes: [block] })
    expect(lines.y0).toBeCloseTo(-40, 0)
    expect(lines.y1).toBeCloseTo(-40 + 3 + 5, 0)
    expect(plainText('{\\C1;a\\~b}\\Pc %%c5 \\S1/2; \\{x\\}')).toEqual(['a b', 'c ⌀5 1/2 {x}'])
  })
})

describe('what a drawing asks for', () => {
  it('is never fetched, and what is left out is told', () => {
    const { notices } = read(
      page(
        `<rect width="5" height="5"/><image href="/etc/hostname.png" width="5" height="5"/>
         <image href="data:image/png;base64,iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==" width="5" height="5"/>
         <script>alert(1)</script><use href="other.svg#a"/>`,
      ),
    )
    expect(notices).toContain('A picture from elsewhere was left out: nothing is fetched.')
    expect(notices.some((each) => /^\d pictures? left out\.$/.test(each))).toBe(true)
  })

  it('ends where it would fill the memory, or says nothing that can be drawn', () => {
    const bomb = Array.from({ length: 9 }, (_, i) => `<g id="b${i + 1}">${`<use href="#b${i}"/>`.repeat(10)}</g>`).join('')
    expect(() => read(page(`<defs><rect id="b0" width="1" height="1"/>${bomb}</defs><use href="#b9"/>`))).toThrow(
      'repeats its parts',
    )
    // What repeats itself has no end: it is left out.
    expect(read(page('<g id="r"><rect width="2" height="2"/><use href="#r"/></g>')).shapes.length).toBeGreaterThan(0)
    const laughs = `<!DOCTYPE svg [<!ENTITY a "aaaaaaaaaa">${Array.from({ length: 9 }, (_, i) => `<!ENTITY ${'bcdefghij'[i]} "${`&${'abcdefghi'[i]};`.repeat(10)}">`).join('')}]>`
    expect(() => read(`${laughs}${page('<rect id="&j;" width="1" height="1"/>')}`)).toThrow(/damaged|cannot be read/)
    expect(() => read(page('', 'width="0" height="0"'))).toThrow(/no size|damaged/)
    expect(() => read('<svg xmlns="http://www.w3.org/2000/svg"><g>')).toThrow('damaged')
    const dxf = new TextEncoder().encode('0\nSECTION\n2\nENTITIES\n')
    expect(resolvedDrawing(dxf)).toBe(dxf)
  })

  it('is read or refused with a sentence, whatever is changed in it, and resolved only once', () => {
    const text = page(
      '<g id="a" style="stroke:#f00"><path d="M1 1L5 9 9 1z"/><use href="#b"/></g><defs><circle id="b" r="3"/></defs>',
    )
    const plain = resolvedDrawing(new TextEncoder().encode(text))
    expect(resolvedDrawing(plain)).toBe(plain)
    fc.assert(
      fc.property(fc.nat(text.length), fc.nat(20), fc.string({ maxLength: 8 }), (at, cut, put) => {
        try {
          read(text.slice(0, at) + put + text.slice(at + cut))
        } catch (cause) {
          expect((cause as Error).message).toMatch(/^[A-Z].*\.$/)
        }
      }),
      { numRuns: 200 },
    )
  })
})
