import {
  DEFAULT_CORNER_DEG,
  DEFAULT_TOLERANCE_PX,
  flattenPath,
  mapPath,
  measureOutlines,
  ringArea,
  trace,
  writeSvgPaths,
} from '@neotaxis/core'
import {
  type Io,
  lengthOption,
  numberOption,
  numbersOption,
  readOptions,
  tell,
  UsageError,
  wordOption,
  writeOutput,
} from '../io.ts'
import { cropped, pixelMm, readPicture } from '../pictures.ts'

/** Picture → outlines. */
export async function run(args: readonly string[], io: Io): Promise<number> {
  const { values, positionals } = readOptions(
    args,
    {
      dpi: { type: 'string' },
      'width-mm': { type: 'string' },
      threshold: { type: 'string' },
      mode: { type: 'string' },
      channel: { type: 'string' },
      'tolerance-mm': { type: 'string' },
      'corner-deg': { type: 'string' },
      'min-area-mm2': { type: 'string' },
      zone: { type: 'string' },
    },
    { min: 1, max: 1, what: 'one picture file' },
  )
  wordOption('mode', values.mode, ['outline'])
  if (values.dpi !== undefined && values['width-mm'] !== undefined)
    throw new UsageError('--dpi and --width-mm say the same thing: give one.')
  const dpi = numberOption('dpi', values.dpi, 1, 100_000)
  const widthMm = lengthOption('width-mm', values['width-mm'])
  const threshold = numberOption('threshold', values.threshold, 0, 1) ?? 0.5
  const channel = wordOption('channel', values.channel, ['grey', 'alpha'] as const) ?? 'grey'
  const toleranceMm = lengthOption('tolerance-mm', values['tolerance-mm'])
  const cornerDeg = numberOption('corner-deg', values['corner-deg'], 5, 170) ?? DEFAULT_CORNER_DEG
  const minArea = numberOption('min-area-mm2', values['min-area-mm2'], 0, 1e6)
  const zone = numbersOption('zone', values.zone, 4)
  const read = await readPicture(positionals[0])
  const mm = pixelMm(read, { dpi, widthMm })
  const picture = zone ? cropped(read.grey, zone) : read.grey
  const px = trace(picture, {
    threshold,
    channel,
    cornerDeg,
    tolerancePx: toleranceMm === undefined ? DEFAULT_TOLERANCE_PX : Math.max(0.02, toleranceMm / mm),
    minAreaPx: minArea === undefined ? 2 : minArea / (mm * mm),
  })
  const shift = zone ? [Math.max(0, Math.round(zone[0])) * mm, Math.max(0, Math.round(zone[1])) * mm] : [0, 0]
  const paths = px.map((path) => mapPath(path, mm, mm, shift[0], shift[1]))
  const numbers = measureOutlines(paths, 0.01)
  // The smallest area, as the side of a square.
  const smallestMm = paths.length ? Math.sqrt(Math.min(...paths.map((path) => Math.abs(ringArea(flattenPath(path, 0.01)))))) : 0
  const svg = writeSvgPaths(paths, read.intake.widthPx * mm, read.intake.heightPx * mm)
  if (values.output) writeOutput(values.output, svg)
  else if (!values.json) io.out(svg)
  const { length: lengthMm, ...counts } = numbers
  tell(io, values.json, { ...counts, lengthMm, smallestMm }, [
    `${counts.paths} paths, ${counts.nodes} nodes, ${lengthMm.toFixed(1)} mm`,
  ])
  return 0
}
