import { type JobDocument, materialOf, placeOf, sourceOf } from '../job/document/document.ts'
import { isRoot, type LineageNode, type PartNode } from '../job/document/nodes.ts'
import { cut } from '../process/cut/cut.ts'
import { newTrace, pixelMm } from './new-trace.ts'
import { offsetName } from './outline-edits.ts'
import { burned } from './steps-edits.ts'

/** Specks are no artwork, mm². */
const SPECK_MM2 = 1

/**
 * The outline of a family as it is seen: of a picture its opacity, or its darkness where it is opaque; of a drawing all that
 * it draws. One that is there already is taken. @returns undefined where it has none, as a program
 */
function seenOutline(
  job: JobDocument,
  root: string,
  id: string,
): { readonly id: string; readonly made?: LineageNode } | undefined {
  const node = job.nodes[root]
  const children = Object.entries(job.nodes).filter(([, each]) => !isRoot(each) && each.from === root)
  if (node.kind === 'drawing') {
    const parts = children.flatMap(([key, each]) => (each.kind === 'part' ? [{ key, part: each }] : []))
    const looks = [...new Set(parts.flatMap(({ part }) => part.looks))]
    const whole = parts.find(({ part }) => part.as === 'seen' && part.looks.length === looks.length)
    if (whole) return { id: whole.key }
    return looks.length === 0
      ? undefined
      : { id, made: { kind: 'part', name: 'as seen', from: root, looks, as: 'seen' } satisfies PartNode }
  }
  if (node.kind !== 'source' && node.kind !== 'mesh') return undefined
  const traced = children.find(([, each]) => each.kind === 'trace' && each.mode === undefined && each.zone === undefined)
  if (traced) return { id: traced[0] }
  return { id, made: newTrace(node, root, pixelMm(node, placeOf(job, root)), { name: 'its edge', minAreaMm2: SPECK_MM2 }) }
}

/** Families that something can be cut around, by their roots. */
export const canBeCutAround = (job: JobDocument): string[] =>
  Object.keys(job.nodes).filter((id) => isRoot(job.nodes[id]) && seenOutline(job, id, 'x') !== undefined)

/**
 * One outline around several pieces of artwork together, at a distance, cut after everything else: pictures by what is
 * opaque or dark of them, drawings and texts by what is seen. It follows all of them.
 * @param nodeIds any members of the families @param tag ends the new ids, at most 12 characters
 * @throws Error where nothing of it has an edge
 */
export function outlineAround(job: JobDocument, nodeIds: readonly string[], distanceMm: number, tag: string): JobDocument {
  const nodes: Record<string, LineageNode> = { ...job.nodes }
  const roots = [...new Set(nodeIds.map((id) => sourceOf(job, id)))]
  const edges = roots.flatMap((root, i) => {
    const found = seenOutline(job, root, `edge-${i}-${tag}`)
    if (found?.made) nodes[found.id] = found.made
    return found ? [found.id] : []
  })
  const [first, ...others] = edges
  if (first === undefined) throw new Error('Nothing of this has an edge that could be cut around.')
  const whole = others.reduce((from, other, i) => {
    const id = `together-${i}-${tag}`
    nodes[id] = { kind: 'combine', name: `${roots.length} together`, from, with: other, op: 'union' }
    return id
  }, first)
  const around = `around-${tag}`
  const name = roots.length > 1 ? `all ${roots.length}` : job.nodes[roots[0]].name
  nodes[around] = {
    kind: 'offset',
    name: offsetName(name, distanceMm),
    from: whole,
    distanceMm,
    join: 'round',
    outermost: true,
  }
  return burned({ ...job, nodes }, `cut-${tag}`, cut.fromRecipe([around], materialOf(job), job.machine))
}
