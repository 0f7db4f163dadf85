// Puts the Saltmere demo data where it is missing: `seed.ts ADDRESS`, with the folder for files in NEOTAXIS_FILES.
import { existsSync, mkdirSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { encodePng, type Machine, type SourceFacts } from '@neotaxis/core'
import { asking } from './ask.ts'
import { type CameraHands, setUpCamera } from './camera.ts'
import { driftwoodJob } from './driftwood.ts'
import { demoJobs } from './jobs.ts'
import { daysAgo, runMonth } from './month.ts'
import { heronJob } from './outline-jobs.ts'
import { heron } from './outline-pictures.ts'
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

async function answered(path: string, init: RequestInit): Promise<Response> {
  const response = await fetch(`${address}/api${path}`, { ...init, headers: { ...init.headers, Connection: 'close' } })
  if (!response.ok) throw new Error(`${path}: ${response.status} ${await response.text()}`)
  return response
}
const done = async (path: string, init: RequestInit): Promise<void> => void (await answered(path, init))

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

// The camera over the bench laser hangs as somebody left it: calibrated, with a slab of driftwood under it.
const CAMERA = '/machines/bench-60/camera'
const SLAB = 'Heron on driftwood'
const { camera } = await call<{ camera: { simulated: boolean; calibration: object | null } | null }>(CAMERA)
if (camera?.simulated && camera.calibration === null) {
  const { machines } = await call<{ machines: Machine[] }>('/machines')
  const machine = machines.find(({ id }) => id === 'bench-60')
  const asJson = (method: string, what: object): RequestInit => ({
    method,
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify(what),
  })
  const hands: CameraHands = {
    lay: (lay, heightMm) => done(`${CAMERA}/under`, asJson('POST', { lay, ...(heightMm !== undefined && { heightMm }) })),
    photo: async () => new Uint8Array(await (await answered(`${CAMERA}/photo`, asJson('POST', {}))).arrayBuffer()),
    keep: (calibration) => done(CAMERA, asJson('PUT', { calibration })),
    empty: () => done(`${CAMERA}/empty`, asJson('POST', {})),
  }
  const blanks = machine ? await setUpCamera(hands, machine) : []
  if (blanks.length > 0 && (jobs.length === 0 || goesOn) && !jobs.some(({ name }) => name === SLAB)) {
    const bird = encodePng(heron())
    const facts = await takenIn('heron.png', bird)
    await add('/jobs', { job: driftwoodJob(heronJob(facts, bird), bird, blanks) })
  }
}

const { stock } = await call<{ stock: { name: string }[] }>('/stock')
if (stock.length === 0 || goesOn) {
  const there = new Set(stock.map(({ name }) => name))
  for (const said of demoStock()) if (!there.has(said.name)) await add('/stock', said)
}
// A shop that has worked for some weeks: what it ran, it really runs, on its simulated machine.
const port = process.env.NEOTAXIS_DB_PORT
if (jobs.length === 0 && port) {
  const asked = async (method: string, path: string, operator: string, body?: object): Promise<unknown> => {
    const headers = { 'Content-Type': 'application/json', ...(operator && { 'X-Operator': operator }) }
    const response = await answered(path, { method, headers, ...(body && { body: JSON.stringify(body) }) })
    return response.status === 204 ? undefined : response.json()
  }
  try {
    const ran = await runMonth(asked, Number(process.env.NEOTAXIS_PACE ?? 1))
    daysAgo(ran, port, process.env.NEOTAXIS_DB_NAME ?? 'neotaxis')
    // What was run last is taken out, and the slab lies there again.
    if (camera?.simulated) {
      const headers = { 'Content-Type': 'application/json' }
      await done(`${CAMERA}/under`, { method: 'POST', headers, body: JSON.stringify({ lay: 'driftwood' }) })
    }
  } catch (cause) {
    process.stderr.write(
      `What the shop ran in the last weeks is not all there: ${cause instanceof Error ? cause.message : cause}\n`,
    )
  }
}
if (unfinished) rmSync(unfinished, { force: true })
