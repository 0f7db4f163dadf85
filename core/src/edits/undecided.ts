import type { JobDocument } from '../job/document/document.ts'
import { isRoot, type LineageNode, type PartNode } from '../job/document/nodes.ts'

/**
 * The artwork of a job as it was brought in: nothing is burned of it yet. Of drawings all that was sorted stays as lines, so that
 * they can be seen.
 */
export function undecided(job: JobDocument): JobDocument {
  const { groups: _, ...bare } = job
  const nodes: Record<string, LineageNode> = {}
  for (const [id, node] of Object.entries(job.nodes)) {
    if (!isRoot(node)) continue
    nodes[id] = node
    const parts = Object.values(job.nodes).filter((each): each is PartNode => each.kind === 'part' && each.from === id)
    const looks = [...new Set(parts.flatMap((part) => part.looks))]
    if (looks.length > 0) nodes[`${id}-lines`] = { kind: 'part', name: 'lines', from: id, looks, as: 'lines' }
  }
  return { ...bare, nodes, operations: {}, steps: {}, order: [], meant: {} }
}

/** Whether nothing was made of a piece of artwork yet. @param id of a root */
export function isUndecided(job: JobDocument, id: string): boolean {
  const made = Object.entries(job.nodes).filter(([, node]) => 'from' in node && node.from === id)
  const family = [id, ...made.map(([key]) => key)]
  return (
    isRoot(job.nodes[id]) &&
    made.every(([, node]) => node.kind === 'part') &&
    !Object.values(job.operations).some(({ of }) => of.some((node) => family.includes(node))) &&
    !Object.values(job.nodes).some((node) => 'from' in node && family.slice(1).includes(node.from))
  )
}

/** All that waits to be decided: the roots, and the lines of those that are drawings. */
export function waiting(job: JobDocument): { readonly roots: readonly string[]; readonly lines: readonly string[] } {
  const roots = Object.keys(job.nodes).filter((id) => isUndecided(job, id))
  const lines = Object.keys(job.nodes).filter((id) => {
    const node = job.nodes[id]
    return node.kind === 'part' && roots.includes(node.from)
  })
  return { roots, lines }
}
