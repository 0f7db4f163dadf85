/** The server's answer when something cannot be done; `message` is a sentence for the operator. */
export class ServerRefusal extends Error {
  readonly status: number
  readonly code: string
  constructor(status: number, code: string, message: string) {
    super(message)
    this.status = status
    this.code = code
  }
}

/** The server cannot be reached, or cannot work just now. */
export class ServerAway extends Error {
  constructor(message = 'The server is not answering. It will be tried again.') {
    super(message)
  }
}

/** Answers after which the same may be done later: by its own sentence where that says more. */
const AWAY: Readonly<Record<string, 'as it says' | 'away'>> = {
  'database-away': 'away',
  'disk-full': 'as it says',
  busy: 'as it says',
}

let onSignedOut = (): void => {}

/** Told when the server says that nobody is signed in here any more. */
export const listenSignedOut = (listener: () => void): void => {
  onSignedOut = listener
}

let operator = ''

/** Who works here: sent with every request. */
export const sendAs = (name: string): void => {
  operator = name
}

/** A request to the server. @throws ServerAway, ServerRefusal */
export async function call(path: string, init?: RequestInit): Promise<Response> {
  let response: Response
  try {
    const headers = {
      // Nothing is changed by a request that another site could make: all of them are JSON, or bytes.
      ...(init?.method && init.method !== 'GET' && { 'Content-Type': 'application/json' }),
      ...(init?.headers as Record<string, string> | undefined),
      ...(operator && { 'X-Operator': encodeURIComponent(operator) }),
    }
    response = await fetch(`/api${path}`, { ...init, headers })
  } catch {
    throw new ServerAway()
  }
  if (response.ok) return response
  const answer = (await response.json().catch(() => null)) as { code?: string; message?: string } | null
  // A proxy without its server answers without a code of ours.
  if (!answer?.code) throw new ServerAway()
  const away = AWAY[answer.code]
  if (away) throw new ServerAway(away === 'as it says' ? answer.message : undefined)
  if (response.status === 401 && answer.code === 'signed-out') onSignedOut()
  throw new ServerRefusal(response.status, answer.code, answer.message ?? 'The server refused.')
}

export const json = (body: unknown): RequestInit => ({
  method: 'POST',
  headers: { 'Content-Type': 'application/json' },
  body: JSON.stringify(body),
})
export const read = async <T>(response: Promise<Response>): Promise<T> => (await response).json() as Promise<T>

/** A request whose answer is only that it was done. */
export const send = async (path: string, body?: unknown, method = 'POST'): Promise<void> => {
  await call(path, body === undefined ? { method } : { ...json(body), method })
}
