/** A stretch of the head's way with one beam and one direction, as it was really driven. Machine mm. */
export interface Burn {
  readonly x0: number
  readonly y0: number
  readonly x1: number
  readonly y1: number
  /** Energy along the way, J/mm. */
  readonly dose: number
  /** Width of the spot if it is not in focus, mm. */
  readonly spot?: number
}

/** A stretch that burned deep, kept as it was driven: cuts and scores. */
export type Stroke = Omit<Burn, 'spot'>

/** From this dose on a stretch is kept as a stroke too, J/mm. */
const DEEP = 0.25
const TILE = 128

/**
 * What lies under the beam: J/mm² on a grid of square cells, kept only where something was burned. A stretch spreads its
 * energy over the width of the spot, evenly along its length.
 */
export class Bed {
  readonly columns: number
  readonly rows: number
  readonly cell: number
  readonly strokes: Stroke[] = []
  private readonly spot: number
  private readonly tileColumns: number
  private readonly tiles = new Map<number, Float32Array>()

  /** @param cell side of a cell, mm */
  constructor(width: number, height: number, cell: number, spot: number) {
    this.columns = Math.ceil(width / cell - 1e-9)
    this.rows = Math.ceil(height / cell - 1e-9)
    this.cell = cell
    this.spot = spot
    this.tileColumns = Math.ceil(this.columns / TILE)
  }

  /** Something else is laid in: nothing is burned yet. */
  clear(): void {
    this.tiles.clear()
    this.strokes.length = 0
  }

  /** J/mm² in a cell. */
  energy(column: number, row: number): number {
    if (column < 0 || row < 0 || column >= this.columns || row >= this.rows) return 0
    const tile = this.tiles.get(Math.floor(row / TILE) * this.tileColumns + Math.floor(column / TILE))
    return tile ? tile[(row % TILE) * TILE + (column % TILE)] : 0
  }

  /** All energy that was left here, J. */
  total(): number {
    let sum = 0
    for (const tile of this.tiles.values()) for (const e of tile) sum += e
    return sum * this.cell * this.cell
  }

  private add(column: number, row: number, density: number): void {
    const key = Math.floor(row / TILE) * this.tileColumns + Math.floor(column / TILE)
    let tile = this.tiles.get(key)
    if (!tile) {
      tile = new Float32Array(TILE * TILE)
      this.tiles.set(key, tile)
    }
    tile[(row % TILE) * TILE + (column % TILE)] += density
  }

  burn({ x0, y0, x1, y1, dose, spot = this.spot }: Burn): void {
    const { cell, columns, rows } = this
    const length = Math.hypot(x1 - x0, y1 - y0)
    if (length === 0 || dose <= 0) return
    if (dose >= DEEP) this.strokes.push({ x0, y0, x1, y1, dose })
    const radius = spot / 2
    const ux = (x1 - x0) / length
    const uy = (y1 - y0) / length
    const density = dose / spot
    const alongX = uy === 0
    const alongY = ux === 0
    const c0 = Math.max(0, Math.floor((Math.min(x0, x1) - radius) / cell))
    const c1 = Math.min(columns - 1, Math.floor((Math.max(x0, x1) + radius) / cell))
    const r0 = Math.max(0, Math.floor((Math.min(y0, y1) - radius) / cell))
    const r1 = Math.min(rows - 1, Math.floor((Math.max(y0, y1) + radius) / cell))
    for (let r = r0; r <= r1; r++) {
      const dy = (r + 0.5) * cell - y0
      for (let c = c0; c <= c1; c++) {
        const dx = (c + 0.5) * cell - x0
        const along = dx * ux + dy * uy
        if (along < 0 || along >= length) continue
        // Along the grid a cell has what falls on it, so that none is lost or won by how cells happen to lie.
        const share = alongX
          ? this.covered(dy, radius)
          : alongY
            ? this.covered(dx, radius)
            : Math.abs(dx * uy - dy * ux) <= radius
              ? 1
              : 0
        if (share > 0) this.add(c, r, density * share)
      }
    }
  }

  /** How much of a cell lies under a line along the grid, 0–1. @param off from its middle to the middle of the line */
  private covered(off: number, radius: number): number {
    const half = this.cell / 2
    return Math.max(0, Math.min(off + half, radius) - Math.max(off - half, -radius)) / this.cell
  }

  /** A beam that stands still: its energy in a disc. @param energy J */
  spotBurn(x: number, y: number, energy: number): void {
    const { cell, spot } = this
    const radius = spot / 2
    const density = energy / (Math.PI * radius * radius)
    for (let r = Math.floor((y - radius) / cell); r <= Math.floor((y + radius) / cell); r++)
      for (let c = Math.floor((x - radius) / cell); c <= Math.floor((x + radius) / cell); c++)
        if (
          c >= 0 &&
          r >= 0 &&
          c < this.columns &&
          r < this.rows &&
          Math.hypot((c + 0.5) * cell - x, (r + 0.5) * cell - y) <= radius
        )
          this.add(c, r, density)
  }

  /** The burned picture, row 0 at the rear: 255 untouched, darker with dose, 0 from `full` J/mm² on. */
  picture(full: number): { widthPx: number; heightPx: number; samples: Uint8Array } {
    const { columns, rows } = this
    const samples = new Uint8Array(columns * rows).fill(255)
    for (const [key, tile] of this.tiles) {
      const left = (key % this.tileColumns) * TILE
      const bottom = Math.floor(key / this.tileColumns) * TILE
      tile.forEach((energy, i) => {
        const c = left + (i % TILE)
        const r = bottom + Math.floor(i / TILE)
        if (energy > 0 && c < columns && r < rows)
          samples[(rows - 1 - r) * columns + c] = 255 - Math.min(255, Math.round((255 * energy) / full))
      })
    }
    return { widthPx: columns, heightPx: rows, samples }
  }
}
