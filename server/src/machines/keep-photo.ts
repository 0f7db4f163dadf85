import { assetName } from '@neotaxis/core'
import { readPhoto } from '@neotaxis/intake'
import { keepAsset } from '../assets/store.ts'

/** Keeps a photo as it came. @returns its name */
export async function keepPhoto(bytes: Uint8Array): Promise<string> {
  const { widthPx, heightPx } = await readPhoto(bytes)
  const asset = assetName(bytes)
  await keepAsset({ asset, bytes, widthPx, heightPx, hasAlpha: false })
  return asset
}
