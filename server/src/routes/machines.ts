import { bringUpMachine, type Machine, settingDifferences } from '@neotaxis/core'
import { fieldLines } from '@neotaxis/link'
import express, { type RequestHandler, Router } from 'express'
import { identityOf, operatorOf } from '../access/identity.ts'
import type { Desks } from '../machines/desks.ts'
import { asItComes, laidFor, layIn } from '../machines/lay-in.ts'
import { atPanel } from '../machines/panel-client.ts'
import { passOn } from '../machines/relay.ts'
import { MachineRow } from '../models/index.ts'
import { Refusal } from '../refusal.ts'
import { learnedTimes } from '../runs/learned-times.ts'
import type { Work } from '../work/work.ts'
import { bodyOf, idIn, on } from './endpoint.ts'

const json = express.json({ limit: '1mb' })

/** The shop's machines: their profiles, their connections, and what is done with them by hand. */
export function machineRoutes(desks: Desks, work: Work): Router {
  const routes = Router()

  /** A camera at the head is named after its machine. */
  const bedOf = (id: string): string => id.split('@')[0]
  /** Orders for a machine that another server has go there. */
  const owned: RequestHandler<{ id: string }> = async (request, response, next) => {
    const lease =
      request.method === 'GET' && request.route?.path === '/machines' ? undefined : desks.ownerOf(bedOf(request.params.id))
    if (!lease) return next()
    await passOn(lease, identityOf(request)?.name ?? '', request as never, response)
  }
  routes.use('/machines/:id', json, owned)

  on(routes, 'machines', async (_request, response) => {
    const rows = await MachineRow.findAll({ order: ['id'] })
    response.json({ machines: rows.map((row) => bringUpMachine(JSON.parse(row.document)) as Machine) })
  })

  on(routes, 'saveMachine', async (request, response) => {
    const key = idIn(request)
    const { machine, base } = bodyOf('saveMachine', request)
    if (machine.id !== key) throw new Refusal(400, 'bad-request', 'The profile belongs to another machine.')
    response.json({ machine: await desks.save(machine, base) })
  })

  on(routes, 'removeMachine', async (request, response) => {
    const key = idIn(request)
    if ((await MachineRow.count()) <= 1) throw new Refusal(409, 'last', 'The last machine stays: jobs need one.')
    if (desks.desk(key).isBusy)
      throw new Refusal(409, 'running', 'Something is done with this machine now: wait until it stands.')
    await MachineRow.destroy({ where: { id: key } })
    desks.forget(key)
    response.status(204).end()
  })

  on(routes, 'live', (_request, response) => {
    response.json({ machines: desks.all() })
  })

  on(routes, 'connect', async (request, response) => {
    await desks.desk(idIn(request)).connect()
    response.status(204).end()
  })
  on(routes, 'disconnect', (request, response) => {
    desks.desk(idIn(request)).disconnect()
    response.status(204).end()
  })

  /** What the machine says of itself against its profile. */
  on(routes, 'machineSettings', async (request, response) => {
    const key = idIn(request)
    const settings = await desks.desk(key).settings()
    response.json({ settings: Object.fromEntries(settings), differences: settingDifferences(desks.machine(key), settings) })
  })

  on(routes, 'machineTimes', async (request, response) => {
    response.json({ learned: await learnedTimes(idIn(request)) })
  })

  /** The first connection was gone through: the beam goes off when it should. */
  on(routes, 'check', async (request, response) => {
    await desks.check(idIn(request), operatorOf(request))
    response.status(204).end()
  })

  on(routes, 'home', async (request, response) => {
    await desks.desk(idIn(request)).hand.home(operatorOf(request))
    response.status(204).end()
  })
  on(routes, 'getReady', async (request, response) => {
    const { z, speedMmS } = bodyOf('getReady', request)
    await desks.desk(idIn(request)).hand.getReady(operatorOf(request), z, speedMmS)
    response.status(204).end()
  })
  on(routes, 'giveField', async (request, response) => {
    const key = idIn(request)
    const { table } = bodyOf('giveField', request)
    if (desks.machine(key).head.kind === 'gantry')
      throw new Refusal(409, 'no-scan-head', 'This machine has no scan head: its field is straight.')
    await desks.desk(key).hand.configure(operatorOf(request), fieldLines(table ?? undefined))
    response.status(204).end()
  })
  on(routes, 'jog', async (request, response) => {
    const { dx, dy, dz, speedMmS } = bodyOf('jog', request)
    await desks.desk(idIn(request)).hand.jog(operatorOf(request), dx, dy, dz, speedMmS)
    response.status(204).end()
  })
  on(routes, 'jogEnd', (request, response) => {
    desks.desk(idIn(request)).hand.jogEnd()
    response.status(204).end()
  })
  on(routes, 'probe', async (request, response) => {
    const key = idIn(request)
    const { jobId } = bodyOf('probe', request) as { jobId: string }
    const desk = desks.desk(key)
    // Somebody lays the piece into a simulated machine first, as it comes from the shop.
    if (desk.hasPanel && !desk.isBusy) {
      const job = await work.run('jobForRun', { jobId })
      await desks.runLog.looked(key)
      await layIn(desk.panelPort(), asItComes(laidFor(job)))
    }
    response.json({ thicknessMm: await desk.hand.probe(operatorOf(request)) })
  })
  on(routes, 'goTo', async (request, response) => {
    const { x, y, z, speedMmS } = bodyOf('goTo', request)
    await desks.desk(idIn(request)).hand.go(operatorOf(request), { x, y, z }, speedMmS)
    response.status(204).end()
  })
  on(routes, 'frame', async (request, response) => {
    const key = idIn(request)
    const { jobId, shape, speedMmS, power, loop, ...scope } = bodyOf('frame', request)
    const ways = (signal: AbortSignal) => work.run('frameWays', { jobId, shape, scope }, { signal })
    const s = Math.round(power * desks.machine(key).fullPowerS)
    await desks.desk(key).frame(operatorOf(request), ways, speedMmS, s, loop)
    response.status(204).end()
  })
  on(routes, 'pulse', async (request, response) => {
    const key = idIn(request)
    const { power, count } = bodyOf('pulse', request)
    desks.desk(key).pulse(operatorOf(request), Math.max(1, Math.round(power * desks.machine(key).fullPowerS)), count)
    response.status(204).end()
  })

  on(routes, 'startRun', async (request, response) => {
    const { jobId, revision, armed, answers, parentId, ...scope } = bodyOf('startRun', request)
    const runId = await desks.start(idIn(request), {
      jobId,
      jobRevision: revision,
      scope,
      operator: operatorOf(request),
      answers,
      armed,
      parentId: parentId ?? null,
    })
    response.status(201).json({ id: runId })
  })

  /** One press, from every page, by everybody; answered when it is sent: the machine's own word comes with how it stands. */
  on(routes, 'stopMachine', (request, response) => {
    void desks.desk(idIn(request)).stop(identityOf(request)?.name || undefined)
    response.status(204).end()
  })

  /** The outside of a simulated machine. */
  on(routes, 'panel', async (request, response) => {
    const port = desks.desk(idIn(request)).panelPort()
    const asked = bodyOf('panel', request)
    if (asked.do === 'lift') await desks.runLog.looked(idIn(request))
    try {
      response.json(await atPanel(port, asked))
    } catch (cause) {
      throw new Refusal(409, 'panel', cause instanceof Error ? cause.message : 'It cannot be done.')
    }
  })
  return routes
}
