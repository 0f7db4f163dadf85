import {
  type Centreline,
  CHANNELS,
  type Channel,
  centreline,
  cleaned,
  colourOf,
  DEFAULT_CORNER_DEG,
  DEFAULT_TOLERANCE_PX,
  flattenPath,
  type GreyPicture,
  greyFromPng,
  INK,
  inkPicture,
  JobError,
  mapPath,
  measureOutlines,
  type OutlineStep,
  outlinesOf,
  type Path,
  palette,
  readOutlineSteps,
  ringArea,
  sharedEdges,
  trace,
  writeSvgDrawing,
  writeSvgPaths,
} from '@neotaxis/core'
import {
  countOption,
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
import { cropped, pixelMm, type ReadPicture, readPicture } from '../pictures.ts'

/** Picture → outlines. */
export async function run(args: readonly string[], io: Io): Promise<number> {
  const { values, positionals } = readOptions(
    args,
    {
      dpi: { type: 'string' },
      'width-mm': { type: 'string' },
      threshold: { type: 'string' },
      above: { type: 'string' },
      'smooth-mm': { type: 'string' },
      mode: { type: 'string' },
      channel: { type: 'string' },
      'tolerance-mm': { type: 'string' },
      'corner-deg': { type: 'string' },
      'min-area-mm2': { type: 'string' },
      zone: { type: 'string' },
      steps: { type: 'string' },
      colours: { type: 'string' },
      ink: { type: 'boolean', default: false },
    },
    { min: 1, max: 1, what: 'one picture file' },
  )
  const mode = wordOption('mode', values.mode, ['outline', 'centreline'] as const) ?? 'outline'
  if (values.dpi !== undefined && values['width-mm'] !== undefined)
    throw new UsageError('--dpi and --width-mm say the same thing: give one.')
  const dpi = numberOption('dpi', values.dpi, 1, 100_000)
  const widthMm = lengthOption('width-mm', values['width-mm'])
  const threshold = numberOption('threshold', values.threshold, 0, 1) ?? 0.5
  const above = numberOption('above', values.above, 0, 1)
  if (above !== undefined && above >= threshold)
    throw new UsageError('--above is the lower end of the band: less than --threshold.')
  const smoothMm = lengthOption('smooth-mm', values['smooth-mm'])
  const channel = wordOption('channel', values.channel, ['grey', 'alpha'] as const) ?? 'grey'
  const toleranceMm = lengthOption('tolerance-mm', values['tolerance-mm'])
  const cornerDeg = numberOption('corner-deg', values['corner-deg'], 5, 170) ?? DEFAULT_CORNER_DEG
  const minArea = numberOption('min-area-mm2', values['min-area-mm2'], 0, 1e6)
  const zone = numbersOption('zone', values.zone, 4)
  if (mode === 'centreline' && (above !== undefined || smoothMm !== undefined || minArea !== undefined))
    throw new UsageError('--above, --smooth-mm and --min-area-mm2 are for outlines, not for centrelines.')
  const count = countOption('colours', values.colours, 2, 32)
  if (
    count !== undefined &&
    (mode !== 'outline' ||
      above !== undefined ||
      smoothMm !== undefined ||
      values.threshold !== undefined ||
      values.ink ||
      values.steps !== undefined)
  )
    throw new UsageError(
      '--colours parts the picture by its colours: no --mode, --ink, --threshold, --above, --smooth-mm or --steps with it.',
    )
  const steps = values.steps === undefined ? [] : stepsFrom(values.steps)
  const read = await readPicture(positionals[0])
  const mm = pixelMm(read, { dpi, widthMm })
  if (count !== undefined)
    return traceColours(read, mm, { count: count, toleranceMm, minAreaMm2: minArea ?? 0, zone }, io, values)
  const page = values.ink ? inkPicture(read.grey, INK) : read.grey
  const picture = zone ? cropped(page, zone) : page
  const tolerancePx = toleranceMm === undefined ? DEFAULT_TOLERANCE_PX : Math.max(0.02, toleranceMm / mm)
  const lines = mode === 'centreline' ? centreLines(picture, threshold, channel, Math.max(0.2, tolerancePx)) : undefined
  const px = lines
    ? lines.map(({ path }) => path)
    : trace(picture, {
        threshold,
        ...(above === undefined ? {} : { above }),
        ...(smoothMm === undefined ? {} : { smoothPx: smoothMm / mm }),
        channel,
        cornerDeg,
        tolerancePx,
        minAreaPx: minArea === undefined ? 2 : minArea / (mm * mm),
      })
  const shift = zone ? [Math.max(0, Math.round(zone[0])) * mm, Math.max(0, Math.round(zone[1])) * mm] : [0, 0]
  const traced = px.map((path) => mapPath(path, mm, mm, shift[0], shift[1]))
  const size = { widthMm: read.intake.widthPx * mm, heightMm: read.intake.heightPx * mm }
  const { paths, reports } = cleaned(traced, steps, size)
  reports.forEach((report, i) => {
    if (report?.trouble) io.err(`step ${i + 1}: ${report.trouble}\n`)
  })
  const numbers = measureOutlines(paths, 0.01)
  // The smallest area, as the side of a square; of strokes, the thinnest.
  const smallestMm =
    paths.length === 0
      ? 0
      : lines
        ? mm * lines.reduce((least, { widthPx }) => Math.min(least, widthPx), Number.POSITIVE_INFINITY)
        : smallestSide(paths)
  const svg = writeSvgPaths(paths, size.widthMm, size.heightMm)
  if (values.output) writeOutput(values.output, svg)
  else if (!values.json) io.out(svg)
  const { length: lengthMm, ...counts } = numbers
  tell(io, values.json, { ...counts, lengthMm, smallestMm, ...(steps.length > 0 ? { steps: reports } : {}) }, [
    `${counts.paths} paths, ${counts.nodes} nodes, ${lengthMm.toFixed(1)} mm`,
  ])
  return 0
}

interface ColourOptions {
  readonly count: number
  readonly toleranceMm: number | undefined
  readonly minAreaMm2: number
  readonly zone: readonly number[] | undefined
}

/** A picture parted into a small palette: a shape a colour, paper left out, neighbours sharing their edges. */
function traceColours(
  read: ReadPicture,
  mm: number,
  { count, toleranceMm, minAreaMm2, zone }: ColourOptions,
  io: Io,
  { output, json }: { readonly output?: string; readonly json: boolean },
): number {
  const channels = CHANNELS.map((weights) => {
    const grey = greyFromPng(read.intake.bytes, weights)
    return zone ? cropped(grey, zone) : grey
  })
  const picture = colourOf(channels)
  const found = palette(picture, count)
  const edges = sharedEdges(picture, found, toleranceMm === undefined ? 0 : toleranceMm / mm)
  const [dx, dy] = zone ? [Math.max(0, Math.round(zone[0])) * mm, Math.max(0, Math.round(zone[1])) * mm] : [0, 0]
  const colours = found.map(({ rgb, share, paper }, label) => {
    const paths = outlinesOf(edges, new Set([label]))
      .map((path) => mapPath(path, mm, mm, dx, dy))
      .filter((path) => Math.abs(ringArea(flattenPath(path, 0.01))) >= minAreaMm2)
    return { rgb, share, paper, paths }
  })
  const meant = colours.filter(({ paper }) => !paper)
  const hex = (rgb: readonly number[]): string => `#${rgb.map((v) => v.toString(16).padStart(2, '0')).join('')}`
  const svg = writeSvgDrawing({
    shapes: meant
      .filter(({ paths }) => paths.length > 0)
      .map(({ rgb, paths }) => ({ paths, look: { fill: hex(rgb), layer: hex(rgb).slice(1) }, rule: 'evenodd' as const })),
    page: { x0: 0, y0: 0, x1: read.intake.widthPx * mm, y1: read.intake.heightPx * mm },
    notices: [],
  })
  if (output) writeOutput(output, svg)
  else if (!json) io.out(svg)
  const all = meant.flatMap(({ paths }) => paths)
  const { length: lengthMm, ...counts } = measureOutlines(all, 0.01)
  const told = colours.map(({ rgb, share, paper, paths }) => ({ colour: hex(rgb), share, paper, paths: paths.length }))
  tell(io, json, { ...counts, lengthMm, smallestMm: all.length > 0 ? smallestSide(all) : 0, colours: told }, [
    ...told.map(
      ({ colour, share, paper, paths }) => `${colour} ${(100 * share).toFixed(1)} %, ${paper ? 'paper' : `${paths} paths`}`,
    ),
  ])
  return 0
}

/** Clean-up steps from a file, as a job keeps them or as a list. */
function stepsFrom(path: string): OutlineStep[] {
  try {
    return readOutlineSteps(JSON.parse(new TextDecoder().decode(readInput(path))))
  } catch (cause) {
    if (cause instanceof JobError) throw new WorkError(`${path}: ${cause.message}`)
    if (cause instanceof SyntaxError) throw new WorkError(`${path} is no JSON.`)
    throw cause
  }
}

/** The side of a square as large as the smallest outline, mm. */
const smallestSide = (paths: readonly Path[]): number =>
  Math.sqrt(paths.reduce((least, path) => Math.min(least, Math.abs(ringArea(flattenPath(path, 0.01)))), Infinity))

/** Lines in the middle of strokes; dots shorter than three pixels are none. */
function centreLines(picture: GreyPicture, threshold: number, channel: Channel, tolerancePx: number): Centreline[] {
  if (threshold <= 0 || threshold >= 1) throw new UsageError('--threshold lies between 0 and 1 for centrelines.')
  return centreline(picture, { threshold, channel, tolerancePx, minLengthPx: 3 })
}
