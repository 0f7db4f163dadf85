import type { Edit } from '@neotaxis/core'

/**
 * Edits on their way to the server, kept in the browser until it has them: a closed tab or a lost connection loses none.
 * Every page has a drawer of its own and holds a lock as long as it lives, so that drawers of dead pages can be told.
 */
const PREFIX = 'neotaxis.unsent.'
const page = crypto.randomUUID().slice(0, 8)

if ('locks' in navigator) void navigator.locks.request(`${PREFIX}${page}`, () => new Promise(() => {}))

interface Drawer {
  readonly base: number
  readonly edits: readonly Edit[]
}

const keyOf = (jobId: string, owner = page): string => `${PREFIX}${jobId}.${owner}`

export function keepUnsent(jobId: string, base: number, edits: readonly Edit[]): void {
  if (edits.length === 0) localStorage.removeItem(keyOf(jobId))
  else localStorage.setItem(keyOf(jobId), JSON.stringify({ base, edits } satisfies Drawer))
}

/** Takes over what pages that are gone could not send for a job. @returns the drawers, each with the revision it was made on */
export async function adoptUnsent(jobId: string): Promise<readonly Drawer[]> {
  const alive = new Set('locks' in navigator ? ((await navigator.locks.query()).held ?? []).map(({ name }) => name) : [])
  const found: Drawer[] = []
  for (const key of Object.keys(localStorage)) {
    if (!key.startsWith(`${PREFIX}${jobId}.`)) continue
    const owner = key.slice(key.lastIndexOf('.') + 1)
    if (owner !== page && alive.has(`${PREFIX}${owner}`)) continue
    const text = localStorage.getItem(key)
    if (text) found.push(JSON.parse(text) as Drawer)
  }
  return found
}

/** Empties the drawers of pages that are gone; their edits are with the server. */
export async function dropAdopted(jobId: string): Promise<void> {
  const alive = new Set('locks' in navigator ? ((await navigator.locks.query()).held ?? []).map(({ name }) => name) : [])
  for (const key of Object.keys(localStorage)) {
    if (!key.startsWith(`${PREFIX}${jobId}.`)) continue
    const owner = key.slice(key.lastIndexOf('.') + 1)
    if (owner !== page && !alive.has(`${PREFIX}${owner}`)) localStorage.removeItem(key)
  }
}
