import { sha256 } from '@neotaxis/contract'
import { Router } from 'express'
import { assetKindOf, streamAsset } from '../assets/store.ts'
import { Asset } from '../models/index.ts'
import type { Work } from '../work/work.ts'
import { fileBody, handedOver } from './bodies.ts'
import { on, queryOf } from './endpoint.ts'
import { validated } from './validate.ts'

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
  on(routes, 'bringIn', ...fileBody(150), async (request, response) => {
    const { bytes, transfer } = handedOver(request.body as Buffer)
    const page = queryOf('bringIn', request).page as number
    response.status(201).json(await work.run('takeIn', { file: bytes, page }, { transfer }))
  })
  on(routes, 'asset', async (request, response) => {
    const name = validated(sha256.required(), request.params.sha256)
    const kind = await assetKindOf(name)
    response.set({
      'Content-Type': TYPES[kind],
      'Cache-Control': 'public, max-age=31536000, immutable',
      'X-Content-Type-Options': 'nosniff',
    })
    await streamAsset(name, response)
  })
  on(routes, 'assetToRead', async (request, response) => {
    const name = validated(sha256.required(), request.params.sha256)
    const kind = await assetKindOf(name)
    // How a drawing is resolved may change with the version: it is asked for again.
    const lasting = kind === 'svg' ? 'no-cache' : 'public, max-age=31536000, immutable'
    response.set({ 'Content-Type': TYPES[kind], 'Cache-Control': lasting, 'X-Content-Type-Options': 'nosniff' })
    if (kind === 'svg') response.send(Buffer.from(await work.run('plainDrawing', { asset: name })))
    else await streamAsset(name, response)
  })
  routes.head('/assets/:sha256', async (request, response) => {
    response
      .status((await Asset.count({ where: { sha256: validated(sha256.required(), request.params.sha256) } })) ? 200 : 404)
      .end()
  })
  return routes
}
