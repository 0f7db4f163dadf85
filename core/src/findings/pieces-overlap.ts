import { combine, shapeArea } from '../geometry/clip.ts'
import { ringsBounds } from '../geometry/ring.ts'
import { burnOrder, type JobDocument } from '../job/document/document.ts'
import { poseAt } from '../job/document/pieces.ts'
import { faceSize, outlineOfFace } from '../job/document/workpiece.ts'
import { mappedRings } from '../space/map-shapes.ts'
import { poseMap } from '../space/pose.ts'
import type { Found } from './finding.ts'

/** What is lost in rounding, mm². */
const NOTHING_MM2 = 0.01

/** Two workpieces cannot lie in one place of the bed: as they lie at first, and as set-ups lay them. */
export function piecesOverlap(job: JobDocument): Found[] {
  const ids = Object.keys(job.workpieces)
  if (ids.length < 2) return []
  const moments: (string | undefined)[] = [undefined, ...burnOrder(job)]
  const found = new Map<string, Found>()
  for (const moment of moments)
    for (const [i, a] of ids.entries())
      for (const b of ids.slice(0, i)) {
        const id = `pieces-overlap:${b}:${a}`
        // The two sides of one piece lie in one place, one after the other.
        const isOne = job.workpieces[a].back?.of === b || job.workpieces[b].back?.of === a
        if (isOne || found.has(id)) continue
        const [first, second] = [a, b].map((key) => {
          const piece = job.workpieces[key]
          return mappedRings(poseMap(poseAt(job, key, moment), faceSize(piece)), outlineOfFace(piece.outline))
        })
        const both = combine('intersect', first, second)
        const mm2 = shapeArea(both)
        if (mm2 < NOTHING_MM2) continue
        const { x0, y0 } = ringsBounds(both)
        found.set(id, {
          id,
          kind: 'pieces-overlap',
          severity: 'ask',
          x: x0,
          y: y0,
          message: `“${job.workpieces[b].name}” and “${job.workpieces[a].name}” lie over each other on the bed, ${mm2 >= 100 ? `${(mm2 / 100).toFixed(1)} cm²` : `${mm2.toFixed(1)} mm²`} of them.`,
          fixes: [],
        })
      }
  return [...found.values()]
}
