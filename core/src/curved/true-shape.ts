/** Where places lie that are true to shape around a middle, as the face is counted, and back: a pair of mm each. */
export interface TrueShape {
  /** From a place that is as far from the middle as it is on the surface. */
  readonly onto: (x: number, y: number) => readonly [number, number]
  /** The way back. */
  readonly back: (x: number, y: number) => readonly [number, number]
}

type Point = readonly [number, number]

/** A side that rises by less than this for a mm is taken as straight: its sector would be larger than numbers are exact. */
const STRAIGHT = 1e-7

/**
 * Artwork true to shape on a tapered face, which is counted as a strip: x along the side, y around, as long as at its widest place. The cone
 * is laid flat as the sector of a ring, the artwork straight on it with its middle on the middle line: ρ is the distance from the tip,
 * φ = turn · k with k = dr/dx, as θ = 2π(r₂ − r₁) / s.
 * @param sideMm from the one diameter to the other @param middle of the artwork on the strip
 * @returns undefined where the middle lies at or beyond the tip, off the piece
 */
export function trueOnCone(
  { leftMm, rightMm, sideMm }: { readonly leftMm: number; readonly rightMm: number; readonly sideMm: number },
  [x0, y0]: Point,
): TrueShape | undefined {
  const k = (rightMm - leftMm) / 2 / sideMm
  const half = Math.max(leftMm, rightMm) / 2
  const at = leftMm / 2 + k * x0
  if (!(at > 0)) return undefined
  if (Math.abs(k) < STRAIGHT)
    return { onto: (x, y) => [x, y0 + ((y - y0) * half) / at], back: (x, y) => [x, y0 + ((y - y0) * at) / half] }
  // Negative where it narrows to the right: then the tip is there, and both signs turn.
  const tip = at / k
  return {
    onto: (x, y) => {
      const [along, across] = [tip + x - x0, y - y0]
      const far = Math.sign(tip) * Math.hypot(along, across)
      return [x0 + far - tip, y0 + (Math.atan(across / along) / k) * half]
    },
    back: (x, y) => {
      const angle = ((y - y0) / half) * k
      const far = tip + x - x0
      return [x0 + far * Math.cos(angle) - tip, y0 + far * Math.sin(angle)]
    },
  }
}

/**
 * Artwork true to size on a face that is curved one way under a head that looks straight down: beside the crown it is burned narrower, as it
 * is seen from above, by r · sin(s / r). What would lie beyond the edge lies on it.
 * @param middle of the artwork as the head stands over it
 */
export function trueOnArch(
  { radiusMm, crownMm, across }: { readonly radiusMm: number; readonly crownMm: number; readonly across: 'x' | 'y' },
  [x0, y0]: Point,
): TrueShape {
  const middle = across === 'x' ? x0 : y0
  const arc = (mm: number): number => radiusMm * Math.asin(Math.max(-1, Math.min(1, (mm - crownMm) / radiusMm)))
  const start = arc(middle)
  const quarter = (Math.PI / 2) * radiusMm
  const seen = (mm: number): number =>
    crownMm + radiusMm * Math.sin(Math.max(-quarter, Math.min(quarter, start + mm - middle)) / radiusMm)
  const real = (mm: number): number => middle + arc(mm) - start
  return across === 'x'
    ? { onto: (x, y) => [seen(x), y], back: (x, y) => [real(x), y] }
    : { onto: (x, y) => [x, seen(y)], back: (x, y) => [x, real(y)] }
}
