import { Router } from 'express'
import type { Sequelize } from 'sequelize'
import { on } from './endpoint.ts'

/** A database that is busy may be later than this: then what was known of it last is told, ms. */
const SOON_MS = 30

/** Whether this process can do its work. It answers at once, however busy the database is; that it is away is known when it says so. */
export function healthRoutes(sequelize: Sequelize): Router {
  const routes = Router()
  let isThere = true
  let looking: Promise<void> | undefined
  const look = (): Promise<void> => {
    looking ??= sequelize
      .query('SELECT 1')
      .then(
        () => {
          isThere = true
        },
        () => {
          isThere = false
        },
      )
      .finally(() => {
        looking = undefined
      })
    return looking
  }
  on(routes, 'health', async (_request, response) => {
    let timer: ReturnType<typeof setTimeout> | undefined
    await Promise.race([
      look(),
      new Promise<void>((resolve) => {
        timer = setTimeout(resolve, SOON_MS)
      }),
    ])
    clearTimeout(timer)
    if (isThere) response.json({ status: 'ok', database: 'ok' })
    else response.status(503).json({ status: 'failing', database: 'away' })
  })
  return routes
}
