/** A dot that the beam burns, to be looked at from near, mm. */
export const BEAM_MARK_MM = 1.2

/** The dot as an SVG drawing. */
export const beamMarkSvg = (): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" width="4mm" height="4mm" viewBox="0 0 4 4"><circle cx="2" cy="2" r="${BEAM_MARK_MM / 2}" fill="#000"/></svg>`
