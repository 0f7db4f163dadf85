// Runs in the threads of the pool: each has a connection of its own to the database.
import { workerData } from 'node:worker_threads'
import { JobError, PictureError } from '@neotaxis/core'
import { keepIntake } from '../assets/keep-intake.ts'
import { plainDrawing } from '../assets/plain-drawing.ts'
import { makeCard } from '../cards/make-card.ts'
import { connectDatabase, type DatabaseSettings } from '../database.ts'
import { copyJob, createJob, openFile, openProgram, packFile } from '../jobs/job-files.ts'
import { editsSince, jobForRun, openJob, saveBody } from '../jobs/job-text.ts'
import { keepArtwork } from '../library/keep-artwork.ts'
import { Refusal } from '../refusal.ts'
import { burnPicture } from '../runs/burn-picture.ts'
import { noteEvidence } from '../runs/evidence.ts'
import { frameWays } from '../runs/frame-ways.ts'
import { prepareRun } from '../runs/prepare-run.ts'
import { runDocument } from '../runs/run-document.ts'
import { writeRun } from '../runs/write-run.ts'
import { writeUse } from '../stock/write-use.ts'
import { stepBack } from './step-back.ts'

const TASKS = {
  openJob,
  editsSince,
  saveEdits: saveBody,
  createJob,
  copyJob,
  jobForRun,
  openFile,
  packFile,
  openProgram,
  takeIn: keepIntake,
  plainDrawing,
  keepArtwork,
  makeCard,
  burnPicture,
  frameWays,
  prepareRun,
  writeRun,
  runDocument,
  noteEvidence,
  writeUse,
}
export type Tasks = typeof TASKS

/** What a thread gives back: errors as values, because classes do not cross. */
export type Answer =
  | { readonly value: unknown }
  | { readonly refused: { readonly status: number; readonly code: string; readonly message: string } }
  | { readonly failed: FailedTask }

interface FailedTask {
  readonly name: string
  readonly message: string
  readonly stack?: string
  readonly errno?: number
  readonly code?: string
}

interface ThreadSettings {
  readonly database: DatabaseSettings
}

// piscina keeps what the pool was given in the second place of what it hands to its threads.
const { database } = (Array.isArray(workerData) ? workerData[1] : workerData) as ThreadSettings
stepBack()
connectDatabase(database)

export default async function answer({ name, data }: { name: keyof Tasks | 'ready'; data: never }): Promise<Answer> {
  try {
    if (name === 'ready') return { value: undefined }
    const task = TASKS[name] as (data: never) => unknown
    return { value: await task(data) }
  } catch (cause) {
    if (cause instanceof Refusal) return { refused: { status: cause.status, code: cause.code, message: cause.message } }
    if (cause instanceof JobError) return { refused: { status: 422, code: 'bad-job', message: cause.message } }
    if (cause instanceof PictureError) return { refused: { status: 422, code: 'no-picture', message: cause.message } }
    const { name: kind, message, stack, original } = cause as Error & { original?: { errno?: number; code?: string } }
    return { failed: { name: kind, message, stack, errno: original?.errno, code: original?.code } }
  }
}
