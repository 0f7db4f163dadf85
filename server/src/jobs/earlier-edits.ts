import { applyPatches, difference, type Edit, PatchError, upgraded } from '@neotaxis/core'

/** A document of an older version, not checked again: it was when it was stored. */
type Earlier = Parameters<typeof upgraded>[0]

/**
 * Edits that a page made on a document of an older version, as edits of this version: made there, then both sides are brought up,
 * and what differs is the edit. @param earlier the document as the older version left it @returns undefined where they do not fit it
 */
export function broughtUp(earlier: string, edits: readonly Edit[]): readonly Edit[] | undefined {
  let before = JSON.parse(earlier) as Earlier
  const made: Edit[] = []
  for (const edit of edits) {
    // What an undo names lies in the older history.
    if (edit.kind !== 'edit') return undefined
    let after: Earlier
    try {
      after = applyPatches(before, edit.patches)
    } catch (cause) {
      if (cause instanceof PatchError) return undefined
      throw cause
    }
    made.push({ ...edit, patches: difference(upgraded(before), upgraded(after)) })
    before = after
  }
  return made
}
