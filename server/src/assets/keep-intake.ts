import { assetName } from '@neotaxis/core'
import { type Intake, takeIn } from '@neotaxis/intake'
import { FontRow } from '../models/artwork.ts'
import { keepAsset } from './store.ts'

/** What is told of a file that was brought in. */
export type IntakeFacts = Omit<Intake, 'bytes'> & { readonly bytes: number }

/** Decodes a file and keeps it as an asset. @param page of a PDF, from 1 @throws PictureError */
export async function keepIntake(asked: Uint8Array | { readonly file: Uint8Array; readonly page: number }): Promise<IntakeFacts> {
  const { file, page } = asked instanceof Uint8Array ? { file: asked, page: 1 } : asked
  const intake = await takeIn(file, page)
  await keepAsset(intake)
  const { font, asset, bytes, ...facts } = intake
  if (font) await FontRow.findOrCreate({ where: { sha256: asset }, defaults: { sha256: asset, name: font.name, shipped: false } })
  return { ...facts, ...(font && { font }), asset, bytes: bytes.length }
}

/** Keeps a program as it is: an asset without pixels. @returns its name */
export async function keepProgram(bytes: Uint8Array): Promise<string> {
  const asset = assetName(bytes)
  await keepAsset({ asset, bytes, widthPx: 0, heightPx: 0, hasAlpha: false })
  return asset
}
