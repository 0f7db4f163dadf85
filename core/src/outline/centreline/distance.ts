/**
 * Squared Euclidean distance of every ink pixel to the nearest pixel without ink, px² (A. Meijster, J. Roerdink,
 * W. Hesselink, “A general algorithm for computing distance transforms in linear time”, 2000). The border is taken as ink's end.
 * @param ink 1 where there is ink
 */
export function squaredDistances(ink: Uint8Array, width: number, height: number): Int32Array {
  // Down the columns first: how many pixels to the nearest one without ink above or below.
  const down = new Int32Array(width * height)
  for (let x = 0; x < width; x++) {
    let run = 0
    for (let y = 0, i = x; y < height; y++, i += width) {
      run = ink[i] ? run + 1 : 0
      down[i] = run
    }
    run = 0
    for (let y = height - 1, i = x + width * y; y >= 0; y--, i -= width) {
      run = ink[i] ? run + 1 : 0
      if (run < down[i]) down[i] = run
    }
  }
  // Then along the rows: the lower envelope of parabolas, one over each pixel. Beyond both ends there is no ink.
  const out = new Int32Array(width * height)
  const place = new Int32Array(width + 2)
  const from = new Float64Array(width + 3)
  const heightAt = (row: number, x: number): number => (x < 0 || x >= width ? 0 : down[row + x] * down[row + x])
  for (let y = 0; y < height; y++) {
    const row = y * width
    let top = 0
    place[0] = -1
    from[0] = -Infinity
    from[1] = Infinity
    for (let x = 0; x <= width; x++) {
      const h = heightAt(row, x)
      let meet = 0
      for (; ; top--) {
        const other = place[top]
        meet = (h + x * x - heightAt(row, other) - other * other) / (2 * (x - other))
        if (meet > from[top]) break
      }
      top++
      place[top] = x
      from[top] = meet
      from[top + 1] = Infinity
    }
    for (let x = 0, at = 0; x < width; x++) {
      while (from[at + 1] < x) at++
      const away = x - place[at]
      out[row + x] = ink[row + x] ? away * away + heightAt(row, place[at]) : 0
    }
  }
  return out
}
