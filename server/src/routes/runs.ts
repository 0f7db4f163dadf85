import type { RunsAsked } from '@neotaxis/contract'
import type { RunScope } from '@neotaxis/core'
import { LinkError } from '@neotaxis/link'
import express, { type RequestHandler, Router } from 'express'
import { nanoid } from 'nanoid'
import { Op } from 'sequelize'
import { identityOf, operatorOf } from '../access/identity.ts'
import type { JobColumns } from '../jobs/job-columns.ts'
import type { Desks } from '../machines/desks.ts'
import { passOn } from '../machines/relay.ts'
import { RunPhotoRow } from '../models/cameras.ts'
import { Run, RunBurn, RunEvent } from '../models/runs.ts'
import { Refusal } from '../refusal.ts'
import { dropProgram } from '../runs/program-file.ts'
import { isOfThisVersion } from '../runs/run-document.ts'
import { ENDED, SHIFTED } from '../runs/run-log.ts'
import type { Work } from '../work/work.ts'
import { bodyOf, idIn, on, queryOf } from './endpoint.ts'

const json = express.json({ limit: '1mb' })

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
  const { material, workpiece, machine } = JSON.parse(run.brief) as JobColumns
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

/** Which moments of beginning are asked for. */
const begun = ({ from, until }: Pick<RunsAsked, 'from' | 'until'>) => ({
  ...(from && { [Op.gte]: new Date(from) }),
  ...(until && { [Op.lt]: new Date(until) }),
})

async function runOr404(key: string): Promise<Run> {
  const run = await Run.findByPk(key)
  if (!run) throw new Refusal(404, 'no-run', 'This run is not in the journal.')
  return run
}

/** The journal, and what is done with a run while it goes on. */
export function runRoutes(desks: Desks, work: Work): Router {
  const routes = Router()

  on(routes, 'runs', async (request, response) => {
    const query = queryOf('runs', request)
    const like = `%${query.search.replace(/[\\%_]/g, '\\$&')}%`
    const runs = await Run.findAll({
      where: {
        ...(query.search && {
          [Op.or]: [{ name: { [Op.like]: like } }, { note: { [Op.like]: like } }, { operator: { [Op.like]: like } }],
        }),
        ...(query.machine && { machineId: query.machine }),
        ...(query.operator && { operator: query.operator }),
        ...(query.jobId && { jobId: query.jobId }),
        ...((query.from || query.until) && { startedAt: begun(query) }),
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

  on(routes, 'run', async (request, response) => {
    const run = await runOr404(idIn(request))
    const events = await RunEvent.findAll({ where: { runId: run.id }, order: ['number'] })
    const burn = await RunBurn.findByPk(run.id, { attributes: ['cellMm', 'x', 'y'] })
    const seen = await RunPhotoRow.findByPk(run.id)
    const told = JSON.stringify({
      ...summary(run, interruptionsIn(events)),
      scope: JSON.parse(run.scope),
      answers: JSON.parse(run.answers),
      looks: JSON.parse(run.looks),
      closing: JSON.parse(run.closing),
      place: run.place ? JSON.parse(run.place) : null,
      events: events.map(({ number, phase, text, line, seconds, at }) => ({ number, phase, text, line, seconds, at })),
      burn: burn && { cellMm: burn.cellMm, x: burn.x, y: burn.y },
      photographed: seen && { takenAt: new Date(seen.takenAt).toISOString(), calibration: JSON.parse(seen.calibration) },
    })
    // What may be large goes as it is kept: it is JSON already. What an older version wrote is brought up in a thread.
    const document = isOfThisVersion(run.document)
      ? run.document
      : Buffer.from(await work.run('runDocument', run.id)).toString('utf8')
    response
      .set('Content-Type', 'application/json; charset=utf-8')
      .send(`${told.slice(0, -1)},"document":${document},"operations":${run.operations}}`)
  })

  on(routes, 'burnPicture', async (request, response) => {
    const burn = await RunBurn.findByPk(idIn(request))
    if (!burn) throw new Refusal(404, 'no-burn', 'Nobody looked at what this run burned.')
    response.set({ 'Content-Type': 'image/png', 'Cache-Control': 'private, max-age=3600' }).send(burn.picture)
  })

  on(routes, 'changeRun', json, async (request, response) => {
    const key = idIn(request)
    const { looks, closing, seconds, ...plain } = bodyOf('changeRun', request)
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
    // A program that was carried to its machine has run when somebody says how long it took.
    if (seconds) await work.run('writeUse', { runId: key })
    response.json({ ...summary(run, 0), looks: JSON.parse(run.looks), closing: JSON.parse(run.closing) })
  })

  /** A program that was carried to its machine: what came of it is written down by hand. */
  on(routes, 'carriedRun', json, async (request, response) => {
    const { jobId, revision, only } = bodyOf('carriedRun', request)
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
    const machine = desks.machineOfRun(idIn(request))
    const lease = machine === undefined ? undefined : desks.ownerOf(machine)
    if (!lease) return next()
    await passOn(lease, identityOf(request)?.name ?? '', request as never, response)
  }
  for (const order of ['hold', 'resume', 'stop', 'adjust']) routes.post(`/runs/:id/${order}`, json, owned)
  const runNow = (runId: string) => {
    return desks.deskOfRun(runId).runOf(runId)
  }

  on(routes, 'holdRun', async (request, response) => {
    await during(() => runNow(idIn(request)).hold())
    response.status(204).end()
  })
  on(routes, 'resumeRun', async (request, response) => {
    operatorOf(request)
    const { answers = [] } = bodyOf('resumeRun', request) ?? {}
    const id = idIn(request)
    desks.deskOfRun(id).confirmSetUp(id, answers)
    await during(() => runNow(id).resume())
    response.status(204).end()
  })
  on(routes, 'stopRun', (request, response) => {
    const runId = idIn(request)
    void desks.deskOfRun(runId).stop()
    response.status(204).end()
  })
  on(routes, 'adjustRun', async (request, response) => {
    const { speed, power } = bodyOf('adjustRun', request)
    operatorOf(request)
    const run = runNow(idIn(request))
    await during(() => run.adjust(speed, power))
    // Back at what the program says is no news.
    if (speed !== 1 || power !== 1) desks.runLog.shifted(idIn(request), { speed, power }, run.state)
    response.status(204).end()
  })
  return routes
}
