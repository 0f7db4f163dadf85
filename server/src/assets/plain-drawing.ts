import { DrawingError, PictureError } from '@neotaxis/core'
import { resolvedDrawing } from '@neotaxis/intake'
import { assetBytes } from './store.ts'

/** A kept drawing in plain terms, as every part of Neotaxis reads it. @throws PictureError with a sentence */
export async function plainDrawing({ asset }: { readonly asset: string }): Promise<Uint8Array> {
  const bytes = await assetBytes(asset)
  try {
    return resolvedDrawing(bytes)
  } catch (cause) {
    if (cause instanceof DrawingError) throw new PictureError(cause.message, { cause })
    throw cause
  }
}
