import type { Stroke } from './bed.ts'

/** A face that falls away from a crown one way: a plank of a hull. Machine mm. */
export interface Arch {
  readonly radius: number
  readonly across: 'x' | 'y'
  /** Where its crown lies, along that way. */
  readonly crown: number
}

/** A face that is uneven as wood from the beach is, of its own: hills and hollows, and a warp. */
export interface Uneven {
  /** From its highest to its lowest place, mm. */
  readonly deep: number
  readonly seed: number
}

/** How much higher a face is at a place than it is said to be thick, mm: nowhere, at its highest place as thick. */
export function unevenAt({ deep, seed }: Uneven, x: number, y: number): number {
  const hills = Math.sin(x / 31 + seed) * Math.cos(y / 37 - 2 * seed)
  const warp = Math.sin((x + y) / 95 + 3 * seed)
  return (deep / 2) * (0.4 * hills + 0.6 * warp - 1)
}

/** It is burned in parts so long, mm: within one its height is the same. */
const PART_MM = 1

/** How much higher the face is at a place than where its crown is thought to be: never. */
export function riseAt({ radius, across, crown }: Arch, x: number, y: number): number {
  const away = Math.min(radius, Math.abs((across === 'x' ? x : y) - crown))
  return Math.sqrt(radius ** 2 - away ** 2) - radius
}

/** A stroke in parts, each with how much higher the face is there. */
export function* overFace(rise: (x: number, y: number) => number, stroke: Stroke): Generator<Stroke & { readonly rise: number }> {
  const { x0, y0, x1, y1 } = stroke
  const count = Math.max(1, Math.ceil(Math.hypot(x1 - x0, y1 - y0) / PART_MM))
  for (let k = 0; k < count; k++) {
    const at = (a: number, b: number, i: number): number => a + ((b - a) * i) / count
    const part = { x0: at(x0, x1, k), y0: at(y0, y1, k), x1: at(x0, x1, k + 1), y1: at(y0, y1, k + 1) }
    yield { ...stroke, ...part, rise: rise((part.x0 + part.x1) / 2, (part.y0 + part.y1) / 2) }
  }
}
