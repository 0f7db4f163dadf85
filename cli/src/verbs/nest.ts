import { ANY_ANGLE, fit, nestedRings, nestPieces, QUARTER_TURNS } from '@neotaxis/core'
import { anglesOption, countOption, type Io, lengthOption, readOptions } from '../io.ts'
import { readDrawing, writeDrawing } from '../outlines.ts'

/** Shapes and a sheet → pieces laid out on it (SVG), with the share of the sheet that they use. Each file is a shape. */
export async function run(args: readonly string[], io: Io): Promise<number> {
  const { values, positionals } = readOptions(
    args,
    {
      'spacing-mm': { type: 'string' },
      'margin-mm': { type: 'string' },
      copies: { type: 'string' },
      angles: { type: 'string' },
    },
    { min: 2, max: 200, what: 'SVG files: the shapes, and last the sheet' },
  )
  const spacingMm = lengthOption('spacing-mm', values['spacing-mm']) ?? 0
  const marginMm = lengthOption('margin-mm', values['margin-mm']) ?? 0
  const count = countOption('copies', values.copies, 1, 10_000) ?? 1
  const asked = anglesOption('angles', values.angles) ?? QUARTER_TURNS
  const angles = asked === 'any' ? ANY_ANGLE : asked
  const shapes = positionals.slice(0, -1).map((path) => readDrawing(path, io).rings)
  const sheet = readDrawing(positionals[positionals.length - 1], io)
  const { placed, left, used } = nestPieces(
    shapes.map((rings) => ({ rings, count })),
    sheet.rings,
    { spacingMm, marginMm, angles },
  )
  // What found no place at all, and what would.
  left.forEach((missing, i) => {
    if (missing < count) return
    const alone = fit(shapes[i], sheet.rings, { marginMm, angles: asked === 'any' ? undefined : asked, mayScale: false })
    io.err(`${positionals[i]}: ${'fits' in alone ? alone.message : 'It has no room beside the others.'}\n`)
  })
  const over = left.reduce((sum, each) => sum + each, 0)
  const told = { used, placed: placed.length, left: over, pieces: placed }
  writeDrawing(
    placed.flatMap((piece) => nestedRings(shapes[piece.piece], piece)),
    [sheet.page],
    io,
    values,
    told,
    [
      `${placed.length} ${placed.length === 1 ? 'piece' : 'pieces'} on ${(100 * used).toFixed(1)} % of the sheet${over > 0 ? `, ${over} left` : ''}`,
    ],
  )
  return placed.length > 0 ? 0 : 1
}
