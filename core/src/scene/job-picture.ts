import { paintForecast } from '../forecast/paint.ts'
import { type Bounds, unite } from '../geometry/bounds.ts'
import type { JobDocument } from '../job/document/document.ts'
import { faceBox, faceSize } from '../job/document/workpiece.ts'
import type { Supply } from '../lineage/supply.ts'
import { forecastScene } from './scene.ts'

/** A picture of a whole job after the burn: RGBA, not premultiplied. */
export interface JobPicture {
  readonly samples: Uint8ClampedArray
  readonly widthPx: number
  readonly heightPx: number
}

/** Around several workpieces, share of the width of all. */
const AROUND = 0.02

/**
 * A job after the burn, so many pixels wide: its workpiece, or all of them where they lie, each upright. A second side lies under its
 * front.
 */
export function jobPicture(job: JobDocument, supply: Supply, widthPx: number): JobPicture {
  const ids = Object.keys(job.workpieces).filter((id) => job.workpieces[id].back === undefined)
  const isAlone = ids.length === 1
  const boxOf = (id: string): Bounds => {
    const piece = job.workpieces[id]
    if (isAlone) return faceBox(piece)
    const { widthMm, heightMm } = faceSize(piece)
    const { xMm, yMm } = piece.pose
    return { x0: xMm, y0: yMm, x1: xMm + widthMm, y1: yMm + heightMm }
  }
  const all = ids.map(boxOf).reduce(unite)
  const by = isAlone ? 0 : AROUND * (all.x1 - all.x0)
  const [x0, y0, x1, y1] = [all.x0 - by, all.y0 - by, all.x1 + by, all.y1 + by]
  const pxPerMm = widthPx / (x1 - x0)
  const heightPx = Math.max(1, Math.round((y1 - y0) * pxPerMm))
  const view = { pxPerMm, widthPx, heightPx }
  const [first, ...others] = ids.map((id) => {
    const box = boxOf(id)
    return paintForecast(forecastScene(job, supply, undefined, id), { ...view, x: x0 - box.x0, y: y0 - box.y0 })
  })
  // Workpieces lie beside each other: where one is, the others are not.
  for (const other of others)
    for (let i = 3; i < first.length; i += 4) if (other[i] > first[i]) first.set(other.subarray(i - 3, i + 1), i - 3)
  return { samples: first, widthPx, heightPx }
}
