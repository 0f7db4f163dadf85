// Puts the Saltmere demo data where it is missing: `seed.ts ADDRESS`, with the folder for files in NEOTAXIS_FILES.
import { existsSync, mkdirSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import type { JobDocument, SourceFacts } from '@neotaxis/core'
import { demoJobs } from './jobs.ts'
import { dropFiles } from './pictures.ts'
import { demoStock } from './stock.ts'

const [address] = process.argv.slice(2)

async function call<T>(path: string, init?: RequestInit): Promise<T> {
  const ask = (): Promise<Response> => fetch(`${address}/api${path}`, init)
  // While a job is worked out the connection that was kept open may have been closed: then a new one is made.
  const response = await ask().catch(ask)
  if (!response.ok) throw new Error(`${path}: ${response.status} ${await response.text()}`)
  return (await response.json()) as T
}

const folder = process.env.NEOTAXIS_FILES
if (folder && !existsSync(join(folder, 'boats.csv'))) {
  mkdirSync(folder, { recursive: true })
  for (const [name, bytes] of Object.entries(dropFiles())) writeFileSync(join(folder, name), bytes)
}
const { jobs } = await call<{ jobs: unknown[] }>('/jobs')
/** Brings a file in. */
const takenIn = (name: string, bytes: Uint8Array): Promise<SourceFacts> =>
  call<SourceFacts>('/assets', {
    method: 'POST',
    headers: { 'Content-Type': 'application/octet-stream' },
    body: Buffer.from(bytes),
  }).then((facts) => ({ ...facts, name }))

const addJob = (job: JobDocument): Promise<unknown> =>
  call('/jobs', { method: 'POST', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify({ job }) })

/** Keeps artwork in the library. */
const keep = ({ asset }: SourceFacts, said: object): Promise<unknown> =>
  call('/library', { method: 'POST', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify({ asset, ...said }) })

if (jobs.length === 0) {
  for await (const { job, kept } of demoJobs(takenIn)) {
    await addJob(job)
    for (const { facts, said } of kept) await keep(facts, said)
  }
}

const { stock } = await call<{ stock: unknown[] }>('/stock')
if (stock.length === 0)
  for (const said of demoStock())
    await call('/stock', { method: 'POST', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(said) })
