import Joi from 'joi'
import { id, moment, text, whole } from './words.ts'

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

export const sessionTold = whole({
  signsIn: Joi.boolean(),
  person: whole({
    name: text,
    composes: Joi.boolean(),
    keeps: Joi.boolean(),
    machines: Joi.alternatives(Joi.valid('all'), Joi.array().items(id)),
  }).allow(null),
  names: Joi.array().items(Joi.string()),
  isNew: Joi.boolean(),
})

const name = Joi.string().trim().min(1).max(60)
const pin = Joi.string().pattern(/^\d{4,12}$/, 'a PIN of 4 to 12 digits')

export interface SignIn {
  readonly name: string
  readonly pin: string
}
export const signIn = whole({ name, pin })
export const firstSignIn = whole({ key: Joi.string().max(500), name, pin })

export interface PersonTold {
  readonly id: string
  readonly name: string
  readonly composes: boolean
  readonly keeps: boolean
  readonly certificates: readonly { readonly machineId: string; readonly certifiedBy: string; readonly untilAt: string | null }[]
}

export const personTold = whole({
  id,
  name: text,
  composes: Joi.boolean(),
  keeps: Joi.boolean(),
  certificates: Joi.array().items(whole({ machineId: id, certifiedBy: text, untilAt: moment.allow(null) })),
})

export interface NewPerson extends SignIn {
  readonly composes: boolean
  readonly keeps: boolean
}
export const newPerson = whole({ name, pin, composes: Joi.boolean(), keeps: Joi.boolean() })

export interface PersonChange {
  readonly pin?: string
  readonly composes?: boolean
  readonly keeps?: boolean
}
export const personChange = Joi.object<PersonChange>({ pin, composes: Joi.boolean(), keeps: Joi.boolean() }).min(1)

export interface CertificateWish {
  /** The last day that it counts; null: without end. */
  readonly until: Date | null
}
export const certificateWish = Joi.object<CertificateWish>({ until: Joi.date().iso().allow(null).required() })
