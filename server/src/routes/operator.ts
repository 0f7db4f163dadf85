import type { Request } from 'express'
import { Refusal } from '../refusal.ts'

/** Who works here: the name that the page sends. @throws Refusal where it sends none */
export function operatorOf(request: Request): string {
  const header = request.get('X-Operator')
  let name = ''
  try {
    name = decodeURIComponent(header ?? '').trim()
  } catch {
    // No name that could be read.
  }
  if (name === '') throw new Refusal(400, 'no-operator', 'Say who you are first: the name stands at the top.')
  return name.slice(0, 60)
}
