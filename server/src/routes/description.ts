import { openApi } from '@neotaxis/contract'
import { Router } from 'express'
import { on } from './endpoint.ts'

/** What can be asked here, for whoever writes programs against it. */
export function descriptionRoutes(): Router {
  const routes = Router()
  let told: object | undefined
  on(routes, 'openapi', (_request, response) => {
    told ??= openApi()
    response.json(told)
  })
  return routes
}
