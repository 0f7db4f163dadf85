import type { Burn } from './photo.ts'

/** Only where cuts are seen from near it matters how dark it is in them: cells of a burn at most so large, mm. */
const NEAR_MM = 0.05

/**
 * How much light falls through what is cut away onto the bed below, at each cell of a burn: the more of it is open as far around as the
 * plate is thick, the more. A slot is dark, whatever lies under it; where a part fell out, the bed is seen.
 * @returns undefined where it is not looked at from near
 */
export function skylight({ cell, columns, rows, through }: Burn, thicknessMm: number): Float32Array | undefined {
  if (cell > NEAR_MM || thicknessMm <= 0) return undefined
  const far = Math.max(1, Math.round(thicknessMm / cell))
  const sums = new Float64Array((columns + 1) * (rows + 1))
  for (let r = 0; r < rows; r++)
    for (let c = 0, row = 0; c < columns; c++) {
      row += through[r * columns + c]
      sums[(r + 1) * (columns + 1) + c + 1] = sums[r * (columns + 1) + c + 1] + row
    }
  const out = new Float32Array(columns * rows)
  for (let r = 0; r < rows; r++) {
    const [top, low] = [Math.max(0, r - far), Math.min(rows, r + far + 1)].map((v) => v * (columns + 1))
    for (let c = 0; c < columns; c++) {
      if (through[r * columns + c] === 0) continue
      const [left, right] = [Math.max(0, c - far), Math.min(columns, c + far + 1)]
      const open = sums[low + right] - sums[low + left] - sums[top + right] + sums[top + left]
      out[r * columns + c] = Math.min(1, (2 * open) / (255 * (2 * far + 1) ** 2))
    }
  }
  return out
}
