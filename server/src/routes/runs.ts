import type { RunScope } from '@neotaxis/core'
import { LinkError } from '@neotaxis/link'
import express, { type RequestHandler, Router } from 'express'
import Joi from 'joi'
import { nanoid } from 'nanoid'
import { Op } from 'sequelize'
import { identityOf, operatorOf } from '../access/identity.ts'
import type { JobBrief } from '../jobs/job-columns.ts'
import type { Desks } from '../machines/desks.ts'
import { passOn } from '../machines/relay.ts'
import { Run, RunBurn, RunEvent } from '../models/runs.ts'
import { Refusal } from '../refusal.ts'
import { dropProgram } from '../runs/program-file.ts'
import { isOfThisVersion } from '../runs/run-document.ts'
import { ENDED, SHIFTED } from '../runs/run-log.ts'
import type { Work } from '../work/work.ts'
import { validated } from './validate.ts'

const id = Joi.string()
  .pattern(/^[A-Za-z0-9_-]{1,40}$/)
  .required()
const json = express.json({ limit: '1mb' })

/** What was seen on one operation after the run. */
const look = Joi.object({
  /** Cuts: through, in places, or not. Pictures: as expected, too light, too dark. */
  answer: Joi.valid('yes', 'partly', 'no', 'light', 'dark'),
  depthMm: Joi.number().min(0).max(100).allow(null),
  tone: Joi.number().min(0).max(1).allow(null),
  warpMm: Joi.number().min(0).max(100).allow(null),
  note: Joi.string().allow('').max(500),
})

const changeSchema = Joi.object({
  rating: Joi.number().integer().min(1).max(5).allow(null),
  note: Joi.string().allow('').max(5000),
  photo: Joi.string()
    .pattern(/^[0-9a-f]{64}$/)
    .allow(null),
  /** By operation, and of each only what is new. What is not named stays as others left it. */
  looks: Joi.object().pattern(id.optional(), look.min(1)).max(500),
  /** By item: seen to, or not. */
  closing: Joi.object().pattern(Joi.string().max(60), Joi.boolean()).max(30),
  seconds: Joi.number().min(0).max(1e7),
}).min(1)

/** What lists do not read. */
const HEAVY = ['document', 'answers', 'operations', 'looks', 'closing', 'bounds', 'place']
/** A planned pause is none. */
const INTERRUPTIONS = ['held', 'lid', 'homing', 'away']

/** How often it was interrupted: the same told twice counts once. */
const interruptionsIn = (events: readonly RunEvent[]): number =>
  events
    .filter(({ phase }) => phase !== SHIFTED)
    .filter(({ phase }, i, all) => INTERRUPTIONS.includes(phase) && all[i - 1]?.phase !== phase).length

const summary = (run: Run, interruptions: number) => {
  const { material, workpiece, machine } = JSON.parse(run.brief) as JobBrief
  return {
    id: run.id,
    jobId: run.jobId,
    jobRevision: run.jobRevision,
    parentId: run.parentId,
    name: run.name,
    operator: run.operator,
    phase: run.phase,
    reason: run.reason,
    machineId: run.machineId,
    machine,
    material,
    workpiece,
    only: (JSON.parse(run.scope) as RunScope).only ?? null,
    lines: run.lines,
    estimateSeconds: run.estimateSeconds,
    seconds: run.seconds,
    interruptions,
    rating: run.rating,
    note: run.note,
    photo: run.photo,
    startedAt: run.startedAt,
    endedAt: run.endedAt,
  }
}

type Looks = Readonly<Record<string, object>>

const changedLooks = (looks: Looks, change: Looks): Looks => ({
  ...looks,
  ...Object.fromEntries(Object.entries(change).map(([operation, seen]) => [operation, { ...looks[operation], ...seen }])),
})

const changedClosing = (closing: readonly string[], change: Readonly<Record<string, boolean>>): readonly string[] => [
  ...closing.filter((item) => change[item] !== false),
  ...Object.keys(change).filter((item) => change[item] && !closing.includes(item)),
]

async function runOr404(key: unknown): Promise<Run> {
  const run = await Run.findByPk(validated(id, key))
  if (!run) throw new Refusal(404, 'no-run', 'This run is not in the journal.')
  return run
}

/** The journal, and what is done with a run while it goes on. */
export function runRoutes(desks: Desks, work: Work): Router {
  const routes = Router()

  routes.get('/runs', async (request, response) => {
    const query = validated(
      Joi.object<{ search: string; machine?: string; operator?: string; phase?: string; jobId?: string }>({
        search: Joi.string().allow('').max(100).default(''),
        machine: id.optional(),
        operator: Joi.string().max(60),
        phase: Joi.valid(...ENDED, 'open'),
        jobId: id.optional(),
      }),
      request.query,
    )
    const like = `%${query.search.replace(/[\\%_]/g, '\\$&')}%`
    const runs = await Run.findAll({
      where: {
        ...(query.search && {
          [Op.or]: [{ name: { [Op.like]: like } }, { note: { [Op.like]: like } }, { operator: { [Op.like]: like } }],
        }),
        ...(query.machine && { machineId: query.machine }),
        ...(query.operator && { operator: query.operator }),
        ...(query.jobId && { jobId: query.jobId }),
        ...(query.phase && { phase: query.phase === 'open' ? { [Op.notIn]: ENDED } : query.phase }),
      },
      attributes: { exclude: HEAVY },
      order: [['startedAt', 'DESC']],
      limit: 300,
    })
    const events = await RunEvent.findAll({
      where: { runId: runs.map((run) => run.id) },
      attributes: ['runId', 'number', 'phase'],
      order: ['runId', 'number'],
    })
    const byRun = new Map<string, RunEvent[]>()
    for (const event of events) byRun.set(event.runId, [...(byRun.get(event.runId) ?? []), event])
    const count = (run: Run): number => interruptionsIn(byRun.get(run.id) ?? [])
    response.json({ runs: runs.map((run) => summary(run, count(run))) })
  })

  routes.get('/runs/:id', async (request, response) => {
    const run = await runOr404(request.params.id)
    const events = await RunEvent.findAll({ where: { runId: run.id }, order: ['number'] })
    const burn = await RunBurn.findByPk(run.id, { attributes: ['cellMm', 'x', 'y'] })
    const told = JSON.stringify({
      ...summary(run, interruptionsIn(events)),
      scope: JSON.parse(run.scope),
      answers: JSON.parse(run.answers),
      looks: JSON.parse(run.looks),
      closing: JSON.parse(run.closing),
      place: run.place ? JSON.parse(run.place) : null,
      events: events.map(({ number, phase, text, line, seconds, at }) => ({ number, phase, text, line, seconds, at })),
      burn: burn && { cellMm: burn.cellMm, x: burn.x, y: burn.y },
    })
    // What may be large goes as it is kept: it is JSON already. What an older version wrote is brought up in a thread.
    const document = isOfThisVersion(run.document)
      ? run.document
      : Buffer.from(await work.run('runDocument', run.id)).toString('utf8')
    response
      .set('Content-Type', 'application/json; charset=utf-8')
      .send(`${told.slice(0, -1)},"document":${document},"operations":${run.operations}}`)
  })

  routes.get('/runs/:id/burn.png', async (request, response) => {
    const burn = await RunBurn.findByPk(validated(id, request.params.id))
    if (!burn) throw new Refusal(404, 'no-burn', 'Nobody looked at what this run burned.')
    response.set({ 'Content-Type': 'image/png', 'Cache-Control': 'private, max-age=3600' }).send(burn.picture)
  })

  routes.patch('/runs/:id', json, async (request, response) => {
    const key = validated(id, request.params.id)
    const { looks, closing, seconds, ...plain } = validated(changeSchema, request.body)
    // Two pages that write at once take turns: each changes only what it names.
    const run = await Run.sequelize!.transaction(async (transaction) => {
      const row = await Run.findByPk(key, { attributes: { exclude: ['document'] }, transaction, lock: transaction.LOCK.UPDATE })
      if (!row) throw new Refusal(404, 'no-run', 'This run is not in the journal.')
      if (seconds !== undefined && row.phase !== 'carried')
        throw new Refusal(409, 'measured', 'The time of this run was measured by the machine: it stays.')
      return row.update(
        {
          ...plain,
          ...(looks && { looks: JSON.stringify(changedLooks(JSON.parse(row.looks), looks)) }),
          ...(closing && { closing: JSON.stringify(changedClosing(JSON.parse(row.closing), closing)) }),
          ...(seconds !== undefined && { seconds }),
        },
        { transaction },
      )
    })
    if (looks) await work.run('noteEvidence', key)
    response.json({ ...summary(run, 0), looks: JSON.parse(run.looks), closing: JSON.parse(run.closing) })
  })

  /** A program that was carried to its machine: what came of it is written down by hand. */
  routes.post('/runs/carried', json, async (request, response) => {
    const { jobId, revision, only } = validated(
      Joi.object({
        jobId: id,
        revision: Joi.number().integer().min(0).required(),
        only: Joi.array().items(id.optional()).max(500),
      }),
      request.body,
    )
    const operator = operatorOf(request)
    const scope: RunScope = only ? { only } : {}
    const key = nanoid(14)
    const { prepared, document } = await work.run('prepareRun', { id: key, job: { id: jobId, revision }, scope })
    dropProgram(prepared.file)
    const { lines, seconds, operations, bounds } = prepared
    const startedAt = new Date()
    const facts = { id: key, jobId, jobRevision: revision, parentId: null, document, scope, operator, answers: [], startedAt }
    await work.run('writeRun', { ...facts, phase: 'carried', prepared: { lines, seconds, operations, bounds } })
    response.status(201).json(summary(await runOr404(key), 0))
  })

  const during = async (work: () => unknown): Promise<void> => {
    try {
      await work()
    } catch (cause) {
      if (cause instanceof LinkError) throw new Refusal(409, 'machine', cause.message)
      throw cause
    }
  }
  /** Orders for a run on a machine that another server has go there. */
  const owned: RequestHandler<{ id: string }> = async (request, response, next) => {
    const machine = desks.machineOfRun(validated(id, request.params.id))
    const lease = machine === undefined ? undefined : desks.ownerOf(machine)
    if (!lease) return next()
    await passOn(lease, identityOf(request)?.name ?? '', request as never, response)
  }
  for (const order of ['hold', 'resume', 'stop', 'adjust']) routes.post(`/runs/:id/${order}`, json, owned)
  const runNow = (key: unknown) => {
    const runId = validated(id, key)
    return desks.deskOfRun(runId).runOf(runId)
  }

  routes.post('/runs/:id/hold', async (request, response) => {
    await during(() => runNow(request.params.id).hold())
    response.status(204).end()
  })
  routes.post('/runs/:id/resume', async (request, response) => {
    operatorOf(request)
    await during(() => runNow(request.params.id).resume())
    response.status(204).end()
  })
  routes.post('/runs/:id/stop', (request, response) => {
    const runId = validated(id, request.params.id)
    void desks.deskOfRun(runId).stop()
    response.status(204).end()
  })
  routes.post('/runs/:id/adjust', async (request, response) => {
    const share = Joi.number().min(0.1).max(2).required()
    const { speed, power } = validated(Joi.object({ speed: share, power: share }), request.body)
    operatorOf(request)
    const run = runNow(request.params.id)
    await during(() => run.adjust(speed, power))
    // Back at what the program says is no news.
    if (speed !== 1 || power !== 1) desks.runLog.shifted(validated(id, request.params.id), { speed, power }, run.state)
    response.status(204).end()
  })
  return routes
}
