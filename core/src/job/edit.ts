import type { JobDocument } from './document.ts'

/** One change of one place: what stands at `path` becomes `value`; without `value` it is removed. Lists change whole. */
export interface Patch {
  readonly path: readonly string[]
  readonly value?: unknown
}

/** A named change of a job, with its way back. */
export interface Edit {
  /** Made by whoever edits; a repeated one is taken once. */
  readonly id: string
  /** What it did, for people: “offset 3 mm”. */
  readonly name: string
  readonly kind: 'edit' | 'undo' | 'redo'
  readonly patches: readonly Patch[]
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
      } else patches.push(...difference(before[key], after[key], [...path, key]))
    }
    return patches
  }
  return JSON.stringify(before) === JSON.stringify(after) ? [] : [{ path, value: after }]
}

/** A patch that cannot be applied, because the place it changes is gone. */
export class PatchError extends Error {}

/** The document after the patches; what they do not touch is shared with the old one. */
export function applyPatches<T>(document: T, patches: readonly Patch[]): T {
  let result: unknown = document
  for (const patch of patches) result = applyAt(result, patch, 0)
  return result as T
}

function applyAt(value: unknown, patch: Patch, depth: number): unknown {
  if (depth === patch.path.length) return patch.value
  if (!isRecord(value)) throw new PatchError(`Nothing to change at ${patch.path.join('.')}.`)
  const key = patch.path[depth]
  if (key === '__proto__' || key === 'constructor' || key === 'prototype') throw new PatchError(`“${key}” is no place in a job.`)
  const copy = { ...value }
  if (depth === patch.path.length - 1 && !('value' in patch && patch.value !== undefined)) delete copy[key]
  else copy[key] = applyAt(value[key], patch, depth + 1)
  return copy
}

/** Whether two sets of patches touch the same place: one path leads to or through the other. */
export function touchSame(a: readonly Patch[], b: readonly Patch[]): boolean {
  return a.some((p) => b.some((q) => p.path.every((key, i) => i >= q.path.length || q.path[i] === key)))
}

/** An edit from a changed copy of the document. */
export function editFrom(before: JobDocument, after: JobDocument, name: string, id: string): Edit {
  return { id, name, kind: 'edit', patches: difference(before, after), inverse: difference(after, before) }
}

/** What can be undone and redone now, from all edits in order: undo and redo are edits of their own. */
export interface History {
  readonly done: readonly Edit[]
  readonly undone: readonly Edit[]
}

/** The history after one more edit. */
export function advance(history: History, edit: Edit): History {
  const { done, undone } = history
  if (edit.kind === 'undo') return done.length ? { done: done.slice(0, -1), undone: [...undone, done[done.length - 1]] } : history
  if (edit.kind === 'redo')
    return undone.length ? { done: [...done, undone[undone.length - 1]], undone: undone.slice(0, -1) } : history
  return { done: [...done, edit], undone: [] }
}
