import { ringArea, ringContains, ringLength } from '../geometry/ring.ts'
import { insideOf, type JobPiece } from '../hold/pieces.ts'
import { type JobDocument, mainPiece, placeOf } from '../job/document/document.ts'
import type { Bridge, BridgedNode } from '../job/document/nodes.ts'
import { outlineRings } from '../lineage/evaluate.ts'
import { placeMap } from '../lineage/local.ts'
import type { Supply } from '../lineage/supply.ts'
import { alongRing, bestBridges } from '../outline/hold/bridges.ts'
import { inverseOf, mapped } from '../space/affine.ts'
import { insertedAfter } from './outline-edits.ts'

/** How wide a bridge is at first: as the material is thick, within what holds and what breaks off easily, mm. */
export const bridgeWidth = (job: JobDocument): number => Math.max(1.5, Math.min(4, mainPiece(job).thicknessMm))

/** How many bridges hold an edge of a length. */
const bridgeCount = (lengthMm: number): number => Math.max(2, Math.min(6, Math.round(lengthMm / 90) + 1))

/** The places of bridges for pieces that would be lost, in shares of the artwork. */
export function bridgesFor(
  job: JobDocument,
  node: string,
  pieces: readonly JobPiece[],
  supply: Supply,
  widthMm = bridgeWidth(job),
): Bridge[] {
  const rings = outlineRings(job, node, supply)
  const place = placeOf(job, node)
  const toBox = inverseOf(placeMap(job, node))
  return pieces.flatMap((piece) => {
    const [x, y] = insideOf(piece)
    // The outline of the piece: the smallest ring around a place in it.
    let ring = -1
    rings.forEach((each, i) => {
      const smaller = ring < 0 || Math.abs(ringArea(each)) < Math.abs(ringArea(rings[ring]))
      if (smaller && ringContains(each, x, y)) ring = i
    })
    if (ring < 0) return []
    return bestBridges(rings, ring, bridgeCount(ringLength(rings[ring])), widthMm).map(([bx, by]) => {
      const [x, y] = mapped(toBox, bx, by)
      return { x: x / place.widthMm, y: y / place.heightMm, widthMm }
    })
  })
}

/** Bridges that hold a piece in its sheet while a tool goes around it: evenly along each of its outer edges, in shares of the artwork. */
export function bridgesAround(job: JobDocument, node: string, supply: Supply, widthMm = bridgeWidth(job)): Bridge[] {
  const place = placeOf(job, node)
  const toBox = inverseOf(placeMap(job, node))
  return outlineRings(job, node, supply)
    .filter((ring) => ringArea(ring) > 0)
    .flatMap((ring) => alongRing(ring, bridgeCount(ringLength(ring))))
    .map(([bx, by]) => {
      const [x, y] = mapped(toBox, bx, by)
      return { x: x / place.widthMm, y: y / place.heightMm, widthMm }
    })
}

/**
 * A cut whose outline has bridges. They are added to those that it has. @param id for the node that keeps them, where it has none
 */
export function withBridges(
  job: JobDocument,
  operation: string,
  bridges: readonly Bridge[],
  id: string,
  newId: (i: number) => string = (i) => `b${i + 1}`,
): JobDocument {
  const [node, ...others] = job.operations[operation].of
  const now = job.nodes[node]
  const known = now.kind === 'bridged' ? now.bridges : {}
  const more = Object.fromEntries(bridges.map((bridge, i) => [newId(Object.keys(known).length + i), bridge]))
  if (now.kind === 'bridged') return { ...job, nodes: { ...job.nodes, [node]: { ...now, bridges: { ...known, ...more } } } }
  const made: BridgedNode = { kind: 'bridged', name: `${now.name}, bridged`, from: node, bridges: more }
  return {
    ...job,
    nodes: { ...job.nodes, [id]: made },
    operations: { ...job.operations, [operation]: { ...job.operations[operation], of: [id, ...others] } },
  }
}

/** A bridge set by hand on an outline; its first one makes the node that keeps them, and what followed takes that. */
export function withBridgeAt(
  job: JobDocument,
  outline: string,
  bridge: Bridge,
  ids: { readonly node: string; readonly bridge: string },
): JobDocument {
  const now = job.nodes[outline]
  if (now.kind === 'bridged') {
    const changed: BridgedNode = { ...now, bridges: { ...now.bridges, [ids.bridge]: bridge } }
    return { ...job, nodes: { ...job.nodes, [outline]: changed } }
  }
  const made: BridgedNode = { kind: 'bridged', name: `${now.name}, bridged`, from: outline, bridges: { [ids.bridge]: bridge } }
  return insertedAfter(job, outline, ids.node, made)
}
