import { bridgesFor, withBridges } from '../edits/bridge-edits.ts'
import { freeName } from '../edits/free-name.ts'
import { ringBounds } from '../geometry/ring.ts'
import { insideOf, type JobPiece, jobPieces } from '../hold/pieces.ts'
import type { JobDocument } from '../job/document/document.ts'
import { difference } from '../job/patches/edit.ts'
import type { Supply } from '../lineage/supply.ts'
import type { Found } from './finding.ts'

const size = ({ outer }: JobPiece): string => {
  const { x0, y0, x1, y1 } = ringBounds(outer)
  return `${(x1 - x0).toFixed(1)} × ${(y1 - y0).toFixed(1)} mm`
}

/** Pieces that stand in what is cut away fall with it: the middle of an O. Bridges hold them. */
export function fallsOut(job: JobDocument, supply: Supply): Found[] {
  const lost = jobPieces(job, supply).filter(({ fate }) => fate === 'lost')
  return [...new Set(lost.map(({ operation }) => operation!))].map((id) => {
    const own = lost.filter(({ operation }) => operation === id).sort((a, b) => b.areaMm2 - a.areaMm2)
    const [x, y] = insideOf(own[0])
    const bridges = bridgesFor(job, job.operations[id].of[0], own, supply)
    const node = freeName(job.nodes, 'bridged')
    const held = difference(job, withBridges(job, id, bridges, node))
    return {
      id: `falls-out:${id}`,
      kind: 'falls-out',
      severity: 'ask' as const,
      operation: id,
      x,
      y,
      message:
        own.length === 1
          ? `A piece of ${size(own[0])} falls out with what is around it.`
          : `${own.length} pieces fall out with what is around them, the largest ${size(own[0])}.`,
      fixes:
        bridges.length > 0
          ? [{ label: `Hold ${own.length === 1 ? 'it' : 'them'} with ${bridges.length} bridges`, patches: held }]
          : [],
    }
  })
}
