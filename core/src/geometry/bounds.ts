/** An axis-aligned box in the units of what it bounds (mm or px); empty when x0 > x1. */
export interface Bounds {
  readonly x0: number
  readonly y0: number
  readonly x1: number
  readonly y1: number
}

export const EMPTY_BOUNDS: Bounds = { x0: Infinity, y0: Infinity, x1: -Infinity, y1: -Infinity }

export const isEmptyBounds = (b: Bounds): boolean => !(b.x0 <= b.x1 && b.y0 <= b.y1)

/** The smallest box around both. */
export const unite = (a: Bounds, b: Bounds): Bounds => ({
  x0: Math.min(a.x0, b.x0),
  y0: Math.min(a.y0, b.y0),
  x1: Math.max(a.x1, b.x1),
  y1: Math.max(a.y1, b.y1),
})

/** Whether a box holds a place, `more` beyond its edges too. */
export const boundsHold = (b: Bounds, x: number, y: number, more = 0): boolean =>
  x >= b.x0 - more && x <= b.x1 + more && y >= b.y0 - more && y <= b.y1 + more

/** The box between two places. */
export const boxBetween = (
  a: { readonly x: number; readonly y: number },
  b: { readonly x: number; readonly y: number },
): Bounds => ({ x0: Math.min(a.x, b.x), y0: Math.min(a.y, b.y), x1: Math.max(a.x, b.x), y1: Math.max(a.y, b.y) })
