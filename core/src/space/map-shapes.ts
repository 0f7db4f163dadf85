import type { Path } from '../geometry/path.ts'
import type { Ring } from '../geometry/ring.ts'
import { type Affine, mappedPoints } from './affine.ts'

/** A path with all its points mapped: cubics stay cubics. */
export const mappedPath = (map: Affine, { closed, kinds, points }: Path): Path => ({
  closed,
  kinds,
  points: mappedPoints(map, points),
})

export const mappedRings = (map: Affine, rings: readonly Ring[]): Ring[] => rings.map((ring) => mappedPoints(map, ring))
