import { existsSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { assetName, assetsOf, assetsSupply, checkJob, type JobDocument, type Supply, unpackJob } from '@neotaxis/core'
import { readFont } from '@neotaxis/core/text/outline-font'
import { resolvedDrawing } from '@neotaxis/intake'
import { readInput, WorkError } from './io.ts'

export interface LoadedJob {
  readonly job: JobDocument
  readonly supply: Supply
  /** Its files by name. */
  readonly assets: ReadonlyMap<string, Uint8Array>
}

/** A job from a `.neotaxis` file, a `job.json` beside its assets, or `-` for standard input. */
export function loadJob(path: string): LoadedJob {
  const bytes = readInput(path)
  const zip = bytes[0] === 0x50 && bytes[1] === 0x4b
  const { job, assets } = zip ? unpackJob(bytes) : besideFile(path, bytes)
  return { job, assets, supply: assetsSupply(readAs(assets), undefined, undefined, readFont) }
}

/** Files as they are read: drawings in plain terms. */
const readAs =
  (assets: ReadonlyMap<string, Uint8Array>) =>
  (asset: string): Uint8Array | undefined => {
    const bytes = assets.get(asset)
    return bytes && resolvedDrawing(bytes)
  }

function besideFile(path: string, bytes: Uint8Array): { job: JobDocument; assets: Map<string, Uint8Array> } {
  let value: unknown
  try {
    value = JSON.parse(new TextDecoder().decode(bytes))
  } catch {
    throw new WorkError(`${path} is neither a .neotaxis file nor a job.json.`)
  }
  const job = checkJob(value)
  const folder = path === '-' ? '.' : dirname(path)
  const assets = new Map<string, Uint8Array>()
  for (const name of assetsOf(job)) {
    const names = ['png', 'stl', 'svg', 'dxf', 'gcode'].map((kind) => `${name}.${kind}`)
    const file = [...names.map((each) => join(folder, 'assets', each)), ...names.map((each) => join(folder, each))].find(
      existsSync,
    )
    if (!file) throw new WorkError(`The file assets/${name}.png is missing beside the job.`)
    const asset = readInput(file)
    if (assetName(asset) !== name) throw new WorkError(`The file ${file} is damaged.`)
    assets.set(name, asset)
  }
  return { job, assets }
}
