// A worker holds a lock of the browser as long as it lives; the page waits for that lock, and so learns of its death at once.

/** In a worker: holds the lock for good. */
export function holdLife(name: string): void {
  void navigator.locks?.request(name, () => new Promise(() => {}))
}

const SOON_MS = 50

/** On the page: settles when a lock that somebody held is free again; never where locks cannot be used, or when it is called off. */
export async function lockIsFree(name: string, signal: AbortSignal): Promise<void> {
  const never = new Promise<void>(() => {})
  // Pages that did not come over TLS, nor from this computer, have no locks.
  if (!navigator.locks) return never
  // It must be held first.
  while (!((await navigator.locks.query()).held ?? []).some((lock) => lock.name === name)) {
    if (signal.aborted) return never
    await new Promise((resolve) => setTimeout(resolve, SOON_MS))
  }
  try {
    await navigator.locks.request(name, { signal }, () => {})
  } catch {
    return never
  }
}
