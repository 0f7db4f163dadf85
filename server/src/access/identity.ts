import type { Request } from 'express'
import { Refusal } from '../refusal.ts'

/** Who asks, and what they may do. */
export interface Identity {
  /** Empty where nobody has said who they are. */
  readonly name: string
  readonly composes: boolean
  readonly keeps: boolean
  /** Machines that they may run; `all` where the shop does not ask for certificates. */
  readonly machines: ReadonlySet<string> | 'all'
}

const WHO = Symbol('identity')

export function setIdentity(request: Request, identity: Identity): void {
  Object.assign(request, { [WHO]: identity })
}

export const identityOf = (request: Request): Identity | undefined => (request as { [WHO]?: Identity })[WHO]

/** Who works here, by name. @throws Refusal where nobody said it */
export function operatorOf(request: Request): string {
  const name = identityOf(request)?.name ?? ''
  if (name === '') throw new Refusal(400, 'no-operator', 'Say who you are first: the name stands at the top.')
  return name
}

/** A name as a header carries it. */
export function nameIn(header: string | undefined): string {
  try {
    return decodeURIComponent(header ?? '')
      .trim()
      .slice(0, 60)
  } catch {
    return ''
  }
}
