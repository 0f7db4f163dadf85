/** A place that can be taken hold of, as it lies on the screen. */
export interface GripPlace {
  readonly x: number
  readonly y: number
  /** So far from its middle a press still means it, in the same unit. */
  readonly reach: number
}

/** Which of several places a press means: of those within reach the nearest; −1 where there is none. */
export function gripAt(grips: readonly GripPlace[], x: number, y: number): number {
  let found = -1
  let least = Number.POSITIVE_INFINITY
  for (let i = 0; i < grips.length; i++) {
    const far = Math.hypot(grips[i].x - x, grips[i].y - y)
    if (far <= grips[i].reach && far < least) {
      found = i
      least = far
    }
  }
  return found
}

/**
 * Whether a place lies beside an arc of a circle.
 * @param from,to where the arc begins and ends, radians, from x towards y, `from` ≤ `to`
 * @param reach how far from the arc, and beyond its ends, still means it
 */
export function besideArc(
  arc: { readonly x: number; readonly y: number; readonly radius: number; readonly from: number; readonly to: number },
  x: number,
  y: number,
  reach: number,
): boolean {
  const [dx, dy] = [x - arc.x, y - arc.y]
  // How far from the middle of the arc, the shorter way round.
  const past = Math.atan2(dy, dx) - (arc.from + arc.to) / 2
  const off = Math.abs(Math.atan2(Math.sin(past), Math.cos(past)))
  const beyond = Math.max(0, off - (arc.to - arc.from) / 2)
  return Math.hypot(Math.hypot(dx, dy) - arc.radius, beyond * arc.radius) <= reach
}
