import { givesLines, type JobDocument } from '../job/document/document.ts'
import type { TraceNode } from '../job/document/nodes.ts'
import type { Operation } from '../job/document/operation.ts'
import { operationMaterial } from '../job/document/pieces.ts'
import { cut } from '../process/cut/cut.ts'
import { score } from '../process/score/score.ts'
import { processOf } from '../process/table.ts'
import { withNode } from './change.ts'

/**
 * A trace that looks for something else: edges, lines or colours. What cut its edges scores its lines from now on, and the other
 * way round, each by the recipe: the settings of one are none for the other.
 */
export function withTraceMode(
  job: JobDocument,
  id: string,
  change: Partial<Pick<TraceNode, 'mode' | 'palette' | 'chosen'>>,
): JobDocument {
  const changed = withNode(job, id, { ...change, mode: change.mode })
  const operations = Object.fromEntries(
    Object.entries(job.operations).map(([key, operation]): [string, Operation] => {
      const was = operation.of.every((node) => givesLines(job, node))
      const is = operation.of.every((node) => givesLines(changed, node))
      const { follows } = processOf(operation)
      if (was === is || follows !== (is ? 'edges' : 'lines')) return [key, operation]
      const made = (is ? score : cut).fromRecipe(operation.of, operationMaterial(job, operation), job.machine)
      return [key, { ...made, ...(operation.at ? { at: operation.at } : {}) }]
    }),
  )
  return { ...changed, operations }
}
