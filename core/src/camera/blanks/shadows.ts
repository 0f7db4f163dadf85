import { flattenPath } from '../../geometry/path.ts'
import { type Ring, ringContains, ringsBounds } from '../../geometry/ring.ts'
import type { Part } from './seen-bed.ts'
import type { SeenBlank } from './seen-blank.ts'

/** How much what lies within a ring looks like the bed or its shade, as a logarithm: the mean of all its places. */
export function likeBed(ring: Ring, likelyOut: Float32Array, { x0, y0, w, h }: Part, pxPerMm: number): number {
  let [sum, n] = [0, 0]
  const { x0: left, x1: right, y0: top, y1: low } = ringsBounds([ring])
  for (let y = Math.max(0, Math.floor(top * pxPerMm) - y0); y < Math.min(h, Math.ceil(low * pxPerMm) - y0); y++)
    for (let x = Math.max(0, Math.floor(left * pxPerMm) - x0); x < Math.min(w, Math.ceil(right * pxPerMm) - x0); x++) {
      if (!ringContains(ring, (x + x0 + 0.5) / pxPerMm, (y + y0 + 0.5) / pxPerMm)) continue
      sum += likelyOut[y * w + x]
      n++
    }
  return n > 0 ? sum / n : 0
}

/** A piece beside one that is so much larger is its shadow where it looks like the bed or its shade; so far beside it, in thicknesses. */
const SHADOW = { times: 3, likely: -9.5, thick: 2, atLeastMm: 2.6 }

/** Blanks without those that are only shadows of larger ones. */
export function withoutShadows(blanks: readonly Judged[], thicknessMm: number): SeenBlank[] {
  const rings = blanks.map(({ blank }) => flattenPath(blank.edge, 0.3))
  return blanks.flatMap(({ blank, bedlike }, i) => {
    const reach = SHADOW.thick * thicknessMm + SHADOW.atLeastMm
    const isShadow =
      bedlike > SHADOW.likely &&
      blanks.some(
        (other, k) =>
          other.blank.areaMm2 > SHADOW.times * blank.areaMm2 &&
          rings[i].some((_, j) => j % 2 === 0 && isNear(rings[k], rings[i][j], rings[i][j + 1], reach)),
      )
    return isShadow ? [] : [blank]
  })
}

const isNear = (ring: Ring, x: number, y: number, reach: number): boolean => {
  for (let i = 0; i < ring.length; i += 2) if (Math.hypot(ring[i] - x, ring[i + 1] - y) < reach) return true
  return false
}

/** A blank, and how much it looks like the bed. */
export interface Judged {
  readonly blank: SeenBlank
  readonly bedlike: number
}
