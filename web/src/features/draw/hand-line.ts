/** A corner of a line drawn by hand, mm; `out` is its handle, where the line bends through it. */
export interface HandPoint {
  readonly x: number
  readonly y: number
  readonly out?: { readonly dx: number; readonly dy: number }
}

const n = (v: number): string => String(Number(v.toFixed(3)))

/** The line as SVG path data, mm; handles are the same on both sides. Empty with fewer than two corners. */
export function handData(points: readonly HandPoint[], closed: boolean): string {
  if (points.length < 2) return ''
  const part = (a: HandPoint, b: HandPoint): string => {
    if (!a.out && !b.out) return `L${n(b.x)} ${n(b.y)}`
    const [ax, ay] = [a.x + (a.out?.dx ?? 0), a.y + (a.out?.dy ?? 0)]
    const [bx, by] = [b.x - (b.out?.dx ?? 0), b.y - (b.out?.dy ?? 0)]
    return `C${n(ax)} ${n(ay)} ${n(bx)} ${n(by)} ${n(b.x)} ${n(b.y)}`
  }
  const [first, ...rest] = points
  const parts = rest.map((point, i) => part(points[i], point))
  if (closed) parts.push(`${part(points[points.length - 1], first)}Z`)
  return `M${n(first.x)} ${n(first.y)}${parts.join('')}`
}
