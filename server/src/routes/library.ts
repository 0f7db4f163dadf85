import { type Drawn, drawnSchema, licenceSchema } from '@neotaxis/core'
import express, { Router } from 'express'
import Joi from 'joi'
import { Op } from 'sequelize'
import { type Said, told } from '../library/keep-artwork.ts'
import { Artwork } from '../models/artwork.ts'
import { Job } from '../models/index.ts'
import { Refusal } from '../refusal.ts'
import type { Work } from '../work/work.ts'
import { validated } from './validate.ts'

const said = {
  name: Joi.string().trim().min(1).max(200),
  tags: Joi.array().items(Joi.string().trim().min(1).max(40)).unique().max(30),
  origin: Joi.string().allow('').max(400),
  licence: licenceSchema,
}
const required = Object.fromEntries(Object.entries(said).map(([key, schema]) => [key, schema.required()]))
const newSchema = Joi.object({
  asset: Joi.string()
    .pattern(/^[0-9a-f]{64}$/)
    .required(),
  drawn: drawnSchema.optional(),
  ...required,
}).required()
const changeSchema = Joi.object(said).min(1).required()

/** % and _ are characters, not patterns. */
const plain = (text: string): string => text.replaceAll(/[\\%_]/g, '\\$&')

const gone = (): Refusal => new Refusal(404, 'no-artwork', 'This artwork is not in the library any more.')

async function found(id: string, paranoid = true): Promise<Artwork> {
  const artwork = await Artwork.findByPk(id, { paranoid })
  if (!artwork) throw gone()
  return artwork
}

/** Artwork that is kept across jobs, with where it came from and what its licence allows. */
export function libraryRoutes(work: Work): Router {
  const routes = Router()
  routes.get('/library', async (request, response) => {
    const search = plain(String(request.query.search ?? '').slice(0, 100))
    const like = { [Op.like]: `%${search}%` }
    const rows = await Artwork.findAll({
      attributes: { exclude: ['picture'] },
      where: search ? { [Op.or]: [{ name: like }, { tags: like }, { origin: like }, { licence: like }] } : {},
      order: [['createdAt', 'DESC']],
      limit: 500,
    })
    response.json({ artwork: rows.map(told) })
  })
  routes.post('/library', express.json({ limit: '2mb' }), async (request, response) => {
    const { asset, drawn, ...words } = validated<Said & { asset: string; drawn?: Drawn }>(newSchema, request.body)
    response.status(201).json(await work.run('keepArtwork', { asset, drawn, said: words }))
  })
  routes.patch('/library/:id', express.json({ limit: '100kb' }), async (request, response) => {
    const change = validated<Partial<Said>>(changeSchema, request.body)
    const { tags, licence, ...words } = change
    // Changes that follow each other quickly take turns: each answer tells all that was said before it.
    const artwork = await Artwork.sequelize!.transaction(async (transaction) => {
      const row = await Artwork.findByPk(request.params.id, { transaction, lock: transaction.LOCK.UPDATE })
      if (!row) throw gone()
      return row.update(
        {
          ...words,
          ...(tags ? { tags: JSON.stringify(tags) } : {}),
          ...(licence ? { licence: JSON.stringify(licence) } : {}),
        },
        { transaction },
      )
    })
    response.json(told(artwork))
  })
  routes.delete('/library/:id', async (request, response) => {
    await (await found(request.params.id)).destroy()
    response.status(204).end()
  })
  routes.post('/library/:id/restore', async (request, response) => {
    await (await found(request.params.id, false)).restore()
    response.status(204).end()
  })
  routes.get('/library/:id/picture', async (request, response) => {
    const { picture } = await found(request.params.id, false)
    response.set({ 'Content-Type': 'image/png', 'Cache-Control': 'public, max-age=31536000, immutable' }).send(picture)
  })
  /** The jobs that use it. */
  routes.get('/library/:id/jobs', async (request, response) => {
    const { sha256 } = await found(request.params.id)
    const jobs = await Job.findAll({
      attributes: ['id', 'name'],
      where: { document: { [Op.like]: `%${sha256}%` } },
      order: [['updatedAt', 'DESC']],
      limit: 100,
    })
    response.json({ jobs: jobs.map(({ id, name }) => ({ id, name })) })
  })
  return routes
}
