import { type Bounds, isEmptyBounds } from '../geometry/bounds.ts'
import { type JobDocument, type Placement, placeOf, sourceOf, usesOf, withPlace } from '../job/document/document.ts'
import { difference } from '../job/patches/edit.ts'
import type { Supply } from '../lineage/supply.ts'
import { burnedBoundsOf, familyBounds } from '../process/extent.ts'
import type { Burning } from '../process/process.ts'
import { burningsOf, processOf } from '../process/table.ts'
import type { Fix } from './finding.ts'

/** Farther than anything is burned, mm: around what turns there is no end. */
export const ENDLESS_MM = 1e5

const round = (v: number): number => Math.round(v * 1000) / 1000

/** Ways to bring what a family burns inside a box on its face: move it, or shrink it around the box's middle and move it. */
export function fitFixes(context: Burning, area: Bounds, areaName: string): Fix[] {
  const { job, piece, supply } = context
  const sourceId = sourceOf(job, piece.node)
  const place = placeOf(job, piece.node, piece.place)
  const burned = familyBounds(job, sourceId, supply)
  if (isEmptyBounds(burned)) return []
  const width = burned.x1 - burned.x0
  const height = burned.y1 - burned.y0
  const patch = (next: Partial<Placement>): Fix['patches'] => difference(job, withPlace(job, piece.node, next, piece.place))
  if (width <= area.x1 - area.x0 && height <= area.y1 - area.y0) {
    const dx = Math.max(area.x0 - burned.x0, 0) || Math.min(area.x1 - burned.x1, 0)
    const dy = Math.max(area.y0 - burned.y0, 0) || Math.min(area.y1 - burned.y1, 0)
    const way = [
      dx && `${Math.abs(dx).toFixed(1)} mm ${dx > 0 ? 'right' : 'left'}`,
      dy && `${Math.abs(dy).toFixed(1)} mm ${dy > 0 ? 'down' : 'up'}`,
    ]
      .filter(Boolean)
      .join(', ')
    return [{ label: `Move it ${way}`, patches: patch({ xMm: round(place.xMm + dx), yMm: round(place.yMm + dy) }) }]
  }
  const { scale, x, y } = largestIn(area, reaches(job, sourceId, place, supply))
  if (!(scale > 0.01)) return []
  const widthMm = round(place.widthMm * scale)
  const heightMm = round(place.heightMm * scale)
  const next = { widthMm, heightMm, xMm: round(x - widthMm / 2), yMm: round(y - heightMm / 2) }
  return [{ label: `Fit it to the ${areaName}: ${widthMm.toFixed(1)} mm wide`, patches: patch(next) }]
}

/** What an operation burns around the artwork's middle: a box that scales with the artwork, and a border that does not. */
interface Reach extends Bounds {
  readonly border: number
}

function reaches(job: JobDocument, sourceId: string, place: Placement, supply: Supply): Reach[] {
  const [cx, cy] = [place.xMm + place.widthMm / 2, place.yMm + place.heightMm / 2]
  return usesOf(job, sourceId).flatMap((id) =>
    burningsOf(job, id, supply).flatMap((context): Reach[] => {
      const box = burnedBoundsOf(context)
      if (isEmptyBounds(box)) return []
      const border = processOf(context.operation).border(context)
      // Offsets and kerfs keep their width, and stand within the box; whole dots stand out of it.
      const inside = processOf(context.operation).dots ? 0 : border
      return [{ x0: box.x0 - cx + inside, y0: box.y0 - cy + inside, x1: box.x1 - cx - inside, y1: box.y1 - cy - inside, border }]
    }),
  )
}

/** The largest scale at which all reaches lie inside the area, and where the artwork's middle then lies, all in the middle. */
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
