import { randomUUID } from 'node:crypto'
import {
  burnedPieces,
  burnOrder,
  checkJob,
  faceEdge,
  faceOutline,
  type JobDocument,
  JobError,
  jobForRun,
  leftOver,
  materialOf,
  outlineArea,
  type Ring,
  type RunScope,
  ringsBounds,
  throughCuts,
} from '@neotaxis/core'
import { Op, type Transaction } from 'sequelize'
import { jobSupply } from '../assets/job-assets.ts'
import { Run } from '../models/runs.ts'
import { Stock, StockUseRow } from '../models/stock.ts'
import { newCode, shapeOf } from './stock-item.ts'

/** What a use changed, so that it can be taken back. */
export interface Before {
  readonly kind: Stock['kind']
  readonly name: string
  readonly count: number
  readonly piece: string
  readonly areaMm2: number
  readonly cents: number
}

export const beforeOf = ({ kind, name, count, piece, areaMm2, cents }: Stock): Before => ({
  kind,
  name,
  count,
  piece,
  areaMm2,
  cents,
})

/** One workpiece of a run, and what is left of it. */
interface Taken {
  readonly stockId: string
  readonly cents: number
  readonly material: string
  readonly left: ReturnType<typeof leftOver>
}

/**
 * What a run took from stock is written down, and what it left goes back on the shelf. A run that makes another good is about the same
 * piece: what was written down for it is worked out anew. Told twice, it is the same. In a thread.
 * @returns ids of the uses; none where the run burned nothing of stock, or is not finished with its piece
 */
export async function writeUse({ runId, asked }: { runId: string; asked?: boolean }): Promise<string[]> {
  const run = await Run.findByPk(runId)
  if (!run || !['done', 'carried', ...(asked ? ['stopped', 'lost'] : [])].includes(run.phase)) return []
  const first = run.parentId ?? run.id
  const chain = await Run.findAll({ where: { parentId: first }, attributes: ['scope', 'phase'] })
  const root = run.parentId ? await Run.findByPk(first) : run
  const done = [...(root ? [root] : []), ...chain]
  const job = readRun(run)
  if (!job) return []
  const taken = await takenBy(
    job,
    done.map(({ scope }) => JSON.parse(scope) as RunScope),
    asked === true,
  )
  const uses: string[] = []
  for (const each of taken)
    uses.push(
      await Run.sequelize!.transaction((transaction) => put(each, { runId: first, name: run.name, at: new Date() }, transaction)),
    )
  return uses
}

function readRun({ document }: Run): JobDocument | undefined {
  try {
    return checkJob(JSON.parse(document))
  } catch (cause) {
    if (cause instanceof JobError || cause instanceof SyntaxError) return undefined
    throw cause
  }
}

/** Which pieces of stock the runs on a piece used, by all that they burned. */
async function takenBy(job: JobDocument, scopes: readonly RunScope[], asked: boolean): Promise<Taken[]> {
  const pieces = Object.entries(job.workpieces).filter(([, { stock }]) => stock !== undefined)
  if (pieces.length === 0) return []
  const supply = await jobSupply(job)
  const only = scopes.some((scope) => scope.only === undefined)
    ? undefined
    : [...new Set(scopes.flatMap((scope) => scope.only ?? []))].filter((id) => burnOrder(job).includes(id))
  const burned = jobForRun(job, { ...(only && { only }), changes: Object.assign({}, ...scopes.map(({ changes }) => changes)) })
  return pieces.flatMap(([id, { stock }]): Taken[] => {
    const isBurned = burnOrder(burned).some((op) =>
      burnedPieces(burned, burned.operations[op]).some(({ workpieceId }) => workpieceId === id),
    )
    // A part of a job that has its cuts before it is not finished with the piece.
    const waits = only !== undefined && throughCuts(job, supply, id).length > 0 && throughCuts(burned, supply, id).length === 0
    if (!isBurned || (waits && !asked)) return []
    return [{ stockId: stock!.id, cents: stock!.cents, material: materialOf(job, id).name, left: leftOver(burned, supply, id) }]
  })
}

/** One thing on the shelf is less by what was taken. @returns the id of the use */
async function put(
  { stockId, cents, material, left }: Taken,
  { runId, name, at }: { runId: string; name: string; at: Date },
  transaction: Transaction,
): Promise<string> {
  const known = await StockUseRow.findOne({ where: { runId, stockId }, transaction, lock: transaction.LOCK.UPDATE })
  // What it left was used since: what is on the shelf now stays as it is.
  if (known && !known.takenBackAt && (await undo(known, transaction))) return known.id
  const row = await Stock.findByPk(stockId, { paranoid: false, transaction, lock: transaction.LOCK.UPDATE })
  const isThere = row !== null && row.deletedAt === null && row.count > 0
  const isSame = isThere && Math.abs(row.areaMm2 - left.wholeMm2) <= 1 + left.wholeMm2 * 1e-3
  const share = left.wholeMm2 > 0 ? left.usedMm2 / left.wholeMm2 : 1
  const before = isSame ? beforeOf(row) : null
  const made = isSame ? await shelve(row, left, transaction) : []
  const facts = {
    name,
    material,
    areaMm2: left.usedMm2,
    cents: Math.round(cents * share),
    note: isSame
      ? ''
      : isThere
        ? 'It has another outline on the shelf than in this job: measure what is left of it.'
        : 'It was not on the shelf any more: nothing was taken off there.',
    before: before && JSON.stringify(before),
    made: JSON.stringify(made),
    at: known?.at ?? at,
    takenBackAt: null,
  }
  if (known) {
    await known.update(facts, { transaction })
    return known.id
  }
  return (await StockUseRow.create({ id: randomUUID(), stockId, runId, ...facts }, { transaction })).id
}

/** One of a thing is taken, and what is left of it laid back. @returns ids of the new offcuts */
async function shelve(row: Stock, { offcuts, wholeMm2 }: Taken['left'], transaction: Transaction): Promise<string[]> {
  const rests = offcuts.map(({ rings }) => restOf(row, rings, wholeMm2))
  const [largest, ...others] = rests
  const made: string[] = []
  const lay = async (rest: Partial<Stock>, name: string): Promise<void> => {
    const { material, thicknessMm, shelf, recipe } = row
    const facts = { kind: 'offcut' as const, count: 1, material, thicknessMm, shelf, recipe, note: '', photo: null, jig: null }
    const id = randomUUID()
    await Stock.create({ id, code: newCode(), ...facts, ...(rest as Rest), name }, { transaction })
    made.push(id)
  }
  const name = row.kind === 'offcut' ? row.name : `rest of ${row.name}`.slice(0, 200)
  if (row.count > 1 || row.kind === 'blank') {
    await row.update({ count: row.count - 1 }, { transaction })
    for (const rest of rests) await lay(rest, name)
    return made
  }
  // The last one keeps its code and its place: its label stays true.
  if (largest) await row.update({ ...largest, kind: 'offcut', name, photo: null }, { transaction })
  else await row.update({ count: 0 }, { transaction })
  for (const rest of others) await lay(rest, name)
  return made
}

type Rest = Pick<Stock, 'piece' | 'areaMm2' | 'cents'>

/** What is left of a thing, with its keep-outs and marks where they were, and worth as much as it is large. */
function restOf(row: Stock, rings: readonly Ring[], wholeMm2: number): Rest {
  const edge = faceEdge(rings)
  const { x0, y0 } = ringsBounds(edge as Ring[])
  const outline = faceOutline(edge)
  const areaMm2 = outlineArea(outline)
  const { keepOuts, marks, grainDeg } = shapeOf(row)
  const piece = {
    outline,
    keepOuts: Object.fromEntries(
      Object.entries(keepOuts).map(([id, each]) => [
        id,
        { ...each, pose: { ...each.pose, xMm: each.pose.xMm - x0, yMm: each.pose.yMm - y0 } },
      ]),
    ),
    marks: Object.fromEntries(Object.entries(marks).map(([id, { xMm, yMm }]) => [id, { xMm: xMm - x0, yMm: yMm - y0 }])),
    grainDeg,
  }
  return { piece: JSON.stringify(piece), areaMm2, cents: Math.round((row.cents * areaMm2) / wholeMm2) }
}

/** Takes a use back. @returns why it cannot be, as a sentence; undefined where it was */
export async function undo(use: StockUseRow, transaction: Transaction): Promise<string | undefined> {
  const { before, made, stockId } = use
  const laid = JSON.parse(made) as string[]
  const was = before ? (JSON.parse(before) as Before) : undefined
  const row = was && (await Stock.findByPk(stockId, { paranoid: false, transaction, lock: transaction.LOCK.UPDATE }))
  const isWhole = row ? row.piece === was.piece : false
  // What was made from what it left has to go back first.
  const later = await StockUseRow.findOne({
    where: {
      id: { [Op.ne]: use.id },
      takenBackAt: null,
      [Op.or]: [{ stockId: laid }, ...(row && !isWhole ? [{ stockId, at: { [Op.gte]: use.at } }] : [])],
    },
    transaction,
  })
  if (later) return `“${later.name}” was made from what it left: take that back first.`
  if (row && isWhole) await row.update({ count: row.count + 1 }, { transaction })
  else if (row) await row.update({ ...was }, { transaction })
  await Stock.destroy({ where: { id: laid }, transaction })
  return undefined
}
