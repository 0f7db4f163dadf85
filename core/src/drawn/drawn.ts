import { pathData } from '../formats/svg/svg-write.ts'
import { setText } from '../text/set-text.ts'
import { STROKE_FONT } from '../text/stroke-font.ts'
import type { TextSpec } from '../text/text-spec.ts'
import type { Typeface } from '../text/typeface.ts'
import { type CodeSpec, codeData } from '../vector/qr-code.ts'
import { type Repeat, type ShapeSpec, shapeData } from '../vector/shapes.ts'

/** What was drawn or written here, by its numbers; it is kept with the drawing, so that it can be changed. */
export type Drawn = (ShapeSpec | TextSpec | CodeSpec) & {
  /** In rows and columns, from middle to middle; or around a circle, turned outwards. Absent: once. */
  readonly repeat?: Repeat
}

/** More copies than this are not drawn. */
const MOST_COPIES = 5000

const n = (v: number): string => String(Number(v.toFixed(4)))

/** What a drawn thing is called. */
export const drawnName = (drawn: Drawn): string =>
  drawn.kind === 'text' ? drawn.text.split('\n')[0].slice(0, 40) || 'text' : drawn.kind === 'path' ? 'drawn line' : drawn.kind

/** The assets that a drawn thing needs to be drawn anew. */
export const drawnAssets = (drawn: Drawn | undefined): readonly string[] =>
  drawn?.kind === 'text' && drawn.font.kind === 'file' ? [drawn.font.asset] : []

/**
 * A drawn thing as an SVG drawing, mm: outlines of letters filled, all else thin black lines.
 * @param face the font of a text, where it is a file
 * @throws RangeError with a sentence where its numbers make nothing
 */
export function drawnSvg(
  drawn: Drawn,
  face: Typeface = STROKE_FONT,
): { readonly svg: string; readonly notices: readonly string[] } {
  const { repeat } = drawn
  const { data, filled, notices } = once(drawn, face)
  if (data === '') throw new RangeError(drawn.kind === 'text' ? 'Write something first.' : 'There is nothing to draw.')
  const uses = placesOf(repeat).map((transform) => `<use href="#d"${transform && ` transform="${transform}"`}/>`)
  const look = filled ? 'fill="#000" fill-rule="nonzero"' : 'fill="none" stroke="#000" stroke-width="0.1"'
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="100mm" viewBox="0 0 100 100"><defs><path id="d" d="${data}"/></defs><g ${look}>${uses.join('')}</g></svg>`
  return { svg, notices }
}

function once(drawn: Drawn, face: Typeface): { data: string; filled: boolean; notices: readonly string[] } {
  if (drawn.kind === 'code') return { data: codeData(drawn), filled: true, notices: [] }
  if (drawn.kind !== 'text') return { data: shapeData(drawn), filled: false, notices: [] }
  const { paths, notices } = setText(drawn, face)
  return { data: paths.map((path) => pathData(path, 3)).join(''), filled: !face.strokes, notices }
}

/** The transforms of all copies. */
function placesOf(repeat: Repeat | undefined): string[] {
  if (!repeat) return ['']
  const count = repeat.kind === 'grid' ? repeat.columns * repeat.rows : repeat.count
  if (count > MOST_COPIES) throw new RangeError(`At most ${MOST_COPIES} copies are drawn.`)
  if (repeat.kind === 'round')
    return Array.from(
      { length: repeat.count },
      (_, i) => `rotate(${n((360 * i) / repeat.count)}) translate(0 ${n(-repeat.diameterMm / 2)})`,
    )
  const { columns, pitchXMm, pitchYMm } = repeat
  return Array.from(
    { length: count },
    (_, i) => `translate(${n((i % columns) * pitchXMm)} ${n(Math.floor(i / columns) * pitchYMm)})`,
  )
}
