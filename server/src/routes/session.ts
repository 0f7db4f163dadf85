import express, { type Request, Router } from 'express'
import { identityOf } from '../access/identity.ts'
import { addPerson, admitTry, isShopKey, SESSION_SECONDS, signIn, signOut, tryWasRight } from '../access/sessions.ts'
import type { AccessSettings } from '../access/settings.ts'
import { cookieOf, setCookie } from '../access/sign-in.ts'
import { Person } from '../models/people.ts'
import { Refusal } from '../refusal.ts'
import { bodyOf, on } from './endpoint.ts'

const json = express.json({ limit: '10kb' })

/** Who is signed in at this page; signing in by name and PIN, and out. */
export function sessionRoutes({ shopKey, secure }: Pick<AccessSettings, 'shopKey' | 'secure'>): Router {
  const routes = Router()
  const addressOf = (request: Request): string => request.ip ?? request.socket.remoteAddress ?? ''

  on(routes, 'session', async (request, response) => {
    const identity = identityOf(request)
    const { name = '', composes = false, keeps = false, machines = new Set<string>() } = identity ?? {}
    const person = identity && { name, composes, keeps, machines: machines === 'all' ? 'all' : [...machines] }
    // Without a key everybody on this computer is trusted: nobody signs in.
    if (shopKey === undefined) return void response.json({ signsIn: false, person, names: [], isNew: false })
    const people = await Person.findAll({ attributes: ['name'], order: ['name'] })
    response.json({
      signsIn: true,
      person: person ?? null,
      names: people.map((one) => one.name),
      isNew: people.length === 0,
    })
  })

  on(routes, 'signIn', json, async (request, response) => {
    const { name, pin } = bodyOf('signIn', request)
    const token = await signIn(name, pin, addressOf(request))
    response
      .set('Set-Cookie', setCookie(token, SESSION_SECONDS, secure))
      .status(204)
      .end()
  })

  /** The first one keeps the shop: whoever knows its key. */
  on(routes, 'firstSignIn', json, async (request, response) => {
    const { key, name, pin } = bodyOf('firstSignIn', request)
    if (shopKey === undefined) throw new Refusal(409, 'open', 'Nobody signs in here.')
    const who = [`key from ${addressOf(request)}`]
    await admitTry(who)
    if (!isShopKey(key, shopKey)) throw new Refusal(401, 'wrong-key', 'That is not the key of this shop.')
    await tryWasRight(who)
    if ((await Person.count()) > 0) throw new Refusal(409, 'not-first', 'Somebody keeps this shop already: ask them for a PIN.')
    await addPerson(name, pin, { composes: true, keeps: true })
    const token = await signIn(name, pin, addressOf(request))
    response
      .set('Set-Cookie', setCookie(token, SESSION_SECONDS, secure))
      .status(201)
      .end()
  })

  on(routes, 'signOut', async (request, response) => {
    const token = cookieOf(request.headers)
    if (token) await signOut(token)
    response
      .set('Set-Cookie', setCookie('', 0, secure))
      .status(204)
      .end()
  })
  return routes
}
