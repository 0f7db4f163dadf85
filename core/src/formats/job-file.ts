import { sha256 } from '@noble/hashes/sha2.js'
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate'
import { assetsOf, type JobDocument } from '../job/document.ts'
import { checkJob, JobError } from '../job/schema.ts'

/** Hexadecimal SHA-256: the name of an asset. */
export function assetName(bytes: Uint8Array): string {
  let out = ''
  for (const byte of sha256(bytes)) out += byte.toString(16).padStart(2, '0')
  return out
}

const MAX_FILE_BYTES = 1_000_000_000

/** A job and its assets as one `.neotaxis` file: a ZIP of `job.json` and `assets/<sha-256>.png`. */
export function packJob(job: JobDocument, asset: (name: string) => Uint8Array): Uint8Array {
  const files: Record<string, [Uint8Array, { level: 0 | 6; mtime: string }]> = {}
  // One fixed date: the same job gives the same file.
  const mtime = '1980-01-01T00:00:00'
  files['job.json'] = [strToU8(JSON.stringify(job, null, 1)), { level: 6, mtime }]
  for (const name of assetsOf(job)) files[`assets/${name}.png`] = [asset(name), { level: 0, mtime }]
  return zipSync(files)
}

export interface UnpackedJob {
  readonly job: JobDocument
  readonly assets: ReadonlyMap<string, Uint8Array>
}

/**
 * Opens a `.neotaxis` file; everything in it is checked.
 * @throws JobError with one sentence: no job, newer version, asset missing or changed
 */
export function unpackJob(bytes: Uint8Array): UnpackedJob {
  let files: Record<string, Uint8Array>
  let total = 0
  try {
    files = unzipSync(bytes, {
      filter: ({ name, originalSize }) => {
        if (name !== 'job.json' && !/^assets\/[0-9a-f]{64}\.png$/.test(name)) return false
        total += originalSize
        if (total > MAX_FILE_BYTES) throw new JobError('The job file unpacks to more than can be used.')
        return true
      },
    })
  } catch (cause) {
    if (cause instanceof JobError) throw cause
    throw new JobError('This is not a Neotaxis job file, or it is damaged.', { cause })
  }
  const text = files['job.json']
  if (!text) throw new JobError('This is not a Neotaxis job file: it holds no job.json.')
  let value: unknown
  try {
    value = JSON.parse(strFromU8(text))
  } catch (cause) {
    throw new JobError('The job in this file is damaged.', { cause })
  }
  const job = checkJob(value)
  const assets = new Map<string, Uint8Array>()
  for (const name of assetsOf(job)) {
    const asset = files[`assets/${name}.png`]
    const node = Object.values(job.nodes).find((n) => n.kind === 'source' && n.asset === name)
    if (!asset) throw new JobError(`The picture “${node?.name}” is missing from the job file.`)
    if (assetName(asset) !== name) throw new JobError(`The picture “${node?.name}” in the job file is damaged.`)
    assets.set(name, asset)
  }
  return { job, assets }
}
