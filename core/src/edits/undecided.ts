import type { JobDocument } from '../job/document/document.ts'
import { isRoot } from '../job/document/nodes.ts'

/** The artwork of a job as it was brought in: nothing is made of it, and nothing is burned yet. */
export function undecided(job: JobDocument): JobDocument {
  const { groups: _, ...bare } = job
  const roots = Object.fromEntries(Object.entries(job.nodes).filter(([, node]) => isRoot(node)))
  return { ...bare, nodes: roots, operations: {}, steps: {}, order: [], meant: {} }
}

/** Whether nothing was made of a piece of artwork yet. @param id of a root */
export const isUndecided = (job: JobDocument, id: string): boolean =>
  isRoot(job.nodes[id]) &&
  !Object.values(job.nodes).some((node) => ('from' in node && node.from === id) || ('with' in node && node.with === id)) &&
  !Object.values(job.operations).some(({ of }) => of.includes(id))
