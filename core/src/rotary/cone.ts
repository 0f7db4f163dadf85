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

/** A place on a cone: how far it is turned, and how far along its side from the smaller end. */
export interface OnCone {
  readonly turnRad: number
  readonly alongMm: number
}

/**
 * A place of the face laid flat, as it is driven. The sector lies with its middle line down: x is across it, y from the arc of the smaller
 * end at the middle, mm; artwork keeps its shape there.
 */
export function flatToCone({ innerRadiusMm, angleRad }: Sector, xMm: number, yMm: number): OnCone {
  const down = innerRadiusMm + yMm
  const radius = Math.hypot(xMm, down)
  // All of the sector's angle is once around.
  return { turnRad: (Math.atan2(xMm, down) * 2 * Math.PI) / angleRad, alongMm: radius - innerRadiusMm }
}

/** The way back. */
export function coneToFlat({ innerRadiusMm, angleRad }: Sector, { turnRad, alongMm }: OnCone): readonly [number, number] {
  const angle = (turnRad * angleRad) / (2 * Math.PI)
  const radius = innerRadiusMm + alongMm
  return [radius * Math.sin(angle), radius * Math.cos(angle) - innerRadiusMm]
}

/**
 * A place of a straight strip that follows the taper: x goes around and is as long as it is said at a distance along the side, y along the
 * side; lines of text bend with the rim.
 */
export function stripToCone(cone: Cone, xMm: number, yMm: number, trueAtMm: number): OnCone {
  return { turnRad: (2 * xMm) / diameterAlong(cone, trueAtMm), alongMm: yMm }
}

/**
 * On rollers a cone is turned where it touches them: how far the roller's surface goes for one turn, mm.
 * @param touchesMm how far along its side from the smaller end
 */
export const rollerTravelMm = (cone: Cone, touchesMm: number): number => Math.PI * diameterAlong(cone, touchesMm)

/** The surface goes slower where a cone is narrower: how much faster it must turn there than at its wide end to keep a speed. */
export const fasterAt = (cone: Cone, alongMm: number): number => cone.largeMm / diameterAlong(cone, alongMm)
