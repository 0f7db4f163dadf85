/** A page's ink as darkness under its paper, 0 none to 255 black, row by row. */
export interface InkField {
  readonly width: number
  readonly height: number
  readonly dark: Uint8Array
}

/** A line that was printed across the page, from its left to its right edge. */
export interface RuledLine {
  /** Its middle, px from the top, at each column. */
  readonly at: Float32Array
  /** How dark it is by the distance from its middle, 0–255, in quarter pixels from −`reach` on. */
  readonly profile: Float32Array
  readonly reach: number
  /** How dark its middle is, 0–255. */
  readonly peak: number
}

/** Quarter pixels of a profile. */
export const FINE = 4
/** Darkness beyond this tells nothing more about lines, levels. */
const CLIP = 96
/** Ruled paper leans by no more than this, as a slope. */
const LEAN = 0.15
const LEAN_STEP = 0.005
/** Columns that lean as one. */
const SEGMENT = 400
const BLOCK = 8
/** Columns that are looked at as one while a line is followed. */
const STRIP = 32
/** Weaker than this nothing is a line, levels. */
const WEAKEST = 6
/** Share of the page's width over which a ruled line is seen, and that it spans. */
const SEEN = 0.45
const SPANS = 0.7
/** Ruled lines are at least so many, in steps that are equal by this share. */
const LEAST_LINES = 3
/** Of a line that steps tell of this share is seen at least. */
const HIDDEN = 0.15
const EVEN = 0.18

/** Lines are no thicker than this, px. */
const thickest = ({ width, height }: InkField): number => Math.max(6, Math.min(40, Math.round(Math.min(width, height) / 160)))

/**
 * The lines of ruled paper: what goes straight across most of the page in one direction, at even distances, thinner than writing is
 * high. The direction is the one in which sums along it change most (the projection that deskews pages); along it each line is then
 * followed strip by strip by the median darkness across each, so that writing over it hides it nowhere for long.
 */
export function ruledLines(field: InkField): RuledLine[] {
  const { width, height } = field
  if (width < 4 * STRIP || height < 4 * STRIP) return []
  const most = thickest(field)
  const lean = leanOf(field)
  const { tracks, medians } = followed(field, lean, most)
  return even(tracks, medians, most).map((track) => lineOf(field, track, most))
}

/** The slope along which the page's darkness changes most from row to row. */
function leanOf({ width, height, dark }: InkField): number {
  const blocks = Math.floor(width / BLOCK)
  const sums = new Float32Array(blocks * height)
  for (let y = 0; y < height; y++) {
    for (let b = 0, x = y * width; b < blocks; b++) {
      let sum = 0
      for (let k = 0; k < BLOCK; k++, x++) sum += Math.min(CLIP, dark[x])
      sums[b * height + y] = sum
    }
  }
  const perSegment = Math.max(4, Math.round(Math.min(SEGMENT, width) / BLOCK))
  const row = new Float32Array(height)
  let best = 0
  let most = -1
  for (let lean = -LEAN; lean <= LEAN + 1e-9; lean += LEAN_STEP) {
    let energy = 0
    for (let from = 0; from + perSegment <= blocks; from += perSegment) {
      row.fill(0)
      for (let b = 0; b < perSegment; b++) {
        const shift = Math.round(lean * BLOCK * (b - perSegment / 2))
        const at = (from + b) * height
        const y0 = Math.max(0, -shift)
        const y1 = Math.min(height, height - shift)
        for (let y = y0; y < y1; y++) row[y] += sums[at + y + shift]
      }
      for (let y = 1; y < height; y++) energy += (row[y] - row[y - 1]) ** 2
    }
    if (energy > most * (1 + 1e-6)) {
      most = energy
      best = lean
    }
  }
  return best
}

interface Track {
  /** Strips in which it was seen, and where its middle is there, px from the top. */
  readonly strips: number[]
  readonly ys: number[]
}

/** A few values put in order in place, by insertion: many times as quick as the built-in sort for so few. */
function sortFew(values: Uint8Array): void {
  for (let i = 1; i < values.length; i++) {
    const v = values[i]
    let k = i - 1
    while (k >= 0 && values[k] > v) values[k + 1] = values[k--]
    values[k + 1] = v
  }
}

interface Followed {
  readonly tracks: readonly Track[]
  /** The median darkness of each row, strip by strip. */
  readonly medians: readonly Float32Array[]
}

/** Thin dark lines that go on from strip to strip along the lean. */
function followed({ width, height, dark }: InkField, lean: number, most: number): Followed {
  const strips = Math.floor(width / STRIP)
  const values = new Uint8Array(STRIP)
  const medians: Float32Array[] = []
  const open: Track[] = []
  for (let s = 0; s < strips; s++) {
    const x0 = s * STRIP
    const median = new Float32Array(height)
    medians.push(median)
    for (let y = 0; y < height; y++) {
      for (let k = 0; k < STRIP; k++) {
        const v = Math.min(height - 1, Math.max(0, y + Math.round(lean * (k + 0.5 - STRIP / 2))))
        values[k] = dark[v * width + x0 + k]
      }
      sortFew(values)
      // The middle third: hardly noisier than a mean, and as deaf to writing as a median.
      let sum = 0
      for (let k = 10; k < 20; k++) sum += values[k]
      median[y] = sum / 10
    }
    const peaks = peaksOf(median, most)
    const taken = new Set<number>()
    for (const track of open) {
      const last = track.strips.length - 1
      const gap = s - track.strips[last]
      const want = track.ys[last] + slopeOf(track, lean) * STRIP * gap
      let best = -1
      let nearest = 2 + 0.25 * Math.min(8, gap)
      peaks.forEach((y, i) => {
        const off = Math.abs(y - want)
        if (off < nearest && !taken.has(i)) {
          nearest = off
          best = i
        }
      })
      if (best < 0) continue
      taken.add(best)
      track.strips.push(s)
      track.ys.push(peaks[best])
    }
    peaks.forEach((y, i) => {
      if (!taken.has(i)) open.push({ strips: [s], ys: [y] })
    })
  }
  const kept = open.filter(
    ({ strips: seen }) => seen.length >= SEEN * strips && seen[seen.length - 1] - seen[0] >= SPANS * (strips - 1),
  )
  const slopes = commonSlopes(kept, strips, lean)
  return { tracks: kept.map((track) => filled(track, slopes, medians, most)), medians }
}

/** How far lines go down from each strip to the next: the middle of all that were seen in both. */
function commonSlopes(tracks: readonly Track[], strips: number, lean: number): number[] {
  const steps: number[][] = Array.from({ length: strips }, () => [])
  for (const { strips: seen, ys } of tracks)
    for (let i = 1; i < seen.length; i++) if (seen[i] === seen[i - 1] + 1) steps[seen[i - 1]].push(ys[i] - ys[i - 1])
  return steps.map((_, s) => {
    const near = steps
      .slice(Math.max(0, s - 2), s + 3)
      .flat()
      .sort((a, b) => a - b)
    return near.length > 0 ? near[near.length >> 1] : lean * STRIP
  })
}

/** A track in every strip: where it was not seen it goes on as its neighbours do, to what is darker there, if anything is. */
function filled({ strips, ys }: Track, slopes: readonly number[], medians: readonly Float32Array[], most: number): Track {
  const course = new Float64Array(medians.length)
  const seen = new Map(strips.map((s, i) => [s, ys[i]]))
  const look = (s: number, want: number): number => seen.get(s) ?? nearbyPeak(medians[s], want, most)
  const first = strips[0]
  course[first] = ys[0]
  for (let s = first + 1; s < course.length; s++) course[s] = look(s, course[s - 1] + slopes[s - 1])
  for (let s = first - 1; s >= 0; s--) course[s] = look(s, course[s + 1] - slopes[s])
  return { strips: Array.from(course, (_, s) => s), ys: Array.from(course) }
}

/** The middle of what is darkest within two pixels of a place; the place itself where nothing is darker than beside it. */
function nearbyPeak(row: Float32Array, want: number, most: number): number {
  const at = (y: number): number => row[Math.min(row.length - 1, Math.max(0, y))]
  const middle = Math.floor(want)
  const base = Math.max(Math.min(at(middle - most), at(middle - most + 1)), Math.min(at(middle + most), at(middle + most - 1)))
  let sum = 0
  let moment = 0
  for (let y = middle - 2; y <= middle + 2; y++) {
    const above = Math.max(0, at(y) - base - WEAKEST / 2)
    sum += above
    moment += above * (y + 0.5)
  }
  return sum > WEAKEST / 2 ? moment / sum : want
}

/** How a track leans by what was seen of it lately; the page's lean until there is enough. */
function slopeOf({ strips, ys }: Track, lean: number): number {
  const n = strips.length
  if (n < 6) return lean
  const from = Math.max(0, n - 10)
  return (ys[n - 1] - ys[from]) / ((strips[n - 1] - strips[from]) * STRIP)
}

/** Middles of what is darker than both sides of it and thin, px from the top. */
function peaksOf(row: Float32Array, most: number): number[] {
  const n = row.length
  const above = new Float32Array(n)
  for (let y = 0; y < n; y++) {
    let before = row[y]
    let after = row[y]
    for (let k = 2; k <= most; k++) {
      before = Math.min(before, row[Math.max(0, y - k)])
      after = Math.min(after, row[Math.min(n - 1, y + k)])
    }
    above[y] = row[y] - Math.max(before, after)
  }
  const peaks: number[] = []
  for (let y = 1; y < n - 1; y++) {
    if (above[y] < WEAKEST || above[y] < above[y - 1] || above[y] <= above[y + 1]) continue
    let best = true
    for (let k = Math.max(0, y - 3); k <= Math.min(n - 1, y + 3); k++) if (above[k] > above[y]) best = false
    if (!best) continue
    let sum = 0
    let moment = 0
    for (let k = Math.max(0, y - most); k <= Math.min(n - 1, y + most); k++) {
      if (above[k] < 0.4 * above[y]) continue
      sum += above[k]
      moment += above[k] * (k + 0.5)
    }
    peaks.push(moment / sum)
  }
  return peaks
}

/**
 * Those of the tracks that lie in even steps, as lines of ruled paper do, and the lines between and beyond them that writing hid:
 * where the steps say there is one, and something of it is seen.
 */
function even(tracks: readonly Track[], medians: readonly Float32Array[], most: number): readonly Track[] {
  if (tracks.length < LEAST_LINES) return []
  const middle = ({ ys }: Track): number => ys[ys.length >> 1]
  const sorted = [...tracks].sort((a, b) => middle(a) - middle(b))
  const gaps = sorted.slice(1).map((track, i) => middle(track) - middle(sorted[i]))
  const step = [...gaps].sort((a, b) => a - b)[gaps.length >> 1]
  const isEven = gaps.map((gap) => gap > step / 2 && Math.abs(gap / step - Math.round(gap / step)) < EVEN)
  if (isEven.filter(Boolean).length < 0.6 * gaps.length) return []
  const kept = sorted.filter((_, i) => isEven[i] || isEven[i - 1])
  const found: Track[] = []
  const hidden = (ys: readonly number[]): void => {
    const track = seenOf(ys, medians, most)
    if (track) found.push(track)
  }
  kept.forEach((track, i) => {
    found.push(track)
    const next = kept[i + 1]
    const times = next ? Math.round((middle(next) - middle(track)) / step) : 0
    for (let k = 1; k < times; k++) hidden(track.ys.map((y, s) => y + ((next.ys[s] - y) * k) / times))
  })
  const height = medians[0].length
  for (const [from, way] of [
    [kept[0], -1],
    [kept[kept.length - 1], 1],
  ] as const) {
    for (let k = 1; ; k++) {
      const ys = from.ys.map((y) => y + way * k * step)
      if (ys.every((y) => y < 0) || ys.every((y) => y > height)) break
      hidden(ys)
    }
  }
  return found
}

/** A line that is expected on a course, moved to where it is darker; undefined where hardly anything of it is seen. */
function seenOf(ys: readonly number[], medians: readonly Float32Array[], most: number): Track | undefined {
  const moved = ys.map((y, s) => nearbyPeak(medians[s], y, most))
  const inside = ys.filter((y) => y > 0 && y < medians[0].length).length
  const seen = moved.filter((y, s) => y !== ys[s]).length
  if (seen < Math.max(3, HIDDEN * inside)) return undefined
  return { strips: ys.map((_, s) => s), ys: moved }
}

/** A track as a line: its course smoothed over its neighbours, its darkness by the median along it. */
function lineOf({ width, height, dark }: InkField, { strips, ys }: Track, most: number): RuledLine {
  const at = new Float32Array(width)
  const xs = strips.map((s) => (s + 0.5) * STRIP)
  const smooth = ys.map((_, i) => {
    const from = Math.max(0, i - 3)
    const to = Math.min(ys.length - 1, i + 3)
    let [n, sx, sy, sxx, sxy] = [0, 0, 0, 0, 0]
    for (let k = from; k <= to; k++) {
      const x = xs[k] - xs[i]
      n++
      sx += x
      sy += ys[k]
      sxx += x * x
      sxy += x * ys[k]
    }
    const slope = n * sxx - sx * sx > 0 ? (n * sxy - sx * sy) / (n * sxx - sx * sx) : 0
    return (sy - slope * sx) / n
  })
  for (let x = 0, i = 0; x < width; x++) {
    while (i < xs.length - 2 && xs[i + 1] < x + 0.5) i++
    at[x] = xs.length > 1 ? smooth[i] + ((x + 0.5 - xs[i]) * (smooth[i + 1] - smooth[i])) / (xs[i + 1] - xs[i]) : smooth[0]
  }
  const bins = 2 * most * FINE + 1
  const counts = new Uint32Array(bins * 256)
  for (let x = 0; x < width; x++) {
    for (let y = Math.max(0, Math.ceil(at[x] - most - 0.5)); y <= Math.min(height - 1, at[x] + most - 0.5); y++) {
      const bin = Math.round((y + 0.5 - at[x] + most) * FINE)
      if (bin >= 0 && bin < bins) counts[bin * 256 + dark[y * width + x]]++
    }
  }
  const raw = Float32Array.from({ length: bins }, (_, bin) => {
    let all = 0
    for (let v = 0; v < 256; v++) all += counts[bin * 256 + v]
    let v = 0
    for (let sum = 0; v < 255; v++) {
      sum += counts[bin * 256 + v]
      if (2 * sum >= all) break
    }
    return v
  })
  // What lies beside the line is paper.
  const outer = Float32Array.from(raw).sort()[Math.floor(bins / 4)]
  const profile = raw.map((v, i) => {
    const near = (raw[Math.max(0, i - 1)] + 2 * v + raw[Math.min(bins - 1, i + 1)]) / 4 - outer
    return near > 1.5 ? near : 0
  })
  return { at, profile, reach: most, peak: profile.reduce((a, b) => Math.max(a, b), 0) }
}
