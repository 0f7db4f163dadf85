import { Blob, Buffer, Direction, Face, Font, MetricsTag, shape, Variation } from 'harfbuzzjs'
import { LINE, type Path } from '../geometry/path.ts'
import { isFont } from './font-kind.ts'
import { runsOf } from './runs.ts'
import type { FontAxis, Letter, Typeface } from './typeface.ts'
import { unpackWoff } from './woff.ts'

/** A font that cannot be used; `message` is a sentence for the operator. */
export class FontError extends Error {}

/** Larger files are refused unread. */
const MAX_BYTES = 60_000_000
/** Height of capitals where a font does not say it, share of the em: the usual one. */
const USUAL_CAP = 0.7
/** So many of its letters are drawn before it is said that a font has no outlines. */
const LOOKED_AT = 200

/**
 * Reads a font: TrueType, OpenType (CFF, CFF2), WOFF, the first of a collection; a variable one at its axes. Letters are shaped and drawn by
 * HarfBuzz: kerned, joined and set as their script wants it.
 * @param axes values by tag, of a variable font; absent: as it is by itself @throws FontError with a sentence
 */
export function readFont(bytes: Uint8Array, axes: Readonly<Record<string, number>> = {}): Typeface {
  const tag = String.fromCharCode(...bytes.subarray(0, 4))
  if (tag === 'wOF2') throw new FontError('A WOFF2 font is unpacked where it is brought in: bring it in as a file.')
  if (!isFont(bytes)) throw new FontError('This is no font that can be read. TTF, OTF, WOFF and WOFF2 are understood.')
  if (bytes.length > MAX_BYTES)
    throw new FontError(`The font has ${Math.round(bytes.length / 1e6)} MB; at most ${MAX_BYTES / 1e6} MB can be read.`)
  let face: Face
  try {
    const plain = tag === 'wOFF' ? unpackWoff(bytes) : bytes
    face = new Face(new Blob(plain.slice().buffer as ArrayBuffer), 0)
  } catch (cause) {
    throw new FontError('The font is damaged and cannot be read.', { cause })
  }
  const characters = face.collectUnicodes()
  if (!(face.upem > 0) || characters.length === 0) throw new FontError('The font is damaged and cannot be read.')
  const font = new Font(face)
  const own = axesOf(face)
  if (own.length > 0)
    font.setVariations(
      own.map(({ tag: name, least, usual, most }) => new Variation(name, Math.min(most, Math.max(least, axes[name] ?? usual)))),
    )
  const step = Math.max(1, Math.floor(characters.length / LOOKED_AT))
  const isDrawn = (code: number): boolean => font.glyphToJson(font.nominalGlyph(code) ?? 0).length > 1
  let found = false
  for (let i = 0; i < characters.length && !found; i += step) found = isDrawn(characters[i])
  if (!found) throw new FontError('This font has no outlines: its letters are pictures, or it is damaged.')
  return typefaceOf(face, font, own)
}

function axesOf(face: Face): FontAxis[] {
  return Object.values(face.getAxisInfos()).map(({ tag, nameId, min, default: usual, max }) => ({
    tag,
    name: face.getName(nameId, 'en') || tag,
    least: min,
    usual,
    most: max,
  }))
}

/** A letter as it is drawn, and how far it reaches along. */
function typefaceOf(face: Face, font: Font, axes: readonly FontAxis[]): Typeface {
  const cap = capHeight(font, face.upem)
  const drawn = new Map<number, readonly Path[]>()
  const pathsOf = (glyph: number): readonly Path[] => {
    const known = drawn.get(glyph)
    if (known) return known
    const made = outlines(font, glyph, cap)
    drawn.set(glyph, made)
    return made
  }
  const setRun = (text: string, isRightToLeft: boolean): Letter[] => {
    const buffer = new Buffer()
    buffer.addText(text)
    buffer.guessSegmentProperties()
    buffer.setDirection(isRightToLeft ? Direction.RTL : Direction.LTR)
    shape(font, buffer)
    const [infos, places] = [buffer.getGlyphInfos(), buffer.getGlyphPositions()]
    return infos.map(({ codepoint: glyph }, i): Letter => {
      const { xAdvance, xOffset, yOffset } = places[i]
      const paths = pathsOf(glyph)
      const moved = xOffset || yOffset ? paths.map((path) => shifted(path, xOffset / cap, -yOffset / cap)) : paths
      return { paths: moved, advance: xAdvance / cap }
    })
  }
  return {
    name: nameOf(face),
    strokes: false,
    ...(axes.length > 0 ? { axes } : {}),
    set: (line) => runsOf(line.normalize('NFC')).flatMap(({ text, isRightToLeft }) => setRun(text, isRightToLeft)),
    lacks: (text) =>
      [...new Set(text.normalize('NFC'))].filter(
        (character) => !/[\s\p{Cf}]/u.test(character) && font.nominalGlyph(character.codePointAt(0)!) === undefined,
      ),
  }
}

function shifted({ closed, kinds, points }: Path, dx: number, dy: number): Path {
  return { closed, kinds, points: points.map((v, i) => v + (i % 2 === 0 ? dx : dy)) }
}

/** Full name, else the family's (OpenType name ids 4, 16, 1). */
function nameOf(face: Face): string {
  for (const id of [4, 16, 1]) {
    const name = face.getName(id, 'en').trim()
    if (name) return name
  }
  return 'a font without a name'
}

/** Height of capitals in the font's units: as tall as its H, as it says (OS/2), or the usual. */
function capHeight(font: Font, upem: number): number {
  const glyph = font.nominalGlyph(72)
  const tall = glyph === undefined ? undefined : font.glyphExtents(glyph)?.yBearing
  if (tall !== undefined && tall > 0) return tall
  const said = font.getMetricPosition(MetricsTag.CAP_HEIGHT)
  return said !== undefined && said > 0 ? said : USUAL_CAP * upem
}

/** The outlines of a letter whose capitals are 1 high: TrueType's parabolas as the cubics that they are. y down. */
function outlines(font: Font, glyph: number, cap: number): readonly Path[] {
  const paths: Path[] = []
  let kinds: number[] = []
  let points: number[] = []
  const end = (): void => {
    if (kinds.length > 0) {
      const [x, y] = points
      if (Math.hypot(points[points.length - 2] - x, points[points.length - 1] - y) > 1e-9) {
        kinds.push(LINE)
        points.push(x, y)
      }
      paths.push({ closed: true, kinds: Uint8Array.from(kinds), points: Float64Array.from(points) })
    }
    kinds = []
  }
  for (const { type, values } of font.glyphToJson(glyph)) {
    const v = values.map((value, i) => (i % 2 === 0 ? value : -value) / cap)
    const [px, py] = [points[points.length - 2], points[points.length - 1]]
    if (type === 'M') {
      end()
      points = [v[0], v[1]]
    } else if (type === 'L') {
      kinds.push(LINE)
      points.push(v[0], v[1])
    } else if (type === 'Q') {
      const [cx, cy, x, y] = v
      kinds.push(1)
      points.push(px + (2 / 3) * (cx - px), py + (2 / 3) * (cy - py), x + (2 / 3) * (cx - x), y + (2 / 3) * (cy - y), x, y)
    } else if (type === 'C') {
      kinds.push(1)
      points.push(...v)
    } else {
      end()
      points = points.slice(0, 2)
    }
  }
  end()
  return paths
}
