import type { MaskPart } from '@neotaxis/core'

export type MaskTool = MaskPart['kind']

/** Of places in a picture: a tenth of a pixel. */
export const tenths = (v: number): number => Math.round(v * 10) / 10

/** What is being drawn, as a path on the screen. */
export function sketch(tool: MaskTool, points: readonly number[], to: (x: number, y: number) => string): string {
  if (tool === 'rectangle') {
    const [ax, ay, bx = ax, by = ay] = points
    return `M${to(ax, ay)}L${to(bx, ay)}L${to(bx, by)}L${to(ax, by)}Z`
  }
  if (tool === 'bezier') {
    const all = curvePoints(points)
    let d = `M${to(all[0], all[1])}`
    for (let i = 2; i + 5 < all.length; i += 6)
      d += `C${to(all[i], all[i + 1])} ${to(all[i + 2], all[i + 3])} ${to(all[i + 4], all[i + 5])}`
    return d
  }
  let d = `M${to(points[0], points[1])}`
  for (let i = 2; i + 1 < points.length; i += 2) d += `L${to(points[i], points[i + 1])}`
  return points.length === 2 ? `${d}l0.1 0` : d
}

/** Anchors with leading handles → a closed chain of cubics; the handle behind an anchor mirrors the one ahead. */
export function curvePoints(anchors: readonly number[]): number[] {
  const n = Math.floor(anchors.length / 4)
  const at = (k: number): readonly number[] => anchors.slice(4 * (k % n), 4 * (k % n) + 4)
  const [x, y] = at(0)
  const out = [x, y]
  for (let k = 0; k < n; k++) {
    const [, , hx, hy] = at(k)
    const [ex, ey, nx, ny] = at(k + 1)
    out.push(hx, hy, 2 * ex - nx, 2 * ey - ny, ex, ey)
  }
  return out.map(tenths)
}
