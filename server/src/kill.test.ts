import { type ChildProcess, spawn } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import {
  assetName,
  type Edit,
  encodePng,
  greyFromPng,
  type JobDocument,
  MACHINES,
  MATERIALS,
  propose,
  ResultCache,
} from '@neotaxis/core'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { buildPrograms, program } from '../../scripts/build.mjs'
import { freePort, startDatabase } from '../../scripts/database.mjs'

/** The campaign kills a hundred times. */
const CAMPAIGN = process.env.NEOTAXIS_CAMPAIGN === '1'
const SERVER_KILLS = CAMPAIGN ? 15 : 4
const DATABASE_KILLS = CAMPAIGN ? 85 : 10

// A database of its own, so that it can be killed too.
const folder = mkdtempSync(join(tmpdir(), 'neotaxis-kill-'))
let database: Awaited<ReturnType<typeof startDatabase>>
let server: { readonly child: ChildProcess; readonly url: string }

const png = encodePng({ widthPx: 40, heightPx: 40, channels: 1, samples: new Uint8Array(1600).fill(60), full: 255 })

async function startServer(): Promise<typeof server> {
  const child = spawn(process.execPath, [program('server', 'main')], {
    env: {
      ...process.env,
      NEOTAXIS_DB_PORT: String(database.port),
      NEOTAXIS_DB_NAME: 'kill',
      NEOTAXIS_PORT: '0',
      NEOTAXIS_LOG: 'silent',
    },
    stdio: ['ignore', 'ignore', 'ignore', 'ipc'],
  })
  const port = await new Promise<number>((resolve, reject) => {
    child.once('message', (message) => resolve((message as { listening: number }).listening))
    child.once('exit', () => reject(new Error('The server ended.')))
  })
  return { child, url: `http://127.0.0.1:${port}` }
}

beforeAll(async () => {
  await buildPrograms()
  database = await startDatabase(folder)
  server = await startServer()
})
afterAll(async () => {
  server.child.kill('SIGKILL')
  await database.stop()
  rmSync(folder, { recursive: true, force: true })
})

async function call<T>(path: string, init?: RequestInit): Promise<T> {
  const response = await fetch(`${server.url}/api${path}`, init)
  if (!response.ok) throw new Error(`${path}: ${response.status}`)
  return (await response.json()) as T
}
const post = (body: unknown): RequestInit => ({
  method: 'POST',
  headers: { 'Content-Type': 'application/json' },
  body: JSON.stringify(body),
})

async function makeJob(): Promise<string> {
  await call('/assets', { method: 'POST', headers: { 'Content-Type': 'application/octet-stream' }, body: Buffer.from(png) })
  const picture = greyFromPng(png)
  const facts = { name: 'gauge.png', asset: assetName(png), widthPx: 40, heightPx: 40, hasAlpha: false }
  const settings = { workpiece: { widthMm: 60, heightMm: 40, thicknessMm: 3 }, material: MATERIALS[0], machine: MACHINES[0] }
  const [{ job }] = propose(facts, picture, settings, { cache: new ResultCache(), picture: () => picture })
  return (await call<{ id: string }>('/jobs', post({ job }))).id
}

let number = 0
const nextEdit = (): Edit => ({
  id: `k${number++}`,
  name: 'power',
  kind: 'edit',
  patches: [{ path: ['operations', 'engrave', 'power'], value: (number % 90) / 100 }],
})

/** Sends edits one after the other; in the middle of the last, `kill` is called. @returns ids that were acknowledged */
async function editUntil(id: string, revision: number, count: number, kill: () => void): Promise<string[]> {
  const acknowledged: string[] = []
  let base = revision
  try {
    for (let sent = 1; ; sent++) {
      const edit = nextEdit()
      const sending = call<{ status: string; revision: number }>(`/jobs/${id}/edits`, post({ base, edits: [edit] }))
      if (sent === count) kill()
      const answer = await sending
      if (answer.status !== 'saved') throw new Error(answer.status)
      base = answer.revision
      acknowledged.push(edit.id)
      if (sent > count + 50) throw new Error('It was not killed.')
    }
  } catch (cause) {
    if ((cause as Error).message === 'It was not killed.') throw cause
    return acknowledged
  }
}

interface Opened {
  readonly revision: number
  readonly document: JobDocument
  readonly edits: readonly Edit[]
}

/** The job as it stands once everything is up again. */
async function reopened(id: string): Promise<Opened> {
  for (let tries = 0; ; tries++) {
    try {
      const { document } = await call<Opened>(`/jobs/${id}`)
      // All of them: the job itself comes with the latest only.
      return { document, ...(await call<Omit<Opened, 'document'>>(`/jobs/${id}/edits?since=0`)) }
    } catch (cause) {
      if (tries > 200) throw cause
      await new Promise((resolve) => setTimeout(resolve, 25))
    }
  }
}

function holdsAll(job: Opened, acknowledged: readonly string[]): void {
  const kept = new Set(job.edits.map(({ id }) => id))
  expect(acknowledged.filter((edit) => !kept.has(edit))).toEqual([])
  expect(job.revision).toBe(job.edits.length)
  expect(job.document.operations.engrave.power).toBe(job.edits.at(-1)!.patches[0].value)
}

it(`a server killed at any moment, ${SERVER_KILLS} times, has lost no edit that it acknowledged`, {
  timeout: 300_000,
}, async () => {
  const id = await makeJob()
  const acknowledged: string[] = []
  let { revision } = await reopened(id)
  for (let round = 0; round < SERVER_KILLS; round++) {
    acknowledged.push(...(await editUntil(id, revision, 2 + ((round * 7) % 9), () => server.child.kill('SIGKILL'))))
    server = await startServer()
    const job = await reopened(id)
    holdsAll(job, acknowledged)
    revision = job.revision
  }
  expect(acknowledged.length).toBeGreaterThan(2 * SERVER_KILLS)
})

it(`a database killed at any moment, ${DATABASE_KILLS} times, has lost none either, and the server finds it again`, {
  timeout: 300_000,
}, async () => {
  const id = await makeJob()
  const acknowledged: string[] = []
  let { revision } = await reopened(id)
  for (let round = 0; round < DATABASE_KILLS; round++) {
    acknowledged.push(...(await editUntil(id, revision, 2 + ((round * 5) % 11), () => process.kill(database.pid, 'SIGKILL'))))
    // It must be gone before another takes its place.
    while ((await freePort(database.port)) !== database.port) await new Promise((resolve) => setTimeout(resolve, 10))
    database = await startDatabase(folder, database.port)
    const job = await reopened(id)
    holdsAll(job, acknowledged)
    revision = job.revision
  }
  expect(acknowledged.length).toBeGreaterThan(DATABASE_KILLS)
})
