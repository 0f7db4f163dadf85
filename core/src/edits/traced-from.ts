import { type JobDocument, materialOf, placeIdOf, placeOf } from '../job/document/document.ts'
import { score } from '../process/score/score.ts'
import { freeName } from './free-name.ts'
import { given, placeInOrder } from './give-process.ts'
import { newTrace, pixelMm } from './new-trace.ts'
import { burned } from './steps-edits.ts'

/** What a picture that lies in a job can be traced as: its edge, cut; its strokes, scored; its shapes, filled. */
export type TracedAs = 'edge' | 'strokes' | 'shapes'

/** Pictures that can be traced, by their ids. */
export const traceable = (job: JobDocument): string[] =>
  Object.keys(job.nodes).filter((id) => job.nodes[id].kind === 'source' || job.nodes[id].kind === 'mesh')

/**
 * A picture that lies in a job traced, with the operation that burns it.
 * @returns the job, and the id of the operation @throws Error with a sentence where its material cannot be burned like that
 */
export function tracedFrom(
  job: JobDocument,
  root: string,
  as: TracedAs,
): { readonly job: JobDocument; readonly operation: string } {
  if (as !== 'strokes') return given(job, [root], as === 'edge' ? 'cut' : 'area')
  const node = job.nodes[root]
  if (node.kind !== 'source' && node.kind !== 'mesh') throw new Error(`“${node.name}” is no picture.`)
  const material = materialOf(job, job.placements[placeIdOf(job, root)].on)
  const refused = score.refused?.(material, job.machine)
  if (refused !== undefined) throw new Error(refused)
  const id = freeName(job.nodes, `${root.slice(0, 24)}-strokes`)
  const lines = newTrace(node, root, pixelMm(node, placeOf(job, root)), {
    name: 'its strokes',
    mode: 'centreline',
    minAreaMm2: 0,
  })
  const operation = freeName({ ...job.operations, ...job.steps }, 'score')
  return {
    job: burned(
      { ...job, nodes: { ...job.nodes, [id]: lines } },
      operation,
      score.fromRecipe([id], material, job.machine),
      placeInOrder(job, 'score'),
    ),
    operation,
  }
}
