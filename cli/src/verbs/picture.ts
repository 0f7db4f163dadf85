import { encodePng, intervalFromDpi, KERNELS, MAX_DOTS, NEUTRAL_TONE, preparePicture } from '@neotaxis/core'
import {
  type Io,
  lengthOption,
  numberOption,
  numbersOption,
  readOptions,
  tell,
  UsageError,
  WorkError,
  wordOption,
  writeOutput,
} from '../io.ts'
import { pixelMm, readPicture } from '../pictures.ts'

/** Picture → prepared picture: its dots, black where they burn. */
export async function run(args: readonly string[], io: Io): Promise<number> {
  const { values, positionals } = readOptions(
    args,
    {
      'width-mm': { type: 'string' },
      'height-mm': { type: 'string' },
      crop: { type: 'string' },
      'interval-mm': { type: 'string' },
      dpi: { type: 'string' },
      dither: { type: 'string' },
      levels: { type: 'string' },
      brightness: { type: 'string' },
      contrast: { type: 'string' },
      invert: { type: 'boolean', default: false },
    },
    { min: 1, max: 1, what: 'one picture file' },
  )
  if (values.dpi !== undefined && values['interval-mm'] !== undefined)
    throw new UsageError('--dpi and --interval-mm say the same thing: give one.')
  const dpi = numberOption('dpi', values.dpi, 1, 10_000)
  const intervalMm = lengthOption('interval-mm', values['interval-mm']) ?? (dpi === undefined ? 0.127 : intervalFromDpi(dpi))
  if (!(intervalMm > 0)) throw new UsageError('--interval-mm must be more than 0.')
  const kernel = wordOption('dither', values.dither, KERNELS) ?? 'floyd-steinberg'
  const levels = numbersOption('levels', values.levels, 3) ?? [0, 255, 1]
  const [black, white, gamma] = levels
  if (!(black >= 0 && white <= 255 && white > black && gamma > 0))
    throw new UsageError('--levels wants black and white between 0 and 255, black first, and a gamma above 0.')
  const brightness = numberOption('brightness', values.brightness, -100, 100) ?? 0
  const contrast = numberOption('contrast', values.contrast, -100, 100) ?? 0
  const crop = numbersOption('crop', values.crop, 4)
  const read = await readPicture(positionals[0])
  const part = crop
    ? { x: crop[0], y: crop[1], width: crop[2], height: crop[3] }
    : { x: 0, y: 0, width: read.intake.widthPx, height: read.intake.heightPx }
  if (
    !(
      part.width > 0 &&
      part.height > 0 &&
      part.x >= 0 &&
      part.y >= 0 &&
      part.x + part.width <= read.intake.widthPx &&
      part.y + part.height <= read.intake.heightPx
    )
  )
    throw new WorkError(`The crop lies outside the picture of ${read.intake.widthPx} × ${read.intake.heightPx} px.`)
  const mm = pixelMm(read, {})
  const width = lengthOption('width-mm', values['width-mm'])
  const height = lengthOption('height-mm', values['height-mm'])
  const ratio = part.height / part.width
  const widthMm = width ?? (height === undefined ? part.width * mm : height / ratio)
  const heightMm = height ?? widthMm * ratio
  if (!(widthMm > 0 && heightMm > 0)) throw new UsageError('The size must be more than 0.')
  const columns = Math.max(1, Math.round(widthMm / intervalMm))
  const rows = Math.max(1, Math.round(heightMm / intervalMm))
  if (columns * rows > MAX_DOTS)
    throw new WorkError(`${columns} × ${rows} dots are more than can be prepared. Choose a larger interval.`)
  const tone = { ...NEUTRAL_TONE, black, white, gamma, brightness, contrast, invert: values.invert ?? false }
  const marks = preparePicture(read.grey, columns, rows, { kernel, tone }, { crop: part })
  // Paper is white, marks are dark: inverted in place, the marks are not used again.
  for (let i = 0; i < marks.levels.length; i++) marks.levels[i] = 255 - marks.levels[i]
  if (values.output)
    writeOutput(
      values.output,
      encodePng(
        { widthPx: columns, heightPx: rows, channels: 1, samples: marks.levels, full: 255 },
        { pixelsPerMm: 1 / intervalMm, oneBit: kernel !== 'none' },
      ),
    )
  const { meanTone, wantedTone, coverage } = marks
  tell(
    io,
    values.json,
    {
      widthPx: columns,
      heightPx: rows,
      widthMm: columns * intervalMm,
      heightMm: rows * intervalMm,
      intervalMm,
      meanTone,
      wantedTone,
      coverage,
    },
    [
      `${columns} × ${rows} dots, ${(columns * intervalMm).toFixed(1)} × ${(rows * intervalMm).toFixed(1)} mm, ${(coverage * 100).toFixed(1)} % burned`,
    ],
  )
  return 0
}
