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

/** The bytes of an asset. */
export async function assetBytes(sha256: string): Promise<Uint8Array> {
  const asset = await Asset.findByPk(sha256)
  if (!asset) throw new Refusal(404, 'no-asset', 'This picture is not here.')
  const out = new Uint8Array(asset.bytes)
  for (let number = 0; number < asset.chunks; number++) {
    const chunk = await AssetChunk.findOne({ where: { sha256, number } })
    if (!chunk) throw new Refusal(500, 'asset-damaged', 'A part of this picture is missing in the database.')
    out.set(chunk.data, number * CHUNK_BYTES)
  }
  return out
}
