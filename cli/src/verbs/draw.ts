import {
  assetName,
  type Bounds,
  columnOf,
  type Drawn,
  drawingBounds,
  drawnSchema,
  drawnSvg,
  readDrawing,
  readTable,
  readVectorFile,
  type TextSpec,
} from '@neotaxis/core'
import { readFont } from '@neotaxis/core/text/outline-font'
import { plainFont, shippedFonts } from '@neotaxis/intake'
import {
  countOption,
  type Io,
  lengthOption,
  numberOption,
  readInput,
  readOptions,
  tell,
  UsageError,
  WorkError,
  wordOption,
  writeOutput,
} from '../io.ts'

/** Shape or text, by its numbers → SVG. */
export async function run(args: readonly string[], io: Io): Promise<number> {
  const { values, positionals } = readOptions(
    args,
    {
      text: { type: 'string' },
      font: { type: 'string' },
      axes: { type: 'string' },
      'cap-mm': { type: 'string' },
      'letter-mm': { type: 'string' },
      lines: { type: 'string' },
      align: { type: 'string' },
      'circle-mm': { type: 'string' },
      'box-mm': { type: 'string' },
      at: { type: 'string' },
      series: { type: 'string' },
      column: { type: 'string' },
      columns: { type: 'string' },
      'pitch-mm': { type: 'string' },
    },
    { min: 0, max: 1, what: 'one file of numbers, or a --text' },
  )
  if ((values.text === undefined) === (positionals.length === 0))
    throw new UsageError('give a file with a drawing’s numbers as JSON, or a --text.')
  if (!values.output && !values.json) throw new UsageError('say where the drawing goes with -o OUT.')
  const font = await fontOf(values.font ?? 'strokes', axesOf(values.axes))
  const text: TextSpec | undefined =
    values.text === undefined
      ? undefined
      : {
          kind: 'text',
          text: values.text.replaceAll('\\n', '\n'),
          font: font.choice,
          capMm: lengthOption('cap-mm', values['cap-mm']) ?? 8,
          letterMm: lengthOption('letter-mm', values['letter-mm']) ?? 0,
          lineShare: numberOption('lines', values.lines, 0.2, 20) ?? 1.6,
          align: wordOption('align', values.align, ['left', 'middle', 'right'] as const) ?? 'left',
          ...alongOf(values),
          ...seriesOf(values),
        }
  const drawn = text ?? numbersOf(positionals[0])
  const face = text
    ? font.face
    : drawn.kind === 'text' && drawn.font.kind === 'file'
      ? (await fontOf(values.font ?? drawn.font.name, drawn.font.axes)).face
      : undefined
  const made = drawnSvg(drawn, face)
  const bytes = new TextEncoder().encode(made.svg)
  const { widthMm, heightMm, shapes } = readDrawing(bytes)
  if (values.output) writeOutput(values.output, onItsPage(made.svg, drawingBounds(readVectorFile(bytes))))
  const paths = shapes.reduce((sum, { paths: own }) => sum + own.length, 0)
  tell(io, values.json, { widthMm, heightMm, paths, notices: made.notices }, [
    ...made.notices,
    `${widthMm.toFixed(2)} × ${heightMm.toFixed(2)} mm, ${paths} paths`,
  ])
  return 0
}

/** Around what is drawn the page is so much wider, mm. */
const MARGIN_MM = 1

/** A drawing on a page that holds it: as wide and high as it is, with a little room. */
function onItsPage(svg: string, { x0, y0, x1, y1 }: Bounds): string {
  const mm = (value: number): string => String(Number(value.toFixed(3)))
  const [x, y, w, h] = [x0 - MARGIN_MM, y0 - MARGIN_MM, x1 - x0 + 2 * MARGIN_MM, y1 - y0 + 2 * MARGIN_MM].map(mm)
  return svg.replace(
    /width="[^"]*" height="[^"]*" viewBox="[^"]*"/,
    `width="${w}mm" height="${h}mm" viewBox="${x} ${y} ${w} ${h}"`,
  )
}

/** Axes of a variable font, written like wght=700,wdth=90. */
function axesOf(text: string | undefined): Readonly<Record<string, number>> | undefined {
  if (text === undefined) return undefined
  return Object.fromEntries(
    text.split(',').map((part) => {
      const [tag, value] = part.split('=')
      if (!/^[ -~]{4}$/.test(tag.trim().padEnd(4)) || !Number.isFinite(Number(value)) || !value)
        throw new UsageError(`--axes are written like wght=700,wdth=90, not ${text}.`)
      return [tag.trim().padEnd(4), Number(value)]
    }),
  )
}

/** A font by name, or from a file. */
async function fontOf(name: string, axes?: Readonly<Record<string, number>>) {
  if (name === 'strokes') return { choice: { kind: 'strokes' } as const, face: undefined }
  const shipped = shippedFonts().find(({ id }) => id === name)
  const known = ['strokes', ...shippedFonts().map(({ id }) => id)].join(', ')
  if (!shipped && !/\.(ttf|otf|ttc|woff2?)$/i.test(name))
    throw new UsageError(`--font is one of ${known}, or a file (TTF, OTF, WOFF, WOFF2); not ${name}.`)
  const bytes = shipped?.bytes ?? (await plainFont(readInput(name)))
  const face = readFont(bytes, axes)
  return { choice: { kind: 'file', asset: assetName(bytes), name: face.name, ...(axes && { axes }) } as const, face }
}

/** What a text stands on, or in. */
function alongOf(values: { 'circle-mm'?: string; 'box-mm'?: string; at?: string }): Pick<TextSpec, 'along'> {
  const diameterMm = lengthOption('circle-mm', values['circle-mm'])
  if (values['box-mm'] !== undefined) {
    if (diameterMm !== undefined) throw new UsageError('a text stands on a circle or in a box, not both.')
    const [widthMm, heightMm] = values['box-mm'].split(',').map((part) => lengthOption('box-mm', part) ?? 0)
    if (!(widthMm > 0 && heightMm > 0)) throw new UsageError('--box-mm is written like 60,30.')
    return { along: { kind: 'box', widthMm, heightMm } }
  }
  if (diameterMm === undefined) return {}
  return { along: { kind: 'circle', diameterMm, at: wordOption('at', values.at, ['top', 'bottom'] as const) ?? 'top' } }
}

function seriesOf(values: { series?: string; column?: string; columns?: string; 'pitch-mm'?: string }): Pick<TextSpec, 'series'> {
  if (values.series === undefined) return {}
  const table = readTable(new TextDecoder().decode(readInput(values.series)))
  const column = values.column === undefined ? 0 : table.columns.indexOf(values.column)
  if (column < 0) throw new WorkError(`The table has no column “${values.column}”. It has: ${table.columns.join(', ')}.`)
  const [pitchXMm, pitchYMm] = (values['pitch-mm'] ?? '60,20').split(',').map((part) => lengthOption('pitch-mm', part) ?? 0)
  if (!(pitchXMm > 0 && pitchYMm > 0)) throw new UsageError('--pitch-mm is written like 60,20.')
  return {
    series: {
      entries: columnOf(table, column),
      columns: countOption('columns', values.columns, 1, 200) ?? 1,
      pitchXMm,
      pitchYMm,
    },
  }
}

function numbersOf(path: string): Drawn {
  let value: unknown
  try {
    value = JSON.parse(new TextDecoder().decode(readInput(path)))
  } catch (cause) {
    if (cause instanceof WorkError) throw cause
    throw new WorkError(`${path} holds no numbers of a drawing.`)
  }
  const { error, value: drawn } = drawnSchema.validate(value, { convert: false })
  if (error) throw new WorkError(`${path}: ${error.message}.`)
  return drawn as Drawn
}
