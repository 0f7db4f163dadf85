import { sharedBytes } from './shared-bytes.ts'

/** Marks at one scale: every cell is the mean of 2 × 2 cells of the scale below. */
interface PyramidLevel {
  readonly columns: number
  readonly rows: number
  readonly levels: Uint8Array
}

/** Marks at full pitch (level 0) and halved again and again, so that any zoom reads about one cell a pixel. */
export interface MarkPyramid {
  readonly levels: readonly PyramidLevel[]
}

export function buildPyramid({ columns, rows, levels }: PyramidLevel): MarkPyramid {
  const pyramid: PyramidLevel[] = [{ columns, rows, levels }]
  let below = pyramid[0]
  while (below.columns > 64 || below.rows > 64) {
    below = halve(below)
    pyramid.push(below)
  }
  return { levels: pyramid }
}

function halve({ columns, rows, levels }: PyramidLevel): PyramidLevel {
  const w = (columns + 1) >> 1
  const h = (rows + 1) >> 1
  const out = sharedBytes(w * h)
  for (let y = 0; y < h; y++) {
    const a = 2 * y * columns
    const b = 2 * y + 1 < rows ? a + columns : -1
    for (let x = 0; x < w; x++) {
      const i = 2 * x
      const right = i + 1 < columns
      let sum = levels[a + i]
      if (right) sum += levels[a + i + 1]
      if (b >= 0) {
        sum += levels[b + i]
        if (right) sum += levels[b + i + 1]
      }
      out[y * w + x] = (sum + 2) >> 2
    }
  }
  return { columns: w, rows: h, levels: out }
}
