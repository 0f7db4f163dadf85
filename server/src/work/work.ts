import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { Piscina } from 'piscina'
import type { DatabaseSettings } from '../database.ts'
import { Refusal } from '../refusal.ts'
import type { Answer, Tasks } from './tasks.ts'

/** Kinds of threads: short work on documents never waits behind pictures, nor the start of a run behind either. */
type Kind = 'documents' | 'pictures' | 'runs'

/** Which threads do a task, and for how long at most, seconds. */
const KINDS: Readonly<Record<keyof Tasks, readonly [Kind, number]>> = {
  openJob: ['documents', 30],
  editsSince: ['documents', 30],
  saveEdits: ['documents', 60],
  createJob: ['documents', 30],
  copyJob: ['documents', 30],
  jobForRun: ['documents', 30],
  runDocument: ['documents', 30],
  noteEvidence: ['documents', 30],
  openFile: ['pictures', 120],
  packFile: ['pictures', 120],
  openProgram: ['pictures', 60],
  takeIn: ['pictures', 60],
  plainDrawing: ['pictures', 60],
  keepArtwork: ['pictures', 60],
  makeCard: ['pictures', 120],
  burnPicture: ['pictures', 60],
  frameWays: ['runs', 60],
  prepareRun: ['runs', 300],
  writeRun: ['runs', 30],
  writeUse: ['pictures', 120],
}

/** So many pieces of work may wait; more are told to come again. */
const MOST_WAITING = 256
const MEMORY_MB = 2048

const here = fileURLToPath(import.meta.url)
/** Built, the tasks stand beside this file as JavaScript; from source a loader goes before them. */
const FILE = here.endsWith('.ts') ? join(here, '..', 'entry.mjs') : join(here, '..', 'tasks.mjs')

export interface WorkOptions {
  /** Stops it; what it would have given is not waited for. */
  readonly signal?: AbortSignal
  /** Bytes that are handed over instead of being copied. */
  readonly transfer?: readonly ArrayBuffer[]
}

/** Where programs of runs stand while they are needed; one folder a process. */
export const runFolder = (pid: number): string => join(tmpdir(), `neotaxis-runs-${pid}`)

/**
 * Everything that may take long, in warm threads of a bounded pool with connections of their own to the database: the server's own
 * thread hands bytes on and goes on answering.
 */
export class Work {
  private readonly pools: Readonly<Record<Kind, Piscina>>

  /** @param file where the tasks are, for tests that use built ones */
  constructor(database: DatabaseSettings, file = FILE) {
    const pool = (maxThreads: number): Piscina =>
      new Piscina({
        filename: file,
        minThreads: 0,
        maxThreads,
        idleTimeout: Number.POSITIVE_INFINITY,
        maxQueue: MOST_WAITING,
        resourceLimits: { maxOldGenerationSizeMb: MEMORY_MB },
        workerData: { database, runs: runFolder(process.pid) },
        recordTiming: false,
        // Threads that wait for work go on noticing what becomes of their connections.
        atomics: 'disabled',
      })
    this.pools = { documents: pool(1), pictures: pool(2), runs: pool(1) }
  }

  /** Does a task in a thread. @throws Refusal with its reason; Error where it took too long, too much memory, or failed */
  async run<K extends keyof Tasks>(
    name: K,
    data: Parameters<Tasks[K]>[0],
    { signal, transfer }: WorkOptions = {},
  ): Promise<Awaited<ReturnType<Tasks[K]>>> {
    const [kind, seconds] = KINDS[name]
    const pool = this.pools[kind]
    if (pool.queueSize >= MOST_WAITING) throw new Refusal(503, 'busy', 'The server has too much to do just now: try it again.')
    const late = AbortSignal.timeout(seconds * 1000)
    let answer: Answer
    try {
      answer = (await pool.run(
        { name, data },
        { signal: signal ? AbortSignal.any([signal, late]) : late, ...(transfer && { transferList: [...transfer] }) },
      )) as Answer
    } catch (cause) {
      if (signal?.aborted) throw cause
      if (late.aborted) throw new Refusal(422, 'too-long', `It took longer than ${seconds} s, and was given up.`)
      if ((cause as { code?: string }).code === 'ERR_WORKER_OUT_OF_MEMORY')
        throw new Refusal(422, 'too-large', 'It needs more memory than there is for one piece of work.')
      throw cause
    }
    if ('refused' in answer) throw new Refusal(answer.refused.status, answer.refused.code, answer.refused.message)
    if ('failed' in answer) throw Object.assign(new Error(answer.failed.message), answer.failed)
    return answer.value as Awaited<ReturnType<Tasks[K]>>
  }

  /** Boots threads before anybody waits for them. */
  async warm(): Promise<void> {
    await Promise.all(Object.values(this.pools).map((pool) => pool.run({ name: 'ready', data: undefined })))
  }

  async close(): Promise<void> {
    await Promise.all(Object.values(this.pools).map((pool) => pool.destroy()))
  }
}
