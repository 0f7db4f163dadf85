import type { JobBrief } from '@neotaxis/contract'
// Jobs made from files and into files, in threads.
import {
  assetKind,
  assetName,
  checkJob,
  type JobDocument,
  MACHINES,
  MATERIALS,
  packJob,
  programJob,
  readProgram,
  unpackJob,
} from '@neotaxis/core'
import { type Intake, takeIn } from '@neotaxis/intake'
import { zipSync } from 'fflate'
import { nanoid } from 'nanoid'
import { jobAssets, requireAssets } from '../assets/job-assets.ts'
import { keepProgram } from '../assets/keep-intake.ts'
import { assetBytes, keepAsset } from '../assets/store.ts'
import { Job } from '../models/index.ts'
import { Refusal } from '../refusal.ts'
import { jobColumns, listed } from './job-columns.ts'
import { newestJob } from './job-text.ts'
import { readJson } from './json-limits.ts'

const MOST_BYTES = 20_000_000

async function keepJob(document: JobDocument): Promise<JobBrief> {
  return listed(await Job.create({ id: nanoid(12), revision: 0, branchOf: null, ...jobColumns(document) }))
}

/** A new job from a document. @param body JSON `{job}` @throws JobError, Refusal */
export async function createJob(body: Uint8Array): Promise<JobBrief> {
  const document = checkJob((readJson(body, MOST_BYTES, 'The job') as { job?: unknown } | null)?.job)
  await requireAssets(document)
  return keepJob(document)
}

export async function copyJob(jobId: string): Promise<JobBrief> {
  const { document } = await newestJob(jobId)
  return keepJob({ ...document, name: `${document.name} (copy)`.slice(0, 200), meant: {} })
}

/** A job from a `.neotaxis` file: everything is read before anything is kept. @throws JobError, PictureError, Refusal */
export async function openFile(bytes: Uint8Array): Promise<JobBrief> {
  const { job, assets } = unpackJob(bytes)
  const programs = new Set(Object.values(job.nodes).flatMap((node) => (node.kind === 'program' ? [node.asset] : [])))
  const intakes: Intake[] = []
  for (const [name, body] of assets) {
    const isPicture = body[0] === 0x89 && body[1] === 0x50
    if (!isPicture && programs.has(name) && assetName(body) === name) {
      intakes.push({ asset: name, bytes: body, widthPx: 0, heightPx: 0, hasAlpha: false })
      continue
    }
    const intake = await takeIn(body)
    if (intake.asset !== name)
      throw new Refusal(422, 'bad-job', 'A picture in this job file is not in the form that Neotaxis keeps.')
    intakes.push(intake)
  }
  for (const intake of intakes) await keepAsset(intake)
  return keepJob(job)
}

/** A job and its assets as one file. */
export async function packFile(jobId: string): Promise<{ readonly name: string; readonly file: Uint8Array }> {
  const stored = await Job.findByPk(jobId)
  if (stored?.trouble != null) return { name: stored.name, file: await packAsItIs(stored.document) }
  const { document, job } = await newestJob(jobId)
  const assets = await jobAssets(document)
  return { name: job.name, file: packJob(document, (name) => assets.get(name)!) }
}

/** A document that this version cannot read, with all of its files that there are: nothing of it is lost. */
async function packAsItIs(document: string): Promise<Uint8Array> {
  const files: Record<string, Uint8Array> = { 'job.json': new TextEncoder().encode(document) }
  for (const asset of new Set(document.match(/\b[0-9a-f]{64}\b/g) ?? [])) {
    const bytes = await assetBytes(asset).catch(() => undefined)
    if (bytes) files[`assets/${asset}.${assetKind(bytes)}`] = bytes
  }
  return zipSync(files)
}

/** A program from a file becomes a job that runs it as it is written. @throws Refusal where nothing in it moves */
export async function openProgram({ name, bytes }: { name: string; bytes: Uint8Array }): Promise<JobBrief> {
  const read = readProgram(new TextDecoder('latin1').decode(bytes))
  const stops = read.problems.filter(({ severity }) => severity === 'stop').length
  if (read.moves.count === 0 || (read.box === null && stops > 0))
    throw new Refusal(422, 'no-program', 'This is no program that a laser could run: no moves were found in it.')
  const workpiece = { widthMm: 300, heightMm: 200, thicknessMm: MATERIALS[0].thicknessMm }
  const settings = { workpiece, material: MATERIALS[0], machine: MACHINES[0] }
  const document = checkJob(programJob(name, assetName(bytes), read, settings))
  await keepProgram(bytes)
  return keepJob(document)
}
