type Point = readonly [number, number]

/** The radius of something round by a chord across it and how high it stands over that, mm: r = c² / 8h + h / 2. */
export function radiusByChord(chordMm: number, heightMm: number): number {
  if (!(chordMm > 0 && heightMm > 0)) throw new RangeError('Chord and height must be more than 0.')
  return chordMm ** 2 / (8 * heightMm) + heightMm / 2
}

/** The radius of the circle through three places, mm: R = abc / 4A. @throws RangeError where they lie on a line */
export function radiusByThree(a: Point, b: Point, c: Point): number {
  const twice = (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0])
  const sides = [Math.hypot(b[0] - a[0], b[1] - a[1]), Math.hypot(c[0] - b[0], c[1] - b[1]), Math.hypot(a[0] - c[0], a[1] - c[1])]
  if (Math.abs(twice) < 1e-9 * Math.max(...sides) ** 2) throw new RangeError('The three places lie on a line: it is flat there.')
  return (sides[0] * sides[1] * sides[2]) / (2 * Math.abs(twice))
}

/** How far a curved face lies under its crown at a distance from it, mm: z = r − √(r² − x²); all of it beyond its edge. */
export const sagittaMm = (radiusMm: number, xMm: number): number =>
  Math.abs(xMm) >= radiusMm ? radiusMm : radiusMm - Math.sqrt(radiusMm ** 2 - xMm ** 2)

/** How far a place lies along the face from its crown, mm, where the head stands beside it: r · asin(x / r). */
export const arcAt = (radiusMm: number, xMm: number): number => radiusMm * Math.asin(Math.max(-1, Math.min(1, xMm / radiusMm)))

/** Where the head stands over a place so far along the face, mm: foreshortening, undone. */
export const headOver = (radiusMm: number, arcMm: number): number => radiusMm * Math.sin(arcMm / radiusMm)

/** A strip of a curved face that is sharp in one focus, mm from the crown, where the head stands; and how deep its focus lies under the crown. */
export interface SharpStrip {
  readonly fromMm: number
  readonly toMm: number
  readonly focusMm: number
}

/** How wide a strip across the crown is sharp in one focus at most, mm from middle to edge: the focus lies half of the depth under the crown. */
export const sharpHalfWidth = (radiusMm: number, depthMm: number): number => depthAt(radiusMm, 2 * depthMm)

/** How far from the crown the face lies so deep, mm. */
const depthAt = (radiusMm: number, deepMm: number): number =>
  deepMm >= radiusMm ? radiusMm : Math.sqrt(radiusMm ** 2 - (radiusMm - deepMm) ** 2)

/**
 * Strips that are sharp one after the other, with a new focus for each, from the crown to both sides: as few as there can be.
 * @param halfMm so far from the crown, where the head stands, mm @param depthMm the depth of focus, to each side
 * @throws RangeError with a sentence where the face falls away too steeply
 */
export function focusStrips(radiusMm: number, halfMm: number, depthMm: number): SharpStrip[] {
  if (!(depthMm > 0)) throw new RangeError('The depth of focus must be more than 0.')
  if (halfMm > STEEPEST * radiusMm)
    throw new RangeError('There the face falls away too steeply: turn the piece, or burn a narrower part of it.')
  const strips: SharpStrip[] = []
  for (let deep = 0, from = 0; from < halfMm; ) {
    const to = Math.min(halfMm, depthAt(radiusMm, deep + 2 * depthMm))
    const focusMm = (deep + sagittaMm(radiusMm, to)) / 2
    if (strips.length === 0) strips.push({ fromMm: -to, toMm: to, focusMm })
    else strips.push({ fromMm: from, toMm: to, focusMm }, { fromMm: -to, toMm: -from, focusMm })
    from = to
    deep += 2 * depthMm
  }
  return strips.sort((a, b) => a.fromMm - b.fromMm)
}

/** Where the beam comes in flatter than at 60° it is no dot any more, as a share of the radius. */
export const STEEPEST = Math.sin(Math.PI / 3)
