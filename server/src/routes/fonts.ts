import { Router } from 'express'
import { FontRow } from '../models/artwork.ts'
import { on } from './endpoint.ts'

/** The fonts that texts can be written with: those that ship first, then the shop's own. A font comes in as an asset. */
export function fontRoutes(): Router {
  const routes = Router()
  on(routes, 'fonts', async (_request, response) => {
    const rows = await FontRow.findAll({
      order: [
        ['shipped', 'DESC'],
        ['createdAt', 'ASC'],
      ],
    })
    response.json({ fonts: rows.map(({ sha256, name, shipped }) => ({ asset: sha256, name, shipped })) })
  })
  return routes
}
