/** How a simulated camera really is. Nobody is told: who asks gets photos. */
export interface Optics {
  /** Radial bend: of the distance from the axis, or of the angle to it where the lens is wide. */
  readonly kind: 'moderate' | 'wide'
  /** Focal length against the width of the photo. */
  readonly focal: number
  /** How far the axis of the lens lies off the middle of the photo, shares of its width. */
  readonly axis: readonly [number, number]
  readonly bend: readonly [number, number]
  /** Of a lens that stands askew; a wide one has none. */
  readonly askew: readonly [number, number]
  /** Turned about its own ways: nodding, swaying, and about its axis, degrees. */
  readonly turnDeg: readonly [number, number, number]
  /** Over which place of the bed it hangs, and how high, mm. */
  readonly over: readonly [number, number]
  readonly highMm: number
  /** The bed under it, mm. */
  readonly bed: readonly [number, number]
}

/** Numbers between −1 and 1 that follow from a seed. */
export function chances(seed: number): () => number {
  let state = (seed * 2654435761) >>> 0 || 1
  return () => {
    state ^= state << 13
    state >>>= 0
    state ^= state >>> 17
    state ^= state << 5
    state >>>= 0
    return state / 2147483648 - 1
  }
}

/** A camera over the middle of a bed, off its drawing by what a seed says. @param bed mm */
export function hungOver(bed: { readonly x: number; readonly y: number }, kind: Optics['kind'], seed: number): Optics {
  const by = chances(seed)
  const wide = kind === 'wide'
  // A photo is four by three: a square bed is seen whole from higher up.
  const size = Math.max(bed.x, (4 / 3) * bed.y)
  const focal = (wide ? 0.5 : 0.93) * (1 + 0.02 * by())
  return {
    kind,
    focal,
    axis: [0.006 * by(), 0.006 * by()],
    bend: wide ? [-0.03 + 0.01 * by(), 0.004 * by()] : [-0.2 + 0.04 * by(), 0.05 + 0.02 * by()],
    askew: wide ? [0, 0] : [0.0012 * by(), 0.0012 * by()],
    turnDeg: [1.6 * by(), 1.6 * by(), 1.2 * by()],
    over: [bed.x / 2 + 0.02 * size * by(), bed.y / 2 + 0.02 * size * by()],
    highMm: (wide ? 0.58 : 1.02) * size * (1 + 0.015 * by()),
    bed: [bed.x, bed.y],
  }
}

/** A small camera beside a head, about straight down: `over` tells how far it hangs beside the beam, right and down over the bed, mm. */
export function besideHead(bed: { readonly x: number; readonly y: number }, seed: number): Optics {
  const by = chances(seed + 31)
  return {
    kind: 'moderate',
    focal: 1.9 * (1 + 0.02 * by()),
    axis: [0.01 * by(), 0.01 * by()],
    bend: [-0.22 + 0.05 * by(), 0.1 * by()],
    askew: [0.002 * by(), 0.002 * by()],
    turnDeg: [0.8 * by(), 0.8 * by(), 1.5 * by()],
    over: [38 + 2 * by(), -6 + 2 * by()],
    highMm: 60 * (1 + 0.02 * by()),
    bed: [bed.x, bed.y],
  }
}

/** The same camera after somebody knocked against it. */
export const knocked = (optics: Optics, seed: number): Optics => {
  const by = chances(seed + 977)
  const [a, b, c] = optics.turnDeg
  return {
    ...optics,
    turnDeg: [a + 0.35 + 0.1 * by(), b - 0.3 + 0.1 * by(), c + 0.2 * by()],
    over: [optics.over[0] + 3 * by(), optics.over[1] + 3 * by()],
  }
}

/** The way of a ray without the lens, from where the lens sends it: sideways for one step forward. */
function straightened({ kind, bend: [a, b], askew: [p, q] }: Optics, u: number, v: number): [number, number] {
  if (kind === 'wide') {
    const r = Math.hypot(u, v)
    if (r < 1e-9) return [u, v]
    let [low, high] = [0, 1.5]
    for (let i = 0; i < 48; i++) {
      const angle = (low + high) / 2
      if (angle * (1 + a * angle ** 2 + b * angle ** 4) < r) low = angle
      else high = angle
    }
    const out = Math.tan(low) / r
    return [u * out, v * out]
  }
  let [x, y] = [u, v]
  for (let i = 0; i < 40; i++) {
    const r2 = x * x + y * y
    const by = 1 + a * r2 + b * r2 * r2
    ;[x, y] = [(u - 2 * p * x * y - q * (r2 + 2 * x * x)) / by, (v - p * (r2 + 2 * y * y) - 2 * q * x * y) / by]
  }
  return [x, y]
}

/**
 * The way of the ray of each pixel: how far it goes right and down over the bed for each mm that it falls.
 * @returns for the corner of every mesh square of so many px, row by row
 */
export function rays(
  optics: Optics,
  widthPx: number,
  heightPx: number,
  mesh: number,
): { readonly columns: number; readonly ways: Float64Array } {
  const [nod, sway, about] = optics.turnDeg.map((deg) => (deg * Math.PI) / 180)
  const columns = Math.ceil(widthPx / mesh) + 1
  const rows = Math.ceil(heightPx / mesh) + 1
  const ways = new Float64Array(2 * columns * rows)
  const f = optics.focal * widthPx
  const [cx, cy] = [widthPx * (0.5 + optics.axis[0]), heightPx / 2 + widthPx * optics.axis[1]]
  for (let r = 0; r < rows; r++)
    for (let c = 0; c < columns; c++) {
      const [sx, sy] = straightened(optics, (c * mesh - cx) / f, (r * mesh - cy) / f)
      // About its axis, then nodding, then swaying.
      let [x, y, z] = [sx * Math.cos(about) - sy * Math.sin(about), sx * Math.sin(about) + sy * Math.cos(about), 1]
      ;[y, z] = [y * Math.cos(nod) - z * Math.sin(nod), y * Math.sin(nod) + z * Math.cos(nod)]
      ;[x, z] = [x * Math.cos(sway) + z * Math.sin(sway), -x * Math.sin(sway) + z * Math.cos(sway)]
      ways[2 * (r * columns + c)] = x / z
      ways[2 * (r * columns + c) + 1] = y / z
    }
  return { columns, ways }
}
