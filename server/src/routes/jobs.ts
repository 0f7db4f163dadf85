import { assetName, assetsOf, checkJob, type Edit, type JobDocument, JobError, packJob, unpackJob } from '@neotaxis/core'
import express, { Router } from 'express'
import Joi from 'joi'
import { nanoid } from 'nanoid'
import { Op } from 'sequelize'
import { assetBytes, keepAsset } from '../assets/store.ts'
import { takeInPicture } from '../assets/take-in.ts'
import { cardOf } from '../cards/card.ts'
import { savedEdit, saveEdits } from '../jobs/save-edits.ts'
import { Asset, Job, Revision } from '../models/index.ts'
import { Refusal } from '../refusal.ts'
import { inThread } from '../thread.ts'
import { validated } from './validate.ts'

const idSchema = Joi.string()
  .pattern(/^[A-Za-z0-9_-]{1,40}$/)
  .required()
const patches = Joi.array()
  .items(Joi.object({ path: Joi.array().items(Joi.string().max(120)).min(1).max(12).required(), value: Joi.any() }))
  .max(5000)
  .required()
const editSchema = Joi.object<Edit>({
  id: idSchema,
  name: Joi.string().min(1).max(200).required(),
  kind: Joi.valid('edit', 'undo', 'redo').required(),
  patches,
  inverse: patches,
})
const editsSchema = Joi.object<{ base: number; edits: Edit[] }>({
  base: Joi.number().integer().min(0).required(),
  edits: Joi.array().items(editSchema).min(1).max(2000).required(),
})

/** Undo reaches back this many edits. */
const HISTORY = 500

function checked(value: unknown): JobDocument {
  try {
    return checkJob(value)
  } catch (cause) {
    if (cause instanceof JobError) throw new Refusal(422, 'bad-job', cause.message)
    throw cause
  }
}

async function jobOr404(id: unknown): Promise<Job> {
  const job = await Job.findByPk(validated(idSchema, id))
  if (!job) throw new Refusal(404, 'no-job', 'This job is not here any more.')
  return job
}

async function requireAssets(job: JobDocument): Promise<void> {
  for (const sha256 of assetsOf(job)) {
    if ((await Asset.count({ where: { sha256 } })) === 0)
      throw new Refusal(422, 'missing-asset', 'A picture that this job needs is not on the server. Bring it in first.')
  }
}

async function createJob(document: JobDocument, branchOf: string | null = null): Promise<Job> {
  return Job.create({ id: nanoid(12), name: document.name, revision: 0, document: JSON.stringify(document), branchOf })
}

const brief = (row: Job) => {
  const { workpiece, material, machine } = JSON.parse(row.document) as JobDocument
  return {
    id: row.id,
    name: row.name,
    revision: row.revision,
    branchOf: row.branchOf,
    updatedAt: row.updatedAt,
    workpiece,
    material: material.name,
    machine: machine.name,
  }
}

/** Jobs: the board's list, documents, edits, files, cards. */
export function jobRoutes(): Router {
  const routes = Router()
  const json = express.json({ limit: '20mb' })

  routes.get('/jobs', async (request, response) => {
    const search = validated(Joi.string().allow('').max(100).default(''), request.query.search)
    const where = search ? { name: { [Op.like]: `%${search.replace(/[\\%_]/g, '\\$&')}%` } } : {}
    const rows = await Job.findAll({ where, order: [['updatedAt', 'DESC']], limit: 200 })
    response.json({ jobs: rows.map(brief) })
  })

  routes.post('/jobs', json, async (request, response) => {
    const document = checked((request.body as { job?: unknown } | undefined)?.job)
    await requireAssets(document)
    response.status(201).json(brief(await createJob(document)))
  })

  routes.post('/jobs/file', express.raw({ type: () => true, limit: '500mb' }), async (request, response) => {
    if (!Buffer.isBuffer(request.body)) throw new Refusal(400, 'empty', 'The file is empty.')
    let unpacked: ReturnType<typeof unpackJob>
    try {
      unpacked = unpackJob(request.body)
    } catch (cause) {
      if (cause instanceof JobError) throw new Refusal(422, 'bad-job', cause.message)
      throw cause
    }
    // Everything is read before anything is kept.
    const intakes = []
    for (const [name, bytes] of unpacked.assets) {
      const isPicture = bytes[0] === 0x89 && bytes[1] === 0x50
      if (
        !isPicture &&
        Object.values(unpacked.job.nodes).some((node) => node.kind === 'program' && node.asset === name) &&
        assetName(bytes) === name
      ) {
        intakes.push({ asset: name, bytes, widthPx: 0, heightPx: 0, hasAlpha: false })
        continue
      }
      const intake = await takeInPicture(bytes)

      if (intake.asset !== name)
        throw new Refusal(422, 'bad-job', 'A picture in this job file is not in the form that Neotaxis keeps.')
      intakes.push(intake)
    }
    for (const intake of intakes) await keepAsset(intake)
    response.status(201).json(brief(await createJob(unpacked.job)))
  })

  /** A program from a file becomes a job that runs it as it is written. */
  routes.post('/jobs/program', express.raw({ type: () => true, limit: '120mb' }), async (request, response) => {
    if (!Buffer.isBuffer(request.body) || request.body.length === 0) throw new Refusal(400, 'empty', 'The file is empty.')
    const name = validated(Joi.string().min(1).max(200).default('Program'), request.query.name)
    const bytes = new Uint8Array(request.body)
    const asset = assetName(bytes)
    const document = await inThread<JobDocument | string>(
      new URL('../jobs/program-thread.ts', import.meta.url),
      { bytes, name, asset },
      60,
    )
    if (typeof document === 'string') throw new Refusal(422, 'no-program', document)
    await keepAsset({ asset, bytes, widthPx: 0, heightPx: 0, hasAlpha: false })
    response.status(201).json(brief(await createJob(checked(document))))
  })

  routes.get('/jobs/:id', async (request, response) => {
    const job = await jobOr404(request.params.id)
    const rows = await Revision.findAll({
      where: { jobId: job.id, revision: { [Op.gt]: job.revision - HISTORY } },
      order: ['revision'],
    })
    response.json({
      id: job.id,
      revision: job.revision,
      branchOf: job.branchOf,
      document: JSON.parse(job.document),
      edits: rows.map(savedEdit),
    })
  })

  routes.get('/jobs/:id/edits', async (request, response) => {
    const job = await jobOr404(request.params.id)
    const since = validated(Joi.number().integer().min(0).required(), request.query.since)
    const rows =
      since >= job.revision
        ? []
        : await Revision.findAll({ where: { jobId: job.id, revision: { [Op.gt]: since } }, order: ['revision'] })
    response.json({ revision: job.revision, edits: rows.map(savedEdit) })
  })

  routes.post('/jobs/:id/edits', json, async (request, response) => {
    const id = validated(idSchema, request.params.id)
    const { base, edits } = validated(editsSchema, request.body)
    response.json(await saveEdits(id, base, edits))
  })

  routes.post('/jobs/:id/copy', async (request, response) => {
    const job = await jobOr404(request.params.id)
    const document = JSON.parse(job.document) as JobDocument
    response.status(201).json(brief(await createJob({ ...document, name: `${document.name} (copy)`.slice(0, 200), meant: {} })))
  })

  routes.delete('/jobs/:id', async (request, response) => {
    await (await jobOr404(request.params.id)).destroy()
    response.status(204).end()
  })

  routes.post('/jobs/:id/restore', async (request, response) => {
    await Job.restore({ where: { id: validated(idSchema, request.params.id) } })
    response.status(204).end()
  })

  routes.get('/jobs/:id/file', async (request, response) => {
    const job = await jobOr404(request.params.id)
    const document = JSON.parse(job.document) as JobDocument
    const assets = new Map<string, Uint8Array>()
    for (const name of assetsOf(document)) assets.set(name, await assetBytes(name))
    const file = packJob(document, (name) => assets.get(name)!)
    response.set({
      'Content-Type': 'application/zip',
      'Content-Disposition': `attachment; filename*=UTF-8''${encodeURIComponent(job.name)}.neotaxis`,
    })
    response.send(Buffer.from(file))
  })

  routes.get('/jobs/:id/card', async (request, response) => {
    const card = await cardOf(validated(idSchema, request.params.id))
    response.json({ content: card.content, ...JSON.parse(card.summary) })
  })

  routes.get('/jobs/:id/card.png', async (request, response) => {
    const card = await cardOf(validated(idSchema, request.params.id))
    response.set({ 'Content-Type': 'image/png', 'Cache-Control': 'private, max-age=31536000, immutable' })
    response.send(card.picture)
  })
  return routes
}
