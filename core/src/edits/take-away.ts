import { type JobDocument, sourceOf } from '../job/document/document.ts'
import { isRoot, parentsOf } from '../job/document/nodes.ts'
import type { Operation } from '../job/document/operation.ts'
import { withArtwork } from './add-artwork.ts'
import { groupedWith } from './change.ts'
import { burnStepOf, stepsBefore, withoutSteps } from './steps-edits.ts'

const without = <T>(of: Readonly<Record<string, T>>, gone: ReadonlySet<string>): Record<string, T> =>
  Object.fromEntries(Object.entries(of).filter(([id]) => !gone.has(id)))

/** The job without an operation: its settings too, and what is asked before it. */
export function withoutOperation(job: JobDocument, id: string): JobDocument {
  const step = burnStepOf(job, id)
  const rest = step === undefined ? job : withoutSteps(job, [...stepsBefore(job, id), step])
  return { ...rest, operations: without(rest.operations, new Set([id])) }
}

/** A node with all that is made from it, in the order of the job. */
export function madeFrom(job: JobDocument, nodeIds: readonly string[]): string[] {
  const found = new Set(nodeIds.filter((id) => job.nodes[id]))
  for (let more = true; more; ) {
    more = false
    for (const [id, node] of Object.entries(job.nodes))
      if (!found.has(id) && parentsOf(node).some((parent) => found.has(parent))) {
        found.add(id)
        more = true
      }
  }
  return Object.keys(job.nodes).filter((id) => found.has(id))
}

/** An operation that neither spares nor means what is gone. */
function withoutNodes(operation: Operation, gone: ReadonlySet<string>, places: ReadonlySet<string>): Operation {
  let next = operation
  if ('spares' in next && next.spares?.some((node) => gone.has(node)))
    next = { ...next, spares: next.spares.filter((node) => !gone.has(node)) }
  const at = next.at?.filter((place) => !places.has(place))
  if (at === undefined || at.length === next.at?.length) return next
  const { at: _, ...everywhere } = next
  return (at.length > 0 ? { ...next, at } : everywhere) as Operation
}

/** The job without pieces of artwork: what is made from them goes too, with its operations where they burn nothing else. */
export function withoutArtwork(job: JobDocument, nodeIds: readonly string[]): JobDocument {
  const gone = new Set(madeFrom(job, nodeIds))
  const places = new Set(Object.keys(job.placements).filter((id) => gone.has(job.placements[id].of)))
  let next = job
  for (const [id, operation] of Object.entries(job.operations)) {
    const of = operation.of.filter((node) => !gone.has(node))
    if (of.length === operation.of.length) continue
    next =
      of.length === 0
        ? withoutOperation(next, id)
        : { ...next, operations: { ...next.operations, [id]: { ...operation, of } as typeof operation } }
  }
  const operations = Object.fromEntries(
    Object.entries(next.operations).map(([id, operation]) => [id, withoutNodes(operation, gone, places)]),
  )
  const steps = Object.fromEntries(
    Object.entries(next.steps).map(([id, step]) => {
      if (step.kind !== 'elsewhere' || !step.of?.some((node) => gone.has(node))) return [id, step]
      return [id, { ...step, of: step.of.filter((node) => !gone.has(node)) }]
    }),
  )
  const groups = without(next.groups ?? {}, gone)
  // A group of one is none.
  const alone = new Set(Object.keys(groups).filter((id) => Object.values(groups).filter((one) => one === groups[id]).length < 2))
  const kept = without(groups, alone)
  const { groups: _, repeats, ...bare } = next
  const repeating = without(repeats ?? {}, gone)
  // A picture whose edge is gone is there as a whole again.
  const nodes = Object.fromEntries(
    Object.entries(without(next.nodes, gone)).map(([id, node]) => {
      if (node.kind !== 'picture' || node.clip?.to === undefined || !gone.has(node.clip.to)) return [id, node]
      const { clip: __, ...whole } = node
      return [id, whole]
    }),
  )
  return {
    ...bare,
    nodes,
    placements: without(next.placements, places),
    operations,
    steps,
    ...(Object.keys(kept).length > 0 ? { groups: kept } : {}),
    ...(Object.keys(repeating).length > 0 ? { repeats: repeating } : {}),
  }
}

/**
 * The job without what an operation burns: the operation, and the artwork that nothing else burns or is made from, up to the picture
 * that it came from.
 */
export function withoutBurn(job: JobDocument, id: string): JobDocument {
  let next = withoutOperation(job, id)
  const isNeeded = (node: string): boolean =>
    Object.values(next.operations).some(({ of }) => of.includes(node)) ||
    Object.values(next.nodes).some((other) => parentsOf(other).includes(node))
  const prune = (node: string): void => {
    if (!next.nodes[node] || isNeeded(node)) return
    const parents = parentsOf(next.nodes[node])
    next = withoutArtwork(next, [node])
    parents.forEach(prune)
  }
  job.operations[id].of.forEach(prune)
  return next
}

/** Roots of the families that some nodes belong to, with what is grouped with them. */
export function rootsOf(job: JobDocument, nodeIds: readonly string[]): string[] {
  const roots = nodeIds.filter((id) => job.nodes[id]).flatMap((id) => [sourceOf(job, id), ...groupedWith(job, id)])
  return [...new Set(roots)]
}

/** The job with whole families of artwork only: those of some nodes. */
export function onlyArtwork(job: JobDocument, nodeIds: readonly string[]): JobDocument {
  const keep = new Set(rootsOf(job, nodeIds))
  const others = Object.keys(job.nodes).filter((id) => isRoot(job.nodes[id]) && !keep.has(id))
  return withoutArtwork(job, others)
}

/** How far a copy lies beside what it was made from, mm. */
const BESIDE_MM = 5

/**
 * The families of some nodes once more, a little beside, with their operations. @param tag as for `withArtwork`
 * @returns the job, and the new ids of those nodes
 */
export function duplicated(
  job: JobDocument,
  nodeIds: readonly string[],
  tag: string,
): { readonly job: JobDocument; readonly nodes: readonly string[] } {
  const made = withArtwork(job, movedAll(onlyArtwork(job, nodeIds), BESIDE_MM, BESIDE_MM), tag)
  return { job: made, nodes: nodeIds.map((id) => copyName(id, tag)) }
}

/** What a node is called in a copy. */
export const copyName = (id: string, tag: string): string => `${id.slice(0, 26)}-${tag}`

/** All artwork of a job moved, mm. */
const movedAll = (job: JobDocument, dxMm: number, dyMm: number): JobDocument => ({
  ...job,
  placements: Object.fromEntries(
    Object.entries(job.placements).map(([id, place]) => [id, { ...place, xMm: place.xMm + dxMm, yMm: place.yMm + dyMm }]),
  ),
})

/**
 * Artwork that was copied from a job, brought into this one: it lies where it lay, or beside what lies there already. What its
 * operations are set to is kept; recipes are those of the material that it was set for.
 */
export function pasted(job: JobDocument, copied: JobDocument, tag: string): JobDocument {
  const places = Object.values(job.placements)
  const taken = (by: number): boolean =>
    Object.values(copied.placements).some(({ xMm, yMm }) =>
      places.some((place) => Math.hypot(place.xMm - xMm - by, place.yMm - yMm - by) < 0.5),
    )
  let by = 0
  while (taken(by)) by += BESIDE_MM
  return withArtwork(job, movedAll(copied, by, by), tag)
}
