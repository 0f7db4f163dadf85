// Puts the Saltmere demo data where it is missing: `seed.ts ADDRESS`, with the folder for files in NEOTAXIS_FILES.
import { existsSync, mkdirSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { encodePng, type JobDocument, type SourceFacts } from '@neotaxis/core'
import { islandHeights, islandMesh } from './island.ts'
import { heronJob, soundingsJob, stormShutterJob } from './outline-jobs.ts'
import { heron, soundings, stormShutter } from './outline-pictures.ts'
import { harbourPaneJob, islandReliefJob } from './picture-jobs.ts'
import { dropFiles, harbourNight, tideClockFace } from './pictures.ts'
import { tideClockJob } from './tide-clock.ts'

const [address] = process.argv.slice(2)

async function call<T>(path: string, init?: RequestInit): Promise<T> {
  const ask = (): Promise<Response> => fetch(`${address}/api${path}`, init)
  // While a job is worked out the connection that was kept open may have been closed: then a new one is made.
  const response = await ask().catch(ask)
  if (!response.ok) throw new Error(`${path}: ${response.status} ${await response.text()}`)
  return (await response.json()) as T
}

const folder = process.env.NEOTAXIS_FILES
if (folder && !existsSync(join(folder, 'storm-shutter.svg'))) {
  mkdirSync(folder, { recursive: true })
  for (const [name, bytes] of Object.entries(dropFiles())) writeFileSync(join(folder, name), bytes)
}
const { jobs } = await call<{ jobs: unknown[] }>('/jobs')
/** Brings a file in. */
const takenIn = (name: string, bytes: Uint8Array): Promise<SourceFacts> =>
  call<SourceFacts>('/assets', { method: 'POST', body: Buffer.from(bytes) }).then((facts) => ({ ...facts, name }))

const addJob = (job: JobDocument): Promise<unknown> =>
  call('/jobs', { method: 'POST', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify({ job }) })

if (jobs.length === 0) {
  const sketch = encodePng(soundings())
  await addJob(soundingsJob(await takenIn('soundings.png', sketch), sketch))
  const bird = encodePng(heron())
  await addJob(heronJob(await takenIn('heron.png', bird), bird))
  const shutter = new TextEncoder().encode(stormShutter())
  await addJob(stormShutterJob(await takenIn('storm-shutter.svg', shutter), shutter))
  const mesh = islandMesh()
  await addJob(islandReliefJob(await takenIn('saltmere.stl', mesh), mesh, 'Island relief, from the mesh'))
  const heights = encodePng(islandHeights())
  await addJob(islandReliefJob(await takenIn('saltmere-heights.png', heights), heights, 'Island relief'))
  const night = encodePng(harbourNight(2400, 1600))
  await addJob(harbourPaneJob(await takenIn('harbour-night.png', night), night))
  await addJob(tideClockJob(await takenIn('tide-clock-face.png', encodePng(tideClockFace()))))
}
