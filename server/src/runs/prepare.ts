import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { assetsOf, type JobDocument, type OperationReport, type RunScope } from '@neotaxis/core'
import { assetBytes } from '../assets/store.ts'
import { inThread } from '../thread.ts'

/** Times are kept for every so many lines of a program. */
export const LINES_A_STEP = 32
const PREPARE_SECONDS = 300

/** A program on disk, ready to be sent, and how its lines belong to time. */
export interface Prepared {
  readonly file: string
  /** Findings that stop it. */
  readonly stops: readonly string[]
  readonly lines: number
  readonly seconds: number
  /** Seconds of the estimate at every 32nd line. */
  readonly times: Float64Array
  readonly parts: readonly { readonly id: string; readonly linesBefore: number }[]
  readonly operations: readonly OperationReport[]
  readonly bounds: readonly [number, number, number, number] | null
  /** What must be confirmed before the start. */
  readonly preflight: readonly string[]
}

let folder: string | undefined

/** The program of a run. The same job and scope give the same program, whoever prepares it. */
export async function prepareRun(id: string, job: JobDocument, scope: RunScope): Promise<Prepared> {
  folder ??= mkdtempSync(join(tmpdir(), 'neotaxis-runs-'))
  const assets: Record<string, Uint8Array> = {}
  for (const name of assetsOf(job)) assets[name] = await assetBytes(name)
  const file = join(folder, `${id}.gcode`)
  return inThread<Prepared>(new URL('./prepare-thread.ts', import.meta.url), { job, scope, assets, file }, PREPARE_SECONDS)
}

/** Seconds of the estimate when so many lines are driven. */
export function timeAt({ times, seconds }: Pick<Prepared, 'times' | 'seconds'>, lines: number): number {
  const at = lines / LINES_A_STEP
  const i = Math.floor(at)
  if (i + 1 >= times.length) return seconds
  return times[i] + (times[i + 1] - times[i]) * (at - i)
}

/** The operation that a line belongs to. */
export function partAt({ parts }: Pick<Prepared, 'parts'>, lines: number): string | null {
  return parts.filter(({ linesBefore }) => linesBefore <= lines).at(-1)?.id ?? null
}
