import type { IncomingMessage } from 'node:http'
import type { RequestHandler } from 'express'
import { Refusal } from '../refusal.ts'

/** Names under which this server may be called; a page that makes its own name point here is none of them. */
const LOOPBACK = ['127.0.0.1', 'localhost', '[::1]']

/** Types that a page of another site cannot send without being asked first. */
const TYPES = ['application/json', 'application/octet-stream', 'application/zip']

const SAFE = ['GET', 'HEAD']

/** @param names further host names, without ports */
export const allowedHosts = (names: readonly string[]): ReadonlySet<string> =>
  new Set([...LOOPBACK, ...names.map((name) => name.toLowerCase())])

const nameOf = (host: string): string => host.toLowerCase().replace(/:\d+$/, '')

/** Why a request does not come from this server's own page; undefined where it does, or from no page at all. */
export function strangeRequest(
  { method = 'GET', headers }: Pick<IncomingMessage, 'method' | 'headers'>,
  hosts: ReadonlySet<string>,
  writes = !SAFE.includes(method),
): string | undefined {
  const { host, origin } = headers
  if (!host || !hosts.has(nameOf(host))) return `This server is not called “${host ?? ''}”.`
  if (!writes) return undefined
  const site = headers['sec-fetch-site']
  if (site !== undefined && site !== 'same-origin' && site !== 'none') return 'Another site asked for this.'
  if (origin === undefined) return undefined
  try {
    return new URL(origin).host.toLowerCase() === host.toLowerCase() ? undefined : 'Another site asked for this.'
  } catch {
    return 'Another site asked for this.'
  }
}

/** Lets requests through that come from this server's own pages, or from programs: nothing is changed by any other. */
export const guard =
  (hosts: ReadonlySet<string>): RequestHandler =>
  (request, _response, next) => {
    const strange = strangeRequest(request, hosts)
    if (strange) throw new Refusal(403, 'strange', strange)
    if (request.method === 'POST' || request.method === 'PUT' || request.method === 'PATCH') {
      const type = (request.get('Content-Type') ?? '').split(';')[0].trim().toLowerCase()
      if (!TYPES.includes(type))
        throw new Refusal(415, 'not-json', 'Send JSON (Content-Type: application/json), or a file as bytes.')
    }
    next()
  }
