import { isRoot, type JobDocument, type LineageNode, type Operation } from './document.ts'

/**
 * A job with the artwork of another one beside its own: new ids, places and operations kept. What marks runs before the first
 * cut of the job, what cuts runs last. @param tag ends the new ids: letters, digits, at most 12
 */
export function withArtwork(job: JobDocument, other: JobDocument, tag: string): JobDocument {
  const named = (id: string): string => `${id.slice(0, 26)}-${tag}`
  const nodes = Object.fromEntries(
    Object.entries(other.nodes).map(([id, node]): [string, LineageNode] => {
      if (isRoot(node)) return [named(id), node]
      const from = { ...node, from: named(node.from) } as LineageNode
      return [named(id), from.kind === 'combine' ? { ...from, with: named(from.with) } : from]
    }),
  )
  const placements = Object.fromEntries(Object.entries(other.placements).map(([id, place]) => [named(id), place]))
  const operations = Object.fromEntries(
    Object.entries(other.operations).map(([id, op]): [string, Operation] => [named(id), { ...op, node: named(op.node) }]),
  )
  const groups = Object.fromEntries(Object.entries(other.groups ?? {}).map(([id, group]) => [named(id), named(group)]))
  const isCut = (id: string): boolean => other.operations[id].kind === 'cut' && !id.startsWith('score')
  const marks = other.runOrder.filter((id) => !isCut(id)).map(named)
  const cuts = other.runOrder.filter(isCut).map(named)
  const firstCut = job.runOrder.findIndex((id) => job.operations[id].kind === 'cut')
  const at = firstCut < 0 ? job.runOrder.length : firstCut
  return {
    ...job,
    nodes: { ...job.nodes, ...nodes },
    placements: { ...job.placements, ...placements },
    operations: { ...job.operations, ...operations },
    ...(job.groups || other.groups ? { groups: { ...job.groups, ...groups } } : {}),
    runOrder: [...job.runOrder.slice(0, at), ...marks, ...job.runOrder.slice(at), ...cuts],
  }
}
