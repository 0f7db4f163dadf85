import { sha256 } from '@noble/hashes/sha2.js'
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate'
import { drawingKind } from '../formats/read-drawing.ts'
import { assetsOf, type JobDocument } from '../job/document/document.ts'
import { JobError } from '../job/document/job-error.ts'
import { isRoot } from '../job/document/nodes.ts'
import { isStl } from '../mesh/stl.ts'
import { isFont } from '../text/font-kind.ts'
import { checkJob } from './check-job.ts'

/** Hexadecimal SHA-256: the name of an asset. */
export function assetName(bytes: Uint8Array): string {
  let out = ''
  for (const byte of sha256(bytes)) out += byte.toString(16).padStart(2, '0')
  return out
}

/** All that a job file may unpack to, and its document alone: more is a mistake, or an attack. */
const MAX_FILE_BYTES = 400_000_000
const MAX_JOB_BYTES = 20_000_000

const ASSET = /^assets\/([0-9a-f]{64})\.(png|stl|svg|dxf|font|gcode)$/

/** What an asset is, by how it begins: a picture, a font, a mesh, a drawing or a program. */
export const assetKind = (bytes: Uint8Array): 'png' | 'stl' | 'svg' | 'dxf' | 'font' | 'gcode' =>
  bytes[0] === 0x89 && bytes[1] === 0x50 ? 'png' : isFont(bytes) ? 'font' : isStl(bytes) ? 'stl' : (drawingKind(bytes) ?? 'gcode')

/** A job and its assets as one `.neotaxis` file: a ZIP of `job.json` and `assets/<sha-256>.png`, `.stl`, `.svg`, `.dxf`, `.font` or `.gcode`. */
export function packJob(job: JobDocument, asset: (name: string) => Uint8Array): Uint8Array {
  const files: Record<string, [Uint8Array, { level: 0 | 6; mtime: string }]> = {}
  // One fixed date: the same job gives the same file.
  const mtime = '1980-01-01T00:00:00'
  files['job.json'] = [strToU8(JSON.stringify(job, null, 1)), { level: 6, mtime }]
  for (const name of assetsOf(job)) {
    const bytes = asset(name)
    const kind = assetKind(bytes)
    files[`assets/${name}.${kind}`] = [bytes, { level: kind === 'png' ? 0 : 6, mtime }]
  }
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
        if (name !== 'job.json' && !ASSET.test(name)) return false
        total += originalSize
        if (total > MAX_FILE_BYTES || (name === 'job.json' && originalSize > MAX_JOB_BYTES))
          throw new JobError('The job file unpacks to more than can be used.')
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
  const there = new Map(Object.entries(files).flatMap(([name, body]) => (ASSET.test(name) ? [[ASSET.exec(name)![1], body]] : [])))
  for (const name of assetsOf(job)) {
    const asset = there.get(name)
    const node = Object.values(job.nodes).find((n) => isRoot(n) && n.asset === name)
    const called = node ? `The picture “${node.name}”` : 'A font'
    if (!asset) throw new JobError(`${called} is missing from the job file.`)
    if (assetName(asset) !== name) throw new JobError(`${called} in the job file is damaged.`)
    assets.set(name, asset)
  }
  return { job, assets }
}
