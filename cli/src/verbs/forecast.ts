import {
  dpiFromInterval,
  encodePng,
  faceSize,
  forecastScene,
  MM_PER_INCH,
  mainPiece,
  paintForecast,
  recordJob,
  sceneAt,
  trackSeconds,
} from '@neotaxis/core'
import { type Io, numberOption, readOptions, tell, UsageError, WorkError, writeOutput } from '../io.ts'
import { loadJob } from '../jobs.ts'

/** Larger pictures than this are refused: they would not fit into memory beside the job. */
const MAX_PIXELS = 100_000_000

/** Job → picture of the workpiece after the burn, or at a moment of it; cut-away parts are transparent. */
export async function run(args: readonly string[], io: Io): Promise<number> {
  const { values, positionals } = readOptions(
    args,
    { dpi: { type: 'string' }, at: { type: 'string' } },
    { min: 1, max: 1, what: 'one job' },
  )
  if (!values.output) throw new UsageError('say where the picture goes with -o OUT.png.')
  const dpi = numberOption('dpi', values.dpi, 10, 2540) ?? dpiFromInterval(0.127)
  const { job, supply } = loadJob(positionals[0])
  const pxPerMm = dpi / MM_PER_INCH
  const widthPx = Math.max(1, Math.round(faceSize(mainPiece(job)).widthMm * pxPerMm))
  const heightPx = Math.max(1, Math.round(faceSize(mainPiece(job)).heightMm * pxPerMm))
  if (widthPx * heightPx > MAX_PIXELS) throw new WorkError(`${widthPx} × ${heightPx} px are too many. Choose a lower --dpi.`)
  const at = numberOption('at', values.at, 0, 1e7)
  const track = at === undefined ? undefined : recordJob(job, supply).track
  const scene = track && at !== undefined ? sceneAt(job, supply, track, at) : forecastScene(job, supply)
  const rgba = paintForecast(scene, { x: 0, y: 0, pxPerMm, widthPx, heightPx })
  writeOutput(
    values.output,
    encodePng({ widthPx, heightPx, channels: 4, samples: new Uint8Array(rgba.buffer), full: 255 }, { pixelsPerMm: pxPerMm }),
  )
  tell(io, values.json, { widthPx, heightPx, dpi, ...(track && { at, seconds: trackSeconds(track) }) }, [
    `${widthPx} × ${heightPx} px`,
  ])
  return 0
}
