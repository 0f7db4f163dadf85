import { createHash } from 'node:crypto'
import { shippedFonts } from '@neotaxis/intake'
import { keepAsset } from './assets/store.ts'
import { FontRow } from './models/artwork.ts'

/** Puts the shipped fonts into the database where they are missing. */
export async function fillFonts(): Promise<void> {
  for (const { name, bytes } of shippedFonts()) {
    const asset = createHash('sha256').update(bytes).digest('hex')
    if (await FontRow.findByPk(asset)) continue
    await keepAsset({ asset, bytes, widthPx: 1, heightPx: 1, hasAlpha: false })
    await FontRow.findOrCreate({ where: { sha256: asset }, defaults: { sha256: asset, name, shipped: true } })
  }
}
