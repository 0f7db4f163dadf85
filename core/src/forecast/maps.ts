import { coverage } from '../geometry/coverage.ts'
import { bytesBy } from '../picture/bytes.ts'
import type { Scene } from './layers.ts'
import { addDots, visible } from './paint.ts'

/** A forecast as numbers, to be compared with what was burned. */
export interface ForecastMaps {
  /** 0 untouched to 255 fully dark. */
  readonly tone: Uint8Array
  /** 255 where it is cut through. */
  readonly through: Uint8Array
}

/** A piece of the workpiece on a grid. @param cellMm mm a pixel @param x0,y0 its corner, job mm */
export function forecastMaps(scene: Scene, columns: number, rows: number, cellMm: number, x0 = 0, y0 = 0): ForecastMaps {
  const view = { x: x0, y: y0, pxPerMm: 1 / cellMm, widthPx: columns, heightPx: rows }
  const dark = new Float32Array(columns * rows)
  const through = new Uint8Array(columns * rows)
  for (const layer of scene.layers) {
    if (layer.kind === 'dots') addDots(dark, layer, view)
    else if (layer.kind === 'kerf') {
      const open = coverage(visible(layer.kerf, layer.kerfBounds, view), columns, rows)
      for (let i = 0; i < through.length; i++) if (open[i] >= 0.5) through[i] = 255
    }
  }
  return { tone: bytesBy(dark.length, (i) => Math.round(255 * Math.min(1, dark[i]))), through }
}
