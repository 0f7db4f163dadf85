// What placing is measured against: slow and plain.
import { combine, shapeArea } from '../geometry/clip.ts'
import { ringsBounds } from '../geometry/ring.ts'
import type { Wanted } from '../placement/nest/nest.ts'
import { cosSin } from '../space/affine.ts'

/** The largest scale at which a convex shape has a place in a convex room at an angle: half planes are cut until nothing is left. */
export function largestAtAngle(
  shape: readonly (readonly [number, number])[],
  room: readonly (readonly [number, number])[],
  deg: number,
): number {
  const [cos, sin] = cosSin(deg)
  const turned = shape.map(([x, y]) => [cos * x - sin * y, sin * x + cos * y])
  const sides = room.map(([ax, ay], i) => {
    const [bx, by] = room[(i + 1) % room.length]
    const long = Math.hypot(bx - ax, by - ay)
    const [nx, ny] = [-(by - ay) / long, (bx - ax) / long]
    return { nx, ny, from: nx * ax + ny * ay, least: Math.min(...turned.map(([x, y]) => nx * x + ny * y)) }
  })
  const hasPlace = (scale: number): boolean => {
    let left: (readonly [number, number])[] = [
      [-1e3, -1e3],
      [1e3, -1e3],
      [1e3, 1e3],
      [-1e3, 1e3],
    ]
    for (const { nx, ny, from, least } of sides) {
      const gap = ([x, y]: readonly [number, number]): number => nx * x + ny * y + scale * least - from
      left = left.flatMap((p, i) => {
        const q = left[(i + 1) % left.length]
        const [g, h] = [gap(p), gap(q)]
        const cross = [p[0] + ((q[0] - p[0]) * g) / (g - h), p[1] + ((q[1] - p[1]) * g) / (g - h)] as const
        return [...(g >= 0 ? [p] : []), ...(g >= 0 !== h >= 0 ? [cross] : [])]
      })
      if (left.length === 0) return false
    }
    return true
  }
  let [low, high] = [0, 20]
  for (let k = 0; k < 22; k++) {
    const middle = (low + high) / 2
    if (hasPlace(middle)) low = middle
    else high = middle
  }
  return low
}

/** A nest of boxes, column by column: what a nest of outlines must beat. @returns share of the sheet */
export function boxesUsed(wanted: readonly Wanted[], width: number, height: number, spacing: number): number {
  const boxes = wanted
    .flatMap(({ rings, count }) => {
      const { x0, y0, x1, y1 } = ringsBounds(rings)
      return Array.from({ length: count }, () => ({ w: x1 - x0, h: y1 - y0, area: shapeArea(combine('union', rings)) }))
    })
    .sort((a, b) => b.w * b.h - a.w * a.h)
  let [x, y, wide, used] = [0, 0, 0, 0]
  for (const { w, h, area } of boxes) {
    if (y + h > height) [x, y, wide] = [x + wide + spacing, 0, 0]
    if (x + w > width || y + h > height) continue
    used += area
    wide = Math.max(wide, w)
    y += h + spacing
  }
  return used / (width * height)
}
