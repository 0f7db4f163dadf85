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

/** Fields that are kept: those of a screen of tiles. */
const KEPT = 40
const kept = new Map<string, Float32Array>()

/**
 * The grain under every pixel of a view, row by row. The surface stays the same however often what is burned on it
 * changes, so the newest fields are kept. @param x,y corner, mm
 */
export function grainField(
  kind: 'wood' | 'plain',
  { x, y, pxPerMm, widthPx, heightPx }: { x: number; y: number; pxPerMm: number; widthPx: number; heightPx: number },
): Float32Array {
  const key = `${kind} ${x} ${y} ${pxPerMm} ${widthPx} ${heightPx}`
  const found = kept.get(key)
  const field = found ?? new Float32Array(widthPx * heightPx)
  if (!found) {
    for (let i = 0, py = 0; py < heightPx; py++)
      for (let px = 0; px < widthPx; px++, i++) field[i] = grainAt(kind, x + (px + 0.5) / pxPerMm, y + (py + 0.5) / pxPerMm)
  } else kept.delete(key)
  // Most recently used last.
  if (field.length <= 1 << 18) kept.set(key, field)
  if (kept.size > KEPT) kept.delete(kept.keys().next().value!)
  return field
}
