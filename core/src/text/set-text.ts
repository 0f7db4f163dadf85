import { pathsOf } from '../formats/svg/path-data.ts'
import { flattenPath, mapPath, type Path, turnPath } from '../geometry/path.ts'
import { closedLine, type Ring, ringLength } from '../geometry/ring.ts'
import { mergedLetters, type PlacedLetter } from './merge-letters.ts'
import { blockHeight, fittedLines, lettersWidth } from './text-box.ts'
import { entryText, MOST_LETTERS, type TextSpec } from './text-spec.ts'
import type { Typeface } from './typeface.ts'

/** A text as paths, mm, y down, and what cannot be written of it. */
export interface WrittenText {
  readonly paths: readonly Path[]
  /** A sentence each. */
  readonly notices: readonly string[]
}

/** How far the chords of the line that text stands on may lie off it, mm. */
const LINE_TOLERANCE = 0.005

/**
 * Writes a text. The first base line is at y = 0; straight lines begin, end or have their middle at x = 0; along a circle its
 * middle is the origin; a box begins there. Letters that overlap become one outline.
 * @throws RangeError with a sentence where it does not fit on its line, or is too much
 */
export function setText(spec: TextSpec, face: Typeface): WrittenText {
  const entries = spec.series ? spec.series.entries.map((entry) => entryText(spec.text, entry)) : [spec.text]
  const count = entries.reduce((sum, text) => sum + text.length, 0)
  if (count > MOST_LETTERS) throw new RangeError(`At most ${MOST_LETTERS} letters are written at once; these are ${count}.`)
  const { along } = spec
  const fitted = along?.kind === 'box' ? fittedLines(entries, spec, along, face) : undefined
  const capMm = fitted?.capMm ?? spec.capMm
  const smaller = { ...spec, capMm, letterMm: (spec.letterMm * capMm) / spec.capMm }
  const placed = entries.flatMap((text, i) => {
    const { columns = 1, pitchXMm = 0, pitchYMm = 0 } = spec.series ?? {}
    const [dx, dy] = [(i % columns) * pitchXMm, Math.floor(i / columns) * pitchYMm]
    return setOnce(fitted?.lines[i] ?? text.split(/\r?\n/), smaller, face).map((letter) =>
      dx || dy ? { ...letter, paths: letter.paths.map((path) => mapPath(path, 1, 1, dx, dy)) } : letter,
    )
  })
  const lacks = face.lacks(entries.join(''))
  const notices = [
    ...(capMm < spec.capMm ? [`Written with capitals of ${capMm.toFixed(2)} mm, so that it fits its box.`] : []),
    ...(lacks.length > 0
      ? [
          `${face.name} has no letter for ${lacks
            .slice(0, 8)
            .map((c) => `“${c}”`)
            .join(', ')}${lacks.length > 8 ? ' and others' : ''}.`,
        ]
      : []),
  ]
  return { paths: face.strokes ? placed.flatMap((letter) => [...letter.paths]) : mergedLetters(placed), notices }
}

/** The letters of one text in their places. */
function setOnce(text: readonly string[], spec: TextSpec, face: Typeface): PlacedLetter[] {
  const { capMm, letterMm, lineShare, along } = spec
  const lines = text.map((line) => face.set(line.replaceAll('\t', '  ')))
  // A box is filled from its middle.
  const top = along?.kind === 'box' ? (along.heightMm - blockHeight(lines.length, capMm, lineShare)) / 2 + capMm : 0
  return lines.flatMap((letters, row) => {
    const width = lettersWidth(letters, capMm, letterMm)
    const down = top + row * lineShare * capMm
    const place =
      along === undefined || along.kind === 'box'
        ? straight(width, down, spec.align, along?.widthMm)
        : placesAlong(along, width, down, spec.align)
    let at = 0
    return letters.map((letter) => {
      const wide = letter.advance * capMm
      const paths = letter.paths.map((path) => place(mapPath(path, capMm, capMm, 0, 0), at, wide))
      at += wide + letterMm
      return { paths, glyph: letter.paths }
    })
  })
}

/** Puts a letter where it stands on its line. @param at mm from the line's begin */
type Place = (letter: Path, at: number, wide: number) => Path

/** @param within width of the box that lines stand in, mm; else they meet at x = 0 */
function straight(width: number, down: number, align: TextSpec['align'], within = 0): Place {
  const begin = align === 'left' ? 0 : align === 'right' ? within - width : (within - width) / 2
  return (letter, at) => mapPath(letter, 1, 1, begin + at, down)
}

/** A line that letters stand on. */
type Line = Exclude<NonNullable<TextSpec['along']>, { readonly kind: 'box' }>

function placesAlong(along: Line, width: number, down: number, align: TextSpec['align']): Place {
  // Further lines around a circle stand on smaller ones (along its bottom on larger ones), else beside the line, letter by letter.
  const { line, closed } = lineOf(along, down)
  const beside = along.kind === 'path' ? down : 0
  const lengths = new Float64Array(line.length / 2)
  for (let i = 1; i < lengths.length; i++)
    lengths[i] = lengths[i - 1] + Math.hypot(line[2 * i] - line[2 * i - 2], line[2 * i + 1] - line[2 * i - 1])
  const whole = lengths[lengths.length - 1]
  if (!(whole > 0)) throw new RangeError('The line that the text should stand on has no length.')
  if (width > whole + 1e-6)
    throw new RangeError(
      `The text is ${width.toFixed(1)} mm long, the line that it stands on only ${whole.toFixed(1)} mm. Make the letters smaller or the line longer.`,
    )
  const spare = whole - width
  const begin = align === 'left' && along.kind === 'path' ? 0 : align === 'right' && along.kind === 'path' ? spare : spare / 2
  const point = (s: number): [number, number] => pointAt(line, lengths, closed ? ((s % whole) + whole) % whole : s)
  return (letter, at, wide) => {
    // Turned as the chord under it, so that it stands with both feet on the line.
    const half = Math.max(wide / 2, 1e-3)
    const middle = begin + at + wide / 2
    const [ax, ay] = point(middle - half)
    const [bx, by] = point(middle + half)
    const [mx, my] = point(middle)
    const chord = Math.hypot(bx - ax, by - ay) || 1
    const [cos, sin] = [(bx - ax) / chord, (by - ay) / chord]
    const [x, y] = [mx - sin * beside, my + cos * beside]
    return turnPath(letter, cos, sin, x - (wide / 2) * cos, y - (wide / 2) * sin)
  }
}

/** The line as a polyline; one that closes ends where it begins. */
function lineOf(along: Line, down: number): { readonly line: Ring; readonly closed: boolean } {
  if (along.kind === 'circle') {
    const top = along.at === 'top'
    const r = along.diameterMm / 2 + (top ? -down : down)
    if (!(r > 0)) throw new RangeError('The text has more lines than fit into its circle.')
    // Begins opposite, so that its middle is where the text has its own.
    const data = `M0 ${top ? r : -r}A${r} ${r} 0 0 ${top ? 1 : 0} 0 ${top ? -r : r}A${r} ${r} 0 0 ${top ? 1 : 0} 0 ${top ? r : -r}`
    return { line: flattenPath(pathsOf(data)[0], LINE_TOLERANCE), closed: true }
  }
  const lines = pathsOf(along.data).map(({ closed }, i, all) => ({ closed, flat: flattenPath(all[i], LINE_TOLERANCE) }))
  if (lines.length === 0) throw new RangeError('There is no line that the text could stand on.')
  const { closed, flat } = lines.reduce((a, b) => (ringLength(b.flat) > ringLength(a.flat) ? b : a))
  return closed ? { line: closedLine(flat), closed: true } : { line: flat, closed: false }
}

/** A place on a polyline, straight on beyond its ends. */
function pointAt(line: Ring, lengths: Float64Array, s: number): [number, number] {
  let [low, high] = [0, lengths.length - 2]
  while (low < high) {
    const middle = (low + high + 1) >> 1
    if (lengths[middle] <= s) low = middle
    else high = middle - 1
  }
  const t = (s - lengths[low]) / (lengths[low + 1] - lengths[low] || 1)
  const i = 2 * low
  return [line[i] + (line[i + 2] - line[i]) * t, line[i + 1] + (line[i + 3] - line[i + 1]) * t]
}
