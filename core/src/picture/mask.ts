import { coverage } from '../geometry/coverage.ts'
import { type Homography, mapPoint } from '../geometry/homography.ts'
import { CUBIC, flattenPath } from '../geometry/path.ts'
import { ringBounds } from '../geometry/ring.ts'
import { gaussian } from './blur.ts'
import { edgePath } from './edge-path.ts'
import { flood } from './flood.ts'
import type { Framed } from './framing.ts'
import type { Mask, MaskPart } from './steps.ts'

/** A small grey copy of a framed picture, on which connected tones and edges are looked for, whatever the dot pitch is. */
export interface MaskBase {
  readonly width: number
  readonly height: number
  readonly grey: Uint8Array
}

/** Coverage of part of a plane; outside it is nothing. */
interface Piece {
  readonly x0: number
  readonly y0: number
  readonly width: number
  readonly height: number
  readonly covered: (i: number) => number
}

/**
 * A mask at dot pitch, 0–255: its parts added and taken away in order, then faded.
 * @param base made only where a part looks at the picture
 */
export function maskPlane(mask: Mask, framed: Framed, width: number, height: number, base: () => MaskBase): Uint8Array {
  const sx = width / framed.window.width
  const sy = height / framed.window.height
  const out = new Uint8Array(width * height)
  for (const id of mask.order) {
    const part = mask.parts[id]
    const piece = part && pieceOf(part, framed, width, height, sx, sy, base)
    if (!piece) continue
    for (let y = 0; y < piece.height; y++) {
      for (let x = 0; x < piece.width; x++) {
        const c = piece.covered(y * piece.width + x)
        if (c === 0) continue
        const i = (y + piece.y0) * width + x + piece.x0
        out[i] = part.add ? Math.max(out[i], 255 * c + 0.5) : Math.min(out[i], 255 * (1 - c) + 0.5)
      }
    }
  }
  const sigma = (mask.feather / 2) * scaleOf(framed.toFrame, framed) * Math.sqrt(sx * sy)
  if (sigma > 0.2) {
    const soft = Float32Array.from(out)
    gaussian(soft, width, height, sigma)
    for (let i = 0; i < out.length; i++) out[i] = soft[i] + 0.5
  }
  return out
}

/** How much larger the middle of the picture is in its frame. */
function scaleOf(h: Homography, { window }: Framed): number {
  const x = window.width / 2
  const y = window.height / 2
  const [ox, oy] = mapPoint(h, x, y)
  const [ax, ay] = mapPoint(h, x + 1, y)
  const [bx, by] = mapPoint(h, x, y + 1)
  return Math.sqrt(Math.abs((ax - ox) * (by - oy) - (ay - oy) * (bx - ox)))
}

function pieceOf(
  part: MaskPart,
  framed: Framed,
  width: number,
  height: number,
  sx: number,
  sy: number,
  base: () => MaskBase,
): Piece | undefined {
  const { toFrame } = framed
  const place = (points: readonly number[]): Float64Array => {
    const out = new Float64Array(points.length & ~1)
    for (let i = 0; i < out.length; i += 2) {
      const [x, y] = mapPoint(toFrame, points[i], points[i + 1])
      out[i] = x * sx
      out[i + 1] = y * sy
    }
    return out
  }
  switch (part.kind) {
    case 'rectangle': {
      const { x, y, width: w, height: h } = part
      return filled(place([x, y, x + w, y, x + w, y + h, x, y + h]), width, height)
    }
    case 'polygon':
      return filled(place(part.points), width, height)
    case 'bezier': {
      const points = place(part.points)
      const kinds = new Uint8Array(Math.floor((points.length - 2) / 6)).fill(CUBIC)
      return kinds.length === 0 ? undefined : filled(flattenPath({ closed: true, kinds, points }, 0.1), width, height)
    }
    case 'brush':
      return stroked(place(part.points), part.radius * scaleOf(toFrame, framed) * Math.sqrt(sx * sy), width, height)
    case 'tone': {
      const { width: w, height: h, grey } = base()
      const [fx, fy] = mapPoint(toFrame, part.x, part.y)
      const x = Math.floor((fx * w) / framed.window.width)
      const y = Math.floor((fy * h) / framed.window.height)
      return enlarged(flood(grey, w, h, x, y, 255 * part.tolerance), w, h, width, height)
    }
    case 'edges':
      return filled(alongEdges(part.points, framed, base(), width, height), width, height)
  }
}

/** The closed line along edges through anchors in source pixels, at dot pitch. */
function alongEdges(points: readonly number[], framed: Framed, base: MaskBase, width: number, height: number): Float64Array {
  const anchors: [number, number][] = []
  for (let i = 0; i + 1 < points.length; i += 2) {
    const [x, y] = mapPoint(framed.toFrame, points[i], points[i + 1])
    anchors.push([(x * base.width) / framed.window.width, (y * base.height) / framed.window.height])
  }
  const ring: number[] = []
  anchors.forEach((anchor, i) => {
    const path = edgePath(base.grey, base.width, base.height, anchor, anchors[(i + 1) % anchors.length])
    // The last place of each way is the first of the next.
    for (let k = 0; k + 3 < path.length; k += 2) ring.push((path[k] * width) / base.width, (path[k + 1] * height) / base.height)
  })
  return Float64Array.from(ring)
}

function filled(ring: Float64Array, width: number, height: number): Piece | undefined {
  if (ring.length < 6) return undefined
  const box = ringBounds(ring)
  const x0 = Math.max(0, Math.floor(box.x0))
  const y0 = Math.max(0, Math.floor(box.y0))
  const w = Math.min(width, Math.ceil(box.x1)) - x0
  const h = Math.min(height, Math.ceil(box.y1)) - y0
  if (!(w > 0 && h > 0)) return undefined
  const covered = coverage([ring.map((v, i) => v - (i % 2 ? y0 : x0))], w, h)
  return { x0, y0, width: w, height: h, covered: (i) => covered[i] }
}

function stroked(points: Float64Array, radius: number, width: number, height: number): Piece | undefined {
  if (points.length < 2) return undefined
  const box = ringBounds(points)
  const x0 = Math.max(0, Math.floor(box.x0 - radius - 1))
  const y0 = Math.max(0, Math.floor(box.y0 - radius - 1))
  const w = Math.min(width, Math.ceil(box.x1 + radius + 1)) - x0
  const h = Math.min(height, Math.ceil(box.y1 + radius + 1)) - y0
  if (!(w > 0 && h > 0)) return undefined
  const covered = new Float32Array(w * h)
  for (let i = 0; i < points.length; i += 2) {
    const ax = points[i]
    const ay = points[i + 1]
    const last = points.length === 2
    if (i + 3 >= points.length && !last) break
    const bx = last ? ax : points[i + 2]
    const by = last ? ay : points[i + 3]
    const length2 = (bx - ax) ** 2 + (by - ay) ** 2
    for (let y = Math.max(0, Math.floor(Math.min(ay, by) - radius - 1 - y0)); y < h; y++) {
      const py = y + y0 + 0.5
      if (py > Math.max(ay, by) + radius + 1) break
      for (let x = Math.max(0, Math.floor(Math.min(ax, bx) - radius - 1 - x0)); x < w; x++) {
        const px = x + x0 + 0.5
        if (px > Math.max(ax, bx) + radius + 1) break
        const t = length2 > 0 ? Math.min(1, Math.max(0, ((px - ax) * (bx - ax) + (py - ay) * (by - ay)) / length2)) : 0
        const d = radius - Math.hypot(px - ax - t * (bx - ax), py - ay - t * (by - ay)) + 0.5
        if (d > covered[y * w + x]) covered[y * w + x] = d > 1 ? 1 : d
      }
    }
  }
  return { x0, y0, width: w, height: h, covered: (i) => covered[i] }
}

/** A mask of the small copy at dot pitch, between its pixels on straight lines. */
function enlarged(mask: Uint8Array, w: number, h: number, width: number, height: number): Piece {
  return {
    x0: 0,
    y0: 0,
    width,
    height,
    covered: (i) => {
      const x = i % width
      const fx = Math.min(w - 1, Math.max(0, ((x + 0.5) * w) / width - 0.5))
      const fy = Math.min(h - 1, Math.max(0, (((i - x) / width + 0.5) * h) / height - 0.5))
      const c = Math.floor(fx)
      const r = Math.floor(fy)
      const u = fx - c
      const v = fy - r
      const right = Math.min(w - 1, c + 1)
      const below = Math.min(h - 1, r + 1) * w
      const top = mask[r * w + c] * (1 - u) + mask[r * w + right] * u
      const bottom = mask[below + c] * (1 - u) + mask[below + right] * u
      return (top * (1 - v) + bottom * v) / 255
    },
  }
}
