import { type JobDocument, sourceOf } from './document.ts'
import { isRoot } from './nodes.ts'
import { tellCell } from './trial.ts'

/** The name of a file, without what stands behind its last point. */
const bare = (name: string): string => name.replace(/\.[a-z0-9]{1,5}$/i, '')

/**
 * What a piece of artwork is called among the others of a job: by its own name, and where others are called so too, with what it was
 * made from: “dots of heron”.
 */
export function tellArtwork(job: JobDocument, id: string): string {
  const node = job.nodes[id]
  const isOne = Object.values(job.nodes).filter(({ name }) => name === node.name).length < 2
  if (isOne || isRoot(node)) return node.name
  const root = sourceOf(job, id)
  const others = Object.keys(job.nodes).filter((key) => isRoot(job.nodes[key]) && job.nodes[key].name === job.nodes[root].name)
  const which = others.length > 1 ? ` (${others.indexOf(root) + 1})` : ''
  return `${node.name} of ${bare(job.nodes[root].name)}${which}`
}

/** What an operation burns, in words: the first piece, and how many more there are. */
export function tellBurned(
  job: JobDocument,
  { of, at }: { readonly of: readonly string[]; readonly at?: readonly string[] },
): string {
  // A cell of a card is what it tries.
  const cell = job.trial && at?.length === 1 ? tellCell(job.trial, at[0]) : undefined
  if (cell !== undefined) return cell
  const [first, ...more] = of
  return more.length === 0 ? tellArtwork(job, first) : `${tellArtwork(job, first)} and ${more.length} more`
}
