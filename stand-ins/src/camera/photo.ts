import { at, type Mask, maskOf, type Part } from './mask.ts'
import { chances, type Optics, rays } from './optics.ts'
import { skylight } from './skylight.ts'

/** Something that lies on the bed. */
export interface Thing {
  /** Its outline and its holes by even-odd, bed mm. */
  readonly rings: readonly (readonly number[])[]
  readonly thicknessMm: number
  readonly look: keyof typeof LOOKS
  /** What is printed on it, dark, by even-odd, bed mm. */
  readonly ink?: readonly (readonly number[])[]
}

/** What a machine burned, in cells of the bed. */
export interface Burn {
  readonly x: number
  readonly y: number
  readonly cell: number
  readonly columns: number
  readonly rows: number
  readonly tone: Uint8Array
  readonly through: Uint8Array
}

/** What the light does, and how the camera takes it. */
export interface Light {
  readonly bed: 'honeycomb' | 'grid' | 'plain'
  /** Share by which the light falls off over the bed. */
  readonly uneven: number
  /** A glare on what is shiny: where, how wide, how bright; none where it is left out. */
  readonly glare?: { readonly x: number; readonly y: number; readonly widthMm: number; readonly bright: number }
  /** Of each pixel, levels of 255. */
  readonly noise: number
  /** Lamps that flicker make rows lighter and darker, share. */
  readonly rolling: number
  readonly bright: number
}

export const DAYLIGHT: Light = { bed: 'honeycomb', uneven: 0.3, noise: 2.2, rolling: 0.015, bright: 1 }

type Colour = readonly [number, number, number]
/** Colour, how much it wanders along and across, and how shiny it is. */
const LOOKS: Readonly<Record<string, { readonly colour: Colour; readonly grain: number; readonly shine: number }>> = {
  paper: { colour: [238, 236, 230], grain: 0.01, shine: 0 },
  card: { colour: [176, 172, 164], grain: 0.03, shine: 0 },
  ply: { colour: [208, 172, 124], grain: 0.13, shine: 0.1 },
  driftwood: { colour: [150, 128, 104], grain: 0.22, shine: 0 },
  slate: { colour: [70, 76, 80], grain: 0.12, shine: 0.15 },
  acrylic: { colour: [196, 206, 212], grain: 0, shine: 0.9 },
}

const INK: Colour = [28, 27, 30]
const SCORCH: Colour = [58, 36, 20]
const BED: Colour = [92, 93, 96]
const MASK_MM = 0.1
const MESH = 8
/** The light comes from there: a shadow is as long as a thing is thick, times this. */
const SHADE: readonly [number, number] = [0.8, 0.5]
const SHADOW = 0.5

/** A number between −0.5 and 0.5 that belongs to a place. */
function hash(a: number, b: number): number {
  let h = (Math.imul(a | 0, 374761393) + Math.imul(b | 0, 668265263)) | 0
  h = Math.imul(h ^ (h >>> 13), 1274126177)
  return ((h ^ (h >>> 16)) >>> 0) / 4294967296 - 0.5
}
const smooth = (x: number, y: number): number => {
  const [c, r] = [Math.floor(x), Math.floor(y)]
  const [fx, fy] = [x - c, y - r]
  const top = hash(c, r) * (1 - fx) + hash(c + 1, r) * fx
  const low = hash(c, r + 1) * (1 - fx) + hash(c + 1, r + 1) * fx
  return top * (1 - fy) + low * fy
}

function bedLight(bed: Light['bed'], x: number, y: number): number {
  if (bed === 'plain') return 1 + 0.05 * smooth(x / 3, y / 3)
  if (bed === 'grid') return ((x % 12) + 12) % 12 < 1.6 || ((y % 12) + 12) % 12 < 1.6 ? 1.5 : 0.55
  // Cells of a honeycomb, about: rows of round holes, every other one shifted.
  const pitch = 6
  const row = Math.floor(y / (pitch * 0.866))
  const cx = (Math.floor(x / pitch - (row % 2) / 2) + 0.5 + (row % 2) / 2) * pitch
  const cy = (row + 0.5) * pitch * 0.866
  return Math.hypot(x - cx, y - cy) < 2.45 ? 0.35 : 1.35
}

/** A share of 255 at a place of a burn, between the middles of its cells. */
function between(map: Uint8Array, { x: left, y: top, cell, columns, rows }: Burn, x: number, y: number): number {
  const u = Math.min(columns - 1.001, Math.max(0, (x - left) / cell - 0.5))
  const v = Math.min(rows - 1.001, Math.max(0, (y - top) / cell - 0.5))
  const [c, r] = [Math.floor(u), Math.floor(v)]
  const [s, t] = [u - c, v - r]
  const i = r * columns + c
  return ((1 - t) * ((1 - s) * map[i] + s * map[i + 1]) + t * ((1 - s) * map[i + columns] + s * map[i + columns + 1])) / 255
}

/** Marks on the frame of the machine, beside the corners of its bed: light plates with a dark dot, so far outside and so large, mm. */
const FRAME = { outside: 15, plate: 9, dot: 3 }

/** How light the frame is at a place; undefined where it has no mark. */
function frameLight([w, h]: readonly [number, number], x: number, y: number): number | undefined {
  if (x > 0 && x < w && y > 0 && y < h) return undefined
  const [dx, dy] = [
    Math.min(Math.abs(x + FRAME.outside), Math.abs(x - w - FRAME.outside)),
    Math.min(Math.abs(y + FRAME.outside), Math.abs(y - h - FRAME.outside)),
  ]
  const far = Math.hypot(dx, dy)
  return far < FRAME.dot ? 0.3 : far < FRAME.plate ? 2.1 : undefined
}

interface Lying {
  readonly thing: Thing
  readonly mask: Mask
  readonly ink: Mask | undefined
}

/** Corners of a printed dot. */
const DOT_CORNERS = 48

/** A plate with dots printed on it. @param first where the first dot lies, bed mm @param dots from the first one, mm */
export function plateWithDots(
  { widthMm, heightMm, thicknessMm }: { readonly widthMm: number; readonly heightMm: number; readonly thicknessMm: number },
  first: readonly [number, number],
  dots: readonly { readonly x: number; readonly y: number; readonly mm: number }[],
): Thing {
  const dot = ({ x, y, mm }: (typeof dots)[number]): number[] =>
    Array.from({ length: 2 * DOT_CORNERS }, (_, i) => {
      const a = (2 * Math.PI * (i >> 1)) / DOT_CORNERS
      return i % 2 ? first[1] + y + (mm / 2) * Math.sin(a) : first[0] + x + (mm / 2) * Math.cos(a)
    })
  return { rings: [[0, 0, widthMm, 0, widthMm, heightMm, 0, heightMm]], thicknessMm, look: 'paper', ink: dots.map(dot) }
}

/** What lies on the bed, ready to be looked at from anywhere; or a part of it, finer. */
export function laidOut(things: readonly Thing[], cell = MASK_MM, within?: Part): readonly Lying[] {
  const mask = (rings: Thing['rings']): Mask => maskOf(rings, cell, within)
  return things
    .map((thing) => ({ thing, mask: mask(thing.rings), ink: thing.ink && mask(thing.ink) }))
    .sort((a, b) => b.thing.thicknessMm - a.thing.thicknessMm)
}

/**
 * A photo: red, green, blue and opacity of each pixel.
 * @param seed of its noise
 */
export function photographed(
  optics: Optics,
  size: { readonly widthPx: number; readonly heightPx: number },
  lying: readonly Lying[],
  light: Light,
  seed: number,
  burn?: Burn,
): Uint8ClampedArray {
  const { widthPx, heightPx } = size
  const { columns, ways } = rays(optics, widthPx, heightPx, MESH)
  const [ox, oy] = optics.over
  const by = chances(seed)
  const out = new Uint8ClampedArray(4 * widthPx * heightPx)
  const phase = Math.PI * by()
  const noises = Float32Array.from({ length: 4096 }, () => light.noise * (by() + by() + by()))
  const [mx, my] = [widthPx / 2, heightPx / 2]
  const colour = [0, 0, 0]
  const sky = burn && skylight(burn, Math.max(0, ...lying.map(({ thing }) => thing.thicknessMm)))
  for (let py = 0; py < heightPx; py++) {
    const rolling = 1 + light.rolling * Math.sin((2 * Math.PI * py) / (heightPx * 0.21) + phase)
    const v = (py + 0.5) / MESH
    const row = Math.floor(v)
    const fv = v - row
    for (let px = 0; px < widthPx; px++) {
      const u = (px + 0.5) / MESH
      const column = Math.floor(u)
      const fu = u - column
      const i = 2 * (row * columns + column)
      const j = i + 2 * columns
      const wx = (ways[i] * (1 - fu) + ways[i + 2] * fu) * (1 - fv) + (ways[j] * (1 - fu) + ways[j + 2] * fu) * fv
      const wy = (ways[i + 1] * (1 - fu) + ways[i + 3] * fu) * (1 - fv) + (ways[j + 1] * (1 - fu) + ways[j + 3] * fu) * fv
      // What lies on the bed is lit as a whole; things hide it, from the lowest to the highest.
      const [bx, byy] = [ox + wx * optics.highMm, oy + wy * optics.highMm]
      const grain = frameLight(optics.bed, bx, byy) ?? bedLight(light.bed, bx, byy)
      let shine = 0.3
      let shade = 1
      for (const { thing, mask } of lying) {
        const t = thing.thicknessMm
        shade = Math.min(shade, 1 - SHADOW * at(mask, bx - SHADE[0] * t, byy - SHADE[1] * t))
      }
      for (let k = 0; k < 3; k++) colour[k] = BED[k] * grain * shade
      for (let n = lying.length - 1; n >= 0; n--) {
        const { thing, mask, ink } = lying[n]
        const look = LOOKS[thing.look]
        const fall = optics.highMm - thing.thicknessMm
        const [x, y] = [ox + wx * fall, oy + wy * fall]
        let top = at(mask, x, y)
        // A ray that misses its top and meets its foot meets its side.
        const side = Math.max(0, at(mask, bx, byy) - top)
        for (let k = 0; k < 3; k++) colour[k] += side * (look.colour[k] * 0.45 - colour[k])
        if (top === 0) continue
        const wander = 1 + look.grain * (smooth(x / 26, y / 1.3) + 0.6 * smooth(x / 90 + 7, y / 5))
        let [tone, open] = [0, 0]
        if (burn) {
          const c = Math.floor((x - burn.x) / burn.cell)
          const r = Math.floor((y - burn.y) / burn.cell)
          if (c >= 0 && r >= 0 && c < burn.columns && r < burn.rows) {
            // From near a pixel shows parts of several cells.
            tone = sky ? between(burn.tone, burn, x, y) : burn.tone[r * burn.columns + c] / 255
            open = sky ? between(burn.through, burn, x, y) : burn.through[r * burn.columns + c] / 255
            if (sky && open > 0) for (let k = 0; k < 3; k++) colour[k] *= sky[r * burn.columns + c]
          }
        }
        top *= 1 - open
        const printed = ink ? at(ink, x, y) : 0
        for (let k = 0; k < 3; k++) {
          let its = look.colour[k] * wander
          its += tone * (SCORCH[k] - its)
          its += printed * (INK[k] - its)
          colour[k] += top * (its - colour[k])
        }
        shine += top * (look.shine - shine)
      }
      const fallOff =
        1 - light.uneven * (0.6 * ((bx - ox) / (2 * optics.highMm) + 0.3) + 0.7 * ((byy - oy) / (2 * optics.highMm)) ** 2)
      const vignette = 1 - 0.28 * (((px - mx) / mx) ** 2 + ((py - my) / mx) ** 2)
      const { glare } = light
      const spot = glare
        ? shine * glare.bright * Math.exp(-((bx - glare.x) ** 2 + (byy - glare.y) ** 2) / (2 * glare.widthMm ** 2))
        : 0
      const all = light.bright * rolling * fallOff * vignette
      const o = 4 * (py * widthPx + px)
      for (let k = 0; k < 3; k++)
        out[o + k] = colour[k] * all + 255 * spot + noises[(Math.imul(px * 3 + k, 2246822519) ^ Math.imul(py, 3266489917)) >>> 20]
      out[o + 3] = 255
    }
  }
  return out
}
