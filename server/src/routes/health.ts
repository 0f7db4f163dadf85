import { Router } from 'express'
import type { Sequelize } from 'sequelize'

/** Whether this process can do its work. */
export function healthRoutes(sequelize: Sequelize): Router {
  const routes = Router()
  routes.get('/health', async (_request, response) => {
    try {
      await sequelize.query('SELECT 1')
      response.json({ status: 'ok', database: 'ok' })
    } catch {
      response.status(503).json({ status: 'failing', database: 'away' })
    }
  })
  return routes
}
