/** A stretch of the head's way with one beam and one direction, as it was really driven. Machine mm. */
export interface Burn {
  readonly x0: number
  readonly y0: number
  readonly x1: number
  readonly y1: number
  /** Energy along the way, J/mm. */
  readonly dose: number
}

/**
 * What lies under the beam: J/mm² on a grid of square cells. A stretch spreads its energy over the width of the spot,
 * evenly along its length.
 */
export class Bed {
  readonly columns: number
  readonly rows: number
  readonly cell: number
  readonly energy: Float32Array
  private readonly spot: number

  /** @param cell side of a cell, mm */
  constructor(width: number, height: number, cell: number, spot: number) {
    this.columns = Math.ceil(width / cell)
    this.rows = Math.ceil(height / cell)
    this.cell = cell
    this.spot = spot
    this.energy = new Float32Array(this.columns * this.rows)
  }

  burn({ x0, y0, x1, y1, dose }: Burn): void {
    const { cell, columns, rows, spot, energy } = this
    const length = Math.hypot(x1 - x0, y1 - y0)
    if (length === 0 || dose <= 0) return
    const radius = spot / 2
    const ux = (x1 - x0) / length
    const uy = (y1 - y0) / length
    const density = dose / spot
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
        if (Math.abs(dx * uy - dy * ux) <= radius) energy[r * columns + c] += density
      }
    }
  }

  /** The burned picture, row 0 at the rear: 255 untouched, darker with dose, 0 from `full` J/mm² on. */
  picture(full: number): { widthPx: number; heightPx: number; samples: Uint8Array } {
    const { columns, rows, energy } = this
    const samples = new Uint8Array(columns * rows)
    for (let r = 0; r < rows; r++) {
      for (let c = 0; c < columns; c++)
        samples[(rows - 1 - r) * columns + c] = 255 - Math.min(255, Math.round((255 * energy[r * columns + c]) / full))
    }
    return { widthPx: columns, heightPx: rows, samples }
  }
}
