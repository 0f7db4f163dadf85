import { randomUUID } from 'node:crypto'
import type { MonthUse, StockSaid, StockUse } from '@neotaxis/contract'
import express, { Router } from 'express'
import { Op, QueryTypes } from 'sequelize'
import { Stock, StockUseRow } from '../models/stock.ts'
import { Refusal } from '../refusal.ts'
import { columnsOf, newCode, shapeOf, told, typedCode } from '../stock/stock-item.ts'
import { undo } from '../stock/write-use.ts'
import type { Work } from '../work/work.ts'
import { bodyOf, idIn, on, queryOf } from './endpoint.ts'

/** % and _ are characters, not patterns. */
const plain = (text: string): string => text.replaceAll(/[\\%_]/g, '\\$&')

const gone = (): Refusal => new Refusal(404, 'no-stock', 'This is not on the shelf any more.')

const useTold = ({ id, stockId, runId, name, material, areaMm2, cents, note, at }: StockUseRow): StockUse => ({
  id,
  stockId,
  runId,
  name,
  material,
  areaMm2,
  cents,
  note,
  at: new Date(at).toISOString(),
})

/** An outline has at most so many corners on the way here. */
const json = express.json({ limit: '4mb' })

/** What lies on the shelf, and what was taken of it. */
export function stockRoutes(work: Work): Router {
  const routes = Router()
  on(routes, 'stock', async (request, response) => {
    const { search } = queryOf('stock', request)
    const like = { [Op.like]: `%${plain(search)}%` }
    const rows = await Stock.findAll({
      where: search ? { [Op.or]: [{ name: like }, { shelf: like }, { note: like }, { code: typedCode(search) }] } : {},
      order: [
        ['areaMm2', 'ASC'],
        ['id', 'ASC'],
      ],
      limit: 1000,
    })
    response.json({ stock: rows.map(told) })
  })
  on(routes, 'keepStock', json, async (request, response) => {
    const said = bodyOf('keepStock', request) as StockSaid
    const row = await Stock.create({ id: randomUUID(), code: newCode(), ...(columnsOf(said) as StockSaid & Columns) })
    response.status(201).json(told(row))
  })
  on(routes, 'stockByCode', async (request, response) => {
    const row = await Stock.findOne({ where: { code: typedCode(String(request.params.code)).slice(0, 12) } })
    if (!row) throw new Refusal(404, 'no-code', 'Nothing on the shelf has this code: look whether it was typed as it is written.')
    response.json(told(row))
  })
  on(routes, 'stockUses', async (request, response) => {
    const { stock, run } = queryOf('stockUses', request)
    const rows = await StockUseRow.findAll({
      where: { takenBackAt: null, ...(stock && { stockId: stock }), ...(run && { runId: run }) },
      order: [['at', 'DESC']],
      limit: 300,
    })
    response.json({ uses: rows.map(useTold) })
  })
  on(routes, 'stockMonths', async (_request, response) => {
    const months = await Stock.sequelize!.query<MonthUse>(
      `SELECT DATE_FORMAT(at, '%Y-%m') AS month, material, SUM(areaMm2) AS areaMm2, SUM(cents) AS cents, COUNT(*) AS runs
       FROM stock_uses WHERE takenBackAt IS NULL GROUP BY month, material ORDER BY month DESC, areaMm2 DESC LIMIT 600`,
      { type: QueryTypes.SELECT },
    )
    const numbered = months.map(({ month, material, areaMm2, cents, runs }) => ({
      month,
      material,
      areaMm2: Number(areaMm2),
      cents: Number(cents),
      runs: Number(runs),
    }))
    response.json({ months: numbered })
  })
  on(routes, 'useStock', express.json({ limit: '1kb' }), async (request, response) => {
    const { run } = bodyOf('useStock', request) as { run: string }
    const ids = await work.run('writeUse', { runId: run, asked: true })
    if (ids.length === 0)
      throw new Refusal(409, 'no-use', 'This run took nothing from stock: its workpiece is from nowhere, or it goes on still.')
    const rows = await StockUseRow.findAll({ where: { id: ids } })
    response.status(201).json({ uses: rows.map(useTold) })
  })
  on(routes, 'takeBackUse', async (request, response) => {
    const key = idIn(request)
    await Stock.sequelize!.transaction(async (transaction) => {
      const use = await StockUseRow.findByPk(key, { transaction, lock: transaction.LOCK.UPDATE })
      if (!use || use.takenBackAt) throw new Refusal(404, 'no-use', 'This was taken back already.')
      const why = await undo(use, transaction)
      if (why) throw new Refusal(409, 'used-since', why)
      await use.update({ takenBackAt: new Date() }, { transaction })
    })
    response.status(204).end()
  })
  on(routes, 'changeStock', json, async (request, response) => {
    const change = bodyOf('changeStock', request) as Partial<StockSaid>
    // Changes that follow each other quickly take turns: each answer tells all that was said before it.
    const row = await Stock.sequelize!.transaction(async (transaction) => {
      const found = await Stock.findByPk(idIn(request), { transaction, lock: transaction.LOCK.UPDATE })
      if (!found) throw gone()
      return found.update(columnsOf(change, shapeOf(found)), { transaction })
    })
    response.json(told(row))
  })
  on(routes, 'removeStock', async (request, response) => {
    const row = await Stock.findByPk(idIn(request))
    if (!row) throw gone()
    await row.destroy()
    response.status(204).end()
  })
  on(routes, 'restoreStock', async (request, response) => {
    const row = await Stock.findByPk(idIn(request), { paranoid: false })
    if (!row) throw gone()
    await row.restore()
    response.status(204).end()
  })
  return routes
}

type Columns = Pick<Stock, 'piece' | 'areaMm2'>
