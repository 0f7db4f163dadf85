import type { Patch } from './edit.ts'

interface Branch {
  /** Something is changed right here, with all that is below. */
  whole: boolean
  readonly below: Map<string, Branch>
}

/**
 * Places in a document that patches change, as a tree by their paths: whether others touch the same is answered in as many steps
 * as a path is long, however many there are.
 */
export class PathTree {
  private readonly root: Branch = { whole: false, below: new Map() }

  constructor(patches: Iterable<Patch> = []) {
    this.add(patches)
  }

  add(patches: Iterable<Patch>): void {
    for (const { path } of patches) {
      let at = this.root
      for (const key of path) {
        let next = at.below.get(key)
        if (!next) {
          next = { whole: false, below: new Map() }
          at.below.set(key, next)
        }
        at = next
      }
      at.whole = true
    }
  }

  /** Whether one of the patches changes a place in the tree, one above it or one below it. */
  touches(patches: Iterable<Patch>): boolean {
    for (const { path } of patches) if (this.holds(path)) return true
    return false
  }

  private holds(path: readonly string[]): boolean {
    let at = this.root
    for (const key of path) {
      if (at.whole) return true
      const next = at.below.get(key)
      if (!next) return false
      at = next
    }
    return true
  }
}
