/**
 * Asks the server at an address, each time on a connection of its own: one that was kept may be closed by the server just while a job
 * is worked out here, and then nobody knows whether what was sent on it arrived.
 * @throws Error with what the server answered, where it refuses
 */
export const asking =
  (address: string) =>
  async <T>(path: string, init: RequestInit = {}): Promise<T> => {
    const response = await fetch(`${address}/api${path}`, {
      ...init,
      headers: { ...(init.headers as Record<string, string> | undefined), Connection: 'close' },
    })
    if (!response.ok) throw new Error(`${path}: ${response.status} ${await response.text()}`)
    return (await response.json()) as T
  }
