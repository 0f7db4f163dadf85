import { BED_BOARD, boardDots, boardSpots, type Camera, calibrated, lightOf, rectified, sightOf } from '@neotaxis/core'
import { DAYLIGHT, hungOver, laidOut, photographed, plateWithDots, rays } from '@neotaxis/stand-ins'
import { type Row, seconds, timeRow } from './measure.ts'
import { randomFrom } from './random.ts'

/** What the photo of a bed may take, 12 MP, s; and how far places may be told wrong, mm. */
const ALLOWED_S = 0.7
const ALLOWED_MM = 0.15
const BED = { x: 600, y: 400 }
const SIZE = { widthPx: 2592, heightPx: 1944 }
const MESH = 24
const FIRST = [30, 20] as const

/** The board on a plate of a thickness. */
const boardOn = (thicknessMm: number) =>
  plateWithDots({ widthMm: BED.x, heightMm: BED.y, thicknessMm }, FIRST, boardDots(BED_BOARD))

/** The 95th percentile by which places of a bed are told wrong, after a calibration from a board at three heights, mm. */
function placedWithin(kind: 'moderate' | 'wide', seed: number): number {
  const optics = hungOver(BED, kind, seed)
  const views = [0.2, 12, 25].map((heightMm) => {
    const rgba = photographed(optics, SIZE, laidOut([boardOn(heightMm)]), DAYLIGHT, seed + heightMm)
    const marks = boardSpots(lightOf({ ...SIZE, rgba }), BED_BOARD)
    return { heightMm, spots: marks.map((mark) => ({ ...mark, x: mark.x + FIRST[0], y: mark.y + FIRST[1] })) }
  })
  const { place } = sightOf(calibrated(SIZE, views).camera)
  const { columns, ways } = rays(optics, SIZE.widthPx, SIZE.heightPx, MESH)
  const off: number[] = []
  const height = 6
  for (let i = 0; i < ways.length; i += 2) {
    const fall = optics.highMm - height
    const [x, y] = [optics.over[0] + ways[i] * fall, optics.over[1] + ways[i + 1] * fall]
    if (x < 0 || y < 0 || x > BED.x || y > BED.y) continue
    const seen = place(((i / 2) % columns) * MESH, Math.floor(i / 2 / columns) * MESH, height)
    off.push(seen ? Math.hypot(seen[0] - x, seen[1] - y) : Number.POSITIVE_INFINITY)
  }
  return off.sort((a, b) => a - b)[Math.floor(0.95 * off.length)]
}

const CAMERA: Camera = {
  widthPx: 4000,
  heightPx: 3000,
  focalPx: 3700,
  axisPx: [2010, 1490],
  lens: { kind: 'brown', k1: -0.21, k2: 0.06, p1: 0.001, p2: -0.0007 },
  turn: [0.02, -0.01, 0.01],
  shift: [-300, -200, 520],
}

export function cameraRows(seed: number): Row[] {
  const random = randomFrom(seed)
  const rows: Row[] = []
  for (const share of [0.25, 0.5, 1]) {
    const [widthPx, heightPx] = [4000, 3000].map((side) => Math.round(side * Math.sqrt(share)))
    const rgba = Uint8ClampedArray.from({ length: 4 * widthPx * heightPx }, () => 255 * random())
    const view = { x: 0, y: 0, pxPerMm: widthPx / 600, widthPx, heightPx }
    rows.push(
      timeRow(
        `photo of ${(12 * share).toFixed(0)} MP → rectified bed`,
        [seconds(() => void rectified({ widthPx, heightPx, rgba }, CAMERA, view, 3), 3), ALLOWED_S * share],
        1,
        'reference: the time allowed',
      ),
    )
  }
  for (const kind of ['moderate', 'wide'] as const)
    rows.push({
      what: `places of a bed of 600 × 400 mm, 5 MP, ${kind} lens: off by, 95th percentile`,
      ours: placedWithin(kind, seed + 40),
      reference: ALLOWED_MM,
      unit: 'mm',
      target: 1,
      note: 'reference: what is allowed',
    })
  return rows
}
