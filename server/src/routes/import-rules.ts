import { FIRST_RULES, type ImportRule } from '@neotaxis/core'
import express, { Router } from 'express'
import { ShopSetting } from '../models/index.ts'
import { bodyOf, on } from './endpoint.ts'

const NAME = 'import-rules'

/** The shop's import rules; those that every shop begins with where it has settled none. */
export async function importRules(): Promise<readonly ImportRule[]> {
  const row = await ShopSetting.findByPk(NAME)
  return row ? (JSON.parse(row.document) as ImportRule[]) : FIRST_RULES
}

/** What becomes of drawings that are brought in. */
export function importRuleRoutes(): Router {
  const routes = Router()
  on(routes, 'importRules', async (_request, response) => {
    response.json({ rules: await importRules() })
  })
  on(routes, 'saveImportRules', express.json({ limit: '1mb' }), async (request, response) => {
    const rules = (bodyOf('saveImportRules', request) as { rules: ImportRule[] }).rules
    await ShopSetting.upsert({ name: NAME, document: JSON.stringify(rules) })
    response.json({ rules })
  })
  return routes
}
