import { burnOrder, type JobDocument, picturedRoot, withPlace } from '../job/document/document.ts'
import { difference } from '../job/patches/edit.ts'
import type { Supply } from '../lineage/supply.ts'
import { framedSize } from '../picture/framing.ts'
import { burningsOf, processOf } from '../process/table.ts'
import { poseBounds } from '../space/pose.ts'
import { dpiFromInterval, effectiveDpi, intervalFromDpi } from '../units/resolution.ts'
import type { Found } from './finding.ts'

/** Below this share of the dots' resolution the source's own pixels show. */
const ENOUGH = 0.75

/** Enlarging a picture over its dots' pitch shows its pixels, however finely it is burned. */
export function lowResolution(job: JobDocument, supply: Supply): Found[] {
  return burnOrder(job).flatMap((id): Found[] => {
    const operation = job.operations[id]
    if (!processOf(operation).dots || !('intervalMm' in operation)) return []
    for (const { piece } of burningsOf(job, id, supply)) {
      const { placement: place } = piece
      const root = picturedRoot(job, piece.node, piece.place)
      const node = job.nodes[piece.node]
      // A drawing is always as fine as it needs to be.
      if ((node.kind === 'picture' && node.dots.asPrepared) || root.kind === 'drawing') continue
      const there = effectiveDpi(framedSize(root, root.framing).widthPx, place.widthMm)
      const wanted = dpiFromInterval(operation.intervalMm)
      if (there >= wanted * ENOUGH) continue
      const scale = there / wanted
      const widthMm = Math.round(place.widthMm * scale * 1000) / 1000
      const heightMm = Math.round(place.heightMm * scale * 1000) / 1000
      const intervalMm = Math.round(intervalFromDpi(there) * 10_000) / 10_000
      const smaller = {
        widthMm,
        heightMm,
        xMm: round(place.xMm + (place.widthMm - widthMm) / 2),
        yMm: round(place.yMm + (place.heightMm - heightMm) / 2),
      }
      const { x1, y0 } = poseBounds(place, place)
      return [
        {
          id: `low-resolution:${id}`,
          kind: 'low-resolution',
          severity: 'note',
          operation: id,
          x: x1,
          y: y0,
          message: `The picture is too small for its size: ${Math.round(there)} dpi there, ${Math.round(wanted)} dpi burned. Its pixels will show.`,
          fixes: [
            {
              label: `Shrink it to ${widthMm.toFixed(1)} mm wide`,
              patches: difference(job, withPlace(job, piece.node, smaller, piece.place)),
            },
            {
              label: `Burn at ${intervalMm} mm interval`,
              patches: [{ path: ['operations', id, 'intervalMm'], value: intervalMm }],
            },
          ].filter((_, i) => i === 1 || widthMm >= 5),
        },
      ]
    }
    return []
  })
}

const round = (v: number): number => Math.round(v * 1000) / 1000
