import { type JobDocument, mainPiece, placeOf, sourceOf } from '../job/document/document.ts'
import { isOutline, type Within } from '../job/document/nodes.ts'
import { faceSize } from '../job/document/workpiece.ts'
import { micro } from '../numeric/micro.ts'
import { turnedSize } from '../space/pose.ts'
import { laidAs, withNode } from './change.ts'
import { insertedAfter, othersFor, passedOver } from './outline-edits.ts'

/** Whether some artwork can be kept within an edge: outlines, lines and prepared pictures. */
export const canBeKeptWithin = (job: JobDocument, node: string): boolean =>
  job.nodes[node]?.kind === 'picture' || isOutline(job.nodes[node])

/** The edge that some artwork is kept within; undefined where there is none. */
export function edgeOf(job: JobDocument, node: string): (Within & { readonly fadeMm?: number }) | undefined {
  const now = job.nodes[node]
  return now?.kind === 'picture' ? now.clip : now?.kind === 'clip' ? now : undefined
}

/** Outlines that some artwork can be kept within: all that do not come from it. */
export const edgesFor = (job: JobDocument, node: string): string[] => othersFor(job, node)

/**
 * Some artwork kept within an edge, or within another one, or otherwise far from it.
 * @param id for the step of the lineage, where there is none yet
 */
export function keptWithin(job: JobDocument, node: string, edge: Within & { readonly fadeMm?: number }, id: string): JobDocument {
  const { to, marginMm, fadeMm = 0 } = edge
  const within = { ...(to !== undefined && { to }), marginMm }
  const now = job.nodes[node]
  if (now?.kind === 'picture') return withNode(job, node, { clip: { ...within, fadeMm } })
  if (now?.kind === 'clip') {
    const { to: _, ...bare } = now
    return { ...job, nodes: { ...job.nodes, [node]: { ...bare, ...within } } }
  }
  if (!isOutline(now)) return job
  return insertedAfter(job, node, id, { kind: 'clip', name: `${now.name}, kept within`, from: node, ...within })
}

/** The same artwork, nothing cut off. */
export function keptWhole(job: JobDocument, node: string): JobDocument {
  const now = job.nodes[node]
  if (now?.kind === 'picture') {
    const { clip: _, ...whole } = now
    return { ...job, nodes: { ...job.nodes, [node]: whole } }
  }
  return now?.kind === 'clip' ? passedOver(job, node) : job
}

/** Artwork so large, in its own proportions, that its box covers the whole workpiece, in the middle of it; what is grouped goes along. */
export function covering(job: JobDocument, node: string): JobDocument {
  const root = sourceOf(job, node)
  const place = placeOf(job, root)
  const face = faceSize(mainPiece(job))
  const box = turnedSize(place, place.deg ?? 0)
  const scale = Math.max(face.widthMm / box.widthMm, face.heightMm / box.heightMm)
  return laidAs(job, node, { scale, byDeg: 0, middle: [micro(face.widthMm / 2), micro(face.heightMm / 2)] })
}
