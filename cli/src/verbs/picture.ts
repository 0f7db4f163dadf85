import {
  type CropStep,
  type Dots,
  encodePng,
  type FramingStep,
  frame,
  framedSize,
  greyFromPng,
  INK,
  intervalFromDpi,
  KERNELS,
  MAX_DOTS,
  PLAIN_DOTS,
  prepareMarks,
  readTreatment,
  type Treatment,
  type TreatmentFile,
  type TreatmentStep,
} from '@neotaxis/core'
import {
  countOption,
  failed,
  type Io,
  lengthOption,
  numberOption,
  numbersOption,
  readInput,
  readOptions,
  tell,
  UsageError,
  WorkError,
  wordOption,
  writeOutput,
} from '../io.ts'
import { pixelMm, readPicture } from '../pictures.ts'

const OPTIONS = {
  steps: { type: 'string' },
  'width-mm': { type: 'string' },
  'height-mm': { type: 'string' },
  crop: { type: 'string' },
  'interval-mm': { type: 'string' },
  dpi: { type: 'string' },
  dither: { type: 'string' },
  levels: { type: 'string' },
  brightness: { type: 'string' },
  contrast: { type: 'string' },
  sharpen: { type: 'string' },
  posterise: { type: 'string' },
  flatten: { type: 'boolean', default: false },
  ink: { type: 'boolean', default: false },
  invert: { type: 'boolean', default: false },
} as const

/** How far shadows on photographed paper are wider than its ink, where nothing else is said, mm. */
const FLATTEN_MM = 8

type Values = ReturnType<typeof readOptions<typeof OPTIONS>>['values']

/** Picture → prepared picture: its dots, black where they burn. */
export async function run(args: readonly string[], io: Io): Promise<number> {
  const { values, positionals } = readOptions(args, OPTIONS, { min: 1, max: 1, what: 'one picture file' })
  if (values.dpi !== undefined && values['interval-mm'] !== undefined)
    throw new UsageError('--dpi and --interval-mm say the same thing: give one.')
  const dpi = numberOption('dpi', values.dpi, 1, 10_000)
  const given = lengthOption('interval-mm', values['interval-mm']) ?? (dpi === undefined ? undefined : intervalFromDpi(dpi))
  if (given !== undefined && !(given > 0)) throw new UsageError('--interval-mm must be more than 0.')
  const file = values.steps === undefined ? undefined : stepsFile(values.steps)
  const short = shortSteps(values)
  const kernel = wordOption('dither', values.dither, KERNELS)
  const dots: Dots = { ...PLAIN_DOTS, ...file?.dots, ...(kernel ? { kernel, asPrepared: false } : {}) }
  const read = await readPicture(positionals[0])
  const crop = cropStep(values.crop, read.intake)
  const framing: FramingStep[] = [...(crop ? [crop] : []), ...(file?.framing ?? [])]
  const treatment = joined(file?.treatment, short)
  const size = framedSize(read.intake, framing)
  // A picture that brings its pitch along keeps it where it is burned as prepared.
  const intervalMm = given ?? (dots.asPrepared && read.intake.pixelsPerMm ? 1 / read.intake.pixelsPerMm : 0.127)
  const mm = dots.asPrepared ? intervalMm : pixelMm(read, {})
  const width = lengthOption('width-mm', values['width-mm'])
  const height = lengthOption('height-mm', values['height-mm'])
  const ratio = size.heightPx / size.widthPx
  const widthMm = width ?? (height === undefined ? size.widthPx * mm : height / ratio)
  const heightMm = height ?? widthMm * ratio
  if (!(widthMm > 0 && heightMm > 0)) throw new UsageError('The size must be more than 0.')
  const columns = Math.max(1, Math.round(widthMm / intervalMm))
  const rows = Math.max(1, Math.round(heightMm / intervalMm))
  if (columns * rows > MAX_DOTS)
    throw new WorkError(`${columns} × ${rows} dots are more than can be prepared. Choose a larger interval.`)
  if (dots.asPrepared && (Math.abs(columns / size.widthPx - 1) > 0.005 || Math.abs(rows / size.heightPx - 1) > 0.005))
    throw new WorkError(
      `Its ${Math.round(size.widthPx)} × ${Math.round(size.heightPx)} dots at ${intervalMm} mm are ${(size.widthPx * intervalMm).toFixed(2)} × ${(size.heightPx * intervalMm).toFixed(2)} mm: as prepared it cannot have another size.`,
    )
  const framed = frame(treatment.grey ? greyFromPng(read.intake.bytes, treatment.grey) : read.grey, framing)
  const marks = prepareMarks(framed, treatment, dots, columns, rows, { pitchMm: intervalMm })
  const paper = marks.levels.map((level) => 255 - level)
  if (values.output)
    writeOutput(
      values.output,
      encodePng(
        { widthPx: marks.columns, heightPx: marks.rows, channels: 1, samples: paper, full: 255 },
        { pixelsPerMm: 1 / intervalMm, oneBit: dots.kernel !== 'none' },
      ),
    )
  const { meanTone, wantedTone, coverage } = marks
  const made = { widthMm: marks.columns * intervalMm, heightMm: marks.rows * intervalMm }
  tell(io, values.json, { widthPx: marks.columns, heightPx: marks.rows, ...made, intervalMm, meanTone, wantedTone, coverage }, [
    `${marks.columns} × ${marks.rows} dots, ${made.widthMm.toFixed(1)} × ${made.heightMm.toFixed(1)} mm, ${(coverage * 100).toFixed(1)} % burned`,
  ])
  return 0
}

function stepsFile(path: string): TreatmentFile {
  let value: unknown
  try {
    value = JSON.parse(new TextDecoder().decode(readInput(path)))
  } catch (cause) {
    if (cause instanceof WorkError) throw cause
    throw new WorkError(`${path} is no JSON.`)
  }
  try {
    return readTreatment(value)
  } catch (cause) {
    throw new WorkError(failed(cause))
  }
}

function cropStep(text: string | undefined, { widthPx, heightPx }: { widthPx: number; heightPx: number }): CropStep | undefined {
  const crop = numbersOption('crop', text, 4)
  if (!crop) return undefined
  const [x, y, width, height] = crop
  if (!(width > 0 && height > 0 && x >= 0 && y >= 0 && x + width <= widthPx && y + height <= heightPx))
    throw new WorkError(`The crop lies outside the picture of ${widthPx} × ${heightPx} px.`)
  return { kind: 'crop', on: true, x, y, width, height }
}

/** The short options as steps, in the order in which people work: even the light, tone, sharpen, clear tones, invert. */
function shortSteps(values: Values): TreatmentStep[] {
  const steps: TreatmentStep[] = []
  if (values.ink) steps.push({ kind: 'ink', on: true, ...INK })
  if (values.flatten) steps.push({ kind: 'flatten', on: true, radiusMm: FLATTEN_MM })
  const levels = numbersOption('levels', values.levels, 3)
  if (levels) {
    const [black, white, gamma] = levels
    if (!(black >= 0 && white <= 255 && white > black && gamma > 0))
      throw new UsageError('--levels wants black and white between 0 and 255, black first, and a gamma above 0.')
    steps.push({ kind: 'levels', on: true, black, white, gamma, ink: [], paper: [] })
  }
  const brightness = numberOption('brightness', values.brightness, -100, 100) ?? 0
  const contrast = numberOption('contrast', values.contrast, -100, 100) ?? 0
  if (brightness !== 0 || contrast !== 0) steps.push({ kind: 'contrast', on: true, brightness, contrast })
  const sharpen = numbersOption('sharpen', values.sharpen, 3)
  if (sharpen) {
    const [radius, amount, threshold] = sharpen
    if (!(radius >= 0.2 && radius <= 10 && amount >= 0 && amount <= 500 && threshold >= 0 && threshold <= 255))
      throw new UsageError('--sharpen wants a radius of 0.2 to 10 px, an amount up to 500 %, and a threshold of 0 to 255.')
    steps.push({ kind: 'sharpen', on: true, radius, amount, threshold })
  }
  const posterise = countOption('posterise', values.posterise, 2, 64)
  if (posterise !== undefined) steps.push({ kind: 'posterise', on: true, levels: Math.round(posterise) })
  if (values.invert) steps.push({ kind: 'invert', on: true })
  return steps
}

/** Steps of the file first, then those of the short options. */
function joined(file: Treatment | undefined, short: readonly TreatmentStep[]): Treatment {
  const ids = short.map((_, i) => `short-${i + 1}`)
  return {
    ...(file?.grey ? { grey: file.grey } : {}),
    steps: { ...file?.steps, ...Object.fromEntries(short.map((step, i) => [ids[i], step])) },
    order: [...(file?.order ?? []), ...ids],
    masks: file?.masks ?? {},
  }
}
