import express, { Router } from 'express'
import Joi from 'joi'
import { Op } from 'sequelize'
import { cardOf } from '../cards/card.ts'
import { LISTED, listed } from '../jobs/job-columns.ts'
import { Job } from '../models/index.ts'
import { Refusal } from '../refusal.ts'
import type { Work } from '../work/work.ts'
import { fileBody, handedOver } from './bodies.ts'
import { validated } from './validate.ts'

const idSchema = Joi.string()
  .pattern(/^[A-Za-z0-9_-]{1,40}$/)
  .required()

/** JSON that is read in a thread: only its bytes come here. */
const jsonBytes = express.raw({ type: 'application/json', limit: '20mb' })

const sent = (body: unknown): { readonly bytes: Uint8Array<ArrayBuffer>; readonly transfer: [ArrayBuffer] } => {
  if (!Buffer.isBuffer(body) || body.length === 0) throw new Refusal(400, 'bad-request', 'The request is empty.')
  return handedOver(body)
}

/** Jobs: the board's list, documents, edits, files, cards. */
export function jobRoutes(work: Work): Router {
  const routes = Router()

  routes.get('/jobs', async (request, response) => {
    const search = validated(Joi.string().allow('').max(100).default(''), request.query.search)
    const where = search ? { name: { [Op.like]: `%${search.replace(/[\\%_]/g, '\\$&')}%` } } : {}
    const rows = await Job.findAll({ where, attributes: LISTED, order: [['updatedAt', 'DESC']], limit: 200 })
    response.json({ jobs: rows.map(listed) })
  })

  routes.post('/jobs', jsonBytes, async (request, response) => {
    const { bytes, transfer } = sent(request.body)
    response.status(201).json(await work.run('createJob', bytes, { transfer }))
  })

  routes.post('/jobs/file', ...fileBody(500), async (request, response) => {
    const { bytes, transfer } = handedOver(request.body as Buffer)
    response.status(201).json(await work.run('openFile', bytes, { transfer }))
  })

  /** A program from a file becomes a job that runs it as it is written. */
  routes.post('/jobs/program', ...fileBody(120), async (request, response) => {
    const name = validated(Joi.string().min(1).max(200).default('Program'), request.query.name)
    const { bytes, transfer } = handedOver(request.body as Buffer)
    response.status(201).json(await work.run('openProgram', { name, bytes }, { transfer }))
  })

  const asJson = 'application/json; charset=utf-8'
  routes.get('/jobs/:id', async (request, response) => {
    const text = await work.run('openJob', validated(idSchema, request.params.id))
    response.set('Content-Type', asJson).send(Buffer.from(text.buffer, text.byteOffset, text.byteLength))
  })

  routes.get('/jobs/:id/edits', async (request, response) => {
    const jobId = validated(idSchema, request.params.id)
    const since = validated(Joi.number().integer().min(0).required(), request.query.since)
    // Pages ask again and again, and mostly nothing is new.
    const job = await Job.findByPk(jobId, { attributes: ['revision'] })
    if (job && since >= job.revision) return void response.json({ revision: job.revision, edits: [] })
    const text = await work.run('editsSince', { jobId, since })
    response.set('Content-Type', asJson).send(Buffer.from(text.buffer, text.byteOffset, text.byteLength))
  })

  routes.post('/jobs/:id/edits', jsonBytes, async (request, response) => {
    const jobId = validated(idSchema, request.params.id)
    const { bytes, transfer } = sent(request.body)
    const text = await work.run('saveEdits', { jobId, body: bytes }, { transfer })
    response.set('Content-Type', asJson).send(Buffer.from(text.buffer, text.byteOffset, text.byteLength))
  })

  routes.post('/jobs/:id/copy', async (request, response) => {
    response.status(201).json(await work.run('copyJob', validated(idSchema, request.params.id)))
  })

  routes.delete('/jobs/:id', async (request, response) => {
    const gone = await Job.destroy({ where: { id: validated(idSchema, request.params.id) } })
    if (gone === 0) throw new Refusal(404, 'no-job', 'This job is not here any more.')
    response.status(204).end()
  })

  routes.post('/jobs/:id/restore', async (request, response) => {
    await Job.restore({ where: { id: validated(idSchema, request.params.id) } })
    response.status(204).end()
  })

  routes.get('/jobs/:id/file', async (request, response) => {
    const { name, file } = await work.run('packFile', validated(idSchema, request.params.id))
    response.set({
      'Content-Type': 'application/zip',
      'Content-Disposition': `attachment; filename*=UTF-8''${encodeURIComponent(name)}.neotaxis`,
    })
    response.send(Buffer.from(file.buffer, file.byteOffset, file.byteLength))
  })

  routes.get('/jobs/:id/card', async (request, response) => {
    const card = await cardOf(validated(idSchema, request.params.id), work)
    response.json({ content: card.content, ...JSON.parse(card.summary) })
  })

  routes.get('/jobs/:id/card.png', async (request, response) => {
    const card = await cardOf(validated(idSchema, request.params.id), work)
    response.set({ 'Content-Type': 'image/png', 'Cache-Control': 'private, max-age=31536000, immutable' })
    response.send(card.picture)
  })
  return routes
}
