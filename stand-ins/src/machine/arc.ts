/** How far a chord may lie off its arc, mm. */
const OFF_MM = 0.002

/**
 * Ends of the chords of an arc around (cx, cy), the last one exact.
 * @param clockwise seen with y up @returns undefined where start and end are not equally far from the centre
 */
export function arcChords(
  x0: number,
  y0: number,
  x1: number,
  y1: number,
  cx: number,
  cy: number,
  clockwise: boolean,
): { readonly x: number; readonly y: number }[] | undefined {
  const radius = Math.hypot(x0 - cx, y0 - cy)
  const other = Math.hypot(x1 - cx, y1 - cy)
  if (radius === 0 || Math.abs(radius - other) > Math.max(0.005, 0.001 * radius)) return undefined
  const from = Math.atan2(y0 - cy, x0 - cx)
  let turn = Math.atan2(y1 - cy, x1 - cx) - from
  if (clockwise && turn >= -1e-9) turn -= 2 * Math.PI
  if (!clockwise && turn <= 1e-9) turn += 2 * Math.PI
  const step = 2 * Math.acos(Math.max(0, 1 - OFF_MM / Math.max(radius, OFF_MM)))
  const count = Math.max(1, Math.ceil(Math.abs(turn) / step))
  return Array.from({ length: count }, (_, i) =>
    i === count - 1
      ? { x: x1, y: y1 }
      : {
          x: cx + radius * Math.cos(from + (turn * (i + 1)) / count),
          y: cy + radius * Math.sin(from + (turn * (i + 1)) / count),
        },
  )
}
