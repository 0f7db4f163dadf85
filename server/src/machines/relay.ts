import type { DeskLive } from '@neotaxis/contract'
import type { Request, Response } from 'express'
import { Refusal } from '../refusal.ts'
import type { Lease } from './leases.ts'

const ORDER_MS = 20_000
const LIVE_MS = 2000

/** By these an order is known to come from a server that stands on the same database, and who gave it. */
export const RELAY_SECRET = 'x-neotaxis-relay'
export const RELAY_OPERATOR = 'x-neotaxis-by'

/** Where an order goes; undefined where its path would lead elsewhere there than what was looked at here. */
export function relayTarget({ url }: Pick<Lease, 'url'>, originalUrl: string): URL | undefined {
  const target = new URL(`${url}${originalUrl}`)
  return target.origin === new URL(url).origin && target.pathname === originalUrl.replace(/[?#].*$/, '') ? target : undefined
}

/** Passes an order on to the server that has the machine, and its answer back. */
export async function passOn(lease: Lease, operator: string, request: Request, response: Response): Promise<void> {
  const { method, originalUrl } = request
  const target = relayTarget(lease, originalUrl)
  if (!target) throw new Refusal(404, 'not-found', 'There is nothing here.')
  let answer: globalThis.Response
  try {
    answer = await fetch(target, {
      method,
      headers: {
        'Content-Type': 'application/json',
        [RELAY_SECRET]: lease.secret,
        [RELAY_OPERATOR]: encodeURIComponent(operator),
      },
      ...(request.body !== undefined && method !== 'GET' && { body: JSON.stringify(request.body) }),
      signal: AbortSignal.timeout(ORDER_MS),
    })
  } catch {
    response.status(503).json({
      code: 'server-away',
      message: 'The server that has this machine does not answer. In a few seconds another one takes it over: try again then.',
    })
    return
  }
  const body = Buffer.from(await answer.arrayBuffer())
  const type = answer.headers.get('content-type')
  if (type) response.set('Content-Type', type)
  response.status(answer.status).send(body.length > 0 ? body : undefined)
}

/** How another server's machines stand; none where it does not answer. */
export async function liveOf(lease: Lease): Promise<readonly DeskLive[]> {
  try {
    const answer = await fetch(`${lease.url}/api/live`, {
      headers: { [RELAY_SECRET]: lease.secret },
      signal: AbortSignal.timeout(LIVE_MS),
    })
    const { machines } = (await answer.json()) as { machines: readonly DeskLive[] }
    return machines.filter(({ server }) => server === null)
  } catch {
    return []
  }
}
