import { type Bounds, isEmptyBounds, unite } from '../geometry/bounds.ts'
import type { JobDocument, Placement } from '../job/document.ts'
import { sourceOf, usesOf } from '../job/document.ts'
import type { Bench } from '../job/evaluate.ts'
import { burnedBounds } from './extent.ts'
import type { Fix } from './finding.ts'

/** All that a family of artwork burns. */
export function familyBounds(job: JobDocument, sourceId: string, bench: Bench): Bounds {
  return usesOf(job, sourceId)
    .map((id) => burnedBounds(job, id, bench))
    .filter((box) => !isEmptyBounds(box))
    .reduce(unite, { x0: Infinity, y0: Infinity, x1: -Infinity, y1: -Infinity })
}

const round = (v: number): number => Math.round(v * 1000) / 1000

/** Ways to bring what a family burns inside a box: move it, or shrink it around the box's middle and move it. */
export function fitFixes(job: JobDocument, operationId: string, bench: Bench, area: Bounds, areaName: string): Fix[] {
  const sourceId = sourceOf(job, job.operations[operationId].node)
  const place = job.placements[sourceId]
  const burned = familyBounds(job, sourceId, bench)
  if (isEmptyBounds(burned)) return []
  const width = burned.x1 - burned.x0
  const height = burned.y1 - burned.y0
  const patch = (next: Placement): Fix['patches'] => [{ path: ['placements', sourceId], value: next }]
  if (width <= area.x1 - area.x0 && height <= area.y1 - area.y0) {
    const dx = Math.max(area.x0 - burned.x0, 0) || Math.min(area.x1 - burned.x1, 0)
    const dy = Math.max(area.y0 - burned.y0, 0) || Math.min(area.y1 - burned.y1, 0)
    const way = [
      dx && `${Math.abs(dx).toFixed(1)} mm ${dx > 0 ? 'right' : 'left'}`,
      dy && `${Math.abs(dy).toFixed(1)} mm ${dy > 0 ? 'down' : 'up'}`,
    ]
      .filter(Boolean)
      .join(', ')
    return [{ label: `Move it ${way}`, patches: patch({ ...place, xMm: round(place.xMm + dx), yMm: round(place.yMm + dy) }) }]
  }
  // What stands out beside the artwork (offsets, kerf) does not shrink with it.
  const outX = width - place.widthMm
  const outY = height - place.heightMm
  const scale = Math.min((area.x1 - area.x0 - outX) / place.widthMm, (area.y1 - area.y0 - outY) / place.heightMm) * 0.999
  if (!(scale > 0.01)) return []
  const widthMm = round(place.widthMm * scale)
  const heightMm = round(place.heightMm * scale)
  const next = {
    widthMm,
    heightMm,
    xMm: round((area.x0 + area.x1 - widthMm) / 2),
    yMm: round((area.y0 + area.y1 - heightMm) / 2),
  }
  return [{ label: `Fit it to the ${areaName}: ${widthMm.toFixed(1)} mm wide`, patches: patch(next) }]
}
