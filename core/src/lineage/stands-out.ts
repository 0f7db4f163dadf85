import type { JobDocument } from '../job/document/document.ts'
import { isRoot, type LineageNode } from '../job/document/nodes.ts'

/** How far a node's outline stands out beyond what scales with the picture: twice the sum of its offsets, mm. */
export function standsOut(job: JobDocument, nodeId: string): number {
  let sum = 0
  for (let node: LineageNode | undefined = job.nodes[nodeId]; node && !isRoot(node); node = job.nodes[node.from]) {
    if (node.kind === 'offset') sum += (node.both ? Math.abs(node.distanceMm) : node.distanceMm) * (node.steps ?? 1)
  }
  return 2 * sum
}
