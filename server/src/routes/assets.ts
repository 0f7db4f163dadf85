import { Router } from 'express'
import Joi from 'joi'
import { assetKindOf, streamAsset } from '../assets/store.ts'
import { Asset } from '../models/index.ts'
import type { Work } from '../work/work.ts'
import { fileBody, handedOver } from './bodies.ts'
import { validated } from './validate.ts'

const sha256 = Joi.string()
  .pattern(/^[0-9a-f]{64}$/)
  .required()

const TYPES = {
  png: 'image/png',
  stl: 'model/stl',
  svg: 'text/plain; charset=utf-8',
  dxf: 'text/plain',
  font: 'application/octet-stream',
  gcode: 'text/plain; charset=latin1',
}

/** Pictures and meshes: brought in as any file, kept and given out as canonical PNG under their SHA-256. */
export function assetRoutes(work: Work): Router {
  const routes = Router()
  routes.post('/assets', ...fileBody(150), async (request, response) => {
    const { bytes, transfer } = handedOver(request.body as Buffer)
    response.status(201).json(await work.run('takeIn', bytes, { transfer }))
  })
  routes.get('/assets/:sha256', async (request, response) => {
    const name = validated(sha256, request.params.sha256)
    const kind = await assetKindOf(name)
    response.set({
      'Content-Type': TYPES[kind],
      'Cache-Control': 'public, max-age=31536000, immutable',
      'X-Content-Type-Options': 'nosniff',
    })
    await streamAsset(name, response)
  })
  routes.head('/assets/:sha256', async (request, response) => {
    response.status((await Asset.count({ where: { sha256: validated(sha256, request.params.sha256) } })) ? 200 : 404).end()
  })
  return routes
}
