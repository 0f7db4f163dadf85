import { type BedLight, lightOver } from './bed-light.ts'
import type { SeenBed } from './seen-bed.ts'

/** Windows of the bed in rows and columns, and which of them are not like the bed. */
export interface BedWindows {
  readonly columns: number
  readonly rows: number
  /** From window to window, px of the view. */
  readonly step: number
  /** 1 where something lies, 2 where nothing is seen. */
  readonly other: Uint8Array
  /** How light the bed is over the view, as a logarithm. */
  readonly lightAt: BedLight
}

/** Windows lie so far from each other, mm. */
const STEP_MM = 2
/** Light, how it changes within a window, warm, green: so far apart they are other by one. */
const FLOORS = [0.05, 0.16, 0.006, 0.006] as const
/** Windows along the edge of the bed are compared in these widths: light is not even. */
const APART = [0.35, 0.35, 0.022, 0.022] as const
/** Farther off than this they are something else. */
const OTHER = 5.5
const ROUNDS = 6
/** So many windows are looked at in each round, to say what they are like. */
const LOOKED_AT = 2500
/** Windows in this distance from the edge say how the bed looks, share of the shorter side. */
const RIM = 0.06

const FEATURES = 4

/** Sums of all that lies above and left: one row and column more. */
function table(values: Float32Array, w: number, h: number, square = false): Float64Array {
  const out = new Float64Array((w + 1) * (h + 1))
  for (let y = 0; y < h; y++) {
    let row = 0
    for (let x = 0; x < w; x++) {
      const v = values[y * w + x]
      row += square ? v * v : v
      out[(y + 1) * (w + 1) + x + 1] = out[y * (w + 1) + x + 1] + row
    }
  }
  return out
}

/** What each window looks like: light, how it changes, warm, green. Windows of which little is seen are none. */
function features(bed: SeenBed, step: number, half: number, columns: number, rows: number): Float32Array {
  const { widthPx: w, heightPx: h } = bed.view
  const [lights, squares] = [table(bed.light, w, h), table(bed.light, w, h, true)]
  const [warm, green] = [table(bed.warm, w, h), table(bed.green, w, h)]
  const seen = table(Float32Array.from(bed.seen), w, h)
  const out = new Float32Array(FEATURES * columns * rows).fill(Number.NaN)
  for (let r = 0; r < rows; r++)
    for (let c = 0; c < columns; c++) {
      const [x0, x1] = [Math.max(0, c * step - half), Math.min(w, c * step + half)]
      const [y0, y1] = [Math.max(0, r * step - half), Math.min(h, r * step + half)]
      const [a, b, d, e] = [y1 * (w + 1) + x1, y0 * (w + 1) + x1, y1 * (w + 1) + x0, y0 * (w + 1) + x0]
      const within = (t: Float64Array): number => t[a] - t[b] - t[d] + t[e]
      const n = within(seen)
      if (n < 0.6 * (x1 - x0) * (y1 - y0)) continue
      const o = FEATURES * (r * columns + c)
      const light = within(lights) / n
      out[o] = light
      out[o + 1] = 0.5 * Math.log(Math.max(1e-4, within(squares) / n - light ** 2) + 4e-4)
      out[o + 2] = within(warm) / n
      out[o + 3] = within(green) / n
    }
  return out
}

const median = (values: number[]): number => values.sort((a, b) => a - b)[values.length >> 1]

/**
 * Which windows of a bed look otherwise than the bed. How the bed looks is what most windows along its edge look like; light is evened by
 * what looks like it, over and over.
 * @param wideMm how wide a window is: as wide as the cells of a bed are about the same in each
 */
export function bedWindows(bed: SeenBed, wideMm: number): BedWindows {
  const { widthPx, heightPx, pxPerMm } = bed.view
  const step = Math.max(1, Math.round(STEP_MM * pxPerMm))
  const half = Math.max(2, Math.round((wideMm * pxPerMm) / 2))
  const columns = Math.floor(widthPx / step) + 1
  const rows = Math.floor(heightPx / step) + 1
  const f = features(bed, step, half, columns, rows)
  const n = columns * rows
  const at = (i: number): { u: number; v: number } => ({
    u: (2 * (i % columns)) / (columns - 1) - 1,
    v: (2 * Math.floor(i / columns)) / (rows - 1) - 1,
  })
  const rim = Math.max(2, Math.round(RIM * Math.min(columns, rows)))
  const all = Array.from({ length: n }, (_, i) => i).filter((i) => !Number.isNaN(f[FEATURES * i]))
  const edge = all.filter((i) => {
    const [c, r] = [i % columns, Math.floor(i / columns)]
    return Math.min(c, r, columns - 1 - c, rows - 1 - r) < rim
  })
  let isBed = new Uint8Array(n)
  for (const i of like(edge, f)) isBed[i] = 1
  let lightAt: BedLight = () => 0
  const lights = new Float32Array(n)
  const value = (i: number, k: number): number => f[FEATURES * i + k] - (k === 0 ? lights[i] : 0)
  for (let round = 0; round < ROUNDS; round++) {
    const beds = all.filter((i) => isBed[i])
    const some = Math.max(1, Math.floor(beds.length / LOOKED_AT))
    const own = beds.filter((_, i) => i % some === 0)
    // First only along the edge: there a surface of a high degree would bend in the middle.
    const degree = round === 0 ? 2 : round < 3 ? 3 : 4
    lightAt = lightOver(
      own.map((i) => ({ ...at(i), light: f[FEATURES * i] })),
      degree,
    )
    for (const i of all)
      lights[i] = lightAt((2 * (i % columns)) / (columns - 1) - 1, (2 * Math.floor(i / columns)) / (rows - 1) - 1)
    const middles: number[] = []
    const spreads: number[] = []
    for (let k = 0; k < FEATURES; k++) {
      const values = own.map((i) => value(i, k))
      middles.push(median(values))
      spreads.push(Math.max(FLOORS[k], 1.48 * median(values.map((v) => Math.abs(v - middles[k])))))
    }
    const next = new Uint8Array(n)
    const wide = round === 0 ? 1.5 : 1
    for (const i of all) {
      let off = 0
      for (let k = 0; k < FEATURES; k++) off += ((value(i, k) - middles[k]) / (spreads[k] * (k === 0 ? wide : 1))) ** 2
      if (off < OTHER * OTHER) next[i] = 1
    }
    isBed = next
  }
  const other = new Uint8Array(n).fill(2)
  for (const i of all) other[i] = isBed[i] ? 0 : 1
  return { columns, rows, step, other, lightAt }
}

/** Of some windows those that look as most of them do. */
function like(some: readonly number[], f: Float32Array): number[] {
  const stride = Math.max(1, Math.floor(some.length / 120))
  let best: number[] = []
  for (let s = 0; s < some.length; s += stride) {
    const a = FEATURES * some[s]
    const near = some.filter((i) => {
      let off = 0
      for (let k = 0; k < FEATURES; k++) off += ((f[FEATURES * i + k] - f[a + k]) / APART[k]) ** 2
      return off < 1
    })
    if (near.length > best.length) best = near
  }
  return best
}
