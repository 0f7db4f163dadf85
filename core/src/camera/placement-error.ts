import { runningSums } from './running-sums.ts'

/** How a burn lies in a photo against where it was forecast. */
export interface PlacementError {
  /** So much farther right and to the front it is seen, mm. */
  readonly dxMm: number
  readonly dyMm: number
  /** How alike photo and forecast are where they lie best over each other: 1 the same, 0 nothing in common. */
  readonly alike: number
}

/** Light and grain change over longer ways than a burn: they are taken out over so much around each place, mm. */
const AROUND_MM = 12
/** It is compared so far around what is forecast, mm. */
const BESIDE_MM = 6
/** Under this likeness nothing of the burn is seen. */
const LEAST_ALIKE = 0.25

/** A map less the mean of what is around each place, with running sums. */
function without(map: ArrayLike<number>, w: number, h: number, half: number): Float32Array {
  const sumOf = runningSums(w, h, (i) => map[i])
  const out = new Float32Array(w * h)
  for (let y = 0; y < h; y++) {
    const [y0, y1] = [Math.max(0, y - half), Math.min(h, y + half + 1)]
    for (let x = 0; x < w; x++) {
      const [x0, x1] = [Math.max(0, x - half), Math.min(w, x + half + 1)]
      const sum = sumOf(x0, y0, x1, y1)
      out[y * w + x] = map[y * w + x] - sum / ((x1 - x0) * (y1 - y0))
    }
  }
  return out
}

/** A map as it is within, and there where it is not as it is within on the whole. */
function onlyWithin(map: ArrayLike<number>, inside: Uint8Array): Float32Array {
  let [sum, n] = [0, 0]
  for (let i = 0; i < inside.length; i++)
    if (inside[i]) {
      sum += map[i]
      n++
    }
  const mean = n > 0 ? sum / n : 0
  return Float32Array.from(inside, (v, i) => (v ? map[i] : mean))
}

/**
 * How far from its forecast a burn is seen in a photo: the shift at which both are most alike, by their normalised correlation (see
 * J. P. Lewis, Vision Interface, 1995), between whole cells by a parabola.
 * @param light of the rectified photo, any scale @param expected how dark each cell is forecast to be, any scale
 * @param cellMm of both @param reachMm the farthest that is looked
 * @param inside 1 where the material lies: what is beside it is not compared; absent: everywhere
 * @returns undefined where nothing of the burn is seen
 */
export function placementError(
  light: ArrayLike<number>,
  expected: ArrayLike<number>,
  widthPx: number,
  heightPx: number,
  cellMm: number,
  reachMm: number,
  inside?: Uint8Array,
): PlacementError | undefined {
  const half = Math.max(2, Math.round(AROUND_MM / cellMm))
  const seen = without(inside ? onlyWithin(light, inside) : light, widthPx, heightPx, half)
  const wanted = without(expected, widthPx, heightPx, half)
  const reach = Math.max(2, Math.round(reachMm / cellMm))
  const side = 2 * reach + 1
  const scores = new Float64Array(side * side)
  // Only where something is burned, and a little around.
  let [x0, x1, y0, y1] = [widthPx, -1, heightPx, -1]
  for (let i = 0; i < widthPx * heightPx; i++) {
    if (!(expected[i] > 0)) continue
    x0 = Math.min(x0, i % widthPx)
    x1 = Math.max(x1, i % widthPx)
    y0 = Math.min(y0, Math.floor(i / widthPx))
    y1 = Math.max(y1, Math.floor(i / widthPx))
  }
  const beside = Math.round(BESIDE_MM / cellMm)
  ;[x0, y0] = [Math.max(reach, x0 - beside), Math.max(reach, y0 - beside)]
  ;[x1, y1] = [Math.min(widthPx - reach, x1 + beside), Math.min(heightPx - reach, y1 + beside)]
  for (let dy = -reach; dy <= reach; dy++)
    for (let dx = -reach; dx <= reach; dx++) {
      let [cross, a, b] = [0, 0, 0]
      for (let y = y0; y < y1; y++) {
        const from = y * widthPx
        const to = (y + dy) * widthPx + dx
        for (let x = x0; x < x1; x++) {
          if (inside && inside[from + x] === 0) continue
          const want = wanted[from + x]
          const saw = -seen[to + x]
          cross += want * saw
          a += want * want
          b += saw * saw
        }
      }
      scores[(dy + reach) * side + dx + reach] = a > 0 && b > 0 ? cross / Math.sqrt(a * b) : 0
    }
  let best = 0
  for (let i = 1; i < scores.length; i++) if (scores[i] > scores[best]) best = i
  const [bx, by] = [best % side, Math.floor(best / side)]
  if (scores[best] < LEAST_ALIKE || bx === 0 || by === 0 || bx === side - 1 || by === side - 1) return undefined
  const between = (before: number, at: number, after: number): number => {
    const bend = before - 2 * at + after
    return bend < 0 ? (0.5 * (before - after)) / bend : 0
  }
  return {
    dxMm: (bx - reach + between(scores[best - 1], scores[best], scores[best + 1])) * cellMm,
    dyMm: (by - reach + between(scores[best - side], scores[best], scores[best + side])) * cellMm,
    alike: scores[best],
  }
}
