import {
  BED_BOARD,
  boardSpots,
  boardSvg,
  calibrated,
  cameraFile,
  encodePng,
  lightOf,
  type MarksView,
  type Photo,
  photoOf,
  readCameraFile,
  rectified,
  standsOver,
} from '@neotaxis/core'
import { readPhoto } from '@neotaxis/intake'
import { type Io, lengthOption, numberOption, readInput, readOptions, tell, UsageError, WorkError, writeOutput } from '../io.ts'

const DEEDS = ['board', 'calibrate', 'rectify', 'simulate'] as const

/** The bed camera: its board, its calibration, the bed in its photos; or a simulated one, until it is ended. */
export async function run(args: readonly string[], io: Io): Promise<number> {
  const [deed, ...rest] = args
  switch (deed) {
    case 'board':
      return board(rest, io)
    case 'calibrate':
      return calibrate(rest, io)
    case 'rectify':
      return rectify(rest, io)
    case 'simulate':
      return simulate(rest, io)
    default:
      throw new UsageError(`say what: ${DEEDS.join(', ')}.`)
  }
}

function board(args: readonly string[], io: Io): number {
  const { values } = readOptions(args, {}, { min: 0, max: 0, what: 'no file' })
  if (!values.output) throw new UsageError('say where the board goes with -o OUT.')
  writeOutput(values.output, boardSvg(BED_BOARD))
  const { columns, rows, pitchMm } = BED_BOARD
  tell(io, values.json, { columns, rows, pitchMm }, [`a board of ${columns} × ${rows} dots, ${pitchMm} mm apart`])
  return 0
}

/** A list of lengths, as many as are wanted. */
function lengths(name: string, text: string, count: number): number[] {
  const all = text.split(',').map((part) => lengthOption(name, part) ?? Number.NaN)
  if (all.length !== count || all.some((v) => !Number.isFinite(v)))
    throw new UsageError(`--${name} is written like ${Array.from({ length: count }, (_, i) => 10 * (i + 1)).join(',')}.`)
  return all
}

const photoIn = async (path: string): Promise<Photo> => photoOf(await readPhoto(readInput(path)))

async function calibrate(args: readonly string[], io: Io): Promise<number> {
  const { values, positionals } = readOptions(
    args,
    { at: { type: 'string' }, anyhow: { type: 'boolean', default: false } },
    { min: 1, max: 40, what: 'photos of the board, each with its height: board.jpg@12' },
  )
  if (!values.at) throw new UsageError('say where the first dot lies on the bed: --at 30,20.')
  if (!values.output && !values.json) throw new UsageError('say where the calibration goes with -o OUT.')
  const [x0, y0] = lengths('at', values.at, 2)
  let size: { widthPx: number; heightPx: number } | undefined
  const views: MarksView[] = []
  for (const [i, positional] of positionals.entries()) {
    const [, path, high = '0'] = /^(.*?)(?:@([\d.]+[a-z"]*))?$/.exec(positional) ?? []
    const heightMm = lengthOption('height', high) ?? 0
    const photo = await photoIn(path)
    const { widthPx, heightPx } = photo
    if (size && (size.widthPx !== widthPx || size.heightPx !== heightPx))
      throw new WorkError(`${path} is ${widthPx} × ${heightPx} px, the photos before it ${size.widthPx} × ${size.heightPx}.`)
    size = { widthPx, heightPx }
    const lies = values.anyhow && i > 0
    try {
      const spots = boardSpots(lightOf(photo), BED_BOARD)
      views.push(
        lies
          ? { heightMm, spots, anyhow: true }
          : { heightMm, spots: spots.map((spot) => ({ ...spot, x: spot.x + x0, y: spot.y + y0 })) },
      )
    } catch (cause) {
      throw cause instanceof RangeError ? new WorkError(`${path}: ${cause.message}`) : cause
    }
  }
  const found = calibrated(size!, views)
  if (values.output) writeOutput(values.output, cameraFile(found))
  const { rmsMm, p95Mm, worst, spots, camera } = found
  const over = standsOver(camera)
  tell(io, values.json, { rmsMm, p95Mm, worst, spots, lens: camera.lens.kind, over }, [
    `${spots} dots in ${views.length} photos; a ${camera.lens.kind === 'brown' ? 'moderate' : 'wide'} lens ${over.heightMm.toFixed(0)} mm over the bed`,
    `off by ${p95Mm.toFixed(3)} mm at most for 95 of 100 dots; worst ${worst.mm.toFixed(3)} mm at ${worst.x.toFixed(0)}, ${worst.y.toFixed(0)}`,
  ])
  return 0
}

async function rectify(args: readonly string[], io: Io): Promise<number> {
  const { values, positionals } = readOptions(
    args,
    {
      camera: { type: 'string' },
      'height-mm': { type: 'string' },
      'px-per-mm': { type: 'string' },
      box: { type: 'string' },
    },
    { min: 1, max: 1, what: 'a photo' },
  )
  if (!values.camera) throw new UsageError('say which calibration it is seen through: --camera FILE.')
  if (!values.output) throw new UsageError('say where the picture goes with -o OUT.')
  const { camera } = readCameraFile(new TextDecoder().decode(readInput(values.camera)))
  const photo = await photoIn(positionals[0])
  if (Math.abs(photo.widthPx / photo.heightPx - camera.widthPx / camera.heightPx) > 0.002)
    throw new WorkError('The photo has another shape than those the camera was calibrated with: calibrate it anew.')
  const [x0, y0, x1, y1] = lengths('box', values.box ?? '0,0,600,400', 4)
  if (!(x1 > x0 && y1 > y0)) throw new UsageError('--box is written like 0,0,600,400: two corners of the bed.')
  const pxPerMm = numberOption('px-per-mm', values['px-per-mm'], 0.1, 60) ?? 4
  const widthPx = Math.round((x1 - x0) * pxPerMm)
  const heightPx = Math.round((y1 - y0) * pxPerMm)
  const heightMm = lengthOption('height-mm', values['height-mm']) ?? 0
  const samples = rectified(photo, camera, { x: x0, y: y0, pxPerMm, widthPx, heightPx }, heightMm)
  writeOutput(
    values.output,
    encodePng({ widthPx, heightPx, channels: 4, samples: new Uint8Array(samples.buffer), full: 255 }, { pixelsPerMm: pxPerMm }),
  )
  tell(io, values.json, { widthPx, heightPx, pxPerMm, heightMm }, [`the bed at ${pxPerMm} px a mm: ${widthPx} × ${heightPx} px`])
  return 0
}

async function simulate(args: readonly string[], io: Io): Promise<number> {
  const { BedCamera, hungOver, serveCamera, serveCameraPanel } = await import('@neotaxis/stand-ins')
  const { values } = readOptions(
    args,
    {
      port: { type: 'string' },
      panel: { type: 'string' },
      seed: { type: 'string' },
      wide: { type: 'boolean', default: false },
      bed: { type: 'string' },
      machine: { type: 'string' },
      'from-rear': { type: 'boolean', default: false },
    },
    { min: 0, max: 0, what: 'no file' },
  )
  const [x, y] = lengths('bed', values.bed ?? '600,400', 2)
  const seed = Math.round(numberOption('seed', values.seed, 0, 1e9) ?? 1)
  const outside = numberOption('machine', values.machine, 1, 65_535)
  const over = outside === undefined ? undefined : { panel: Math.round(outside), deepMm: y, fromFront: !values['from-rear'] }
  const camera = new BedCamera(hungOver({ x, y }, values.wide ? 'wide' : 'moderate', seed), seed, over)
  const server = await serveCamera(camera, Math.round(numberOption('port', values.port, 0, 65_535) ?? 0))
  const panel = await serveCameraPanel(camera, Math.round(numberOption('panel', values.panel, 0, 65_535) ?? 0))
  const portOf = (of: { address(): unknown }): number => (of.address() as { port: number }).port
  io.out(`http://127.0.0.1:${portOf(server)}/photo.jpg, what lies under it tcp://127.0.0.1:${portOf(panel)}\n`)
  await new Promise<void>((resolve) => {
    process.once('SIGTERM', () => resolve())
    process.once('SIGINT', () => resolve())
  })
  server.close()
  panel.close()
  return 0
}
