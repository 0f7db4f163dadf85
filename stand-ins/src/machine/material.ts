import type { Arch, Uneven } from './arched.ts'
import type { Bed, Stroke } from './bed.ts'
import type { Turned } from './rotary.ts'

/** One layer of what lies in the machine. Doses J/mm² where it marks; depth taken by each J/mm² beyond. */
interface Layer {
  readonly name: string
  readonly thickness: number
  readonly mark: { readonly from: number; readonly to: number }
  /** mm of depth for each J/mm². */
  readonly depth: number
}

/** A material as it really is, for one thickness. */
export interface Hidden {
  readonly layers: readonly Layer[]
  /** J/mm that cut through 1 mm of it in one pass. */
  readonly cut: number
  /** Width of the cut, mm, and the dose it belongs to, J/mm for each mm of thickness. */
  readonly kerf: { readonly width: number; readonly dose: number }
  /** How far the heat of a mark goes on beyond its ends, mm: what makes dots gain. */
  readonly spread: number
  /** J/mm² on its face from which what lies under its coating is harmed; absent: nothing lies under it that could be. */
  readonly harm?: number
}

/** The materials that can be laid in. They answer near to what recipes expect, not the same. */
export const HIDDEN: Readonly<Record<string, Hidden>> = {
  'birch-ply': {
    layers: [
      { name: 'face', thickness: 0.8, mark: { from: 0.12, to: 0.6 }, depth: 0.42 },
      { name: 'core', thickness: Infinity, mark: { from: 0.15, to: 0.7 }, depth: 0.36 },
    ],
    cut: 0.95,
    kerf: { width: 0.18, dose: 1.13 },
    spread: 0.012,
  },
  'cast-acrylic': {
    layers: [{ name: 'sheet', thickness: Infinity, mark: { from: 0.1, to: 0.6 }, depth: 0.5 }],
    cut: 0.9,
    kerf: { width: 0.2, dose: 1.24 },
    spread: 0.002,
  },
  'grey-card': {
    layers: [{ name: 'card', thickness: Infinity, mark: { from: 0.06, to: 0.45 }, depth: 0.7 }],
    cut: 0.75,
    kerf: { width: 0.15, dose: 1.09 },
    spread: 0.009,
  },
  'float-glass': {
    layers: [{ name: 'lacquer', thickness: 0.03, mark: { from: 0.55, to: 0.95 }, depth: 0.05 }],
    cut: 300,
    kerf: { width: 0.1, dose: 300 },
    spread: 0.006,
    harm: 3.1,
  },
  'lime-wood': {
    layers: [{ name: 'wood', thickness: Infinity, mark: { from: 0.15, to: 0.7 }, depth: 0.52 }],
    cut: 1,
    kerf: { width: 0.25, dose: 1.2 },
    spread: 0.012,
  },
  slate: {
    layers: [{ name: 'stone', thickness: 0.2, mark: { from: 0.3, to: 1.1 }, depth: 0.03 }],
    cut: 300,
    kerf: { width: 0.1, dose: 300 },
    spread: 0.003,
  },
  'glazed-tile': {
    layers: [{ name: 'glaze', thickness: 0.1, mark: { from: 0.8, to: 2.6 }, depth: 0.01 }],
    cut: 300,
    kerf: { width: 0.1, dose: 300 },
    spread: 0.004,
  },
  'coated-steel': {
    layers: [{ name: 'coating', thickness: 0.05, mark: { from: 0.4, to: 1.2 }, depth: 0.06 }],
    cut: 300,
    kerf: { width: 0.1, dose: 300 },
    spread: 0.002,
    harm: 3.6,
  },
  'lacquered-brass': {
    layers: [{ name: 'lacquer', thickness: 0.05, mark: { from: 0.4, to: 1.2 }, depth: 0.06 }],
    cut: 300,
    kerf: { width: 0.1, dose: 300 },
    spread: 0.002,
    harm: 3.1,
  },
  'tin-lid': {
    layers: [{ name: 'lacquer', thickness: 0.03, mark: { from: 0.5, to: 1.3 }, depth: 0.024 }],
    cut: 300,
    kerf: { width: 0.1, dose: 300 },
    spread: 0.002,
    harm: 3.3,
  },
  'tanned-leather': {
    layers: [{ name: 'leather', thickness: Infinity, mark: { from: 0.05, to: 0.3 }, depth: 0.6 }],
    cut: 0.7,
    kerf: { width: 0.2, dose: 0.9 },
    spread: 0.008,
  },
}

/** What lies on the bed: a material, where, how thick. Machine mm. */
export interface Laid {
  readonly material: string
  readonly thickness: number
  readonly x0: number
  readonly y0: number
  readonly x1: number
  readonly y1: number
  /** Its true edge, where it is not that box: polygons by even-odd, x, y pairs. */
  readonly edge?: readonly (readonly number[])[]
  /** It is round, so thick, and turns in a rotary: the box is its face laid flat. */
  readonly diameter?: number
  /** The same, with all that is to be known of it. */
  readonly turned?: Turned
  /** Its face is curved one way, its crown as high as it is thick. */
  readonly arch?: Arch
  /** Its face is uneven. */
  readonly uneven?: Uneven
}

/** Whether a place lies within polygons: a ray to the right meets their edges an odd number of times. */
function isWithin(edge: readonly (readonly number[])[], x: number, y: number): boolean {
  let odd = false
  for (const ring of edge) {
    let [ax, ay] = [ring[ring.length - 2], ring[ring.length - 1]]
    for (let i = 0; i < ring.length; i += 2) {
      const [bx, by] = [ring[i], ring[i + 1]]
      if (ay > y !== by > y && ax + ((y - ay) / (by - ay)) * (bx - ax) > x) odd = !odd
      ax = bx
      ay = by
    }
  }
  return odd
}

/** Smooth noise between −1 and 1 that wanders over about 40 mm. */
function wander(x: number, y: number): number {
  const at = (i: number, j: number): number => {
    let h = Math.imul(i, 374761393) ^ Math.imul(j, 668265263)
    h = Math.imul(h ^ (h >>> 13), 1274126177)
    return ((h ^ (h >>> 16)) >>> 0) / 2 ** 31 - 1
  }
  const u = x / 40
  const v = y / 40
  const i = Math.floor(u)
  const j = Math.floor(v)
  const ease = (t: number): number => t * t * (3 - 2 * t)
  const a = ease(u - i)
  const b = ease(v - j)
  return (at(i, j) * (1 - a) + at(i + 1, j) * a) * (1 - b) + (at(i, j + 1) * (1 - a) + at(i + 1, j + 1) * a) * b
}

/** A piece of the burned bed as a camera above would see it; rows run from the rear to the front. */
export interface BurnedPicture {
  readonly columns: number
  readonly rows: number
  /** 0 untouched to 255 fully dark. */
  readonly tone: Uint8Array
  /** 255 where the material is cut through. */
  readonly through: Uint8Array
}

const ROWS_AT_ONCE = 16
const STROKES_AT_ONCE = 500

/** What the burns did to the material that lies in the machine. */
export class Workpiece {
  readonly laid: Laid
  private readonly hidden: Hidden
  private readonly bed: Bed
  private readonly unevenness: number
  /** Its edge is the box: nothing else has to be asked. */
  private readonly isBox: boolean

  constructor(laid: Laid, bed: Bed, unevenness: number) {
    const hidden = HIDDEN[laid.material]
    if (!hidden) throw new Error(`There is no material “${laid.material}”.`)
    this.laid = laid
    this.hidden = hidden
    this.bed = bed
    this.unevenness = unevenness
    const corners = laid.edge?.length === 1 && laid.edge[0].length === 8 ? laid.edge[0] : undefined
    const onBox = (v: number, i: number): boolean =>
      i % 2 === 0 ? v === laid.x0 || v === laid.x1 : v === laid.y0 || v === laid.y1
    this.isBox = corners !== undefined ? corners.every(onBox) : false
  }

  private uneven(x: number, y: number): number {
    return 1 + this.unevenness * 2 * wander(x, y)
  }

  private inside(x: number, y: number): boolean {
    const { x0, y0, x1, y1, edge } = this.laid
    if (!(x >= x0 && y >= y0 && x <= x1 && y <= y1)) return false
    return !edge || this.isBox || isWithin(edge, x, y)
  }

  private energyAt(x: number, y: number): number {
    // Where nothing burned it need not be asked what lies there.
    const energy = this.bed.energy(Math.floor(x / this.bed.cell), Math.floor(y / this.bed.cell))
    return energy > 0 && this.inside(x, y) ? energy : 0
  }

  /** How dark it is, 0–1. */
  tone(x: number, y: number): number {
    const { from, to } = this.hidden.layers[0].mark
    const energy = this.energyAt(x, y)
    if (energy === 0) return 0
    const share = (energy / this.uneven(x, y) - from) / (to - from)
    return share <= 0 ? 0 : share >= 1 ? 1 : share ** 0.7
  }

  /** How deep it is, mm, layer by layer; no deeper than it is thick. */
  depth(x: number, y: number): number {
    let left = this.energyAt(x, y) / this.uneven(x, y)
    let deep = 0
    for (const { thickness, mark, depth } of this.hidden.layers) {
      left -= mark.from
      if (left <= 0) break
      const taken = Math.min(thickness, left * depth)
      deep += taken
      left -= taken / depth
    }
    return Math.min(this.laid.thickness, deep)
  }

  /** Whether what lies under its coating is harmed. */
  harmed(x: number, y: number): boolean {
    const { harm } = this.hidden
    return harm !== undefined && this.energyAt(x, y) / this.uneven(x, y) >= harm
  }

  /** What a gauge reads over a square around a place: the mean of what is there. @param side mm */
  over(what: 'tone' | 'depth' | 'harmed', x: number, y: number, side: number): number {
    const steps = Math.max(1, Math.min(400, Math.round(side / this.bed.cell)))
    let sum = 0
    for (let i = 0; i < steps; i++)
      for (let j = 0; j < steps; j++)
        sum += Number(this[what](x + ((i + 0.5) / steps - 0.5) * side, y + ((j + 0.5) / steps - 0.5) * side))
    return sum / steps ** 2
  }

  /** How wide the cut is at a place on it, mm; 0 where none passes. */
  slot(x: number, y: number): number {
    const dose = this.lineDose(x, y)
    return dose > 0 && this.inside(x, y) ? this.kerf(dose) : 0
  }

  private kerf(dose: number): number {
    const { width, dose: reference } = this.hidden.kerf
    return width * Math.min(2, Math.max(0.3, dose / (reference * this.laid.thickness))) ** 0.25
  }

  private cutDose(x: number, y: number): number {
    return this.hidden.cut * this.laid.thickness * this.uneven(x, y)
  }

  /** J/mm of all strokes that pass a place. */
  private lineDose(x: number, y: number): number {
    let sum = 0
    for (const s of this.bed.strokes) {
      const length = Math.hypot(s.x1 - s.x0, s.y1 - s.y0)
      const along = ((x - s.x0) * (s.x1 - s.x0) + (y - s.y0) * (s.y1 - s.y0)) / length
      if (along < 0 || along >= length) continue
      const off = Math.abs((x - s.x0) * (s.y1 - s.y0) - (y - s.y0) * (s.x1 - s.x0)) / length
      if (off < 0.06) sum += s.dose
    }
    return sum
  }

  /** Whether it is cut through at a place on a cut. */
  through(x: number, y: number): boolean {
    return this.inside(x, y) && this.lineDose(x, y) >= this.cutDose(x, y)
  }

  /** A rectangle of the bed, worked out in pieces: the machine goes on meanwhile. @param cell mm a pixel */
  async picture(x0: number, y0: number, columns: number, rows: number, cell: number, soft = false): Promise<BurnedPicture> {
    const pause = (): Promise<void> => new Promise((resolve) => setImmediate(resolve))
    const tone = new Uint8Array(columns * rows)
    for (let r = 0; r < rows; r++) {
      if (r % ROWS_AT_ONCE === 0) await pause()
      for (let c = 0; c < columns; c++)
        tone[r * columns + c] = Math.round(255 * this.tone(x0 + (c + 0.5) * cell, y0 + (rows - r - 0.5) * cell))
      spreadAlong(tone.subarray(r * columns, (r + 1) * columns), this.hidden.spread / cell)
    }
    const dose = new Float32Array(columns * rows)
    const cover = soft ? new Float32Array(columns * rows) : undefined
    const frame = { x0, y0, columns, rows, cell, cover }
    const { strokes } = this.bed
    for (let i = 0; i < strokes.length; i++) {
      if (i % STROKES_AT_ONCE === 0) await pause()
      this.band(strokes[i], frame, dose)
    }
    for (let i = 0; i < strokes.length; i++) if (turns(strokes[i - 1], strokes[i])) this.cap(strokes[i], frame, dose)
    const through = new Uint8Array(columns * rows)
    for (let i = 0; i < dose.length; i++) {
      if (dose[i] === 0) continue
      const x = x0 + ((i % columns) + 0.5) * cell
      const y = y0 + (rows - Math.floor(i / columns) - 0.5) * cell
      if (this.inside(x, y) && dose[i] >= this.cutDose(x, y)) through[i] = Math.round(255 * (cover ? cover[i] : 1))
    }
    return { columns, rows, tone, through }
  }

  private band(s: Stroke, frame: Frame, dose: Float32Array): void {
    const length = Math.hypot(s.x1 - s.x0, s.y1 - s.y0)
    const ux = (s.x1 - s.x0) / length
    const uy = (s.y1 - s.y0) / length
    const radius = this.kerf(s.dose) / 2
    const { cover, cell } = frame
    const reach = cover ? radius + cell / 2 : radius
    around(frame, s, reach, (i, x, y) => {
      const along = (x - s.x0) * ux + (y - s.y0) * uy
      const off = Math.abs((x - s.x0) * uy - (y - s.y0) * ux)
      if (!(along >= 0 && along < length && off <= reach)) return
      dose[i] += s.dose
      if (cover) cover[i] = Math.max(cover[i], Math.min(1, (reach - off) / cell))
    })
  }

  /** The outer side of a corner. */
  private cap(s: Stroke, frame: Frame, dose: Float32Array): void {
    const radius = this.kerf(s.dose) / 2
    around(frame, { ...s, x1: s.x0, y1: s.y0 }, radius, (i, x, y) => {
      if (Math.hypot(x - s.x0, y - s.y0) > radius) return
      dose[i] = Math.max(dose[i], s.dose)
      if (frame.cover) frame.cover[i] = 1
    })
  }
}

/** Marks of a row go on beyond their ends. @param cells how far */
function spreadAlong(row: Uint8Array, cells: number): void {
  for (let left = cells; left > 0; left--) {
    const share = Math.min(1, left)
    let before = 0
    for (let c = 0; c < row.length; c++) {
      const own = row[c]
      const beside = Math.max(0, before - own) + Math.max(0, (row[c + 1] ?? 0) - own)
      row[c] = Math.min(255, own + share * beside)
      before = own
    }
  }
}

interface Frame {
  readonly x0: number
  readonly y0: number
  readonly columns: number
  readonly rows: number
  readonly cell: number
  /** How much of each cell is cut away, where that is wanted. */
  readonly cover: Float32Array | undefined
}

function around(
  { x0, y0, columns, rows, cell }: Frame,
  s: Pick<Stroke, 'x0' | 'y0' | 'x1' | 'y1'>,
  radius: number,
  visit: (index: number, x: number, y: number) => void,
): void {
  const c0 = Math.max(0, Math.floor((Math.min(s.x0, s.x1) - radius - x0) / cell))
  const c1 = Math.min(columns - 1, Math.floor((Math.max(s.x0, s.x1) + radius - x0) / cell))
  const r0 = Math.max(0, rows - 1 - Math.floor((Math.max(s.y0, s.y1) + radius - y0) / cell))
  const r1 = Math.min(rows - 1, rows - 1 - Math.floor((Math.min(s.y0, s.y1) - radius - y0) / cell))
  for (let r = r0; r <= r1; r++)
    for (let c = c0; c <= c1; c++) visit(r * columns + c, x0 + (c + 0.5) * cell, y0 + (rows - r - 0.5) * cell)
}

/** Whether a stroke goes on from another around a corner. */
function turns(before: Stroke | undefined, s: Stroke): boolean {
  if (!before || Math.hypot(before.x1 - s.x0, before.y1 - s.y0) > 1e-3) return false
  const a = Math.atan2(before.y1 - before.y0, before.x1 - before.x0)
  const b = Math.atan2(s.y1 - s.y0, s.x1 - s.x0)
  const turn = Math.abs(((b - a + 3 * Math.PI) % (2 * Math.PI)) - Math.PI)
  return turn > 0.05
}
