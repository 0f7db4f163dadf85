import { call, json, read, send } from './call.ts'

/** Somebody who is signed in, and what they may do. */
export interface SignedInPerson {
  readonly name: string
  readonly composes: boolean
  readonly keeps: boolean
  readonly machines: readonly string[] | 'all'
}

export interface SessionTold {
  /** Whether operators sign in here at all. */
  readonly signsIn: boolean
  readonly person: SignedInPerson | null
  readonly names: readonly string[]
  /** Nobody keeps this shop yet. */
  readonly isNew: boolean
}

export interface PersonTold {
  readonly id: string
  readonly name: string
  readonly composes: boolean
  readonly keeps: boolean
  readonly certificates: readonly { readonly machineId: string; readonly certifiedBy: string; readonly untilAt: string | null }[]
}

export const sessionApi = {
  who: () => read<SessionTold>(call('/session')),
  signIn: (name: string, pin: string) => send('/session', { name, pin }),
  first: (key: string, name: string, pin: string) => send('/session/first', { key, name, pin }),
  signOut: () => send('/session', undefined, 'DELETE'),
}

export const peopleApi = {
  all: () => read<{ people: PersonTold[] }>(call('/people')),
  add: (person: { name: string; pin: string; composes: boolean; keeps: boolean }) =>
    read<{ id: string }>(call('/people', json(person))),
  change: (id: string, change: { pin?: string; composes?: boolean; keeps?: boolean }) => send(`/people/${id}`, change, 'PATCH'),
  remove: (id: string) => send(`/people/${id}`, undefined, 'DELETE'),
  certify: (id: string, machine: string, until: string | null) => send(`/people/${id}/certificates/${machine}`, { until }, 'PUT'),
  uncertify: (id: string, machine: string) => send(`/people/${id}/certificates/${machine}`, undefined, 'DELETE'),
}
