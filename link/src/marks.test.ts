import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { goingOn } from './going-on.ts'
import { MarkMaker, markBefore } from './marks.ts'
import { type Program, programLines, programOf } from './program.ts'

/** A program of any words, comments and blank lines. */
const line = fc.oneof(
  fc.constantFrom('', '  ', '; a comment', '(set up)', 'G20', 'G21', 'G91', 'G90', 'M8', 'M9', 'M5', 'M3', 'M4 S500', 'G4 P0.5'),
  fc
    .tuple(
      fc.constantFrom('G0', 'G1', 'g1', '', 'G2'),
      fc.integer({ min: -5000, max: 5000 }),
      fc.integer({ min: 0, max: 900 }),
      fc.constantFrom('', ' ; there', '(x)', ' F1200', 'S33.5', ' Z-1.25'),
    )
    .map(([g, x, y, rest]) => `${g}X${x / 100} Y ${y / 10}${rest}`),
)

/** The same program, marked as it is written: in pieces of any size. */
function marked(text: string, every: number): { readonly program: Program; readonly lines: number } {
  const bytes = Buffer.from(text, 'latin1')
  const maker = new MarkMaker(3)
  for (let i = 0; i < bytes.length; i += every) maker.take(bytes.subarray(i, i + every))
  const { marks, lines } = maker.done()
  const program: Program = {
    count: lines,
    marks,
    lines: (from) => {
      const mark = markBefore(marks, from - 1)
      return programLines(bytes.toString('latin1', mark?.byte ?? 0).split('\n'), from - 1 - (mark?.lines ?? 0))
    },
  }
  return { program, lines }
}

const all = (lines: Iterable<string>): string => [...lines].join('\n')

describe('marks in a program', () => {
  it('count its lines as they are sent, and let it be read from any of them', () => {
    fc.assert(
      fc.property(fc.array(line, { maxLength: 40 }), fc.integer({ min: 1, max: 50 }), fc.nat(40), (lines, every, from) => {
        const plain = programOf(lines.join('\n'))
        const { program, lines: count } = marked(lines.join('\n'), every)
        expect(count).toBe(plain.count)
        expect(all(program.lines(from + 1))).toBe(all(plain.lines(from + 1)))
      }),
      { numRuns: 500 },
    )
  })

  it('go on from any place as if all before it had been read', () => {
    fc.assert(
      fc.property(fc.array(line, { minLength: 1, maxLength: 40 }), fc.nat(40), (lines, at) => {
        const text = lines.join('\n')
        const plain = programOf(text)
        const place = { driven: Math.min(at, plain.count), x: 1, y: 2, z: undefined }
        const slow = goingOn(plain, place)
        const quick = goingOn(marked(text, 7).program, place)
        expect(quick.preamble).toEqual(slow.preamble)
        expect(all(quick.lines)).toBe(all(slow.lines))
      }),
      { numRuns: 500 },
    )
  })

  it('let a program of 5 million lines go on without reading more than a few thousand of them', () => {
    const maker = new MarkMaker()
    const lineAt = (i: number): string => `X${(i % 5000) % 600}.125S${(i % 5000) % 1000}`
    const piece = Buffer.from(Array.from({ length: 5000 }, (_, i) => `${lineAt(i)}\n`).join(''))
    for (let i = 0; i < 1000; i++) maker.take(piece)
    const { marks, lines } = maker.done()
    expect(lines).toBe(5_000_000)
    let read = 0
    const program: Program = {
      count: lines,
      marks,
      *lines(from) {
        for (let i = from - 1; i < lines; i++, read++) yield lineAt(i)
      },
    }
    const { preamble, lines: rest } = goingOn(program, { driven: 4_900_000, x: 0, y: 0, z: 0 })
    expect(rest[Symbol.iterator]().next().value).toContain('X0.125')
    // What the line that is cut short sets counts for the rest of it.
    expect(preamble).toContain('S0')
    expect(read).toBeLessThanOrEqual(4097)
  })
})
