import { burnOrder, type JobDocument, picturedRoot, withPlace } from '../job/document/document.ts'
import type { BurnedPiece } from '../job/document/pieces.ts'
import { difference } from '../job/patches/edit.ts'
import { preparedSize, staysAsPrepared } from '../lineage/field.ts'
import type { Supply } from '../lineage/supply.ts'
import { framedSize, movesPixelsOnly } from '../picture/framing.ts'
import { burningsOf, processOf } from '../process/table.ts'
import { poseBounds } from '../space/pose.ts'
import type { Found } from './finding.ts'

/** Pixel pitch and interval may differ by this much before moiré shows. */
const MATCHES = 0.005

/** Dots that are prepared already must have their pitch, and must not be turned between pixels. */
export function preparedDots(job: JobDocument, supply: Supply): Found[] {
  return burnOrder(job).flatMap((id): Found[] => {
    const operation = job.operations[id]
    if (!processOf(operation).dots || !('intervalMm' in operation)) return []
    for (const { piece } of burningsOf(job, id, supply)) {
      const found = ofPiece(job, id, operation.intervalMm, piece)
      if (found) return [found]
    }
    return []
  })
}

function ofPiece(job: JobDocument, id: string, intervalMm: number, piece: BurnedPiece): Found | undefined {
  const node = job.nodes[piece.node]
  if (node.kind !== 'picture' || !node.dots.asPrepared) return undefined
  const root = picturedRoot(job, piece.node, piece.place)
  const { placement: place } = piece
  const { x1, y0 } = poseBounds(place, place)
  const at = { operation: id, x: x1, y: y0 }
  const between = 'so they are drawn anew and moiré shows.'
  if (!movesPixelsOnly(root.framing))
    return {
      id: `dots-turned:${id}`,
      kind: 'dots-turned',
      severity: 'ask',
      ...at,
      message: `These dots are turned or cut between pixels, ${between}`,
      fixes: [
        {
          label: 'Keep only whole pixels and quarter turns',
          patches: [{ path: ['nodes', root.id, 'framing'], value: root.framing.filter((step) => movesPixelsOnly([step])) }],
        },
      ],
    }
  if (!staysAsPrepared(job, piece)) {
    // The turn that the rows see: the artwork's and the workpiece's together.
    const straight = Math.round(((place.deg ?? 0) + (piece.pose.deg ?? 0)) / 90) * 90 - (piece.pose.deg ?? 0)
    return {
      id: `dots-turned:${id}`,
      kind: 'dots-turned',
      severity: 'ask',
      ...at,
      message: `These dots lie askew to the rows of ${job.machine.name}, ${between}`,
      fixes: [
        {
          label: piece.pose.deg ? 'Turn them along the rows' : 'Turn them straight',
          patches: difference(job, withPlace(job, piece.node, { deg: straight === 0 ? undefined : straight }, piece.place)),
        },
      ],
    }
  }
  const { widthPx, heightPx } = framedSize(root, root.framing)
  const exact = preparedSize(job, piece.node, intervalMm)
  if (Math.abs(place.widthMm / exact.widthMm - 1) <= MATCHES && Math.abs(place.heightMm / exact.heightMm - 1) <= MATCHES)
    return undefined
  const pitch = Math.round((place.widthMm / widthPx) * 1e5) / 1e5
  const own = {
    ...exact,
    xMm: Math.round((place.xMm + (place.widthMm - exact.widthMm) / 2) * 1000) / 1000,
    yMm: Math.round((place.yMm + (place.heightMm - exact.heightMm) / 2) * 1000) / 1000,
  }
  return {
    id: `dots-mismatch:${id}`,
    kind: 'dots-mismatch',
    severity: 'ask',
    ...at,
    message: `${Math.round(widthPx)} × ${Math.round(heightPx)} dots at ${intervalMm} mm are ${exact.widthMm.toFixed(1)} × ${exact.heightMm.toFixed(1)} mm, not ${place.widthMm.toFixed(1)} × ${place.heightMm.toFixed(1)} mm. They are burned at their own size.`,
    fixes: [
      {
        label: `Make it ${exact.widthMm.toFixed(2)} × ${exact.heightMm.toFixed(2)} mm`,
        patches: difference(job, withPlace(job, piece.node, own, piece.place)),
      },
      { label: `Burn at ${pitch} mm interval`, patches: [{ path: ['operations', id, 'intervalMm'], value: pitch }] },
    ],
  }
}
