import { type Affine, composed, inverseOf, mapped } from '@neotaxis/core'
import type { StageView } from './stage-view.ts'

/** Of the stage, CSS px. */
export interface StageSize {
  readonly width: number
  readonly height: number
}

/**
 * A space as its own axes see the stage: what is painted by rows and columns is painted as this says, and turned into place.
 */
export interface Upright {
  readonly view: StageView
  readonly size: StageSize
  /** From there to CSS px of the stage; absent where nothing is turned. */
  readonly turn?: Affine
}

/** Whether two maps are the same, number by number. */
export const sameMap = (a: Affine, b: Affine): boolean => a === b || a.every((value, i) => value === b[i])

/**
 * From a space to CSS px of the stage.
 * @param space the map from it to the bed, mm
 * @param standing the map to the bed of the space whose axes are the screen's
 */
export function toScreen(space: Affine, standing: Affine, { x, y, scale }: StageView): Affine {
  const look: Affine = [scale, 0, 0, scale, -x * scale, -y * scale]
  return sameMap(space, standing) ? look : composed(composed(space, inverseOf(standing)), look)
}

/** How a space sees the stage. @param map from it to CSS px, of one scale for both axes; turned or mirrored as may be */
export function uprightOf(map: Affine, size: StageSize): Upright {
  const [a, b, c, d, e, f] = map
  const scale = Math.hypot(a, b)
  if (a === scale && b === 0 && c === 0 && d === scale) return { view: { x: -e / scale, y: -f / scale, scale }, size }
  const back = inverseOf(map)
  const corners = [
    [0, 0],
    [size.width, 0],
    [size.width, size.height],
    [0, size.height],
  ].map(([x, y]) => mapped(back, x, y))
  const [xs, ys] = [corners.map(([x]) => x), corners.map(([, y]) => y)]
  const [x, y] = [Math.min(...xs), Math.min(...ys)]
  const around = { width: (Math.max(...xs) - x) * scale, height: (Math.max(...ys) - y) * scale }
  return { view: { x, y, scale }, size: around, turn: composed([1 / scale, 0, 0, 1 / scale, x, y], map) }
}

/** CSS px of the stage on one unit of a space. */
export const scaleOf = ([a, b, c, d]: Affine): number => Math.sqrt(Math.abs(a * d - b * c))
