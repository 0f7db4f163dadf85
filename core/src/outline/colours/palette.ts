/** A colour picture: channels 0–255, row by row; pixels that are transparent belong to nothing. */
export interface ColourPicture {
  readonly widthPx: number
  readonly heightPx: number
  readonly red: Uint8Array
  readonly green: Uint8Array
  readonly blue: Uint8Array
  readonly alpha?: Uint8Array
}

/** One colour of a palette, and the share of the picture that has it. */
export interface PaletteColour {
  readonly rgb: readonly [number, number, number]
  readonly share: number
  /** Most of the picture's border has it: the ground that the rest stands on. */
  readonly paper: boolean
}

type Lab = readonly [number, number, number]

const LINEAR = Float64Array.from({ length: 256 }, (_, v) =>
  v / 255 <= 0.04045 ? v / 255 / 12.92 : ((v / 255 + 0.055) / 1.055) ** 2.4,
)

/** sRGB 0–255 → OKLab (B. Ottosson, 2020): equal steps look equal. */
export function oklab(r: number, g: number, b: number): Lab {
  const [lr, lg, lb] = [LINEAR[r], LINEAR[g], LINEAR[b]]
  const l = Math.cbrt(0.4122214708 * lr + 0.5363325363 * lg + 0.0514459929 * lb)
  const m = Math.cbrt(0.2119034982 * lr + 0.6806995451 * lg + 0.1073969566 * lb)
  const s = Math.cbrt(0.0883024619 * lr + 0.2817188376 * lg + 0.6299787005 * lb)
  return [
    0.2104542553 * l + 0.793617785 * m - 0.0040720468 * s,
    1.9779984951 * l - 2.428592205 * m + 0.4505937099 * s,
    0.0259040371 * l + 0.7827717662 * m - 0.808675766 * s,
  ]
}

const apart = (a: Lab, b: Lab): number => (a[0] - b[0]) ** 2 + (a[1] - b[1]) ** 2 + (a[2] - b[2]) ** 2

/** Colours in a coarse cube: how often each is there, and its mean. */
interface Bin {
  readonly lab: Lab
  readonly rgb: readonly [number, number, number]
  readonly count: number
}

const SAMPLES = 400_000

function bins({ widthPx, heightPx, red, green, blue, alpha }: ColourPicture): Bin[] {
  const n = widthPx * heightPx
  const step = Math.max(1, Math.floor(n / SAMPLES))
  const sums = new Map<number, [number, number, number, number]>()
  for (let i = 0; i < n; i += step) {
    if (alpha && alpha[i] < 128) continue
    const key = ((red[i] >> 3) << 10) | ((green[i] >> 3) << 5) | (blue[i] >> 3)
    const sum = sums.get(key)
    if (sum) {
      sum[0] += red[i]
      sum[1] += green[i]
      sum[2] += blue[i]
      sum[3]++
    } else sums.set(key, [red[i], green[i], blue[i], 1])
  }
  return [...sums].map(([, [r, g, b, count]]) => {
    const rgb = [Math.round(r / count), Math.round(g / count), Math.round(b / count)] as const
    return { lab: oklab(...rgb), rgb, count }
  })
}

/** Colours nearer than this (OKLab) are one. */
const SAME = 0.03

/**
 * A small palette: k-means in OKLab (S. Lloyd, IEEE Trans. Inf. Theory 28(2), 1982), begun with the colour that is there most
 * and then always the one farthest from those chosen, weighed by how often it is there; so the same picture gives the same
 * palette. @param count at most so many, fewer where there are fewer @returns largest share first
 */
export function palette(picture: ColourPicture, count: number): PaletteColour[] {
  const all = bins(picture)
  if (all.length === 0) return []
  let centres: Lab[] = [all.reduce((most, bin) => (bin.count > most.count ? bin : most)).lab]
  while (centres.length < count) {
    let best: Bin | undefined
    let worth = 0
    for (const bin of all) {
      const far = Math.min(...centres.map((centre) => apart(centre, bin.lab)))
      // Rare colours far away are edges between others more often than colours of their own.
      const value = far * Math.sqrt(bin.count)
      if (far > SAME * SAME && value > worth) {
        worth = value
        best = bin
      }
    }
    if (!best) break
    centres.push(best.lab)
  }
  let groups: Bin[][] = []
  for (let round = 0; round < 24; round++) {
    groups = centres.map(() => [])
    for (const bin of all) groups[nearest(centres, bin.lab)].push(bin)
    const next = groups.map((group, i) => (group.length > 0 ? meanLab(group) : centres[i]))
    const moved = next.reduce((sum, centre, i) => sum + apart(centre, centres[i]), 0)
    centres = next
    if (moved < 1e-8) break
  }
  const border = borderCounts(picture, centres)
  const most = border.indexOf(Math.max(...border))
  const whole = all.reduce((sum, { count: n }) => sum + n, 0)
  return groups
    .map((group, i) => ({
      rgb: commonRgb(group),
      share: group.reduce((sum, { count: n }) => sum + n, 0) / whole,
      paper: i === most && border[i] > 0,
    }))
    .filter(({ share }) => share > 0)
    .sort((a, b) => b.share - a.share)
}

const nearest = (centres: readonly Lab[], lab: Lab): number => {
  let best = 0
  for (let i = 1; i < centres.length; i++) if (apart(centres[i], lab) < apart(centres[best], lab)) best = i
  return best
}

function meanLab(group: readonly Bin[]): Lab {
  const n = group.reduce((sum, { count }) => sum + count, 0)
  return [0, 1, 2].map((k) => group.reduce((sum, { lab, count }) => sum + lab[k] * count, 0) / n) as unknown as Lab
}

/** The colour that a group has most: edges blend, what is meant is what is there most. */
function commonRgb(group: readonly Bin[]): readonly [number, number, number] {
  return group.length > 0 ? group.reduce((most, bin) => (bin.count > most.count ? bin : most)).rgb : [0, 0, 0]
}

function borderCounts(picture: ColourPicture, centres: readonly Lab[]): number[] {
  const { widthPx: w, heightPx: h, red, green, blue, alpha } = picture
  const counts = centres.map(() => 0)
  const look = (i: number): void => {
    if (!alpha || alpha[i] >= 128) counts[nearest(centres, oklab(red[i], green[i], blue[i]))]++
  }
  for (let x = 0; x < w; x++) {
    look(x)
    look((h - 1) * w + x)
  }
  for (let y = 0; y < h; y++) {
    look(y * w)
    look(y * w + w - 1)
  }
  return counts
}

/** Label of what is transparent, and of what is beside the picture. */
export const NOTHING = 255

/**
 * Which colour of a palette each pixel has. Lone fringes between two colours, which look like a third, go to a neighbour.
 * @returns labels, row by row; NOTHING where it is transparent
 */
export function labelled(picture: ColourPicture, colours: readonly PaletteColour[]): Uint8Array {
  const { widthPx: w, heightPx: h, red, green, blue, alpha } = picture
  const labs = colours.map(({ rgb }) => oklab(...rgb))
  const known = new Int16Array(1 << 18).fill(-1)
  const labels = new Uint8Array(w * h)
  for (let i = 0; i < labels.length; i++) {
    if (alpha && alpha[i] < 128) {
      labels[i] = NOTHING
      continue
    }
    const key = ((red[i] >> 2) << 12) | ((green[i] >> 2) << 6) | (blue[i] >> 2)
    if (known[key] < 0) known[key] = nearest(labs, oklab(red[i], green[i], blue[i]))
    labels[i] = known[key]
  }
  for (let round = 0; round < 2; round++) absorbFringes(labels, w, h, picture, labs)
  return labels
}

/** Pixels that belong to no block of 2 × 2 of their label take that of the nearest colour beside them which does. */
function absorbFringes(
  labels: Uint8Array,
  w: number,
  h: number,
  { red, green, blue }: ColourPicture,
  labs: readonly Lab[],
): void {
  const before = labels.slice()
  const at = (x: number, y: number): number => (x < 0 || y < 0 || x >= w || y >= h ? NOTHING : before[y * w + x])
  const solid = (x: number, y: number): boolean => {
    const own = at(x, y)
    for (const dx of [-1, 0])
      for (const dy of [-1, 0])
        if (
          at(x + dx, y + dy) === own &&
          at(x + dx + 1, y + dy) === own &&
          at(x + dx, y + dy + 1) === own &&
          at(x + dx + 1, y + dy + 1) === own
        )
          return true
    return false
  }
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const i = y * w + x
      if (before[i] === NOTHING || solid(x, y)) continue
      const own = oklab(red[i], green[i], blue[i])
      let best = -1
      for (let dy = -1; dy <= 1; dy++)
        for (let dx = -1; dx <= 1; dx++) {
          const label = at(x + dx, y + dy)
          if (label === NOTHING || label === before[i] || (best >= 0 && apart(labs[label], own) >= apart(labs[best], own)))
            continue
          if (solid(x + dx, y + dy)) best = label
        }
      if (best >= 0) labels[i] = best
    }
}
