import type { View } from '../geometry/view.ts'

/** Reproducible value noise on a lattice, 0–1. */
function lattice(x: number, y: number): number {
  let h = (Math.imul(x, 374761393) + Math.imul(y, 668265263)) | 0
  h = Math.imul(h ^ (h >>> 13), 1274126177)
  return ((h ^ (h >>> 16)) >>> 0) / 4294967296
}

function noise(x: number, y: number): number {
  const xi = Math.floor(x)
  const yi = Math.floor(y)
  const u = x - xi
  const v = y - yi
  const s = u * u * (3 - 2 * u)
  const t = v * v * (3 - 2 * v)
  const a = lattice(xi, yi)
  const b = lattice(xi + 1, yi)
  const c = lattice(xi, yi + 1)
  const d = lattice(xi + 1, yi + 1)
  return a + (b - a) * s + (c - a + (a - b - c + d) * s) * t
}

/**
 * How far the surface tends from its own colour (0) to its grain colour (1) at a place in mm: long fibres along x with
 * slow waves across, as a peeled veneer has them; a plain material has next to none.
 */
export function grainAt(kind: 'wood' | 'plain', x: number, y: number): number {
  if (kind === 'plain') return noise(x * 0.05, y * 0.05) * 0.25
  const bent = y + 2.2 * noise(x * 0.012, y * 0.05)
  const bands = noise(x * 0.006, bent * 0.33)
  const fibres = noise(x * 0.045, bent * 2.1)
  const fine = noise(x * 0.16, bent * 5.5)
  return 0.5 * bands + 0.34 * fibres + 0.16 * fine
}

/** Cells of a tile of the surface along a side; one more is kept, so that a place between two tiles needs one only. */
const SIDE = 256
/** The finest fibres are a fifth of a millimetre wide: more cells a mm show nothing more. */
const FINEST = 16
/** Tiles that are kept, 66 kB each. */
const KEPT = 400
const kept = new Map<string, Uint8Array>()

/** A tile of the surface at a number of cells a mm. */
function grainTile(kind: 'wood' | 'plain', cellsPerMm: number, tx: number, ty: number): Uint8Array {
  const key = `${kind} ${cellsPerMm} ${tx} ${ty}`
  let tile = kept.get(key)
  if (tile) kept.delete(key)
  else {
    const wide = SIDE + 1
    tile = new Uint8Array(wide * wide)
    for (let i = 0, y = 0; y < wide; y++)
      for (let x = 0; x < wide; x++, i++)
        tile[i] = 255 * grainAt(kind, (tx * SIDE + x) / cellsPerMm, (ty * SIDE + y) / cellsPerMm) + 0.5
  }
  // Most recently used last.
  kept.set(key, tile)
  if (kept.size > KEPT) kept.delete(kept.keys().next().value!)
  return tile
}

/** What was looked at last, so that a change of what is burned on it paints the burn alone. */
const LAST = 4
/** Larger pictures are painted once: what a screen shows is kept, px. */
const MOST_KEPT = 4e6
let last: { readonly key: string; readonly field: Float32Array }[] = []

/**
 * The grain under every pixel of a view, row by row, 0–1. The surface stays the same however often what is burned on it
 * changes and wherever one looks: it is worked out in tiles at scales of powers of two, and read between their cells. It is not written to.
 */
export function grainField(kind: 'wood' | 'plain', view: View): Float32Array {
  const { x, y, pxPerMm, widthPx, heightPx } = view
  const key = `${kind} ${x} ${y} ${pxPerMm} ${widthPx} ${heightPx}`
  const known = last.find((each) => each.key === key)
  const field = known?.field ?? grainOf(kind, view)
  if (widthPx * heightPx > MOST_KEPT) return field
  last = [...last.filter((each) => each !== known), { key, field }].slice(-LAST)
  return field
}

function grainOf(kind: 'wood' | 'plain', { x, y, pxPerMm, widthPx, heightPx }: View): Float32Array {
  const cellsPerMm = Math.min(FINEST, 2 ** Math.ceil(Math.log2(pxPerMm)))
  const step = cellsPerMm / pxPerMm
  const left = x * cellsPerMm + step / 2
  const top = y * cellsPerMm + step / 2
  const field = new Float32Array(widthPx * heightPx)
  const wide = SIDE + 1
  for (let i = 0, py = 0; py < heightPx; py++) {
    const v = top + py * step
    const row = Math.floor(v)
    const ty = Math.floor(row / SIDE)
    const down = v - row
    const line = (row - ty * SIDE) * wide
    let tile: Uint8Array | undefined
    let from = 0
    let to = 0
    for (let px = 0; px < widthPx; px++, i++) {
      const u = left + px * step
      const column = Math.floor(u)
      if (!tile || column >= to) {
        const tx = Math.floor(column / SIDE)
        tile = grainTile(kind, cellsPerMm, tx, ty)
        from = tx * SIDE
        to = from + SIDE
      }
      const at = line + column - from
      const across = u - column
      const above = tile[at] + (tile[at + 1] - tile[at]) * across
      const below = tile[at + wide] + (tile[at + wide + 1] - tile[at + wide]) * across
      field[i] = (above + (below - above) * down) / 255
    }
  }
  return field
}
