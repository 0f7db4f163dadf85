import type { Edit } from '@neotaxis/core'

/** Edits on their way to the server, as they are kept in the browser. */
export interface Drawer {
  readonly key: string
  readonly base: number
  readonly edits: readonly Edit[]
}

/** Where edits wait until the server has them: a closed tab or a lost connection loses none. */
export interface Drawers {
  /** Keeps what this page has not sent of a job, in place of what was there. @returns whether the browser could */
  keep(jobId: string, base: number, edits: readonly Edit[]): boolean
  /** What pages that are gone could not send of a job, and what this one left for it. */
  left(jobId: string): Promise<readonly Drawer[]>
  drop(key: string): void
  /** Keeps it, but not to be sent again: for people to look into. */
  putAside(key: string): void
}

const PREFIX = 'neotaxis.unsent.'
const ASIDE = 'neotaxis.put-aside.'

/**
 * Drawers in the browser's store. Every page has drawers of its own, and holds a lock as long as it lives: so drawers of dead pages can
 * be told. @param storage local to the browser, shared by its pages
 */
export function browserDrawers(storage: Storage, locks: LockManager | undefined): Drawers {
  const page = crypto.randomUUID().slice(0, 8)
  void locks?.request(`${PREFIX}${page}`, () => new Promise(() => {}))
  const keyOf = (jobId: string): string => `${PREFIX}${jobId}.${page}`
  return {
    keep(jobId, base, edits) {
      try {
        if (edits.length === 0) storage.removeItem(keyOf(jobId))
        else storage.setItem(keyOf(jobId), JSON.stringify({ base, edits }))
        return true
      } catch {
        // Full, or not allowed: the page says so, and goes on sending.
        return false
      }
    },
    async left(jobId) {
      const alive = new Set(locks ? ((await locks.query()).held ?? []).map(({ name }) => name) : [])
      const found: Drawer[] = []
      for (const key of Object.keys(storage)) {
        if (!key.startsWith(`${PREFIX}${jobId}.`)) continue
        const owner = key.slice(key.lastIndexOf('.') + 1)
        if (owner !== page && alive.has(`${PREFIX}${owner}`)) continue
        const drawer = readDrawer(storage.getItem(key))
        if (drawer) found.push({ key, ...drawer })
      }
      return found
    },
    drop: (key) => storage.removeItem(key),
    putAside(key) {
      const text = storage.getItem(key)
      storage.removeItem(key)
      try {
        if (text) storage.setItem(`${ASIDE}${key.slice(PREFIX.length)}`, text)
      } catch {
        // No room for what cannot be used.
      }
    },
  }
}

function readDrawer(text: string | null): Omit<Drawer, 'key'> | undefined {
  try {
    const { base, edits } = JSON.parse(text ?? '') as Omit<Drawer, 'key'>
    return typeof base === 'number' && Array.isArray(edits) ? { base, edits } : undefined
  } catch {
    return undefined
  }
}
