import { isRoot, type JobDocument, type LineageNode } from '@neotaxis/core'

export interface FamilyRow {
  readonly id: string
  readonly node: LineageNode
  readonly depth: number
  /** How many rows higher the one stands that it comes from; 0 for a root. */
  readonly above: number
}

/** Nodes in family order: each under the one it comes from. */
export function familyRows(job: JobDocument): FamilyRow[] {
  const children = new Map<string, string[]>()
  const roots: string[] = []
  for (const [id, node] of Object.entries(job.nodes))
    if (isRoot(node)) roots.push(id)
    else listIn(children, node.from).push(id)
  const rows: FamilyRow[] = []
  const add = (id: string, depth: number, from: number): void => {
    const at = rows.length
    rows.push({ id, node: job.nodes[id], depth, above: depth === 0 ? 0 : at - from })
    for (const child of children.get(id) ?? []) add(child, depth + 1, at)
  }
  for (const id of roots) add(id, 0, 0)
  return rows
}

/** What burns each piece of artwork: places in the order of operations. */
export function burnsOf(job: JobDocument, order: readonly string[]): ReadonlyMap<string, readonly number[]> {
  const found = new Map<string, number[]>()
  for (const [at, op] of order.entries()) for (const of of job.operations[op].of) listIn(found, of).push(at)
  return found
}

function listIn<T>(lists: Map<string, T[]>, key: string): T[] {
  const list = lists.get(key) ?? []
  lists.set(key, list)
  return list
}
