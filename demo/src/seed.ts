// Puts the Saltmere demo data where it is missing: `seed.ts ADDRESS`, with the folder for files in NEOTAXIS_FILES.
import { existsSync, mkdirSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import type { SourceFacts } from '@neotaxis/core'
import { asking } from './ask.ts'
import { demoJobs } from './jobs.ts'
import { dropFiles } from './pictures.ts'
import { demoStock } from './stock.ts'

const [address] = process.argv.slice(2)
const call = asking(address)

const folder = process.env.NEOTAXIS_FILES
if (folder && !existsSync(join(folder, 'boats.csv'))) {
  mkdirSync(folder, { recursive: true })
  for (const [name, bytes] of Object.entries(dropFiles())) writeFileSync(join(folder, name), bytes)
}

/** Brings a file in. */
const takenIn = (name: string, bytes: Uint8Array): Promise<SourceFacts> =>
  call<SourceFacts>('/assets', {
    method: 'POST',
    headers: { 'Content-Type': 'application/octet-stream' },
    body: Buffer.from(bytes),
  }).then((facts) => ({ ...facts, name }))

const add = (path: string, what: object): Promise<unknown> =>
  call(path, { method: 'POST', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(what) })

// Stands while it is at it: what was ended half way is made whole at the next start, and what the operator deleted later stays so.
const unfinished = folder && join(folder, '..', 'demo-unfinished')
const { jobs } = await call<{ jobs: { name: string }[] }>('/jobs')
const goesOn = unfinished !== undefined && existsSync(unfinished)
if (jobs.length === 0 || goesOn) {
  if (unfinished) writeFileSync(unfinished, 'The demo data are not all there yet: the next start adds what is missing.\n')
  const there = new Set(jobs.map(({ name }) => name))
  for await (const { job, kept } of demoJobs(takenIn)) {
    if (there.has(job.name)) continue
    await add('/jobs', { job })
    for (const { facts, said } of kept) await add('/library', { asset: facts.asset, ...said })
  }
}

const { stock } = await call<{ stock: { name: string }[] }>('/stock')
if (stock.length === 0 || goesOn) {
  const there = new Set(stock.map(({ name }) => name))
  for (const said of demoStock()) if (!there.has(said.name)) await add('/stock', said)
}
if (unfinished) rmSync(unfinished, { force: true })
