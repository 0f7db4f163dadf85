import { levenbergMarquardt } from 'ml-levenberg-marquardt'
import { micro } from '../numeric/micro.ts'
import { type Camera, sightOf, turnFromMatrix } from './camera.ts'
import { homographyOf } from './homography.ts'
import type { Lens } from './lens.ts'

/** A place of which both is known: where it lies and where the photo shows it. */
export interface SeenMark {
  /** On the board, or on the bed where the board's pose is known, mm. */
  readonly x: number
  readonly y: number
  /** In the photo, px. */
  readonly u: number
  readonly v: number
}

/** What one photo tells. */
export interface MarksView {
  /** How high the marks lie over the bed, mm. */
  readonly heightMm: number
  readonly spots: readonly SeenMark[]
  /** True where the board lies anyhow: its spots are mm of the board. One view at least must say where the bed is. */
  readonly anyhow?: boolean
}

export interface Calibration {
  readonly camera: Camera
  /** How far off the bed's places are that the camera tells, mm: the mean of squares, of ninety-five in a hundred, and the worst. */
  readonly rmsMm: number
  readonly p95Mm: number
  readonly worst: PlaceOff
  readonly spots: number
  /** How high marks lay that it was calibrated with, mm over the bed. */
  readonly heights: readonly number[]
  /** How far off each mark is told, over the bed; of many some. */
  readonly errors: readonly PlaceOff[]
  /** Marks of the machine's frame as they were seen then, mm: by them it is noticed that the camera was knocked. */
  readonly fixed?: readonly (readonly [number, number])[]
}

/** How far off a place of the bed is told, mm. */
export interface PlaceOff {
  readonly mm: number
  readonly x: number
  readonly y: number
}

/** So many errors are kept with a calibration: a map of the bed is drawn from them. */
const KEPT_ERRORS = 600

/** Focal lengths that are tried first, against the width of the photo. */
const FOCALS: Readonly<Record<Lens['kind'], readonly number[]>> = { brown: [0.6, 0.9, 1.4], fisheye: [0.35, 0.55, 0.8] }
/** A lens of the other kind must be better by this share. */
const CLEARLY = 0.97
const ROUNDS = 60
/** Farther off no camera is understood, mm. */
const MOST_MM = 3
/** Fewer spots in all say too little of a lens. */
const LEAST_SPOTS = 20

type Numbers = readonly number[]

/** How the numbers that are fitted become a camera, and the poses of boards that lie anyhow. */
interface Layout {
  readonly kind: Lens['kind']
  readonly widthPx: number
  readonly heightPx: number
}

const lensNumbers = (kind: Lens['kind']): number => (kind === 'brown' ? 4 : 3)

/** Focal length and axis against the width of the photo, the lens, the turn, the shift in decimetres: numbers of like size. */
function cameraFrom(n: Numbers, { kind, widthPx, heightPx }: Layout): Camera {
  const k = 3 + lensNumbers(kind)
  const lens: Lens = kind === 'brown' ? { kind, k1: n[3], k2: n[4], p1: n[5], p2: n[6] } : { kind, k1: n[3], k2: n[4], k3: n[5] }
  return {
    widthPx,
    heightPx,
    focalPx: n[0] * widthPx,
    axisPx: [widthPx / 2 + n[1] * widthPx, heightPx / 2 + n[2] * widthPx],
    lens,
    turn: [n[k], n[k + 1], n[k + 2]],
    shift: [100 * n[k + 3], 100 * n[k + 4], 100 * n[k + 5]],
  }
}

/** Where a board lies that lies anyhow: mm and radians. */
type BoardPose = readonly [number, number, number]
const onBoard = ([bx, by, turn]: BoardPose, x: number, y: number): readonly [number, number] => {
  const [cos, sin] = [Math.cos(turn), Math.sin(turn)]
  return [bx + cos * x - sin * y, by + sin * x + cos * y]
}

/** Where all spots are seen by a camera: u and v after each other. What it cannot see is far off. */
function predicted(n: Numbers, layout: Layout, views: readonly MarksView[]): Float64Array {
  const { seen } = sightOf(cameraFrom(n, layout))
  const out = new Float64Array(2 * views.reduce((sum, { spots }) => sum + spots.length, 0))
  let pose = 9 + lensNumbers(layout.kind)
  let i = 0
  for (const { heightMm, spots, anyhow } of views) {
    const board: BoardPose | undefined = anyhow ? [100 * n[pose], 100 * n[pose + 1], n[pose + 2]] : undefined
    if (anyhow) pose += 3
    for (const { x, y } of spots) {
      const [px, py] = board ? onBoard(board, x, y) : [x, y]
      const at = seen(px, py, heightMm) ?? [1e5, 1e5]
      out[i++] = at[0]
      out[i++] = at[1]
    }
  }
  return out
}

/** How a camera of a focal length would hang to see a view as it does. */
function poseFrom(view: MarksView, { widthPx, heightPx }: Layout, focal: number): { turn: Numbers; shift: Numbers } {
  const f = focal * widthPx
  const h = homographyOf(
    view.spots.map(({ x, y }) => [x, y] as const),
    view.spots.map(({ u, v }) => [(u - widthPx / 2) / f, (v - heightPx / 2) / f] as const),
  )
  const column = (i: number): [number, number, number] => [h[i], h[i + 3], h[i + 6]]
  const [a, b, t] = [column(0), column(1), column(2)]
  const size = (Math.hypot(...a) + Math.hypot(...b)) / 2
  // In front of the camera, not behind it.
  const s = t[2] < 0 ? -1 / size : 1 / size
  const r1 = a.map((v) => (s * v) / (Math.hypot(...a) / size))
  const along = b.reduce((sum, v, i) => sum + s * v * r1[i], 0)
  const raw = b.map((v, i) => s * v - along * r1[i])
  const r2 = raw.map((v) => v / Math.hypot(...raw))
  const r3 = [r1[1] * r2[2] - r1[2] * r2[1], r1[2] * r2[0] - r1[0] * r2[2], r1[0] * r2[1] - r1[1] * r2[0]]
  const turn = turnFromMatrix([r1[0], r2[0], r3[0], r1[1], r2[1], r3[1], r1[2], r2[2], r3[2]])
  // The plane lies higher than the bed by its height: away is less there.
  const d = -view.heightMm
  return { turn, shift: t.map((v, i) => s * v - d * r3[i]) }
}

/** Where a board lies, told by a camera that is about right. */
function boardPose(view: MarksView, camera: Camera): BoardPose {
  const { place } = sightOf(camera)
  const pairs = view.spots.flatMap(({ x, y, u, v }) => {
    const on = place(u, v, view.heightMm)
    return on ? [{ x, y, bx: on[0], by: on[1] }] : []
  })
  const n = Math.max(1, pairs.length)
  const mean = (of: (each: (typeof pairs)[number]) => number): number => pairs.reduce((sum, each) => sum + of(each), 0) / n
  const [mx, my, mbx, mby] = [mean((p) => p.x), mean((p) => p.y), mean((p) => p.bx), mean((p) => p.by)]
  let [dot, cross] = [0, 0]
  for (const { x, y, bx, by } of pairs) {
    dot += (x - mx) * (bx - mbx) + (y - my) * (by - mby)
    cross += (x - mx) * (by - mby) - (y - my) * (bx - mbx)
  }
  const turn = Math.atan2(cross, dot)
  const [cos, sin] = [Math.cos(turn), Math.sin(turn)]
  return [mbx - cos * mx + sin * my, mby - sin * mx - cos * my, turn]
}

/** The numbers that fit best; undefined where a start leads nowhere, as when nothing is seen from there. */
function fit(...args: Parameters<typeof levenbergMarquardt>): number[] | undefined {
  try {
    const { parameterValues } = levenbergMarquardt(...args)
    return parameterValues.every(Number.isFinite) ? parameterValues : undefined
  } catch {
    return undefined
  }
}

function fitted(layout: Layout, views: readonly MarksView[], focal: number): { n: Numbers; off: number } | undefined {
  const fixed = views.find(({ anyhow }) => !anyhow)!
  const { turn, shift } = poseFrom(fixed, layout, focal)
  const own = [focal, 0, 0, ...new Array(lensNumbers(layout.kind)).fill(0), ...turn, ...shift.map((v) => v / 100)]
  const start = cameraFrom(own, layout)
  const boards = views
    .filter(({ anyhow }) => anyhow)
    .flatMap((view) => {
      const [x, y, turn] = boardPose(view, start)
      return [x / 100, y / 100, turn]
    })
  const seen = views.flatMap(({ spots }) => spots.flatMap(({ u, v }) => [u, v]))
  const first = [...own, ...boards]
  const parameterValues = fit(
    { x: seen.map((_, i) => i), y: seen },
    (n: number[]) => {
      const all = predicted(n, layout, views)
      return (i: number) => all[i]
    },
    {
      initialValues: first,
      damping: 1e-2,
      gradientDifference: 1e-6,
      centralDifference: true,
      maxIterations: ROUNDS,
      errorTolerance: 1e-9,
      minValues: first.map((_, i) => (i === 0 ? 0.05 : -1e4)),
      maxValues: first.map(() => 1e4),
    },
  )
  if (!parameterValues) return undefined
  const all = predicted(parameterValues, layout, views)
  const off = Math.sqrt(seen.reduce((sum, v, i) => sum + (v - all[i]) ** 2, 0) / (seen.length / 2))
  return { n: parameterValues, off }
}

/**
 * A camera from what photos show of known places: focal length, axis, bend of the lens, and how it hangs. Both kinds of lens are tried,
 * the simpler one is kept where the other is not clearly better.
 * @param size of the photos, px @param views of marks at one height or several; a height or tilt more tells focal length and distance apart
 * @throws RangeError with a sentence where they say too little
 */
export function calibrated(
  size: { readonly widthPx: number; readonly heightPx: number },
  views: readonly MarksView[],
): Calibration {
  const spots = views.reduce((sum, view) => sum + view.spots.length, 0)
  if (!views.some(({ anyhow, spots: own }) => !anyhow && own.length >= 4))
    throw new RangeError('One photo at least must show marks whose places on the bed are known: four of them.')
  if (spots < LEAST_SPOTS) throw new RangeError(`Only ${spots} marks were found: ${LEAST_SPOTS} are needed at least.`)
  let best: { layout: Layout; n: Numbers; off: number } | undefined
  for (const kind of ['brown', 'fisheye'] as const) {
    const layout = { kind, ...size }
    for (const focal of FOCALS[kind]) {
      const found = fitted(layout, views, focal)
      const better = best && (best.layout.kind === kind ? 1 : CLEARLY) * best.off
      if (found && (better === undefined || found.off < better)) best = { layout, ...found }
    }
  }
  const found = best && told(best, views, spots)
  if (!found || !(found.p95Mm < MOST_MM))
    throw new RangeError('No lens explains these photos: take them again, with the board flat, whole, and as high as it is said.')
  return found
}

function told(
  { layout, n }: { readonly layout: Layout; readonly n: Numbers },
  views: readonly MarksView[],
  spots: number,
): Calibration {
  const camera = cameraFrom(n, layout)
  const { place } = sightOf(camera)
  let pose = 9 + lensNumbers(layout.kind)
  const errors: { mm: number; x: number; y: number }[] = []
  for (const { heightMm, spots: own, anyhow } of views) {
    const board: BoardPose | undefined = anyhow ? [100 * n[pose], 100 * n[pose + 1], n[pose + 2]] : undefined
    if (anyhow) pose += 3
    for (const { x, y, u, v } of own) {
      const [bx, by] = board ? onBoard(board, x, y) : [x, y]
      const at = place(u, v, heightMm)
      errors.push({ mm: at ? Math.hypot(at[0] - bx, at[1] - by) : Infinity, x: bx, y: by })
    }
  }
  const step = Math.ceil(errors.length / KEPT_ERRORS)
  const kept = errors
    .filter((each, i) => i % step === 0 && Number.isFinite(each.mm))
    .map(({ mm, x, y }) => ({ mm: micro(mm), x: micro(x), y: micro(y) }))
  errors.sort((a, b) => a.mm - b.mm)
  return {
    camera,
    heights: views.map(({ heightMm }) => heightMm),
    errors: kept,
    rmsMm: Math.sqrt(errors.reduce((sum, { mm }) => sum + mm * mm, 0) / spots),
    p95Mm: errors[Math.min(errors.length - 1, Math.floor(0.95 * errors.length))].mm,
    worst: errors[errors.length - 1],
    spots,
  }
}
