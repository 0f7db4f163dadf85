import { bringUpMachine, type FrameShape, type Machine, machineSchema, settingDifferences } from '@neotaxis/core'
import express, { type RequestHandler, Router } from 'express'
import Joi from 'joi'
import { identityOf, operatorOf } from '../access/identity.ts'
import { MOST_FRAME_POWER } from '../machines/desk.ts'
import type { Desks } from '../machines/desks.ts'
import { atPanel } from '../machines/panel-client.ts'
import { passOn } from '../machines/relay.ts'
import { MachineRow } from '../models/index.ts'
import { Refusal } from '../refusal.ts'
import type { Work } from '../work/work.ts'
import { validated } from './validate.ts'

const id = Joi.string()
  .pattern(/^[A-Za-z0-9_-]{1,40}$/)
  .required()
const mm = Joi.number().min(-5000).max(5000)
const speed = Joi.number().greater(0).max(5000).required()
const json = express.json({ limit: '1mb' })

const frameSchema = Joi.object<{
  jobId: string
  shape: FrameShape
  speedMmS: number
  power: number
  loop: boolean
  only?: string[]
}>({
  jobId: id,
  shape: Joi.valid('bounds', 'hull', 'outline').required(),
  speedMmS: speed,
  power: Joi.number().min(0).max(MOST_FRAME_POWER).required(),
  loop: Joi.boolean().required(),
  only: Joi.array().items(id.optional()).max(500).optional(),
})

const runSchema = Joi.object<{
  jobId: string
  revision: number
  only?: string[]
  changes?: Record<string, object>
  armed: boolean
  answers: string[]
  parentId: string | null
}>({
  jobId: id,
  revision: Joi.number().integer().min(0).required(),
  only: Joi.array().items(id.optional()).max(500).optional(),
  changes: Joi.object()
    .pattern(
      id.optional(),
      Joi.object({
        power: Joi.number().min(0).max(1),
        speedMmS: Joi.number().min(0.1).max(10_000),
        passes: Joi.number().integer().min(1).max(100),
      }),
    )
    .max(500)
    .optional(),
  armed: Joi.boolean().required(),
  answers: Joi.array().items(Joi.string().max(160)).max(600).required(),
  parentId: id.allow(null),
})

const panelSchema = Joi.object({
  do: Joi.valid('press', 'lid', 'emergency', 'pace', 'state', 'lift').required(),
  open: Joi.boolean(),
  pressed: Joi.boolean(),
  times: Joi.number().greater(0).max(1000),
})

/** The shop's machines: their profiles, their connections, and what is done with them by hand. */
export function machineRoutes(desks: Desks, work: Work): Router {
  const routes = Router()

  /** Orders for a machine that another server has go there. */
  const owned: RequestHandler<{ id: string }> = async (request, response, next) => {
    const lease = request.method === 'GET' && request.route?.path === '/machines' ? undefined : desks.ownerOf(request.params.id)
    if (!lease) return next()
    await passOn(lease, identityOf(request)?.name ?? '', request as never, response)
  }
  routes.use('/machines/:id', json, owned)

  routes.get('/machines', async (_request, response) => {
    const rows = await MachineRow.findAll({ order: ['id'] })
    response.json({ machines: rows.map((row) => bringUpMachine(JSON.parse(row.document)) as Machine) })
  })

  routes.put('/machines/:id', async (request, response) => {
    const key = validated(id, request.params.id)
    const { machine, base } = validated(
      Joi.object<{ machine: Machine; base: number | null }>({
        machine: machineSchema.required(),
        base: Joi.number().integer().allow(null).required(),
      }),
      request.body,
    )
    if (machine.id !== key) throw new Refusal(400, 'bad-request', 'The profile belongs to another machine.')
    response.json({ machine: await desks.save(machine, base) })
  })

  routes.delete('/machines/:id', async (request, response) => {
    const key = validated(id, request.params.id)
    if ((await MachineRow.count()) <= 1) throw new Refusal(409, 'last', 'The last machine stays: jobs need one.')
    if (desks.desk(key).isBusy)
      throw new Refusal(409, 'running', 'Something is done with this machine now: wait until it stands.')
    await MachineRow.destroy({ where: { id: key } })
    desks.forget(key)
    response.status(204).end()
  })

  routes.get('/live', (_request, response) => {
    response.json({ machines: desks.all() })
  })

  routes.post('/machines/:id/connect', async (request, response) => {
    await desks.desk(validated(id, request.params.id)).connect()
    response.status(204).end()
  })
  routes.post('/machines/:id/disconnect', (request, response) => {
    desks.desk(validated(id, request.params.id)).disconnect()
    response.status(204).end()
  })

  /** What the machine says of itself against its profile. */
  routes.get('/machines/:id/settings', async (request, response) => {
    const key = validated(id, request.params.id)
    const settings = await desks.desk(key).settings()
    response.json({ settings: Object.fromEntries(settings), differences: settingDifferences(desks.machine(key), settings) })
  })

  /** The first connection was gone through: the beam goes off when it should. */
  routes.post('/machines/:id/check', async (request, response) => {
    await desks.check(validated(id, request.params.id), operatorOf(request))
    response.status(204).end()
  })

  routes.post('/machines/:id/home', async (request, response) => {
    await desks.desk(validated(id, request.params.id)).home(operatorOf(request))
    response.status(204).end()
  })
  routes.post('/machines/:id/jog', async (request, response) => {
    const { dx, dy, dz, speedMmS } = validated(
      Joi.object({ dx: mm.required(), dy: mm.required(), dz: mm.required(), speedMmS: speed }),
      request.body,
    )
    await desks.desk(validated(id, request.params.id)).jog(operatorOf(request), dx, dy, dz, speedMmS)
    response.status(204).end()
  })
  routes.post('/machines/:id/jog-end', (request, response) => {
    desks.desk(validated(id, request.params.id)).jogEnd()
    response.status(204).end()
  })
  routes.post('/machines/:id/go', async (request, response) => {
    const { x, y, z, speedMmS } = validated(Joi.object({ x: mm, y: mm, z: mm, speedMmS: speed }), request.body)
    await desks.desk(validated(id, request.params.id)).go(operatorOf(request), { x, y, z }, speedMmS)
    response.status(204).end()
  })
  routes.post('/machines/:id/frame', async (request, response) => {
    const key = validated(id, request.params.id)
    const { jobId, shape, speedMmS, power, loop, only } = validated(frameSchema, request.body)
    const ways = (signal: AbortSignal) => work.run('frameWays', { jobId, shape, only }, { signal })
    const s = Math.round(power * desks.machine(key).fullPowerS)
    await desks.desk(key).frame(operatorOf(request), ways, speedMmS, s, loop)
    response.status(204).end()
  })
  routes.post('/machines/:id/pulse', async (request, response) => {
    const key = validated(id, request.params.id)
    const { power, count } = validated(
      Joi.object({
        power: Joi.number().greater(0).max(MOST_FRAME_POWER).required(),
        count: Joi.number().integer().min(1).max(1000).required(),
      }),
      request.body,
    )
    desks.desk(key).pulse(operatorOf(request), Math.max(1, Math.round(power * desks.machine(key).fullPowerS)), count)
    response.status(204).end()
  })

  routes.post('/machines/:id/runs', async (request, response) => {
    const { jobId, revision, only, changes, armed, answers, parentId } = validated(runSchema, request.body)
    const runId = await desks.start(validated(id, request.params.id), {
      jobId,
      jobRevision: revision,
      scope: { ...(only && { only }), ...(changes && { changes }) },
      operator: operatorOf(request),
      answers,
      armed,
      parentId: parentId ?? null,
    })
    response.status(201).json({ id: runId })
  })

  /** One press, from every page, by everybody; answered when it is sent: the machine's own word comes with how it stands. */
  routes.post('/machines/:id/stop', (request, response) => {
    void desks.desk(validated(id, request.params.id)).stop(identityOf(request)?.name || undefined)
    response.status(204).end()
  })

  /** The outside of a simulated machine. */
  routes.post('/machines/:id/panel', async (request, response) => {
    const port = desks.desk(validated(id, request.params.id)).panelPort()
    const asked = validated(panelSchema, request.body)
    try {
      response.json(await atPanel(port, asked))
    } catch (cause) {
      throw new Refusal(409, 'panel', cause instanceof Error ? cause.message : 'It cannot be done.')
    }
  })
  return routes
}
