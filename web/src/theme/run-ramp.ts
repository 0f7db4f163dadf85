/**
 * The colour of a place in time, early to late: one ramp from deep blue over grey to yellow, even to the eye and the
 * same for people who see colours differently (after J. Nuñez, C. Anderton, R. Renslow, PLOS ONE 13(7), 2018).
 */
const STOPS: readonly (readonly [number, number, number])[] = [
  [12, 36, 84],
  [45, 63, 109],
  [76, 85, 108],
  [107, 109, 113],
  [138, 134, 120],
  [172, 160, 112],
  [209, 188, 95],
  [246, 222, 73],
]

export interface RunColour {
  readonly fill: string
  /** Text that reads on it. */
  readonly ink: string
}

/** @param index place in the run order @param count number of operations */
export function runColour(index: number, count: number): RunColour {
  const t = count <= 1 ? 0 : index / (count - 1)
  const at = t * (STOPS.length - 1)
  const i = Math.min(STOPS.length - 2, Math.floor(at))
  const rgb = STOPS[i].map((v, k) => Math.round(v + (STOPS[i + 1][k] - v) * (at - i)))
  const light = (0.2126 * rgb[0] + 0.7152 * rgb[1] + 0.0722 * rgb[2]) / 255
  return { fill: `rgb(${rgb.join(' ')})`, ink: light > 0.46 ? '#15202a' : '#fdfaf3' }
}
