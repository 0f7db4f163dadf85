import { pathsOf } from '../formats/svg/path-data.ts'
import { mapPath, type Path } from '../geometry/path.ts'
import { STROKE_GLYPHS, STROKE_MARKS } from './stroke-glyphs.ts'
import type { Letter, Typeface } from './typeface.ts'

const CAP = 10
/** Room at either side of a letter, in its units. */
const SIDE = 1.1
/** Where marks stand above small letters and capitals, and hang below. */
const OVER_SMALL = -8.3
const OVER_CAPITAL = -11.2

const letters = new Map<string, Letter | undefined>()

/** One letter, put together from its base and its marks (Unicode NFD); undefined where it is not drawn. */
function letterOf(character: string): Letter | undefined {
  if (!letters.has(character)) letters.set(character, made(character))
  return letters.get(character)
}

function made(character: string): Letter | undefined {
  const own = STROKE_GLYPHS[character]
  if (own) return { paths: scaled(own[1], SIDE, 0), advance: (own[0] + 2 * SIDE) / CAP }
  const [base, ...marks] = character.normalize('NFD')
  const dotless = base === 'i' && marks.some((mark) => !STROKE_MARKS[mark]?.below) ? 'ı' : base
  const glyph = STROKE_GLYPHS[dotless]
  if (!glyph || marks.length === 0 || marks.some((mark) => !STROKE_MARKS[mark])) return undefined
  const [width, data] = glyph
  const over = base === base.toUpperCase() ? OVER_CAPITAL : OVER_SMALL
  return {
    paths: [
      ...scaled(data, SIDE, 0),
      ...marks.flatMap((mark) => scaled(STROKE_MARKS[mark].data, SIDE + width / 2, STROKE_MARKS[mark].below ? 0 : over)),
    ],
    advance: (width + 2 * SIDE) / CAP,
  }
}

const scaled = (data: string, x: number, y: number): Path[] =>
  data === '' ? [] : pathsOf(data).map((path) => mapPath(path, 1 / CAP, 1 / CAP, x / CAP, y / CAP))

/** The font of single strokes that ships with Neotaxis. */
export const STROKE_FONT: Typeface = {
  name: 'Single stroke',
  strokes: true,
  set: (line) => [...line.normalize('NFC')].map((character) => letterOf(character) ?? EMPTY),
  lacks: (text) => [...new Set(text.normalize('NFC'))].filter((character) => !/\s/.test(character) && !letterOf(character)),
}

/** What is not drawn leaves its place. */
const EMPTY: Letter = { paths: [], advance: 0.6 }
