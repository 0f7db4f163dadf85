import { createHash, randomBytes, timingSafeEqual } from 'node:crypto'
import { nanoid } from 'nanoid'
import { Op } from 'sequelize'
import { Certificate, Person, Session, SignInTry } from '../models/people.ts'
import { Refusal } from '../refusal.ts'
import type { Identity } from './identity.ts'
import { hashPin, isPin } from './pin.ts'

const HOURS = 14
export const SESSION_SECONDS = HOURS * 3600
/** After so many wrong PINs in a row each further try waits longer, s. */
const FREE_TRIES = 4
const LONGEST_WAIT_S = 900

const hashed = (token: string): string => createHash('sha256').update(token).digest('hex')

/** Whether a shop key is the right one, in the same time whatever is wrong with it. */
export const isShopKey = (told: string, key: string): boolean =>
  timingSafeEqual(createHash('sha256').update(told).digest(), createHash('sha256').update(key).digest())

/** How long nobody may try again after so many failures, s. */
export const waitAfter = (failures: number): number =>
  failures < FREE_TRIES ? 0 : Math.min(LONGEST_WAIT_S, 15 * 2 ** (failures - FREE_TRIES))

async function mayTry(who: readonly string[]): Promise<void> {
  for (const tries of await SignInTry.findAll({ where: { who: [...who] } })) {
    const left = tries.lastAt.getTime() / 1000 + waitAfter(tries.failures) - Date.now() / 1000
    if (left > 0) throw new Refusal(429, 'too-often', `Too many wrong tries: wait ${Math.ceil(left)} s.`)
  }
}

async function count(who: readonly string[]): Promise<void> {
  for (const one of who) {
    const [row] = await SignInTry.findOrCreate({ where: { who: one }, defaults: { who: one, failures: 0, lastAt: new Date() } })
    await row.increment('failures')
    await row.update({ lastAt: new Date() })
  }
}

let inLine: Promise<unknown> = Promise.resolve()

/**
 * Lets a try in, one after the other: it counts before it is looked at, so that many at once are as many tries.
 * @throws Refusal where it was tried too often
 */
export function admitTry(who: readonly string[]): Promise<void> {
  const mine = inLine.then(async () => {
    await mayTry(who)
    await count(who)
  })
  inLine = mine.catch(() => {})
  return mine
}

/** A try was right: those before it are forgotten. */
export const tryWasRight = async (who: readonly string[]): Promise<void> => {
  await SignInTry.destroy({ where: { who: [...who] } })
}

/**
 * Signs somebody in by name and PIN. Tries count for the name and for the address they come from.
 * @returns what the page's cookie holds @throws Refusal
 */
export async function signIn(name: string, pin: string, address: string): Promise<string> {
  const who = [`name ${name}`, `from ${address}`]
  await admitTry(who)
  const person = await Person.findOne({ where: { name } })
  const right = await isPin(pin, person?.pin ?? (await NOBODY))
  if (!person || !right) throw new Refusal(401, 'wrong-pin', 'That is not the PIN of this name.')
  await tryWasRight(who)
  return open(person.id)
}

/** Takes as long as a real one. */
const NOBODY = hashPin(randomBytes(8).toString('hex'))

async function open(personId: string): Promise<string> {
  const token = randomBytes(32).toString('base64url')
  await Session.destroy({ where: { expiresAt: { [Op.lt]: new Date() } } })
  await Session.create({ token: hashed(token), personId, expiresAt: new Date(Date.now() + SESSION_SECONDS * 1000) })
  return token
}

export const signOut = async (token: string): Promise<void> => {
  await Session.destroy({ where: { token: hashed(token) } })
}

/** Who is signed in with a cookie's token; undefined where nobody is any more. */
export async function whoIs(token: string): Promise<(Identity & { readonly id: string }) | undefined> {
  const session = await Session.findOne({ where: { token: hashed(token), expiresAt: { [Op.gt]: new Date() } } })
  const person = session && (await Person.findByPk(session.personId))
  if (!person) return undefined
  const now = new Date()
  const certificates = await Certificate.findAll({ where: { personId: person.id } })
  const machines = new Set(certificates.filter(({ untilAt }) => !untilAt || untilAt > now).map(({ machineId }) => machineId))
  return { id: person.id, name: person.name, composes: person.composes || person.keeps, keeps: person.keeps, machines }
}

/** Adds somebody. @throws Refusal where the name is taken */
export async function addPerson(name: string, pin: string, may: { composes: boolean; keeps: boolean }): Promise<Person> {
  if (await Person.findOne({ where: { name } })) throw new Refusal(409, 'taken', `There is a ${name} already.`)
  return Person.create({ id: nanoid(12), name, pin: await hashPin(pin), ...may })
}
