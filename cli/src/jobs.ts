import { existsSync } from 'node:fs'
import { dirname, join } from 'node:path'
import {
  assetName,
  assetsOf,
  type Bench,
  checkJob,
  type GreyPicture,
  greyFromPng,
  type JobDocument,
  JobError,
  ResultCache,
  unpackJob,
} from '@neotaxis/core'
import { readInput, WorkError } from './io.ts'

export interface LoadedJob {
  readonly job: JobDocument
  readonly bench: Bench
}

/** A job from a `.neotaxis` file, a `job.json` beside its assets, or `-` for standard input. */
export function loadJob(path: string): LoadedJob {
  const bytes = readInput(path)
  const zip = bytes[0] === 0x50 && bytes[1] === 0x4b
  const { job, assets } = zip ? unpackJob(bytes) : besideFile(path, bytes)
  const pictures = new Map<string, GreyPicture>()
  for (const [name, asset] of assets) if (asset[0] === 0x89 && asset[1] === 0x50) pictures.set(name, greyFromPng(asset))
  const picture = (asset: string): GreyPicture => {
    const found = pictures.get(asset)
    if (!found) throw new JobError('A picture of the job is missing.')
    return found
  }
  return {
    job,
    bench: { picture, program: (asset) => new TextDecoder('latin1').decode(assets.get(asset)), cache: new ResultCache() },
  }
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
    const file = [join(folder, 'assets', `${name}.png`), join(folder, `${name}.png`)].find(existsSync)
    if (!file) throw new WorkError(`The picture assets/${name}.png is missing beside the job.`)
    const asset = readInput(file)
    if (assetName(asset) !== name) throw new WorkError(`The picture assets/${name}.png is damaged.`)
    assets.set(name, asset)
  }
  return { job, assets }
}
