import {
  BED_BOARD,
  blankPieces,
  boardSpots,
  boardSvg,
  type Camera,
  calibrated,
  cameraFile,
  encodePng,
  FAINT,
  type Freedom,
  LEAST_MARKS,
  lightOf,
  type MarksView,
  outlineData,
  outlineSize,
  type Photo,
  type PlainBoard,
  photoOf,
  plainBoardSpots,
  type QuarterTurn,
  readCameraFile,
  rectified,
  registered,
  sameShape,
  seenBlanks,
  seenMarks,
  slotWidth,
  standsOver,
} from '@neotaxis/core'
import { readPhoto } from '@neotaxis/intake'
import {
  countOption,
  HelpAsked,
  type Io,
  lengthOption,
  numberOption,
  readInput,
  readOptions,
  tell,
  UsageError,
  WorkError,
  writeOutput,
} from '../io.ts'

const DEEDS = ['board', 'calibrate', 'rectify', 'blank', 'find-marks', 'slot', 'simulate'] as const

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
    case 'blank':
      return blank(rest, io)
    case 'find-marks':
      return findMarks(rest, io)
    case 'slot':
      return slot(rest, io)
    case 'simulate':
      return simulate(rest, io)
    default:
      if (deed === '--help' || deed === '-h') throw new HelpAsked({}, `one of the words ${DEEDS.join(', ')}`)
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

/** A board of dots as it is said: 19x13@30, columns, rows and mm from dot to dot; undefined for the board of the shop. */
function boardSaid(text: string | undefined): PlainBoard | undefined {
  if (text === undefined) return undefined
  const [, columns, rows, pitch] = /^(\d{1,3})[x×](\d{1,3})@(.+)$/.exec(text) ?? []
  const pitchMm = pitch === undefined ? undefined : lengthOption('board', pitch)
  if (!pitchMm || Number(columns) < 2 || Number(rows) < 2)
    throw new UsageError('--board is written like 19x13@30: columns, rows, and how far dots are apart.')
  return { columns: Number(columns), rows: Number(rows), pitchMm }
}

const TURNS = ['0', '90', '180', '270'] as const

async function calibrate(args: readonly string[], io: Io): Promise<number> {
  const { values, positionals } = readOptions(
    args,
    {
      board: { type: 'string' },
      at: { type: 'string' },
      'thickness-mm': { type: 'string' },
      'turned-deg': { type: 'string', default: '0' },
      anyhow: { type: 'boolean', default: false },
    },
    { min: 1, max: 40, what: 'photos of the board, each with its height where it has one: board.jpg@12' },
  )
  if (!values.at) throw new UsageError('say where the first dot lies on the bed: --at 30,20.')
  if (!values.output && !values.json) throw new UsageError('say where the calibration goes with -o OUT.')
  const turned = TURNS.find((turn) => turn === values['turned-deg'])
  if (!turned) throw new UsageError(`--turned-deg is one of ${TURNS.join(', ')}.`)
  const board = boardSaid(values.board)
  const [x0, y0] = lengths('at', values.at, 2)
  const usual = lengthOption('thickness-mm', values['thickness-mm']) ?? 0
  let size: { widthPx: number; heightPx: number } | undefined
  const views: MarksView[] = []
  for (const [i, positional] of positionals.entries()) {
    const [, path, high] = /^(.*?)(?:@([\d.]+[a-z"]*))?$/.exec(positional) ?? []
    const heightMm = lengthOption('height', high) ?? usual
    const photo = await photoIn(path)
    const { widthPx, heightPx } = photo
    if (size && (size.widthPx !== widthPx || size.heightPx !== heightPx))
      throw new WorkError(`${path} is ${widthPx} × ${heightPx} px, the photos before it ${size.widthPx} × ${size.heightPx}.`)
    size = { widthPx, heightPx }
    const lies = values.anyhow && i > 0
    try {
      const light = lightOf(photo)
      const spots = board ? plainBoardSpots(light, board, Number(turned) as QuarterTurn) : boardSpots(light, BED_BOARD)
      views.push(
        lies
          ? { heightMm, spots, anyhow: true }
          : { heightMm, spots: spots.map((spot) => ({ ...spot, x: spot.x + x0, y: spot.y + y0 })) },
      )
    } catch (cause) {
      throw cause instanceof RangeError ? new WorkError(`${path}: ${cause.message}`) : cause
    }
  }
  const found = sentence(() => calibrated(size!, views))
  if (values.output) writeOutput(values.output, cameraFile(found))
  const { rmsMm, p95Mm, worst, spots, camera } = found
  const over = standsOver(camera)
  const told = { errorMmRms: rmsMm, errorMmP95: p95Mm, errorMmMax: worst.mm, worst, spots, lens: camera.lens.kind, over }
  tell(io, values.json, told, [
    `${spots} dots in ${views.length} photos; a ${camera.lens.kind === 'brown' ? 'moderate' : 'wide'} lens ${over.heightMm.toFixed(0)} mm over the bed`,
    `off by ${p95Mm.toFixed(3)} mm at most for 95 of 100 dots; worst ${worst.mm.toFixed(3)} mm at ${worst.x.toFixed(0)}, ${worst.y.toFixed(0)}`,
  ])
  return 0
}

/** What the core says of a photo that it can do nothing with. */
function sentence<T>(of: () => T): T {
  try {
    return of()
  } catch (cause) {
    throw cause instanceof RangeError ? new WorkError(cause.message) : cause
  }
}

const SEEN = { calibration: { type: 'string' }, 'thickness-mm': { type: 'string' } } as const

/** A photo of the bed and the camera that took it. */
async function seenThrough(
  path: string,
  values: { readonly calibration?: string; readonly 'thickness-mm'?: string },
): Promise<{ readonly photo: Photo; readonly camera: Camera; readonly heightMm: number }> {
  if (!values.calibration) throw new UsageError('say which calibration it is seen through: --calibration FILE.')
  const { camera } = sentence(() => readCameraFile(new TextDecoder().decode(readInput(values.calibration!))))
  const photo = await photoIn(path)
  if (!sameShape(photo, camera))
    throw new WorkError('The photo has another shape than those the camera was calibrated with: calibrate it anew.')
  const heightMm = lengthOption('thickness-mm', values['thickness-mm']) ?? 0
  if (heightMm >= standsOver(camera).heightMm) throw new WorkError('Nothing is so thick that it reaches up to the camera.')
  return { photo, camera, heightMm }
}

/** The bed of the machine that is used where no other is said, mm. */
const BED = '0,0,600,400'
const USUAL_DPI = 127

/** A part of the bed: its corner, width and height. */
function areaSaid(text: string | undefined): readonly [number, number, number, number] {
  const [x, y, w, h] = lengths('area', text ?? BED, 4)
  if (!(w > 0 && h > 0)) throw new UsageError('--area is written like 0,0,600,400: a corner of the bed, width and height.')
  return [x, y, w, h]
}

async function rectify(args: readonly string[], io: Io): Promise<number> {
  const { values, positionals } = readOptions(
    args,
    { ...SEEN, dpi: { type: 'string' }, area: { type: 'string' } },
    { min: 1, max: 1, what: 'a photo' },
  )
  if (!values.output) throw new UsageError('say where the picture goes with -o OUT.')
  const [x, y, w, h] = areaSaid(values.area)
  const pxPerMm = (numberOption('dpi', values.dpi, 2, 2540) ?? USUAL_DPI) / 25.4
  const [widthPx, heightPx] = [Math.round(w * pxPerMm), Math.round(h * pxPerMm)]
  if (widthPx * heightPx > MOST_PX)
    throw new UsageError(`${widthPx} × ${heightPx} px are too many: a smaller --area, or fewer --dpi.`)
  const { photo, camera, heightMm } = await seenThrough(positionals[0], values)
  const samples = rectified(photo, camera, { x, y, pxPerMm, widthPx, heightPx }, heightMm)
  writeOutput(
    values.output,
    encodePng({ widthPx, heightPx, channels: 4, samples: new Uint8Array(samples.buffer), full: 255 }, { pixelsPerMm: pxPerMm }),
  )
  const dpi = pxPerMm * 25.4
  tell(io, values.json, { widthPx, heightPx, dpi, thicknessMm: heightMm }, [`the bed at ${dpi} dpi: ${widthPx} × ${heightPx} px`])
  return 0
}
/** A picture of the bed has at most so many pixels. */
const MOST_PX = 80e6

async function blank(args: readonly string[], io: Io): Promise<number> {
  const { values, positionals } = readOptions(
    args,
    { ...SEEN, empty: { type: 'string' }, area: { type: 'string' }, 'least-mm2': { type: 'string' } },
    { min: 1, max: 1, what: 'a photo of what lies on the bed' },
  )
  if (!values.output && !values.json) throw new UsageError('say where the outlines go with -o OUT.')
  const [x, y, w, h] = areaSaid(values.area)
  const { photo, camera, heightMm } = await seenThrough(positionals[0], values)
  const empty = values.empty ? await photoIn(values.empty) : undefined
  if (empty && !sameShape(empty, camera)) throw new WorkError('The photo of the empty bed has another shape than the other one.')
  const leastMm2 = numberOption('least-mm2', values['least-mm2'], 1, 1e6)
  const bed = { widthMm: x + w, heightMm: y + h }
  const found = sentence(() =>
    seenBlanks(photo, camera, { bed, thicknessMm: heightMm, ...(empty && { empty }), ...(leastMm2 && { leastMm2 }) }),
  )
  if (found.length === 0)
    throw new WorkError(
      'Nothing lies on the bed, as far as the photo tells: what looks like the bed is found with a photo of the empty bed (--empty), or drawn by hand.',
    )
  const pieces = blankPieces(found)
  const data = found.map(({ edge, holes }) => outlineData([edge, ...holes]))
  if (values.output) {
    const paths = data.map((d) => `<path d="${d}" fill="none" fill-rule="evenodd" stroke="#000" stroke-width="0.2"/>`)
    writeOutput(
      values.output,
      `<svg xmlns="http://www.w3.org/2000/svg" width="${bed.widthMm}mm" height="${bed.heightMm}mm" viewBox="0 0 ${bed.widthMm} ${bed.heightMm}">${paths.join('')}</svg>`,
    )
  }
  const blanks = found.map(({ areaMm2, cutOff, faint, holes }, i) => {
    const { pose, outline } = pieces[i].piece
    return {
      ...pose,
      ...outlineSize(outline),
      kind: outline.kind,
      areaMm2,
      holes: holes.length,
      cutOff,
      faint,
      like: pieces[i].like,
    }
  })
  tell(
    io,
    values.json,
    { blanks },
    blanks.map((each, i) => {
      const words = [
        each.cutOff && 'it reaches beyond the photo or the bed: only a part is seen',
        each.faint > FAINT && 'in places it looks like what is beside it: look at its edge',
        each.like !== i && `like blank ${each.like + 1}`,
      ].filter(Boolean)
      const size = `${each.widthMm.toFixed(1)} × ${each.heightMm.toFixed(1)} mm`
      return `blank ${i + 1}: ${size}, turned by ${(each.deg ?? 0).toFixed(1)}°${words.length > 0 ? ` (${words.join('; ')})` : ''}`
    }),
  )
  return 0
}

async function findMarks(args: readonly string[], io: Io): Promise<number> {
  const { values, positionals } = readOptions(
    args,
    {
      ...SEEN,
      marks: { type: 'string' },
      'reach-mm': { type: 'string' },
      freedom: { type: 'string', default: 'similarity' },
    },
    { min: 1, max: 1, what: 'a photo of the marks' },
  )
  const places = (values.marks ?? '').split(';').filter(Boolean)
  if (places.length === 0) throw new UsageError('say where marks are expected on the bed: --marks 20,20;180,20.')
  const known = places.map((place): [number, number] => lengths('marks', place, 2) as [number, number])
  const freedom = FREEDOMS.find((each) => each === values.freedom)
  if (!freedom) throw new UsageError(`--freedom is one of ${FREEDOMS.join(', ')}.`)
  const { photo, camera, heightMm } = await seenThrough(positionals[0], values)
  const reachMm = lengthOption('reach-mm', values['reach-mm'])
  const marks = sentence(() => seenMarks(photo, camera, known, { heightMm, ...(reachMm && { reachMm }) }))
  const found = marks.flatMap((mark) => (mark.found ? [{ known: mark.known, found: mark.found }] : []))
  if (found.length === 0)
    throw new WorkError('None of the marks is near where it is expected: look at the photo, or search farther with --reach-mm.')
  const registration = registered(found, found.length < LEAST_MARKS[freedom] ? 'shift' : freedom)
  if ('not' in registration) throw new WorkError(registration.not)
  const { map, deg, scale, rmsMm, offMm } = registration
  const told = {
    marks,
    found: found.length,
    freedom: registration.freedom,
    map,
    deg,
    scale,
    errorMmRms: rmsMm,
    errorMmMax: Math.max(...offMm),
  }
  if (values.output) writeOutput(values.output, `${JSON.stringify(told, null, 2)}\n`)
  tell(io, values.json, told, [
    ...marks.map(({ known: [kx, ky], found: at }) =>
      at ? `${kx}, ${ky}: found at ${at[0].toFixed(3)}, ${at[1].toFixed(3)}` : `${kx}, ${ky}: not found`,
    ),
    `turned by ${deg.toFixed(3)}°, scale ${scale.toFixed(5)}; off by ${rmsMm.toFixed(3)} mm`,
  ])
  return 0
}
const FREEDOMS = Object.keys(LEAST_MARKS) as Freedom[]

/** How wide a cut is: in a photo of the camera at the head, or of the bed where that is fine enough. */
async function slot(args: readonly string[], io: Io): Promise<number> {
  const { values, positionals } = readOptions(
    args,
    { ...SEEN, at: { type: 'string' }, 'angle-deg': { type: 'string' } },
    { min: 1, max: 1, what: 'a photo of the cut' },
  )
  if (!values.at) throw new UsageError('say where the cut is seen: --at 12.5,30, from the beam for a camera at the head.')
  const at = lengths('at', values.at, 2) as [number, number]
  const deg = numberOption('angle-deg', values['angle-deg'], -360, 360) ?? 0
  const { photo, camera, heightMm } = await seenThrough(positionals[0], values)
  const along = [Math.cos((deg * Math.PI) / 180), Math.sin((deg * Math.PI) / 180)] as const
  const seen = slotWidth(photo, camera, at, along, heightMm)
  if (!seen) throw new WorkError('No slot is seen there: say where its middle is, and leave what was cut out in its place.')
  if (values.output) writeOutput(values.output, `${JSON.stringify(seen, null, 2)}\n`)
  tell(io, values.json, seen, [`${seen.widthMm.toFixed(3)} mm wide, to and fro by ${seen.spreadMm.toFixed(3)} mm`])
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
  if (!(x >= 50 && x <= 3000 && y >= 50 && y <= 3000)) throw new UsageError('--bed goes from 50 to 3000 mm either way.')
  const seed = countOption('seed', values.seed, 0, 1e9) ?? 1
  const outside = countOption('machine', values.machine, 1, 65_535)
  const over = outside === undefined ? undefined : { panel: outside, deepMm: y, fromFront: !values['from-rear'] }
  const camera = new BedCamera(hungOver({ x, y }, values.wide ? 'wide' : 'moderate', seed), seed, over)
  const server = await serveCamera(camera, countOption('port', values.port, 0, 65_535) ?? 0)
  const panel = await serveCameraPanel(camera, countOption('panel', values.panel, 0, 65_535) ?? 0)
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
