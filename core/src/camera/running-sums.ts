/** Sums of a map over any rectangle, by its corners (F. C. Crow, SIGGRAPH 1984). @returns the sum from x0, y0 up to x1, y1, these not counted */
export function runningSums(
  w: number,
  h: number,
  at: (i: number) => number,
): (x0: number, y0: number, x1: number, y1: number) => number {
  const table = new Float64Array((w + 1) * (h + 1))
  for (let y = 0; y < h; y++) {
    let row = 0
    for (let x = 0; x < w; x++) {
      row += at(y * w + x)
      table[(y + 1) * (w + 1) + x + 1] = table[y * (w + 1) + x + 1] + row
    }
  }
  return (x0, y0, x1, y1) =>
    table[y1 * (w + 1) + x1] - table[y0 * (w + 1) + x1] - table[y1 * (w + 1) + x0] + table[y0 * (w + 1) + x0]
}
