import { type JobDocument, materialOf, picture, pictureNode, relief } from '@neotaxis/core'

/** The same source prepared the other way: as dots where this is a relief, as a relief where it is dots. */
export interface OtherWay {
  readonly node: string
  readonly operation: string
}

const isRelief = (job: JobDocument, node: string): boolean => pictureNode(job, node).dots.kernel === 'none'

/** What the other way is called. */
export const otherName = (job: JobDocument, node: string): 'dots' | 'relief' => (isRelief(job, node) ? 'dots' : 'relief')

export function otherWay(job: JobDocument, node: string): OtherWay | undefined {
  const { from } = pictureNode(job, node)
  for (const [key, each] of Object.entries(job.nodes)) {
    if (key === node || each.kind !== 'picture' || each.from !== from || isRelief(job, key) === isRelief(job, node)) continue
    const operation = Object.keys(job.operations).find((id) => job.operations[id].of.includes(key))
    if (operation) return { node: key, operation }
  }
  return undefined
}

/** Adds the other way with its operation, put aside: it does not run. */
export function withOtherWay(job: JobDocument, node: string, { node: made, operation }: OtherWay): JobDocument {
  const from = pictureNode(job, node)
  const name = otherName(job, node)
  const kernel = name === 'dots' ? 'floyd-steinberg' : 'none'
  const burn = (name === 'dots' ? picture : relief).fromRecipe([made], materialOf(job), job.machine)
  return {
    ...job,
    nodes: { ...job.nodes, [made]: { ...from, name, dots: { ...from.dots, asPrepared: false, kernel } } },
    operations: { ...job.operations, [operation]: burn },
  }
}

/** One operation runs in the place of another, which is put aside with its settings. */
export const inPlaceOf = (job: JobDocument, id: string, old: string): JobDocument => ({
  ...job,
  steps: Object.fromEntries(
    Object.entries(job.steps).map(([key, step]) => [
      key,
      step.kind === 'burn' && step.operation === old ? { ...step, operation: id } : step,
    ]),
  ),
})
