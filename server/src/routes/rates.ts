import { FIRST_RATES, type Rates } from '@neotaxis/core'
import express, { Router } from 'express'
import { ShopSetting } from '../models/index.ts'
import { bodyOf, on } from './endpoint.ts'

const NAME = 'rates'

/** What the shop counts for time. */
export function rateRoutes(): Router {
  const routes = Router()
  on(routes, 'rates', async (_request, response) => {
    const row = await ShopSetting.findByPk(NAME)
    response.json({ rates: row ? (JSON.parse(row.document) as Rates) : FIRST_RATES })
  })
  on(routes, 'saveRates', express.json({ limit: '10kb' }), async (request, response) => {
    const { rates } = bodyOf('saveRates', request) as { rates: Rates }
    await ShopSetting.upsert({ name: NAME, document: JSON.stringify(rates) })
    response.json({ rates })
  })
  return routes
}
