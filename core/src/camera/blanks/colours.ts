/** Bins of a look: light from a lowest value on, warm and green about nought. */
const LIGHT = { count: 44, width: 0.08, from: -2.2 }
const WARM = { count: 24, width: 0.02 }
const GREEN = { count: 16, width: 0.02 }
const COUNT = LIGHT.count * WARM.count * GREEN.count
/** What was never seen of a face is as likely as this share of a bin; outside there may be anything: sides, glare, what was left there. */
const NEVER = { inside: 0.004 / COUNT, outside: 0.1 / COUNT }

const within = (bin: number, count: number): number => (bin < 0 ? 0 : bin >= count ? count - 1 : bin)

/** The bin of a look. @param light evened: 0 is as light as the bed is there */
export function binOf(light: number, warm: number, green: number): number {
  const l = within(Math.floor((light - LIGHT.from) / LIGHT.width), LIGHT.count)
  const w = within(Math.floor(warm / WARM.width + WARM.count / 2), WARM.count)
  const g = within(Math.floor(green / GREEN.width + GREEN.count / 2), GREEN.count)
  return (l * WARM.count + w) * GREEN.count + g
}

/** How likely looks are: a share for each bin, 1 in all. */
export type Colours = Float32Array

/** What was seen, smoothed by one bin to each side. @param bins each with how much it counts */
export function coloursOf(bins: readonly (readonly [number, number])[]): Colours {
  const raw = new Float32Array(COUNT)
  for (const [bin, weight] of bins) raw[bin] += weight
  return evened(smoothed(raw))
}

function evened(raw: Float32Array): Colours {
  const sum = raw.reduce((all, v) => all + v, 0) || 1
  return raw.map((v) => v / sum)
}

/** Blurred along each of the three ways by a quarter, a half and a quarter. @param far bins to the next one that is looked at */
function smoothed(raw: Float32Array, far = 1): Float32Array {
  let from = raw
  for (const [step, count] of [
    [1, GREEN.count],
    [GREEN.count, WARM.count],
    [GREEN.count * WARM.count, LIGHT.count],
  ]) {
    const to = new Float32Array(COUNT)
    for (let i = 0; i < COUNT; i++) {
      const k = Math.floor(i / step) % count
      const [less, more] = [k >= far ? from[i - far * step] : from[i], k + far < count ? from[i + far * step] : from[i]]
      to[i] = 0.5 * from[i] + 0.25 * less + 0.25 * more
    }
    from = to
  }
  return from
}

/** The same looks in less light: as likely at each of some shares of it. @param shades shares of the light, as logarithms */
export function inShade(colours: Colours, shades: readonly number[]): Colours {
  const out = new Float32Array(COUNT)
  const row = WARM.count * GREEN.count
  for (const shade of shades) {
    const bins = Math.round(shade / LIGHT.width)
    for (let l = 0; l < LIGHT.count; l++) {
      const to = within(l + bins, LIGHT.count)
      for (let k = 0; k < row; k++) out[to * row + k] += colours[l * row + k] / shades.length
    }
  }
  return out
}

/** Looks of several kinds, each as often as its share says. */
export function mixed(...parts: readonly (readonly [Colours, number])[]): Colours {
  const out = new Float32Array(COUNT)
  for (const [colours, share] of parts) for (let i = 0; i < COUNT; i++) out[i] += colours[i] * share
  return out
}

/** Looks that are a little off what was seen are likelier than others: so much of all, over so many bins. */
const OFF = { share: 0.08, rounds: 5 }

/** How likely each bin is, as a logarithm. */
export function likely(colours: Colours, where: 'inside' | 'outside'): Float32Array {
  let wide = colours
  for (let round = 0; round < OFF.rounds; round++) wide = smoothed(wide, round === 0 ? 1 : 2)
  return colours.map((v, i) => Math.log((1 - OFF.share) * v + OFF.share * wide[i] + NEVER[where]))
}
