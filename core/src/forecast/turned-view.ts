import type { View } from '../geometry/view.ts'
import { type Affine, inverseOf, mapped } from '../space/affine.ts'

/**
 * Adds what is painted in a turned space to a view: it is painted along its own axes over the turned view, a little finer than
 * that, and read between four of its pixels.
 * @param toView from the turned space to the one that the view looks at, mm
 */
export function throughTurn(
  sums: Float32Array,
  view: View,
  toView: Affine,
  paint: (sums: Float32Array, view: View) => void,
): void {
  const { widthPx, heightPx } = view
  const back = inverseOf(toView)
  const w = widthPx / view.pxPerMm
  const h = heightPx / view.pxPerMm
  const corners = [
    mapped(back, view.x, view.y),
    mapped(back, view.x + w, view.y),
    mapped(back, view.x + w, view.y + h),
    mapped(back, view.x, view.y + h),
  ]
  const x0 = Math.min(...corners.map(([x]) => x))
  const y0 = Math.min(...corners.map(([, y]) => y))
  const x1 = Math.max(...corners.map(([x]) => x))
  const y1 = Math.max(...corners.map(([, y]) => y))
  // Two pixels beside it, so that whatever is read has its neighbours.
  const { pxPerMm } = view
  const its: View = {
    x: x0 - 2 / pxPerMm,
    y: y0 - 2 / pxPerMm,
    pxPerMm,
    widthPx: Math.ceil((x1 - x0) * pxPerMm) + 4,
    heightPx: Math.ceil((y1 - y0) * pxPerMm) + 4,
  }
  const painted = new Float32Array(its.widthPx * its.heightPx)
  paint(painted, its)
  // From pixels of the view to pixels of its own.
  const [a, b, c, d, e, f] = back
  const stride = its.widthPx
  for (let py = 0; py < heightPx; py++) {
    for (let px = 0; px < widthPx; px++) {
      const x = view.x + (px + 0.5) / pxPerMm
      const y = view.y + (py + 0.5) / pxPerMm
      const u = (e + a * x + c * y - its.x) * pxPerMm - 0.5
      const v = (f + d * y + b * x - its.y) * pxPerMm - 0.5
      const i = Math.floor(u)
      const j = Math.floor(v)
      const tx = u - i
      const ty = v - j
      const at = j * stride + i
      const value =
        (painted[at] * (1 - tx) + painted[at + 1] * tx) * (1 - ty) +
        (painted[at + stride] * (1 - tx) + painted[at + stride + 1] * tx) * ty
      if (value === 0) continue
      const sum = sums[py * widthPx + px] + value
      sums[py * widthPx + px] = sum > 1 ? 1 : sum
    }
  }
}
