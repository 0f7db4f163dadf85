/// <reference path="./opentype.d.ts" />
import { type Font, type Glyph, parse } from 'opentype.js/dist/opentype.mjs'
import { LINE, type Path } from '../geometry/path.ts'
import { isFont } from './font-kind.ts'
import type { Letter, Typeface } from './typeface.ts'
import { unpackWoff } from './woff.ts'

/** A font that cannot be used; `message` is a sentence for the operator. */
export class FontError extends Error {}

/** Larger files are refused unread. */
const MAX_BYTES = 20_000_000
/** Height of capitals where a font does not say it, share of the em: the usual one. */
const USUAL_CAP = 0.7

/** Letters that every font is tried with. */
const PRINTABLE = String.fromCharCode(...Array.from({ length: 94 }, (_, i) => 33 + i))

/** Reads a font: TrueType, OpenType (CFF) or WOFF. @throws FontError with a sentence */
export function readFont(bytes: Uint8Array): Typeface {
  const tag = String.fromCharCode(...bytes.subarray(0, 4))
  if (tag === 'wOF2') throw new FontError('WOFF2 fonts cannot be read. Use the font as TTF, OTF or WOFF.')
  if (tag === 'ttcf') throw new FontError('This file holds several fonts. Use one font as TTF, OTF or WOFF.')
  if (!isFont(bytes)) throw new FontError('This is no font that can be read. TTF, OTF and WOFF are understood.')
  if (bytes.length > MAX_BYTES)
    throw new FontError(`The font has ${Math.round(bytes.length / 1e6)} MB; at most ${MAX_BYTES / 1e6} MB can be read.`)
  let font: Font
  try {
    font = parse((tag === 'wOFF' ? unpackWoff(bytes) : bytes.slice()).buffer as ArrayBuffer)
    if (!(font.unitsPerEm > 0) || !(font.glyphs.length > 1)) throw new Error('it has no letters')
    // A damaged table shows when a letter is drawn, not before.
    typefaceOf(font).set(PRINTABLE)
  } catch (cause) {
    throw new FontError('The font is damaged and cannot be read.', { cause })
  }
  return typefaceOf(font)
}

function typefaceOf(font: Font): Typeface {
  const { unitsPerEm } = font
  const cap = capHeight(font)
  const drawn = new Map<number, readonly Path[]>()
  const pathsOf = (glyph: Glyph): readonly Path[] => {
    const known = drawn.get(glyph.index)
    if (known) return known
    const made = outlines(glyph, unitsPerEm, cap)
    drawn.set(glyph.index, made)
    return made
  }
  return {
    name: nameOf(font),
    strokes: false,
    set: (line) => {
      const glyphs = font.stringToGlyphs(line.normalize('NFC'))
      return glyphs.map((glyph, i): Letter => {
        const kern = i + 1 < glyphs.length ? font.getKerningValue(glyph, glyphs[i + 1]) : 0
        return { paths: pathsOf(glyph), advance: ((glyph.advanceWidth ?? 0) + kern) / cap }
      })
    },
    lacks: (text) =>
      [...new Set(text.normalize('NFC'))].filter((character) => !/\s/.test(character) && font.charToGlyphIndex(character) === 0),
  }
}

function nameOf({ names }: Font): string {
  for (const platform of ['windows', 'macintosh', 'unicode'] as const) {
    const found = names[platform]
    const full = found?.fullName?.en ?? found?.fontFamily?.en
    if (full) return full
  }
  return 'a font without a name'
}

/** Height of capitals in the font's units: as tall as its H, as it says (OS/2), or the usual. */
function capHeight(font: Font): number {
  const box = font.charToGlyphIndex('H') ? font.charToGlyph('H').getBoundingBox() : undefined
  if (box && box.y2 > 0) return box.y2
  const said = font.tables.os2?.sCapHeight
  return said !== undefined && said > 0 ? said : USUAL_CAP * font.unitsPerEm
}

/** The closed outlines of a glyph, quadratic curves raised to cubic ones exactly. */
function outlines(glyph: Glyph, unitsPerEm: number, cap: number): Path[] {
  const paths: Path[] = []
  let kinds: number[] = []
  let points: number[] = []
  const s = 1 / cap
  const end = (): void => {
    if (kinds.length > 1) {
      const n = points.length
      if (Math.hypot(points[n - 2] - points[0], points[n - 1] - points[1]) > 1e-9) {
        kinds.push(LINE)
        points.push(points[0], points[1])
      }
      paths.push({ closed: true, kinds: Uint8Array.from(kinds), points: Float64Array.from(points) })
    }
    kinds = []
    points = []
  }
  for (const c of glyph.getPath(0, 0, unitsPerEm).commands) {
    if (c.type === 'Z') {
      end()
      continue
    }
    const [x, y] = [c.x * s, c.y * s]
    if (![x, y].every(Number.isFinite)) throw new FontError('The font is damaged: a letter lies nowhere.')
    if (c.type === 'M') {
      end()
      points = [x, y]
      continue
    }
    const [px, py] = points.slice(-2)
    if (c.type === 'L') {
      if (Math.hypot(x - px, y - py) < 1e-9) continue
      kinds.push(LINE)
      points.push(x, y)
    } else if (c.type === 'C') {
      kinds.push(1)
      points.push(c.x1 * s, c.y1 * s, c.x2 * s, c.y2 * s, x, y)
    } else {
      const [qx, qy] = [c.x1 * s, c.y1 * s]
      kinds.push(1)
      points.push(px + (2 / 3) * (qx - px), py + (2 / 3) * (qy - py), x + (2 / 3) * (qx - x), y + (2 / 3) * (qy - y), x, y)
    }
  }
  end()
  return paths
}
