import { once } from 'node:events'
import type { Writable } from 'node:stream'
import { assetKind } from '@neotaxis/core'
import type { Intake } from '@neotaxis/intake'
import { UniqueConstraintError } from 'sequelize'
import { Asset, AssetChunk } from '../models/index.ts'
import { Refusal } from '../refusal.ts'

/** Large packets are slow in this driver and limited by the server; a megabyte is neither. */
const CHUNK_BYTES = 1 << 20

/** Keeps an asset, whole or not at all. One that is there already stays as it is. */
export async function keepAsset(intake: Intake): Promise<void> {
  if (await Asset.findByPk(intake.asset)) return
  const { asset, bytes, widthPx, heightPx, hasAlpha, pixelsPerMm } = intake
  const chunks = Math.ceil(bytes.length / CHUNK_BYTES)
  try {
    await Asset.sequelize!.transaction(async (transaction) => {
      await Asset.create(
        { sha256: asset, bytes: bytes.length, chunks, widthPx, heightPx, hasAlpha, pixelsPerMm: pixelsPerMm ?? null },
        { transaction },
      )
      for (let number = 0; number < chunks; number++) {
        const data = Buffer.from(bytes.subarray(number * CHUNK_BYTES, (number + 1) * CHUNK_BYTES))
        await AssetChunk.create({ sha256: asset, number, data }, { transaction })
      }
    })
  } catch (cause) {
    // Somebody else brought the same picture at the same time: then it is kept.
    if (!(cause instanceof UniqueConstraintError)) throw cause
  }
}

async function assetRow(sha256: string): Promise<Asset> {
  const asset = await Asset.findByPk(sha256)
  if (!asset) throw new Refusal(404, 'no-asset', 'This picture is not here.')
  return asset
}

async function chunkOf(sha256: string, number: number): Promise<Buffer> {
  const chunk = await AssetChunk.findOne({ where: { sha256, number } })
  if (!chunk) throw new Refusal(500, 'asset-damaged', 'A part of this picture is missing in the database.')
  return chunk.data
}

/** The bytes of an asset. */
export async function assetBytes(sha256: string): Promise<Uint8Array> {
  const asset = await assetRow(sha256)
  const out = new Uint8Array(asset.bytes)
  for (let number = 0; number < asset.chunks; number++) out.set(await chunkOf(sha256, number), number * CHUNK_BYTES)
  return out
}

/** What an asset is, by how it begins. */
export async function assetKindOf(sha256: string): Promise<ReturnType<typeof assetKind>> {
  await assetRow(sha256)
  return assetKind(await chunkOf(sha256, 0))
}

/** Sends an asset chunk by chunk, no faster than it is taken. */
export async function streamAsset(
  sha256: string,
  to: Writable & { setHeader(name: string, value: number): unknown },
): Promise<void> {
  const asset = await assetRow(sha256)
  to.setHeader('Content-Length', asset.bytes)
  for (let number = 0; number < asset.chunks && !to.destroyed; number++)
    if (!to.write(await chunkOf(sha256, number))) await Promise.race([once(to, 'drain'), once(to, 'close')])
  to.end()
}
