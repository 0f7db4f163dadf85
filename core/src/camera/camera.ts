import { bent, type Lens, unbent } from './lens.ts'

/**
 * A camera over the bed: its lens, where it hangs and how it looks. Places of a photo are pixels from its upper left corner, the middle of
 * the first pixel at 0.5; places of the bed are mm with their height over the bed.
 */
export interface Camera {
  readonly widthPx: number
  readonly heightPx: number
  /** Focal length, px; pixels are square. */
  readonly focalPx: number
  /** Where the axis of the lens meets the photo, px. */
  readonly axisPx: readonly [number, number]
  readonly lens: Lens
  /** Turn from the bed to the camera: the axis it is about, as long as the turn in radians. */
  readonly turn: readonly [number, number, number]
  /** The bed's corner as the camera sees it, mm: right, down, away. */
  readonly shift: readonly [number, number, number]
}

/** A turn as a matrix, row by row (O. Rodrigues, 1840). */
export function turnMatrix([x, y, z]: readonly [number, number, number]): readonly number[] {
  const angle = Math.hypot(x, y, z)
  if (angle < 1e-12) return [1, -z, y, z, 1, -x, -y, x, 1]
  const [a, b, c] = [x / angle, y / angle, z / angle]
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)]
  const rest = 1 - cos
  return [
    cos + a * a * rest,
    a * b * rest - c * sin,
    a * c * rest + b * sin,
    a * b * rest + c * sin,
    cos + b * b * rest,
    b * c * rest - a * sin,
    a * c * rest - b * sin,
    b * c * rest + a * sin,
    cos + c * c * rest,
  ]
}

/** The turn of a matrix: the way back of `turnMatrix`, for turns well below half a circle. */
export function turnFromMatrix(m: readonly number[]): readonly [number, number, number] {
  const cos = Math.min(1, Math.max(-1, (m[0] + m[4] + m[8] - 1) / 2))
  const angle = Math.acos(cos)
  const share = angle < 1e-9 ? 0.5 : angle / (2 * Math.sin(angle))
  return [share * (m[7] - m[5]), share * (m[2] - m[6]), share * (m[3] - m[1])]
}

/** What sees and is seen, with the turn worked out once: for many places. */
export interface Sight {
  /** Where a place of the bed is in the photo, px; undefined where it is behind the camera. */
  readonly seen: (x: number, y: number, heightMm: number) => readonly [number, number] | undefined
  /** The place of the bed that is seen at a place of the photo, mm, at a height; undefined where none is. */
  readonly place: (u: number, v: number, heightMm: number) => readonly [number, number] | undefined
}

export function sightOf({ focalPx, axisPx: [cx, cy], lens, turn, shift: [tx, ty, tz] }: Camera): Sight {
  const m = turnMatrix(turn)
  return {
    seen: (x, y, heightMm) => {
      // The third way of the bed is down into it: so that turns are turns.
      const d = -heightMm
      const away = m[6] * x + m[7] * y + m[8] * d + tz
      if (away < 1e-6) return undefined
      const [u, v] = bent(lens, (m[0] * x + m[1] * y + m[2] * d + tx) / away, (m[3] * x + m[4] * y + m[5] * d + ty) / away)
      return [cx + focalPx * u, cy + focalPx * v]
    },
    place: (u, v, heightMm) => {
      const ray = unbent(lens, (u - cx) / focalPx, (v - cy) / focalPx)
      if (!ray) return undefined
      const [a, b] = ray
      // Ray and camera in the bed's own ways.
      const way = [m[0] * a + m[3] * b + m[6], m[1] * a + m[4] * b + m[7], m[2] * a + m[5] * b + m[8]]
      const from = [
        -(m[0] * tx + m[3] * ty + m[6] * tz),
        -(m[1] * tx + m[4] * ty + m[7] * tz),
        -(m[2] * tx + m[5] * ty + m[8] * tz),
      ]
      if (Math.abs(way[2]) < 1e-9) return undefined
      const t = (-heightMm - from[2]) / way[2]
      return t > 0 ? [from[0] + t * way[0], from[1] + t * way[1]] : undefined
    },
  }
}

/** How high a camera hangs over the bed, and over which place, mm. */
export function standsOver({ turn, shift: [tx, ty, tz] }: Camera): {
  readonly x: number
  readonly y: number
  readonly heightMm: number
} {
  const m = turnMatrix(turn)
  return {
    x: -(m[0] * tx + m[3] * ty + m[6] * tz),
    y: -(m[1] * tx + m[4] * ty + m[7] * tz),
    heightMm: m[2] * tx + m[5] * ty + m[8] * tz,
  }
}
