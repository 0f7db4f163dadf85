import type { ArtworkSaid, NewArtwork } from '@neotaxis/contract'
import express, { Router } from 'express'
import { Op } from 'sequelize'
import { told } from '../library/keep-artwork.ts'
import { Artwork } from '../models/artwork.ts'
import { Job } from '../models/index.ts'
import { Refusal } from '../refusal.ts'
import type { Work } from '../work/work.ts'
import { bodyOf, idIn, on, queryOf } from './endpoint.ts'

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
  on(routes, 'library', async (request, response) => {
    const search = plain(queryOf('library', request).search)
    const like = { [Op.like]: `%${search}%` }
    const rows = await Artwork.findAll({
      attributes: { exclude: ['picture'] },
      where: search ? { [Op.or]: [{ name: like }, { tags: like }, { origin: like }, { licence: like }] } : {},
      order: [['createdAt', 'DESC']],
      limit: 500,
    })
    response.json({ artwork: rows.map(told) })
  })
  on(routes, 'keepArtwork', express.json({ limit: '2mb' }), async (request, response) => {
    const { asset, drawn, ...words } = bodyOf('keepArtwork', request) as NewArtwork
    response.status(201).json(await work.run('keepArtwork', { asset, drawn, said: words }))
  })
  on(routes, 'changeArtwork', express.json({ limit: '100kb' }), async (request, response) => {
    const change = bodyOf('changeArtwork', request) as Partial<ArtworkSaid>
    const { tags, licence, ...words } = change
    // Changes that follow each other quickly take turns: each answer tells all that was said before it.
    const artwork = await Artwork.sequelize!.transaction(async (transaction) => {
      const row = await Artwork.findByPk(idIn(request), { transaction, lock: transaction.LOCK.UPDATE })
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
  on(routes, 'removeArtwork', async (request, response) => {
    await (await found(idIn(request))).destroy()
    response.status(204).end()
  })
  on(routes, 'restoreArtwork', async (request, response) => {
    await (await found(idIn(request), false)).restore()
    response.status(204).end()
  })
  on(routes, 'artworkPicture', async (request, response) => {
    const { picture } = await found(idIn(request), false)
    response.set({ 'Content-Type': 'image/png', 'Cache-Control': 'public, max-age=31536000, immutable' }).send(picture)
  })
  /** The jobs that use it. */
  on(routes, 'artworkJobs', async (request, response) => {
    const { sha256 } = await found(idIn(request))
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
