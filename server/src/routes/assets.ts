import { assetKind } from '@neotaxis/core'
import express, { Router } from 'express'
import Joi from 'joi'
import { assetBytes, keepAsset } from '../assets/store.ts'
import { takeInPicture } from '../assets/take-in.ts'
import { FontRow } from '../models/artwork.ts'
import { Asset } from '../models/index.ts'
import { Refusal } from '../refusal.ts'
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
export function assetRoutes(): Router {
  const routes = Router()
  routes.post('/assets', express.raw({ type: () => true, limit: '150mb' }), async (request, response) => {
    if (!Buffer.isBuffer(request.body)) throw new Refusal(400, 'empty', 'The file is empty.')
    const intake = await takeInPicture(request.body)
    await keepAsset(intake)
    const { font, asset } = intake
    if (font)
      await FontRow.findOrCreate({ where: { sha256: asset }, defaults: { sha256: asset, name: font.name, shipped: false } })
    const { bytes, ...facts } = intake
    response.status(201).json({ ...facts, bytes: bytes.length })
  })
  routes.get('/assets/:sha256', async (request, response) => {
    const name = validated(sha256, request.params.sha256)
    const bytes = await assetBytes(name)
    response.set({
      'Content-Type': TYPES[assetKind(bytes)],
      'Cache-Control': 'public, max-age=31536000, immutable',
      'X-Content-Type-Options': 'nosniff',
    })
    response.send(Buffer.from(bytes))
  })
  routes.head('/assets/:sha256', async (request, response) => {
    response.status((await Asset.count({ where: { sha256: validated(sha256, request.params.sha256) } })) ? 200 : 404).end()
  })
  return routes
}
