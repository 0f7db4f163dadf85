import { type Bounds, isEmptyBounds, unite } from '../geometry/bounds.ts'
import type { Bench } from '../job/bench.ts'
import { standsOut } from '../job/change.ts'
import type { JobDocument, Placement } from '../job/document.ts'
import { sourceOf, usesOf } from '../job/document.ts'
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
  const { scale, x, y } = largestIn(area, reaches(job, sourceId, bench))
  if (!(scale > 0.01)) return []
  const widthMm = round(place.widthMm * scale)
  const next = { widthMm, heightMm: round(place.heightMm * scale), xMm: round(x), yMm: round(y) }
  return [{ label: `Fit it to the ${areaName}: ${widthMm.toFixed(1)} mm wide`, patches: patch(next) }]
}

/** What an operation burns around the artwork's corner: a box that scales with the artwork, and a border that does not. */
interface Reach extends Bounds {
  readonly border: number
}

function reaches(job: JobDocument, sourceId: string, bench: Bench): Reach[] {
  const { xMm, yMm } = job.placements[sourceId]
  return usesOf(job, sourceId).flatMap((id): Reach[] => {
    const box = burnedBounds(job, id, bench)
    if (isEmptyBounds(box)) return []
    const operation = job.operations[id]
    if (operation.kind === 'picture') {
      // Dots are whole: at another size they may stand out by one more.
      return [{ x0: box.x0 - xMm, y0: box.y0 - yMm, x1: box.x1 - xMm, y1: box.y1 - yMm, border: operation.intervalMm }]
    }
    // Offsets and kerfs keep their width; a program has neither.
    const border = operation.kind === 'cut' ? (standsOut(job, operation.node) + operation.kerfMm) / 2 : 0
    return [
      { x0: box.x0 - xMm + border, y0: box.y0 - yMm + border, x1: box.x1 - xMm - border, y1: box.y1 - yMm - border, border },
    ]
  })
}

/** The largest scale at which all reaches lie inside the area, and where the artwork's corner then lies, all in the middle. */
function largestIn(area: Bounds, parts: readonly Reach[]): { scale: number; x: number; y: number } {
  const low = (scale: number, side: 'x0' | 'y0'): number => Math.min(...parts.map((part) => part[side] * scale - part.border))
  const high = (scale: number, side: 'x1' | 'y1'): number => Math.max(...parts.map((part) => part[side] * scale + part.border))
  const fits = (scale: number): boolean =>
    high(scale, 'x1') - low(scale, 'x0') <= area.x1 - area.x0 && high(scale, 'y1') - low(scale, 'y0') <= area.y1 - area.y0
  let from = 0
  let to = 1
  for (let i = 0; i < 50; i++) {
    const middle = (from + to) / 2
    if (fits(middle)) from = middle
    else to = middle
  }
  // A hair less, for what is rounded to micrometres and to dots.
  const scale = from * 0.999
  return {
    scale,
    x: (area.x0 + area.x1 - low(scale, 'x0') - high(scale, 'x1')) / 2,
    y: (area.y0 + area.y1 - low(scale, 'y0') - high(scale, 'y1')) / 2,
  }
}
