import type { AnswerOf } from '@neotaxis/contract'
import { addressOf, misshapen, PATHS, type PathName } from '@neotaxis/contract/paths'
import { call, ServerRefusal } from './call.ts'

/** What is sent with a question: what stands in its address, what is asked beside it, and its body. */
export interface Asking {
  readonly params?: Readonly<Record<string, string>>
  readonly query?: Readonly<Record<string, string | number | undefined>>
  /** As JSON. */
  readonly body?: object
  /** A file as it is. */
  readonly file?: Blob
  readonly signal?: AbortSignal
}

/** The server speaks another version than this page. */
export class OtherShape extends ServerRefusal {
  constructor(what: string) {
    super(502, 'other-shape', `The server answered in a way that this page does not understand: ${what}. Load the page again.`)
  }
}

/** Asks the server at an address of the contract. @throws ServerAway, ServerRefusal, OtherShape */
export async function ask<N extends PathName>(name: N, { params, query, body, file, signal }: Asking = {}): Promise<AnswerOf<N>> {
  const { method, holds } = PATHS[name]
  const response = await call(addressOf(name, params, query), {
    method,
    ...(signal && { signal }),
    ...(file && { headers: { 'Content-Type': 'application/octet-stream' }, body: file }),
    ...(body && { body: JSON.stringify(body) }),
  })
  if (!holds) return undefined as AnswerOf<N>
  const answer: unknown = await response.json().catch(() => undefined)
  const wrong = misshapen(name, answer)
  if (wrong) throw new OtherShape(wrong)
  return answer as AnswerOf<N>
}
