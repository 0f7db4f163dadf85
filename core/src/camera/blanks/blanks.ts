import { flattenPath, type Path } from '../../geometry/path.ts'
import { type Ring, ringArea, ringContains } from '../../geometry/ring.ts'
import { asBytes } from '../../numeric/as-bytes.ts'
import { pathThrough, trace } from '../../outline/trace.ts'
import { type Camera, standsOver } from '../camera.ts'
import { lightOf, type Photo, unseeable } from '../photo.ts'
import type { BedView } from '../rectify.ts'
import { type BedWindows, bedWindows } from './bed-windows.ts'
import { binOf, type Colours, coloursOf, inShade, likely, mixed } from './colours.ts'
import { type Across, edgeNear } from './edge-walk.ts'
import { colourAt, lookOf, type Part, type SeenBed, seenBed } from './seen-bed.ts'
import type { SeenBlank } from './seen-blank.ts'
import { meanAround, settled } from './settle.ts'
import { type Judged, likeBed, withoutShadows } from './shadows.ts'

/** An edge that is faint along more than this share of it should be looked at. */
export const FAINT = 0.02

export interface BlankWish {
  /** The bed, mm from its rear left corner. */
  readonly bed: { readonly widthMm: number; readonly heightMm: number }
  /** How thick what lies there is. */
  readonly thicknessMm: number
  /** The bed with nothing on it, by the same camera. */
  readonly empty?: Photo
  /** What is smaller is left out, mm². */
  readonly leastMm2?: number
  /** Called now and then with the share done; may throw to cancel. */
  readonly progress?: (done: number) => void
}

/** The bed is looked at so finely first, and in so many pixels at most. */
const PX_PER_MM = 2
const MOST_PX = 3e6
const LEAST_MM2 = 60
const LEAST_HOLE_MM2 = 12
/** With the empty bed to compare with, windows need not be wider than this, mm. */
const SMALL_WINDOW_MM = 5
const USUAL_WINDOW_MM = 12
/** How much darker shadows are, as logarithms of the light; and the sides of what lies there, against its top. */
const SHADES = [-0.15, -0.3, -0.45, -0.6, -0.75]
const SIDES = [-0.55, -0.7, -0.85, -1]
/** So far inside of its edge the face of something is looked at, mm. */
const DEEP_MM = 2.5
/** How far neighbours reach that say whether a place is inside, mm. */
const AROUND_MM = 1
const EDGE = { alongMm: 0.4, reachMm: 2.6, stepMm: 0.1 }
const AGAIN = { alongMm: 0.25, reachMm: 0.9, stepMm: 0.05 }
const FIT_MM = 0.22

/** What is known of the bed: how light it is, and how likely its looks are, for each place. */
interface BedLooks {
  readonly whole: SeenBed
  /** Against the empty bed where there is one. */
  readonly against: SeenBed
  readonly windows: BedWindows
  /** Of the bed itself: how light it is. */
  readonly lit: BedWindows
  readonly out: Colours
}

/**
 * What lies on the bed, told from the bed by its colours: against the empty bed where that is given, else against what most of the edge
 * of the bed looks like. Edges are where what is inside parts best from what is outside; shadows and sides are outside.
 * @throws RangeError with a sentence where the photo shows nothing
 */
export function seenBlanks(photo: Photo, camera: Camera, wish: BlankWish): SeenBlank[] {
  const trouble = unseeable(lightOf(photo))
  if (trouble) throw new RangeError(trouble)
  const { bed, thicknessMm, empty, progress, leastMm2 = LEAST_MM2 } = wish
  if (thicknessMm >= standsOver(camera).heightMm) throw new RangeError('Nothing is so thick that it reaches up to the camera.')
  const pxPerMm = Math.min(PX_PER_MM, Math.sqrt(MOST_PX / (bed.widthMm * bed.heightMm)))
  const view: BedView = {
    x: 0,
    y: 0,
    pxPerMm,
    widthPx: Math.round(bed.widthMm * pxPerMm),
    heightPx: Math.round(bed.heightMm * pxPerMm),
  }
  const whole = seenBed(photo, camera, view, thicknessMm)
  progress?.(0.1)
  const without = empty && seenBed(empty, camera, view, thicknessMm)
  const against = without ? lessThan(whole, without) : whole
  const windows = bedWindows(against, empty ? SMALL_WINDOW_MM : USUAL_WINDOW_MM)
  progress?.(0.25)
  // What lies there is lit as the bed is.
  const lit = without ? bedWindows(without, USUAL_WINDOW_MM) : windows
  const looks: BedLooks = { whole, against, windows, lit, out: bedColours(against, windows) }
  const groups = windowGroups(windows, leastMm2 * pxPerMm ** 2)
  const emptyAt = empty && colourAt(empty, camera, thicknessMm)
  const at = colourAt(photo, camera, thicknessMm)
  const blanks: Judged[] = []
  groups.forEach((group, i) => {
    progress?.(0.25 + (0.75 * i) / groups.length)
    blanks.push(...blanksIn(group, looks, at, emptyAt, leastMm2))
  })
  return withoutDoubles(withoutShadows(blanks, thicknessMm)).sort((a, b) => b.areaMm2 - a.areaMm2)
}

/** A bed less what it looks like with nothing on it. */
function lessThan(whole: SeenBed, empty: SeenBed): SeenBed {
  const less = (a: Float32Array, b: Float32Array): Float32Array => a.map((v, i) => v - b[i])
  return {
    view: whole.view,
    light: less(whole.light, empty.light),
    warm: less(whole.warm, empty.warm),
    green: less(whole.green, empty.green),
    seen: whole.seen.map((v, i) => v & empty.seen[i]),
  }
}

/** Places of a view from −1 to 1, as its windows have them. */
const placeIn = ({ columns, rows, step }: BedWindows) => ({
  u: (px: number): number => (2 * px) / (step * (columns - 1)) - 1,
  v: (py: number): number => (2 * py) / (step * (rows - 1)) - 1,
})

/** How light the bed is at each pixel of a part: asked at every so many, straight between. */
function lightIn(windows: BedWindows, { x0, y0, w, h }: Part): Float32Array {
  const mesh = 8
  const { u, v } = placeIn(windows)
  const columns = Math.ceil(w / mesh) + 1
  const rows = Math.ceil(h / mesh) + 1
  const grid = new Float32Array(columns * rows)
  for (let r = 0; r < rows; r++)
    for (let c = 0; c < columns; c++) grid[r * columns + c] = windows.lightAt(u(x0 + c * mesh), v(y0 + r * mesh))
  const out = new Float32Array(w * h)
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const [c, r] = [(x / mesh) | 0, (y / mesh) | 0]
      const [fx, fy] = [x / mesh - c, y / mesh - r]
      const i = r * columns + c
      const top = grid[i] * (1 - fx) + grid[i + 1] * fx
      const low = grid[i + columns] * (1 - fx) + grid[i + columns + 1] * fx
      out[y * w + x] = top * (1 - fy) + low * fy
    }
  return out
}

/** How likely looks of the bed are, shadows too. */
function bedColours(bed: SeenBed, windows: BedWindows): Colours {
  const { widthPx: w, heightPx: h } = bed.view
  const light = lightIn(windows, { x0: 0, y0: 0, w, h })
  const { columns, step, other } = windows
  const bins: [number, number][] = []
  for (let y = 0; y < h; y += 2)
    for (let x = (y >> 1) & 1; x < w; x += 2) {
      const i = y * w + x
      if (!bed.seen[i] || other[Math.round(y / step) * columns + Math.round(x / step)] !== 0) continue
      bins.push([binOf(bed.light[i] - light[i], bed.warm[i], bed.green[i]), 1])
    }
  const own = coloursOf(bins)
  return mixed([own, 0.75], [inShade(own, SHADES), 0.25])
}

/** Windows that touch each other and are no bed. */
interface Group {
  readonly windows: readonly number[]
  readonly touchesEdge: boolean
}

function windowGroups({ columns, rows, step, other }: BedWindows, leastPx: number): Group[] {
  const taken = new Uint8Array(columns * rows)
  const groups: Group[] = []
  for (let from = 0; from < taken.length; from++) {
    if (taken[from] || other[from] !== 1) continue
    const windows = [from]
    taken[from] = 1
    let touchesEdge = false
    for (let k = 0; k < windows.length; k++) {
      const i = windows[k]
      const [c, r] = [i % columns, Math.floor(i / columns)]
      if (c === 0 || r === 0 || c === columns - 1 || r === rows - 1) touchesEdge = true
      for (const [dc, dr] of [
        [1, 0],
        [-1, 0],
        [0, 1],
        [0, -1],
      ]) {
        const [x, y] = [c + dc, r + dr]
        if (x < 0 || y < 0 || x >= columns || y >= rows) continue
        const j = y * columns + x
        if (other[j] === 2) touchesEdge = true
        if (taken[j] || other[j] !== 1) continue
        taken[j] = 1
        windows.push(j)
      }
    }
    if (windows.length * step * step > leastPx) groups.push({ windows, touchesEdge })
  }
  return groups
}

/** How deep each window of a group lies in it, windows. */
function depths(group: Group, { columns, rows }: BedWindows): Map<number, number> {
  const depth = new Map<number, number>(group.windows.map((i) => [i, 0]))
  let ring = group.windows.filter((i) => {
    const [c, r] = [i % columns, Math.floor(i / columns)]
    const free = (x: number, y: number): boolean => x >= 0 && y >= 0 && x < columns && y < rows && !depth.has(y * columns + x)
    return free(c - 1, r) || free(c + 1, r) || free(c, r - 1) || free(c, r + 1)
  })
  for (const i of ring) depth.set(i, 1)
  for (let d = 2; ring.length > 0; d++) {
    const next: number[] = []
    for (const i of ring) {
      const c = i % columns
      for (const [j, ok] of [
        [i - 1, c > 0],
        [i + 1, c < columns - 1],
        [i - columns, true],
        [i + columns, true],
      ] as const)
        if (ok && depth.get(j) === 0) {
          depth.set(j, d)
          next.push(j)
        }
    }
    ring = next
  }
  return depth
}

type ColourAt = ReturnType<typeof colourAt>

/** The blanks in a group of windows. */
function blanksIn(
  group: Group,
  { whole, against, windows, lit, out }: BedLooks,
  at: ColourAt,
  emptyAt: ColourAt | undefined,
  leastMm2: number,
): Judged[] {
  const { columns, step } = windows
  const { widthPx, heightPx, pxPerMm } = whole.view
  const cs = group.windows.map((i) => i % columns)
  const rs = group.windows.map((i) => Math.floor(i / columns))
  const room = 4
  const x0 = Math.max(0, (Math.min(...cs) - room) * step)
  const y0 = Math.max(0, (Math.min(...rs) - room) * step)
  const w = Math.min(widthPx, (Math.max(...cs) + room) * step) - x0
  const h = Math.min(heightPx, (Math.max(...rs) + room) * step) - y0
  const light = lightIn(windows, { x0, y0, w, h })
  const bed = lit === windows ? light : lightIn(lit, { x0, y0, w, h })
  const bins = new Int32Array(w * h)
  const likelyOut = new Float32Array(w * h)
  const outside = likely(out, 'outside')
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const [i, k] = [(y0 + y) * widthPx + x0 + x, y * w + x]
      bins[k] = whole.seen[i] ? binOf(whole.light[i] - bed[k], whole.warm[i], whole.green[i]) : -1
      likelyOut[k] = against.seen[i] ? outside[binOf(against.light[i] - light[k], against.warm[i], against.green[i])] : 0
    }
  // Surely inside: the deepest windows.
  const depth = depths(group, windows)
  const deepest = Math.max(...depth.values())
  const sure = Math.min(Math.max(1, Math.round(deepest * 0.45)), Math.ceil((7 * pxPerMm) / step))
  const inside: number[] = []
  for (const [i, d] of depth) {
    if (d < sure) continue
    const [cx, cy] = [(i % columns) * step - x0, Math.floor(i / columns) * step - y0]
    for (let y = Math.max(0, cy - (step >> 1)); y < Math.min(h, cy + (step >> 1) + 1); y++)
      for (let x = Math.max(0, cx - (step >> 1)); x < Math.min(w, cx + (step >> 1) + 1); x++)
        if (bins[y * w + x] >= 0) inside.push(y * w + x)
  }
  if (inside.length === 0) return []
  const near = nearGroup(depth, windows, { x0, y0, w, h })
  const half = Math.max(1, Math.round(AROUND_MM * pxPerMm))
  let own = ownColours(inside, bins, likelyOut)
  let q: Float32Array = new Float32Array(0)
  let [likelyIn, side] = [own, own]
  for (let round = 0; round < 2; round++) {
    likelyIn = likely(own, 'inside')
    side = likely(inShade(own, SIDES), 'outside')
    const says = new Float32Array(w * h)
    for (let k = 0; k < says.length; k++)
      says[k] = bins[k] < 0 || !near[k] ? -3 : likelyIn[bins[k]] - Math.max(likelyOut[k], side[bins[k]] + SIDE_SHARE)
    q = settled(says, w, h, half)
    const again: number[] = []
    // Well inside: its sides are not its face.
    const deep = meanAround(
      q.map((v) => (v > 0.5 ? 1 : 0)),
      w,
      h,
      Math.round(DEEP_MM * pxPerMm),
    )
    for (let k = 0; k < q.length; k++) if (deep[k] > 0.999 && bins[k] >= 0) again.push(k)
    if (again.length < 200) break
    own = ownColours(again, bins, likelyOut)
  }
  const says = (x: number, y: number): Across | undefined => {
    const rgb = at(x, y)
    if (!rgb) return undefined
    const [l, warm, green] = lookOf(...rgb)
    const px = Math.min(w - 1, Math.max(0, Math.round(x * pxPerMm - 0.5) - x0))
    const py = Math.min(h - 1, Math.max(0, Math.round(y * pxPerMm - 0.5) - y0))
    const bin = binOf(l - bed[py * w + px], warm, green)
    let there: number
    if (emptyAt) {
      const was = emptyAt(x, y)
      if (!was) return undefined
      const [le, we, ge] = lookOf(...was)
      there = outside[binOf(l - le - light[py * w + px], warm - we, green - ge)]
    } else there = outside[bin]
    return {
      says: likelyIn[bin] - Math.max(there, side[bin] + SIDE_SHARE),
      colour: [rgb[0] / 255, rgb[1] / 255, rgb[2] / 255],
    }
  }
  const part = { x0, y0, w, h }
  return edgesIn(q, part, whole.view, says, leastMm2).map((blank) => ({
    blank,
    bedlike: likeBed(flattenPath(blank.edge, 0.2), likelyOut, part, pxPerMm),
  }))
}

/** Rounds in which what belongs to the bed is taken out of the looks of a blank. */
const PARTED = 6

/**
 * The looks of a blank from places of which most are inside: what holes show of the bed and its shadows is taken out (expectation and
 * maximisation, with the looks of the bed known).
 * @param likelyOut how likely each place is as bed, as a logarithm
 */
function ownColours(places: readonly number[], bins: Int32Array, likelyOut: Float32Array): Colours {
  const all = coloursOf(places.map((k) => [bins[k], 1] as const))
  let own = all
  let share = 0.8
  for (let round = 0; round < PARTED; round++) {
    let sum = 0
    const weights = places.map((k) => {
      const inside = share * own[bins[k]]
      const weight = inside / (inside + (1 - share) * Math.exp(likelyOut[k]) + 1e-12)
      sum += weight
      return [bins[k], weight] as const
    })
    share = Math.min(0.98, Math.max(0.3, sum / places.length))
    own = coloursOf(weights)
  }
  return own
}

/** How often what is outside is a side, as a logarithm. */
const SIDE_SHARE = Math.log(0.25)

/** Which pixels of a part lie in a group of windows, or a little around it. */
function nearGroup(depth: ReadonlyMap<number, number>, { columns, step }: BedWindows, { x0, y0, w, h }: Part): Uint8Array {
  const out = new Uint8Array(w * h)
  const reach = 2 * step
  for (const i of depth.keys()) {
    const [cx, cy] = [(i % columns) * step - x0, Math.floor(i / columns) * step - y0]
    for (let y = Math.max(0, cy - reach); y <= Math.min(h - 1, cy + reach); y++)
      out.fill(1, y * w + Math.max(0, cx - reach), y * w + Math.min(w - 1, cx + reach) + 1)
  }
  return out
}

/** The edges around what is inside, finer than pixels. */
function edgesIn(
  q: Float32Array,
  { x0, y0, w, h }: Part,
  { pxPerMm, widthPx, heightPx }: BedView,
  says: (x: number, y: number) => Across | undefined,
  leastMm2: number,
): SeenBlank[] {
  const samples = asBytes(q, 0, 1)
  const least = (Math.min(leastMm2, LEAST_HOLE_MM2) * pxPerMm ** 2) / 2
  const rough = trace(
    { widthPx: w, heightPx: h, samples, full: 255 },
    { threshold: 0.5, channel: 'grey', tolerancePx: 0.6, cornerDeg: 40, minAreaPx: least },
  ).map((path) => flattenPath(path, 0.1).map((v, i) => (v + (i % 2 === 0 ? x0 : y0)) / pxPerMm))
  const outer = rough.filter((ring) => ringArea(ring) > 0)
  const inner = rough.filter((ring) => ringArea(ring) < 0)
  const sharpened = (ring: Ring): { readonly path: Path; readonly faint: number } => {
    const { ring: sharp, faint } = edgeNear(edgeNear(ring, EDGE, says).ring, AGAIN, says)
    return { path: pathThrough(sharp, AGAIN.alongMm, FIT_MM / AGAIN.alongMm), faint }
  }
  const edgePx = 2 / pxPerMm
  return outer.flatMap((ring) => {
    const xs = ring.filter((_, i) => i % 2 === 0)
    const ys = ring.filter((_, i) => i % 2 === 1)
    const cutOff =
      Math.min(...xs) < edgePx ||
      Math.min(...ys) < edgePx ||
      Math.max(...xs) > widthPx / pxPerMm - edgePx ||
      Math.max(...ys) > heightPx / pxPerMm - edgePx
    const { path: edge, faint } = sharpened(ring)
    const flat = flattenPath(edge, 0.02)
    const holes = inner.filter((hole) => contains(ring, hole) && -ringArea(hole) >= LEAST_HOLE_MM2)
    const areaMm2 = Math.abs(ringArea(flat)) + holes.reduce((sum, hole) => sum + ringArea(hole), 0)
    if (areaMm2 < leastMm2) return []
    return [{ edge, holes: holes.map((hole) => sharpened(hole).path), areaMm2, cutOff, faint }]
  })
}

const contains = (ring: Ring, other: Ring): boolean => ringContains(ring, other[0], other[1])

/** Blanks that two groups found, once. */
function withoutDoubles(blanks: readonly SeenBlank[]): SeenBlank[] {
  const kept: { readonly blank: SeenBlank; readonly ring: Ring }[] = []
  for (const blank of [...blanks].sort((a, b) => b.areaMm2 - a.areaMm2)) {
    const ring = flattenPath(blank.edge, 0.2)
    const isDouble = kept.some((other) => {
      const few = Array.from({ length: 8 }, (_, k) => 2 * Math.floor((k * ring.length) / 16))
      return few.filter((i) => contains(other.ring, ring.subarray(i, i + 2))).length > 4
    })
    if (!isDouble) kept.push({ blank, ring })
  }
  return kept.map(({ blank }) => blank)
}
