import type { JobDocument } from '../job/document/document.ts'
import { type CleanNode, type CombineNode, isOutline, isRoot, type LineageNode, parentsOf } from '../job/document/nodes.ts'
import type { OutlineStep } from '../outline/clean/steps.ts'

/** Operations and artwork that used one node use another one instead, but for those named. */
function redirected(job: JobDocument, from: string, to: string): JobDocument {
  const nodes = Object.fromEntries(
    Object.entries(job.nodes).map(([id, node]): [string, LineageNode] => {
      if (id === to || isRoot(node)) return [id, node]
      const parents = {
        ...(node.from === from ? { from: to } : {}),
        ...(node.kind === 'combine' && node.with === from ? { with: to } : {}),
        ...(node.kind === 'clip' && node.to === from ? { to } : {}),
        ...(node.kind === 'picture' && node.clip?.to === from ? { clip: { ...node.clip, to } } : {}),
      }
      return [id, { ...node, ...parents } as LineageNode]
    }),
  )
  const operations = Object.fromEntries(
    Object.entries(job.operations).map(([id, op]) => [
      id,
      op.of.includes(from) ? { ...op, of: op.of.map((node) => (node === from ? to : node)) } : op,
    ]),
  )
  return { ...job, nodes, operations }
}

/**
 * A node put between an outline and all that is made from it or burns it: what follows takes the new one.
 * @param node comes from `outline`
 */
export const insertedAfter = (job: JobDocument, outline: string, id: string, node: LineageNode): JobDocument =>
  redirected({ ...job, nodes: { ...job.nodes, [id]: node } }, outline, id)

/** The node that cleans an outline up: itself, or the one made from it by nothing else. */
export function cleanerOf(job: JobDocument, outline: string): string | undefined {
  if (job.nodes[outline]?.kind === 'clean') return outline
  return Object.keys(job.nodes).find((id) => {
    const node = job.nodes[id]
    return node.kind === 'clean' && node.from === outline
  })
}

/** A clean-up step added to an outline; its first one makes the node that keeps them. @param ids for the step and for the node */
export function withOutlineStep(
  job: JobDocument,
  outline: string,
  step: OutlineStep,
  ids: { readonly step: string; readonly node: string },
): JobDocument {
  const cleaner = cleanerOf(job, outline)
  if (cleaner) {
    const node = job.nodes[cleaner] as CleanNode
    const changed: CleanNode = { ...node, steps: { ...node.steps, [ids.step]: step }, order: [...node.order, ids.step] }
    return { ...job, nodes: { ...job.nodes, [cleaner]: changed } }
  }
  const { name } = job.nodes[outline]
  const node: CleanNode = {
    kind: 'clean',
    name: `${name}, cleaned`,
    from: outline,
    steps: { [ids.step]: step },
    order: [ids.step],
  }
  return insertedAfter(job, outline, ids.node, node)
}

export function withStepChanged(job: JobDocument, cleaner: string, step: string, change: Partial<OutlineStep>): JobDocument {
  const node = job.nodes[cleaner] as CleanNode
  const changed = { ...node, steps: { ...node.steps, [step]: { ...node.steps[step], ...change } as OutlineStep } }
  return { ...job, nodes: { ...job.nodes, [cleaner]: changed } }
}

/** A step taken out; with the last one goes the node. */
export function withoutOutlineStep(job: JobDocument, cleaner: string, step: string): JobDocument {
  const node = job.nodes[cleaner] as CleanNode
  const { [step]: _, ...steps } = node.steps
  const order = node.order.filter((id) => id !== step)
  if (order.length > 0) return { ...job, nodes: { ...job.nodes, [cleaner]: { ...node, steps, order } } }
  return passedOver(job, cleaner)
}

/** A step of the lineage taken out: what follows takes what it was made from. */
export function passedOver(job: JobDocument, id: string): JobDocument {
  const node = job.nodes[id]
  if (!node || isRoot(node)) return job
  const through = redirected(job, id, node.from)
  const { [id]: gone, ...nodes } = through.nodes
  return { ...through, nodes }
}

/** A step moved to another place in the order. */
export function withStepMoved(job: JobDocument, cleaner: string, step: string, to: number): JobDocument {
  const node = job.nodes[cleaner] as CleanNode
  const rest = node.order.filter((id) => id !== step)
  const at = Math.min(rest.length, Math.max(0, to))
  const order = [...rest.slice(0, at), step, ...rest.slice(at)]
  return { ...job, nodes: { ...job.nodes, [cleaner]: { ...node, order } } }
}

/** What an outline at a distance is called. */
export const offsetName = (name: string, distanceMm: number): string =>
  `${name} ${distanceMm < 0 ? '−' : '+'} ${Number(Math.abs(distanceMm).toFixed(2))} mm`

/** An outline at a distance, as artwork of its own: nothing burns it yet. */
export const withOffset = (job: JobDocument, outline: string, distanceMm: number, id: string): JobDocument => ({
  ...job,
  nodes: {
    ...job.nodes,
    [id]: {
      kind: 'offset',
      name: offsetName(job.nodes[outline].name, distanceMm),
      from: outline,
      distanceMm,
      join: 'round',
      outermost: false,
    },
  },
})

/** An outline combined with another; what burned it burns the combination. */
export function withCombination(
  job: JobDocument,
  outline: string,
  other: string,
  op: CombineNode['op'],
  id: string,
): JobDocument {
  const word = { union: 'and', subtract: 'without', intersect: 'within', exclude: 'or', split: 'split by' }[op]
  const name = `${job.nodes[outline].name} ${word} ${job.nodes[other].name}`
  return insertedAfter(job, outline, id, { kind: 'combine', name, from: outline, with: other, op })
}

/** Outlines that an outline can be combined with: all that do not come from it. */
export function othersFor(job: JobDocument, outline: string): string[] {
  const comesFrom = (id: string): boolean => {
    const node = job.nodes[id]
    return id === outline || parentsOf(node).some(comesFrom)
  }
  return Object.keys(job.nodes).filter((id) => isOutline(job.nodes[id]) && !comesFrom(id))
}
