import type { JobDocument } from '../document/document.ts'
import { PathTree } from './path-tree.ts'

/** One change of one place: what stands at `path` becomes `value`; without `value` it is removed. Lists change whole. */
export interface Patch {
  readonly path: readonly string[]
  readonly value?: unknown
}

/** A named change of a job. */
export interface Edit {
  /** Made by whoever edits; a repeated one is taken once. */
  readonly id: string
  /** What it did, for people: “offset 3 mm”. */
  readonly name: string
  readonly kind: 'edit' | 'undo' | 'redo'
  /** Of an undo or a redo: the id of the edit that it takes back. */
  readonly of?: string
  /** What it changes. An undo is worked out by whoever keeps the job; what stands here shows it until then. */
  readonly patches: readonly Patch[]
}

/** An edit that was made on a document, with the way back from there. */
export interface MadeEdit extends Edit {
  readonly inverse: readonly Patch[]
}

const isRecord = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value)

/** The patches that make `after` of `before`, as deep as records go, in a fixed order. */
export function difference(before: unknown, after: unknown, path: readonly string[] = []): Patch[] {
  if (Object.is(before, after)) return []
  if (isRecord(before) && isRecord(after)) {
    const patches: Patch[] = []
    for (const key of [...new Set([...Object.keys(before), ...Object.keys(after)])].sort()) {
      if (!(key in after) || after[key] === undefined) {
        if (before[key] !== undefined) patches.push({ path: [...path, key] })
      } else for (const patch of difference(before[key], after[key], [...path, key])) patches.push(patch)
    }
    return patches
  }
  return JSON.stringify(before) === JSON.stringify(after) ? [] : [{ path, value: after }]
}

/** A patch that cannot be applied, because the place it changes is gone. */
export class PatchError extends Error {}

const RESERVED = new Set(['__proto__', 'constructor', 'prototype'])

/** Applies patches one after the other; each record on their way is copied once, what they do not touch is shared. */
class Patcher {
  private document: unknown
  /** Records that are copies already, and may be written into. */
  private readonly own = new Set<object>()

  constructor(document: unknown) {
    this.document = document
  }

  get result(): unknown {
    return this.document
  }

  /** @returns the patch that takes it back @throws PatchError */
  apply(patch: Patch): Patch {
    const { path } = patch
    for (const key of path) if (RESERVED.has(key)) throw new PatchError(`“${key}” is no place in a job.`)
    if (path.length === 0) {
      const before = this.document
      this.document = patch.value
      return { path, value: before }
    }
    this.document = this.owned(this.document, patch)
    let at = this.document as Record<string, unknown>
    for (const key of path.slice(0, -1)) {
      at[key] = this.owned(Object.hasOwn(at, key) ? at[key] : undefined, patch)
      at = at[key] as Record<string, unknown>
    }
    const last = path[path.length - 1]
    const back: Patch = Object.hasOwn(at, last) && at[last] !== undefined ? { path, value: at[last] } : { path }
    if (patch.value === undefined) delete at[last]
    else at[last] = patch.value
    return back
  }

  private owned(value: unknown, patch: Patch): Record<string, unknown> {
    if (!isRecord(value)) throw new PatchError(`Nothing to change at ${patch.path.join('.')}.`)
    if (this.own.has(value)) return value
    const copy = { ...value }
    this.own.add(copy)
    return copy
  }
}

/** The document after the patches; what they do not touch is shared with the old one. @throws PatchError */
export function applyPatches<T>(document: T, patches: readonly Patch[]): T {
  const patcher = new Patcher(document)
  for (const patch of patches) patcher.apply(patch)
  return patcher.result as T
}

/** The same, with the patches that lead back. @throws PatchError */
export function applyBothWays<T>(
  document: T,
  patches: readonly Patch[],
): { readonly document: T; readonly inverse: readonly Patch[] } {
  const patcher = new Patcher(document)
  const inverse = patches.map((patch) => patcher.apply(patch)).reverse()
  return { document: patcher.result as T, inverse }
}

/** Whether two sets of patches touch the same place: one path leads to or through the other. */
export const touchSame = (a: readonly Patch[], b: readonly Patch[]): boolean =>
  a.length > b.length ? new PathTree(b).touches(a) : new PathTree(a).touches(b)

/** An edit from a changed copy of the document. */
export function editFrom(before: JobDocument, after: JobDocument, name: string, id: string): Edit {
  return { id, name, kind: 'edit', patches: difference(before, after) }
}

/** What can be undone and redone now, from all edits in order: undo and redo are edits of their own, and name what they take back. */
export interface History {
  readonly done: readonly MadeEdit[]
  readonly undone: readonly MadeEdit[]
}

export const NO_HISTORY: History = { done: [], undone: [] }

/** The history after one more edit. */
export function advance(history: History, edit: MadeEdit): History {
  const { done, undone } = history
  if (edit.kind === 'edit') return { done: [...done, edit], undone: [] }
  const from = edit.kind === 'undo' ? done : undone
  const left = from.filter(({ id }) => id !== edit.of)
  // It took back what is not in reach of this history any more.
  if (left.length === from.length) return history
  return edit.kind === 'undo' ? { done: left, undone: [...undone, edit] } : { done: [...done, edit], undone: left }
}
