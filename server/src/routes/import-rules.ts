import { FIRST_RULES, type ImportRule, importRulesSchema } from '@neotaxis/core'
import express, { Router } from 'express'
import { ShopSetting } from '../models/index.ts'
import { validated } from './validate.ts'

const NAME = 'import-rules'

/** The shop's import rules; those that every shop begins with where it has settled none. */
export async function importRules(): Promise<readonly ImportRule[]> {
  const row = await ShopSetting.findByPk(NAME)
  return row ? (JSON.parse(row.document) as ImportRule[]) : FIRST_RULES
}

/** What becomes of drawings that are brought in. */
export function importRuleRoutes(): Router {
  const routes = Router()
  routes.get('/import-rules', async (_request, response) => {
    response.json({ rules: await importRules() })
  })
  routes.put('/import-rules', express.json({ limit: '1mb' }), async (request, response) => {
    const rules = validated<ImportRule[]>(importRulesSchema, (request.body as { rules?: unknown } | undefined)?.rules)
    await ShopSetting.upsert({ name: NAME, document: JSON.stringify(rules) })
    response.json({ rules })
  })
  return routes
}
