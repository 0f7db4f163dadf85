import { assetsOf, assetsSupply, type JobDocument, type Supply } from '@neotaxis/core'
import { readFont } from '@neotaxis/core/text/outline-font'
import { resolvedDrawing } from '@neotaxis/intake'
import { Asset } from '../models/index.ts'
import { Refusal } from '../refusal.ts'
import { assetBytes } from './store.ts'

/** The bytes of all assets of a job. */
export async function jobAssets(job: JobDocument): Promise<ReadonlyMap<string, Uint8Array>> {
  const assets = new Map<string, Uint8Array>()
  for (const name of assetsOf(job)) assets.set(name, await assetBytes(name))
  return assets
}

/** Files as they are read: drawings in plain terms, each resolved once. */
function resolving(assets: ReadonlyMap<string, Uint8Array>): (name: string) => Uint8Array | undefined {
  const read = new Map<string, Uint8Array>()
  return (name) => {
    const bytes = read.get(name) ?? assets.get(name)
    const plain = bytes && resolvedDrawing(bytes)
    if (plain) read.set(name, plain)
    return plain
  }
}

/** What evaluation needs, with a job's assets from the database. */
export async function jobSupply(job: JobDocument): Promise<Supply> {
  const assets = await jobAssets(job)
  return assetsSupply(resolving(assets), undefined, undefined, readFont)
}

/** @throws Refusal where an asset of the job is not here */
export async function requireAssets(job: JobDocument): Promise<void> {
  for (const sha256 of assetsOf(job)) {
    if ((await Asset.count({ where: { sha256 } })) === 0)
      throw new Refusal(422, 'missing-asset', 'A picture that this job needs is not on the server. Bring it in first.')
  }
}
