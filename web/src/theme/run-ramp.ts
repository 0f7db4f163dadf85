/**
 * The colour of a place in time, early to late: one ramp from navy over green to ochre and sand, as even to every eye as may be and
 * never grey (“batlow”, F. Crameri, Nature Communications 11, 5444, 2020; cut before its pinks).
 */
const STOPS: readonly Rgb[] = [
  [1, 25, 89],
  [16, 63, 96],
  [28, 90, 98],
  [60, 109, 86],
  [104, 123, 62],
  [157, 137, 43],
  [210, 147, 67],
  [231, 166, 98],
]
type Rgb = readonly [number, number, number]

/** Inks in the order in which they are liked. */
const INKS: readonly (readonly [string, Rgb])[] = [
  ['#fdfaf3', [253, 250, 243]],
  ['#15202a', [21, 32, 42]],
  ['#ffffff', [255, 255, 255]],
  ['#000000', [0, 0, 0]],
]
/** Text is told from its ground from here on (WCAG 2.2, 1.4.3). */
const READABLE = 4.5

export interface RunColour {
  readonly fill: string
  /** Text that reads on it. */
  readonly ink: string
}

/** Relative luminance (WCAG 2.2). */
function luminance(rgb: Rgb): number {
  const [r, g, b] = rgb.map((v) => (v <= 10.31475 ? v / 255 / 12.92 : ((v / 255 + 0.055) / 1.055) ** 2.4))
  return 0.2126 * r + 0.7152 * g + 0.0722 * b
}

/** How far two colours are apart in light, 1–21 (WCAG 2.2). */
export function contrast(a: Rgb, b: Rgb): number {
  const [low, high] = [luminance(a), luminance(b)].sort((x, y) => x - y)
  return (high + 0.05) / (low + 0.05)
}

/** The ramp at a share of the run, 0–1. */
export function rampAt(t: number): Rgb {
  const at = t * (STOPS.length - 1)
  const i = Math.min(STOPS.length - 2, Math.floor(at))
  return STOPS[i].map((v, k) => Math.round(v + (STOPS[i + 1][k] - v) * (at - i))) as unknown as Rgb
}

/** The first ink that reads on a colour. */
export const inkOn = (rgb: Rgb): string => INKS.find(([, ink]) => contrast(ink, rgb) >= READABLE)![0]

/** @param index place in the run order @param count number of operations */
export function runColour(index: number, count: number): RunColour {
  const rgb = rampAt(count <= 1 ? 0 : index / (count - 1))
  return { fill: `rgb(${rgb.join(' ')})`, ink: inkOn(rgb) }
}
