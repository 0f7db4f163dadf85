import {
  BED_BOARD,
  boardDots,
  boardSpots,
  type Camera,
  calibrated,
  flattenPath,
  lightOf,
  rectified,
  seenBlanks,
  sightOf,
} from '@neotaxis/core'
import { DAYLIGHT, hungOver, laidOut, photographed, plateWithDots, rays, type Thing } from '@neotaxis/stand-ins'
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

/** How far outlines of known blanks may be told wrong, mm, and how long it may take to find them, s. */
const EDGES_MM = 0.3
const EDGES_S = 6

const around = (count: number, at: (angle: number) => readonly [number, number]): number[] =>
  Array.from({ length: count }, (_, i) => at((2 * Math.PI * i) / count)).flat()

/** Three blanks of a look: a sheet that lies askew, a leaf, a round one with a hole. */
const threeBlanks = (look: Thing['look'], thicknessMm: number): Thing[] => [
  { rings: [[60, 60, 199, 77, 190.5, 146.5, 51.5, 129.5]], thicknessMm, look },
  {
    rings: [
      around(200, (a) => {
        const r = 55 * (1 + 0.16 * Math.cos(3 * a) + 0.05 * Math.sin(7 * a))
        return [440 + 1.2 * r * Math.cos(a), 120 + r * Math.sin(a)]
      }),
    ],
    thicknessMm,
    look,
  },
  {
    rings: [
      around(96, (a) => [280 + 48 * Math.cos(a), 290 + 48 * Math.sin(a)]),
      around(48, (a) => [290 + 9 * Math.cos(a), 280 + 9 * Math.sin(a)]),
    ],
    thicknessMm,
    look,
  },
]

function offEdge(edges: readonly (readonly number[])[], x: number, y: number): number {
  let least = Number.POSITIVE_INFINITY
  for (const ring of edges)
    for (let i = 0; i < ring.length; i += 2) {
      const j = (i + 2) % ring.length
      const [dx, dy] = [ring[j] - ring[i], ring[j + 1] - ring[i + 1]]
      const t = Math.min(1, Math.max(0, ((x - ring[i]) * dx + (y - ring[i + 1]) * dy) / (dx * dx + dy * dy)))
      least = Math.min(least, Math.hypot(x - ring[i] - t * dx, y - ring[i + 1] - t * dy))
    }
  return least
}

/** The 95th percentile by which outlines of known blanks are told wrong, on all beds, 5 MP, mm; and the longest that it took, s. */
function edgesWithin(seed: number, withEmpty: boolean): { readonly mm: number; readonly s: number } {
  const optics = hungOver(BED, 'moderate', seed)
  const views = [0.2, 15].map((heightMm) => {
    const rgba = photographed(optics, SIZE, laidOut([boardOn(heightMm)]), DAYLIGHT, seed + heightMm)
    const marks = boardSpots(lightOf({ ...SIZE, rgba }), BED_BOARD)
    return { heightMm, spots: marks.map((mark) => ({ ...mark, x: mark.x + FIRST[0], y: mark.y + FIRST[1] })) }
  })
  const { camera } = calibrated(SIZE, views)
  const off: number[] = []
  let most = 0
  ;(['honeycomb', 'grid', 'plain'] as const).forEach((bed, i) => {
    const light = { ...DAYLIGHT, bed, glare: { x: 200, y: 150, widthMm: 60, bright: 0.3 } }
    const things = threeBlanks((['driftwood', 'ply', 'card'] as const)[i], 6)
    const photo = { ...SIZE, rgba: photographed(optics, SIZE, laidOut(things), light, seed + i) }
    const empty = { ...SIZE, rgba: photographed(optics, SIZE, [], light, seed + 90) }
    const wish = { bed: { widthMm: BED.x, heightMm: BED.y }, thicknessMm: 6, ...(withEmpty && { empty }) }
    const began = performance.now()
    const found = seenBlanks(photo, camera, wish)
    most = Math.max(most, (performance.now() - began) / 1000)
    if (found.length !== things.length) off.push(Number.POSITIVE_INFINITY)
    const edges = things.flatMap(({ rings }) => rings)
    for (const path of found.flatMap(({ edge, holes }) => [edge, ...holes])) {
      const ring = flattenPath(path, 0.02)
      for (let k = 0; k < ring.length; k += 2) off.push(offEdge(edges, ring[k], ring[k + 1]))
    }
  })
  return { mm: off.sort((a, b) => a - b)[Math.floor(0.95 * off.length)], s: most }
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
  for (const withEmpty of [false, true]) {
    const { mm, s } = edgesWithin(seed + 60, withEmpty)
    const words = withEmpty ? 'against the empty bed' : 'without the empty bed'
    const note = 'honeycomb, grid, plain; shadows, grain, glare; reference: what is allowed'
    rows.push(
      {
        what: `outlines of known blanks, 5 MP, ${words}: off by, 95th percentile`,
        ours: mm,
        reference: EDGES_MM,
        unit: 'mm',
        target: 1,
        note,
      },
      { what: `finding them, the longest, ${words}`, ours: s, reference: EDGES_S, unit: 's', target: 1, note },
    )
  }
  return rows
}
