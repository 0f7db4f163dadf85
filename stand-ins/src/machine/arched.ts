import type { Stroke } from './bed.ts'

/** A face that falls away from a crown one way: a plank of a hull. Machine mm. */
export interface Arch {
  readonly radius: number
  readonly across: 'x' | 'y'
  /** Where its crown lies, along that way. */
  readonly crown: number
}

/** It is burned in parts so long, mm: within one its height is the same. */
const PART_MM = 1

/** How much higher the face is at a place than where its crown is thought to be: never. */
export function riseAt({ radius, across, crown }: Arch, x: number, y: number): number {
  const away = Math.min(radius, Math.abs((across === 'x' ? x : y) - crown))
  return Math.sqrt(radius ** 2 - away ** 2) - radius
}

/** A stroke in parts, each with how much higher the face is there. */
export function* overArch(arch: Arch, stroke: Stroke): Generator<Stroke & { readonly rise: number }> {
  const { x0, y0, x1, y1 } = stroke
  const count = Math.max(1, Math.ceil(Math.hypot(x1 - x0, y1 - y0) / PART_MM))
  for (let k = 0; k < count; k++) {
    const at = (a: number, b: number, i: number): number => a + ((b - a) * i) / count
    const part = { x0: at(x0, x1, k), y0: at(y0, y1, k), x1: at(x0, x1, k + 1), y1: at(y0, y1, k + 1) }
    yield { ...stroke, ...part, rise: riseAt(arch, (part.x0 + part.x1) / 2, (part.y0 + part.y1) / 2) }
  }
}
