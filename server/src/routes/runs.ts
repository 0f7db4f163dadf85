import type { JobDocument, RunScope } from '@neotaxis/core'
import { LinkError } from '@neotaxis/link'
import express, { Router } from 'express'
import Joi from 'joi'
import { nanoid } from 'nanoid'
import { Op } from 'sequelize'
import type { Desks } from '../machines/desks.ts'
import { Run, RunBurn, RunEvent } from '../models/runs.ts'
import { Refusal } from '../refusal.ts'
import { prepareRun } from '../runs/prepare.ts'
import { ENDED } from '../runs/run-log.ts'
import { keepRun } from '../runs/run-row.ts'
import { jobAt } from './machines.ts'
import { operatorOf } from './operator.ts'
import { validated } from './validate.ts'

const id = Joi.string()
  .pattern(/^[A-Za-z0-9_-]{1,40}$/)
  .required()
const json = express.json({ limit: '1mb' })

/** What was seen on one operation after the run. */
const look = Joi.object({
  /** Cuts: through, in places, or not. Pictures: as expected, too light, too dark. */
  answer: Joi.valid('yes', 'partly', 'no', 'light', 'dark').required(),
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
  looks: Joi.object().pattern(id.optional(), look).max(500),
  closing: Joi.array().items(Joi.string().max(60)).max(30),
  seconds: Joi.number().min(0).max(1e7),
}).min(1)

const HEAVY = ['document', 'answers']
const INTERRUPTIONS = ['held', 'lid', 'homing', 'away', 'paused']

/** How often it was interrupted: the same told twice counts once. */
const interruptionsIn = (events: readonly RunEvent[]): number =>
  events.filter(({ phase }, i) => INTERRUPTIONS.includes(phase) && events[i - 1]?.phase !== phase).length

const summary = (run: Run, interruptions: number) => {
  const { material, workpiece, machine } = JSON.parse(run.document) as JobDocument
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
    machine: machine.name,
    material: material.name,
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

async function runOr404(key: unknown): Promise<Run> {
  const run = await Run.findByPk(validated(id, key))
  if (!run) throw new Refusal(404, 'no-run', 'This run is not in the journal.')
  return run
}

/** The journal, and what is done with a run while it goes on. */
export function runRoutes(desks: Desks): Router {
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
      attributes: { exclude: HEAVY.filter((name) => name !== 'document') },
      order: [['startedAt', 'DESC']],
      limit: 300,
    })
    const events = await RunEvent.findAll({
      where: { runId: runs.map((run) => run.id) },
      attributes: ['runId', 'number', 'phase'],
      order: ['runId', 'number'],
    })
    const count = (run: Run): number => interruptionsIn(events.filter(({ runId }) => runId === run.id))
    response.json({ runs: runs.map((run) => summary(run, count(run))) })
  })

  routes.get('/runs/:id', async (request, response) => {
    const run = await runOr404(request.params.id)
    const events = await RunEvent.findAll({ where: { runId: run.id }, order: ['number'] })
    const burn = await RunBurn.findByPk(run.id, { attributes: ['cellMm', 'x', 'y'] })
    response.json({
      ...summary(run, interruptionsIn(events)),
      document: JSON.parse(run.document),
      scope: JSON.parse(run.scope),
      answers: JSON.parse(run.answers),
      operations: JSON.parse(run.operations),
      looks: JSON.parse(run.looks),
      closing: JSON.parse(run.closing),
      place: run.place ? JSON.parse(run.place) : null,
      events: events.map(({ number, phase, text, line, seconds, at }) => ({ number, phase, text, line, seconds, at })),
      burn: burn && { cellMm: burn.cellMm, x: burn.x, y: burn.y },
    })
  })

  routes.get('/runs/:id/burn.png', async (request, response) => {
    const burn = await RunBurn.findByPk(validated(id, request.params.id))
    if (!burn) throw new Refusal(404, 'no-burn', 'Nobody looked at what this run burned.')
    response.set({ 'Content-Type': 'image/png', 'Cache-Control': 'private, max-age=3600' }).send(burn.picture)
  })

  routes.patch('/runs/:id', json, async (request, response) => {
    const run = await runOr404(request.params.id)
    const { looks, closing, seconds, ...plain } = validated(changeSchema, request.body)
    if (seconds !== undefined && run.phase !== 'carried')
      throw new Refusal(409, 'measured', 'The time of this run was measured by the machine: it stays.')
    await run.update({
      ...plain,
      ...(looks && { looks: JSON.stringify(looks) }),
      ...(closing && { closing: JSON.stringify(closing) }),
      ...(seconds !== undefined && { seconds }),
    })
    response.json(summary(run, 0))
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
    const document = await jobAt(jobId, revision)
    const scope: RunScope = only ? { only } : {}
    const key = nanoid(14)
    const prepared = await prepareRun(key, document, scope)
    const run = await keepRun(
      {
        id: key,
        jobId,
        jobRevision: revision,
        parentId: null,
        document,
        scope,
        operator: operatorOf(request),
        answers: [],
        phase: 'carried',
        startedAt: new Date(),
      },
      prepared,
    )
    response.status(201).json(summary(run, 0))
  })

  const during = async (work: () => unknown): Promise<void> => {
    try {
      await work()
    } catch (cause) {
      if (cause instanceof LinkError) throw new Refusal(409, 'machine', cause.message)
      throw cause
    }
  }
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
  routes.post('/runs/:id/stop', async (request, response) => {
    await during(() => runNow(request.params.id).stop())
    response.status(204).end()
  })
  routes.post('/runs/:id/adjust', json, async (request, response) => {
    const share = Joi.number().min(0.1).max(2).required()
    const { speed, power } = validated(Joi.object({ speed: share, power: share }), request.body)
    operatorOf(request)
    await during(() => runNow(request.params.id).adjust(speed, power))
    response.status(204).end()
  })
  return routes
}
