import type { Scene } from '../forecast/layers.ts'
import { paintForecast } from '../forecast/paint.ts'
import { type Bounds, unite } from '../geometry/bounds.ts'
import type { JobDocument } from '../job/document/document.ts'
import { faceBox, faceSize } from '../job/document/workpiece.ts'
import type { Supply } from '../lineage/supply.ts'
import { composed, moving } from '../space/affine.ts'
import { poseBounds, poseMap } from '../space/pose.ts'
import { forecastScene } from './scene.ts'
import { sweptScene } from './swept.ts'

/** A picture of a whole job after the burn: RGBA, not premultiplied. */
export interface JobPicture {
  readonly samples: Uint8ClampedArray
  readonly widthPx: number
  readonly heightPx: number
}

/** Around several workpieces, share of the width of all. */
const AROUND = 0.02

/**
 * A job after the burn, so many pixels wide: its workpiece upright, or all of them as they lie. A second side lies under its front.
 */
export function jobPicture(job: JobDocument, supply: Supply, widthPx: number): JobPicture {
  const ids = Object.keys(job.workpieces).filter((id) => job.workpieces[id].back === undefined)
  const isAlone = ids.length === 1
  const boxOf = (id: string): Bounds => {
    const piece = job.workpieces[id]
    return isAlone ? faceBox(piece) : poseBounds(piece.pose, faceSize(piece))
  }
  const all = ids.map(boxOf).reduce(unite)
  const by = isAlone ? 0 : AROUND * (all.x1 - all.x0)
  const [x0, y0, x1, y1] = [all.x0 - by, all.y0 - by, all.x1 + by, all.y1 + by]
  const pxPerMm = widthPx / (x1 - x0)
  const heightPx = Math.max(1, Math.round((y1 - y0) * pxPerMm))
  const view = { pxPerMm, widthPx, heightPx }
  const [first, ...others] = ids.map((id) => {
    const box = boxOf(id)
    return paintForecast(isAlone ? forecastScene(job, supply, undefined, id) : lyingScene(job, supply, id), {
      ...view,
      x: x0 - box.x0,
      y: y0 - box.y0,
    })
  })
  // Workpieces lie beside each other: where one is, the others are not.
  for (const other of others)
    for (let i = 3; i < first.length; i += 4) if (other[i] > first[i]) first.set(other.subarray(i - 3, i + 1), i - 3)
  return { samples: first, widthPx, heightPx }
}

/** A workpiece after the burn, turned as it lies on the bed: its box begins at 0. */
function lyingScene(job: JobDocument, supply: Supply, id: string): Scene {
  const scene = forecastScene(job, supply, undefined, id)
  const { pose } = job.workpieces[id]
  const { deg = 0 } = pose
  if (deg === 0) return scene
  const size = faceSize(job.workpieces[id])
  const { x0, y0, x1, y1 } = poseBounds(pose, size)
  const toSweep = composed(poseMap(pose, size), moving(-x0, -y0))
  return { ...sweptScene(scene, { toSweep, deg }), widthMm: x1 - x0, heightMm: y1 - y0 }
}
