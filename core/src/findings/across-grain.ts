import { hullOf } from '../geometry/hull.ts'
import type { Ring } from '../geometry/ring.ts'
import { ringsBounds } from '../geometry/ring.ts'
import { jobPieces } from '../hold/pieces.ts'
import type { JobDocument } from '../job/document/document.ts'
import type { Supply } from '../lineage/supply.ts'
import { readDeg } from '../space/pose.ts'
import type { Found } from './finding.ts'

/** A part so many times as long as wide is a strip. */
const STRIP = 3
/** Strips that run this far from the grain break along it, degrees. */
const ACROSS_DEG = 50

/** Strips cut across the grain: they break where the grain runs, at the first bend. */
export function acrossGrain(job: JobDocument, supply: Supply): Found[] {
  return Object.entries(job.workpieces).flatMap(([id, { grainDeg }]) => {
    if (grainDeg === undefined) return []
    const found = new Map<string, Found & { count: number }>()
    for (const { fate, operation, outer } of jobPieces(job, supply, id)) {
      if (fate !== 'part' || operation === undefined) continue
      const { long, wide, deg } = lengthOf(outer)
      const off = Math.abs(readDeg(2 * (deg - grainDeg))) / 2
      if (long < STRIP * wide || off < ACROSS_DEG) continue
      const known = found.get(operation)
      if (known) {
        known.count++
        continue
      }
      const { x0, y0, x1, y1 } = ringsBounds([outer])
      found.set(operation, {
        id: `across-grain:${operation}`,
        kind: 'across-grain',
        severity: 'note',
        operation,
        workpiece: id,
        x: (x0 + x1) / 2,
        y: (y0 + y1) / 2,
        message: `${long.toFixed(0)} × ${wide.toFixed(0)} mm lies across the grain and breaks easily along it: turn it, or the sheet.`,
        fixes: [],
        count: 1,
      })
    }
    return [...found.values()].map(({ count, ...each }) =>
      count === 1
        ? each
        : {
            ...each,
            message: `${count} parts like ${each.message.replace('lies', 'lie').replace('breaks', 'break').replace('turn it,', 'turn them,')}`,
          },
    )
  })
}

/** The longest way through a shape, how wide it is across that, and which way it runs, degrees. */
function lengthOf(ring: Ring): { readonly long: number; readonly wide: number; readonly deg: number } {
  const hull = hullOf([ring])
  let best = { long: 0, wide: Number.POSITIVE_INFINITY, deg: 0 }
  // The narrowest box around a convex shape lies along one of its sides (Freeman & Shapira 1975).
  for (let i = 0; i < hull.length; i += 2) {
    const j = (i + 2) % hull.length
    const [dx, dy] = [hull[j] - hull[i], hull[j + 1] - hull[i + 1]]
    const side = Math.hypot(dx, dy)
    if (side < 1e-9) continue
    const [ux, uy] = [dx / side, dy / side]
    let [u0, u1, v0, v1] = [Infinity, -Infinity, Infinity, -Infinity]
    for (let k = 0; k < hull.length; k += 2) {
      const u = hull[k] * ux + hull[k + 1] * uy
      const v = hull[k + 1] * ux - hull[k] * uy
      u0 = Math.min(u0, u)
      u1 = Math.max(u1, u)
      v0 = Math.min(v0, v)
      v1 = Math.max(v1, v)
    }
    const [a, b] = [u1 - u0, v1 - v0]
    const along = (Math.atan2(uy, ux) * 180) / Math.PI
    if (Math.min(a, b) < best.wide) best = a >= b ? { long: a, wide: b, deg: along } : { long: b, wide: a, deg: along + 90 }
  }
  return best
}
