import { type JobDocument, picturedRoot } from '../job/document.ts'
import { dotsSize } from '../job/treatment-edits.ts'
import { framedSize, movesPixelsOnly } from '../picture/framing.ts'
import type { Found } from './finding.ts'

/** Pixel pitch and interval may differ by this much before moiré shows. */
const MATCHES = 0.005

/** Dots that are prepared already must have their pitch, and must not be turned between pixels. */
export function preparedDots(job: JobDocument): Found[] {
  return job.runOrder.flatMap((id): Found[] => {
    const operation = job.operations[id]
    if (operation.kind !== 'picture') return []
    const node = job.nodes[operation.node]
    if (node.kind !== 'picture' || !node.dots.asPrepared) return []
    const root = picturedRoot(job, operation.node)
    const place = job.placements[root.id]
    const at = { operation: id, x: place.xMm + place.widthMm, y: place.yMm }
    if (!movesPixelsOnly(root.framing))
      return [
        {
          id: `dots-turned:${id}`,
          kind: 'dots-turned',
          severity: 'ask',
          ...at,
          message: 'These dots are turned or cut between pixels, so they are drawn anew and moiré shows.',
          fixes: [
            {
              label: 'Keep only whole pixels and quarter turns',
              patches: [{ path: ['nodes', root.id, 'framing'], value: root.framing.filter((step) => movesPixelsOnly([step])) }],
            },
          ],
        },
      ]
    const { widthPx, heightPx } = framedSize(root, root.framing)
    const exact = dotsSize(job, operation)
    if (Math.abs(place.widthMm / exact.widthMm - 1) <= MATCHES && Math.abs(place.heightMm / exact.heightMm - 1) <= MATCHES)
      return []
    const pitch = Math.round((place.widthMm / widthPx) * 1e5) / 1e5
    return [
      {
        id: `dots-mismatch:${id}`,
        kind: 'dots-mismatch',
        severity: 'ask',
        ...at,
        message: `${Math.round(widthPx)} × ${Math.round(heightPx)} dots at ${operation.intervalMm} mm are ${exact.widthMm.toFixed(1)} × ${exact.heightMm.toFixed(1)} mm, not ${place.widthMm.toFixed(1)} × ${place.heightMm.toFixed(1)} mm. They are burned at their own size.`,
        fixes: [
          {
            label: `Make it ${exact.widthMm.toFixed(2)} × ${exact.heightMm.toFixed(2)} mm`,
            patches: [
              {
                path: ['placements', root.id],
                value: {
                  ...exact,
                  xMm: Math.round((place.xMm + (place.widthMm - exact.widthMm) / 2) * 1000) / 1000,
                  yMm: Math.round((place.yMm + (place.heightMm - exact.heightMm) / 2) * 1000) / 1000,
                },
              },
            ],
          },
          { label: `Burn at ${pitch} mm interval`, patches: [{ path: ['operations', id, 'intervalMm'], value: pitch }] },
        ],
      },
    ]
  })
}
