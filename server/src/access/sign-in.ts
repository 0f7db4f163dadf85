import type { IncomingHttpHeaders } from 'node:http'
import type { RequestHandler } from 'express'
import type { Desks } from '../machines/desks.ts'
import { RELAY_OPERATOR, RELAY_SECRET } from '../machines/relay.ts'
import { Refusal } from '../refusal.ts'
import { type Identity, nameIn, setIdentity } from './identity.ts'
import { needOf, refusalOf } from './rights.ts'
import { whoIs } from './sessions.ts'

const COOKIE = 'neotaxis_session'

export const cookieOf = (headers: IncomingHttpHeaders): string | undefined =>
  new RegExp(`(?:^|;\\s*)${COOKIE}=([\\w-]{20,100})`).exec(headers.cookie ?? '')?.[1]

/** @param seconds 0 takes it away */
export const setCookie = (token: string, seconds: number, secure: boolean): string =>
  `${COOKIE}=${token}; Path=/; HttpOnly; SameSite=Strict; Max-Age=${seconds}${secure ? '; Secure' : ''}`

/** Everybody on this computer is trusted: who they are is what they say. */
const trusted = (name: string): Identity => ({ name, composes: true, keeps: true, machines: 'all' })

/** Whom a request comes from; undefined where nobody is signed in. */
export async function identify(
  headers: IncomingHttpHeaders,
  desks: Desks,
  shopKey: string | undefined,
): Promise<Identity | undefined> {
  const relay = headers[RELAY_SECRET]
  // Rights were looked at by the server that passes it on.
  if (typeof relay === 'string' && desks.isRelay(relay)) return trusted(nameIn(String(headers[RELAY_OPERATOR] ?? '')))
  if (shopKey === undefined) return trusted(nameIn(headers['x-operator'] as string | undefined))
  const token = cookieOf(headers)
  return token ? whoIs(token) : undefined
}

/** Requests that are answered before anybody is signed in. @param path below `/api` */
const isOpen = (method: string, path: string): boolean =>
  path === '/health' || (path === '/session' && method !== 'DELETE') || (path === '/session/first' && method === 'POST')

/** Nobody does what they may not, and a run says who really started it. */
export const signedIn =
  (desks: Desks, shopKey: string | undefined): RequestHandler =>
  async (request, _response, next) => {
    const identity = await identify(request.headers, desks, shopKey)
    if (identity) setIdentity(request, identity)
    if (isOpen(request.method, request.path)) return next()
    if (!identity) throw new Refusal(401, 'signed-out', 'Sign in first.')
    const why = refusalOf(identity, needOf(request.method, request.path), (run) => desks.machineOfRun(run))
    if (why) throw new Refusal(403, 'not-allowed', why)
    next()
  }
