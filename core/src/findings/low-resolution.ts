import { type JobDocument, picturedRoot } from '../job/document.ts'
import { framedSize } from '../picture/framing.ts'
import { dpiFromInterval, effectiveDpi, intervalFromDpi } from '../units/resolution.ts'
import type { Found } from './finding.ts'

/** Below this share of the dots' resolution the source's own pixels show. */
const ENOUGH = 0.75

/** Enlarging a picture over its dots' pitch shows its pixels, however finely it is burned. */
export function lowResolution(job: JobDocument): Found[] {
  const found: Found[] = []
  for (const id of job.runOrder) {
    const operation = job.operations[id]
    if (operation.kind !== 'picture') continue
    const { id: sourceId, ...root } = picturedRoot(job, operation.node)
    const node = job.nodes[operation.node]
    // A drawing is always as fine as it needs to be.
    if ((node.kind === 'picture' && node.dots.asPrepared) || root.kind === 'drawing') continue
    const place = job.placements[sourceId]
    const there = effectiveDpi(framedSize(root, root.framing).widthPx, place.widthMm)
    const wanted = dpiFromInterval(operation.intervalMm)
    if (there >= wanted * ENOUGH) continue
    const scale = there / wanted
    const widthMm = Math.round(place.widthMm * scale * 1000) / 1000
    const heightMm = Math.round(place.heightMm * scale * 1000) / 1000
    const intervalMm = Math.round(intervalFromDpi(there) * 10_000) / 10_000
    found.push({
      id: `low-resolution:${id}`,
      kind: 'low-resolution',
      severity: 'note',
      operation: id,
      x: place.xMm + place.widthMm,
      y: place.yMm,
      message: `The picture is too small for its size: ${Math.round(there)} dpi there, ${Math.round(wanted)} dpi burned. Its pixels will show.`,
      fixes: [
        {
          label: `Shrink it to ${widthMm.toFixed(1)} mm wide`,
          patches: [
            {
              path: ['placements', sourceId],
              value: {
                widthMm,
                heightMm,
                xMm: round(place.xMm + (place.widthMm - widthMm) / 2),
                yMm: round(place.yMm + (place.heightMm - heightMm) / 2),
              },
            },
          ],
        },
        { label: `Burn at ${intervalMm} mm interval`, patches: [{ path: ['operations', id, 'intervalMm'], value: intervalMm }] },
      ].filter((_, i) => i === 1 || widthMm >= 5),
    })
  }
  return found
}

const round = (v: number): number => Math.round(v * 1000) / 1000
