import type { JobBrief } from '@neotaxis/contract'
import express, { Router } from 'express'
import { Op } from 'sequelize'
import { cardOf, factsOf, knownCards } from '../cards/card.ts'
import { LISTED, listed } from '../jobs/job-columns.ts'
import { Job } from '../models/index.ts'
import { Refusal } from '../refusal.ts'
import { lastRuns } from '../runs/last-runs.ts'
import type { Work } from '../work/work.ts'
import { fileBody, handedOver } from './bodies.ts'
import { idIn, on, queryOf } from './endpoint.ts'

/** JSON that is read in a thread: only its bytes come here. */
const jsonBytes = express.raw({ type: 'application/json', limit: '20mb' })

const sent = (body: unknown): { readonly bytes: Uint8Array<ArrayBuffer>; readonly transfer: [ArrayBuffer] } => {
  if (!Buffer.isBuffer(body) || body.length === 0) throw new Refusal(400, 'bad-request', 'The request is empty.')
  return handedOver(body)
}

/** Jobs: the board's list, documents, edits, files, cards. */
export function jobRoutes(work: Work): Router {
  const routes = Router()

  on(routes, 'jobs', async (request, response) => {
    const search = queryOf('jobs', request).search as string
    const where = search ? { name: { [Op.like]: `%${search.replace(/[\\%_]/g, '\\$&')}%` } } : {}
    const rows = await Job.findAll({ where, attributes: LISTED, order: [['updatedAt', 'DESC']], limit: 200 })
    const [cards, runs] = await Promise.all([knownCards(rows), lastRuns(rows.map(({ id }) => id))])
    const withCard = (row: Job): JobBrief => {
      const card = cards.get(row.id)
      const ranAt = runs.get(row.id)?.toISOString()
      return { ...listed(row), ...(card && { card }), ...(ranAt && { ranAt }) }
    }
    response.json({ jobs: rows.map(withCard) })
  })

  on(routes, 'createJob', jsonBytes, async (request, response) => {
    const { bytes, transfer } = sent(request.body)
    response.status(201).json(await work.run('createJob', bytes, { transfer }))
  })

  on(routes, 'openFile', ...fileBody(500), async (request, response) => {
    const { bytes, transfer } = handedOver(request.body as Buffer)
    response.status(201).json(await work.run('openFile', bytes, { transfer }))
  })

  /** A program from a file becomes a job that runs it as it is written. */
  on(routes, 'openProgram', ...fileBody(120), async (request, response) => {
    const name = queryOf('openProgram', request).name as string
    const { bytes, transfer } = handedOver(request.body as Buffer)
    response.status(201).json(await work.run('openProgram', { name, bytes }, { transfer }))
  })

  const asJson = 'application/json; charset=utf-8'
  on(routes, 'job', async (request, response) => {
    const text = await work.run('openJob', idIn(request))
    response.set('Content-Type', asJson).send(Buffer.from(text.buffer, text.byteOffset, text.byteLength))
  })

  on(routes, 'editsSince', async (request, response) => {
    const jobId = idIn(request)
    const since = queryOf('editsSince', request).since as number
    // Pages ask again and again, and mostly nothing is new.
    const job = await Job.findByPk(jobId, { attributes: ['revision'] })
    if (job && since >= job.revision) return void response.json({ revision: job.revision, edits: [] })
    const text = await work.run('editsSince', { jobId, since })
    response.set('Content-Type', asJson).send(Buffer.from(text.buffer, text.byteOffset, text.byteLength))
  })

  on(routes, 'saveEdits', jsonBytes, async (request, response) => {
    const jobId = idIn(request)
    const { bytes, transfer } = sent(request.body)
    const text = await work.run('saveEdits', { jobId, body: bytes }, { transfer })
    response.set('Content-Type', asJson).send(Buffer.from(text.buffer, text.byteOffset, text.byteLength))
  })

  on(routes, 'copyJob', async (request, response) => {
    response.status(201).json(await work.run('copyJob', idIn(request)))
  })

  on(routes, 'deleteJob', async (request, response) => {
    const gone = await Job.destroy({ where: { id: idIn(request) } })
    if (gone === 0) throw new Refusal(404, 'no-job', 'This job is not here any more.')
    response.status(204).end()
  })

  on(routes, 'restoreJob', async (request, response) => {
    await Job.restore({ where: { id: idIn(request) } })
    response.status(204).end()
  })

  on(routes, 'jobFile', async (request, response) => {
    const { name, file } = await work.run('packFile', idIn(request))
    response.set({
      'Content-Type': 'application/zip',
      'Content-Disposition': `attachment; filename*=UTF-8''${encodeURIComponent(name)}.neotaxis`,
    })
    response.send(Buffer.from(file.buffer, file.byteOffset, file.byteLength))
  })

  on(routes, 'card', async (request, response) => {
    const card = await cardOf(idIn(request), work)
    response.json(factsOf(card))
  })

  on(routes, 'cardPicture', async (request, response) => {
    const card = await cardOf(idIn(request), work)
    response.set({ 'Content-Type': 'image/png', 'Cache-Control': 'private, max-age=31536000, immutable' })
    response.send(card.picture)
  })
  return routes
}
