import { type BodyOf, ENDPOINTS, type Endpoint, id, PATHS, type PathName, type QueryOf } from '@neotaxis/contract'
import type { Request, RequestHandler, Response, Router } from 'express'
import { validated } from './validate.ts'

type Look = (name: PathName, answer: unknown) => void
let look: Look | undefined

/** Looks at every JSON answer before it is sent: for tests, which compare it with what is promised. */
export function lookAtAnswers(at: Look | undefined): void {
  look = at
}

/** Serves an address of the contract. */
export function on(routes: Router, name: PathName, ...handlers: RequestHandler[]): void {
  const { method, path } = PATHS[name]
  const watch: RequestHandler = (_request, response, next) => {
    if (look) watched(name, response)
    next()
  }
  routes[method.toLowerCase() as 'get'](path, watch, ...handlers)
}

function watched(name: PathName, response: Response): void {
  const send = response.send.bind(response)
  response.send = (body) => {
    const type = String(response.get('Content-Type') ?? '')
    if (look && response.statusCode < 300 && type.startsWith('application/json') && body !== undefined)
      look(name, JSON.parse(String(body)))
    return send(body)
  }
}

/** What was sent, checked. @throws Refusal */
export const bodyOf = <N extends PathName>(name: N, request: Request): BodyOf<N> =>
  validated((ENDPOINTS[name] as Endpoint).body!, request.body) as BodyOf<N>

/** What is asked beside the address, checked. @throws Refusal */
export const queryOf = <N extends PathName>(name: N, request: Request): QueryOf<N> =>
  validated((ENDPOINTS[name] as Endpoint).query!, request.query) as QueryOf<N>

/** The name in the address, checked. @throws Refusal */
export const idIn = ({ params }: Pick<Request, 'params'>, key = 'id'): string => validated(id.required(), params[key]) as string
