import { coverage } from '@neotaxis/core/geometry/coverage'
import type { Ring } from '@neotaxis/core/geometry/ring'
import type { GreyPicture } from '@neotaxis/core/picture/picture'

/** Dense true outline: chords of about 0.05 px. */
const CHORD = 0.05

const dense = (length: number): number => Math.max(32, Math.ceil(length / CHORD))

export function ellipse(cx: number, cy: number, a: number, b: number, turn: number): Ring {
  const n = dense(Math.PI * (a + b))
  const ring = new Float64Array(2 * n)
  for (let i = 0; i < n; i++) {
    const t = (2 * Math.PI * i) / n
    const x = a * Math.cos(t)
    const y = b * Math.sin(t)
    ring[2 * i] = cx + x * Math.cos(turn) - y * Math.sin(turn)
    ring[2 * i + 1] = cy + x * Math.sin(turn) + y * Math.cos(turn)
  }
  return ring
}

/** A closed polygon through the given corners, its sides divided finely. */
export function polygon(corners: readonly (readonly [number, number])[]): Ring {
  const out: number[] = []
  corners.forEach(([x, y], i) => {
    const [u, v] = corners[(i + 1) % corners.length]
    const n = Math.max(1, Math.ceil(Math.hypot(u - x, v - y) / 0.5))
    for (let k = 0; k < n; k++) out.push(x + ((u - x) * k) / n, y + ((v - y) * k) / n)
  })
  return Float64Array.from(out)
}

export function star(cx: number, cy: number, outer: number, inner: number, points: number, turn: number): Ring {
  const corners: [number, number][] = []
  for (let i = 0; i < 2 * points; i++) {
    const r = i % 2 ? inner : outer
    const a = turn + (Math.PI * i) / points
    corners.push([cx + r * Math.cos(a), cy + r * Math.sin(a)])
  }
  return polygon(corners)
}

/** A smooth wavy blob: radius with three harmonics. */
export function blob(cx: number, cy: number, r: number, random: () => number): Ring {
  const n = dense(2 * Math.PI * r * 1.2)
  const waves = [2, 3, 5].map((k) => [k, (0.12 * random()) / Math.sqrt(k), 2 * Math.PI * random()])
  const ring = new Float64Array(2 * n)
  for (let i = 0; i < n; i++) {
    const t = (2 * Math.PI * i) / n
    const s = waves.reduce((sum, [k, a, p]) => sum + a * Math.cos(k * t + p), 1) * r
    ring[2 * i] = cx + s * Math.cos(t)
    ring[2 * i + 1] = cy + s * Math.sin(t)
  }
  return ring
}

export const reversed = (ring: Ring): Ring => {
  const out = new Float64Array(ring.length)
  for (let i = 0, j = ring.length - 2; i < ring.length; i += 2, j -= 2) {
    out[i] = ring[j]
    out[i + 1] = ring[j + 1]
  }
  return out
}

/** An "o", a "d" or an "A" like letter: shapes with holes, corners and stems as type has them. */
function glyph(cx: number, cy: number, size: number, random: () => number): Ring[] {
  const turn = (random() - 0.5) * 0.3
  const kind = Math.floor(random() * 4)
  const at = (x: number, y: number): [number, number] => [
    cx + size * (x * Math.cos(turn) - y * Math.sin(turn)),
    cy + size * (x * Math.sin(turn) + y * Math.cos(turn)),
  ]
  if (kind === 0)
    return [ellipse(cx, cy, size * 0.42, size * 0.5, turn), reversed(ellipse(cx, cy, size * 0.24, size * 0.34, turn))]
  if (kind === 1)
    return [polygon([at(-0.1, -0.5), at(0.1, -0.5), at(0.48, 0.5), at(0.3, 0.5), at(0, -0.22), at(-0.3, 0.5), at(-0.48, 0.5)])]
  if (kind === 2)
    return [
      polygon([
        at(-0.35, -0.5),
        at(-0.15, -0.5),
        at(-0.15, -0.1),
        at(0.3, -0.1),
        at(0.3, 0.08),
        at(-0.15, 0.08),
        at(-0.15, 0.5),
        at(-0.35, 0.5),
      ]),
    ]
  return [star(cx, cy, size * 0.5, size * 0.22, 5, turn), reversed(ellipse(cx, cy, size * 0.1, size * 0.1, 0))]
}

export interface KnownPicture {
  readonly picture: GreyPicture
  /** The outlines that were drawn, dense, in pixels. */
  readonly truth: readonly Ring[]
}

function draw(rings: readonly Ring[], width: number, height: number): GreyPicture {
  const covered = coverage(rings, width, height)
  const samples = new Uint8Array(width * height)
  for (let i = 0; i < samples.length; i++) samples[i] = 255 - Math.round(covered[i] * 255)
  return { widthPx: width, heightPx: height, samples, full: 255 }
}

/** A few large shapes. */
export function simplePicture(side: number, random: () => number): KnownPicture {
  const truth: Ring[] = []
  const cells = 3
  const cell = side / cells
  for (let i = 0; i < cells * cells; i++) {
    const cx = ((i % cells) + 0.5) * cell + random()
    const cy = (Math.floor(i / cells) + 0.5) * cell + random()
    const r = cell * (0.25 + 0.2 * random())
    if (i % 3 === 0) truth.push(ellipse(cx, cy, r, r * (0.5 + 0.5 * random()), random() * 3))
    else if (i % 3 === 1) truth.push(star(cx, cy, r, r * 0.5, 4 + Math.floor(random() * 4), random()))
    else truth.push(blob(cx, cy, r, random))
  }
  return { picture: draw(truth, side, side), truth }
}

/** A page of letter-like shapes, 24 to 80 px tall. */
export function glyphPicture(side: number, random: () => number): KnownPicture {
  const truth: Ring[] = []
  for (let y = 0; y < side - 90; ) {
    const size = 24 + 56 * random()
    for (let x = size; x < side - size; x += size * 1.15)
      truth.push(...glyph(x + random(), y + size * 0.6 + random(), size, random))
    y += size * 1.35
  }
  return { picture: draw(truth, side, side), truth }
}
