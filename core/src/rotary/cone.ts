/** A tapered cup, without its bottom: diameters of its ends, and the length of its side between them, mm. */
export interface Cone {
  readonly smallMm: number
  readonly largeMm: number
  readonly slantMm: number
}

/** A cone laid flat: part of a ring. */
export interface Sector {
  readonly innerRadiusMm: number
  readonly outerRadiusMm: number
  readonly angleRad: number
}

/** A cone by its height instead of the length of its side: s² = h² + (r₂ − r₁)². */
export const coneByHeight = (smallMm: number, largeMm: number, heightMm: number): Cone => ({
  smallMm,
  largeMm,
  slantMm: Math.hypot(heightMm, (largeMm - smallMm) / 2),
})

/** Ends that differ by less than this share are a cylinder: its ring would have no end. */
const LEAST_TAPER = 1e-6

/**
 * A cone laid flat: R₁ = s·r₁ / (r₂ − r₁), R₂ = R₁ + s, θ = 2π(r₂ − r₁) / s.
 * @throws RangeError with a sentence where it is none
 */
export function sectorOf({ smallMm, largeMm, slantMm }: Cone): Sector {
  if (!(smallMm >= 0 && largeMm > 0 && slantMm > 0)) throw new RangeError('A cone has two diameters and a side, all more than 0.')
  if (largeMm < smallMm) throw new RangeError('Say the smaller diameter first.')
  const wider = (largeMm - smallMm) / 2
  if (wider < LEAST_TAPER * largeMm) throw new RangeError('Both ends are as wide as each other: it is a cylinder.')
  if (wider >= slantMm) throw new RangeError('The side must be longer than the ends differ: measure along the side.')
  const innerRadiusMm = (slantMm * smallMm) / 2 / wider
  return { innerRadiusMm, outerRadiusMm: innerRadiusMm + slantMm, angleRad: (2 * Math.PI * wider) / slantMm }
}

/** Its diameter so far along its side from the smaller end, mm. */
export const diameterAlong = ({ smallMm, largeMm, slantMm }: Cone, alongMm: number): number =>
  smallMm + ((largeMm - smallMm) * alongMm) / slantMm

/** The tilt that levels its upper side, degrees: sin α = (r₂ − r₁) / s. */
export const levellingDeg = ({ smallMm, largeMm, slantMm }: Cone): number =>
  (Math.asin((largeMm - smallMm) / 2 / slantMm) * 180) / Math.PI
