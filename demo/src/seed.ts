// Puts the Saltmere demo data where it is missing: `seed.ts ADDRESS`, with the folder for files in NEOTAXIS_FILES.
import { existsSync, mkdirSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { encodePng, type JobDocument, type SourceFacts } from '@neotaxis/core'
import { islandHeights, islandMesh } from './island.ts'
import { boatLabelsJob, drawnFile, LABEL_EDGES, LABEL_NAMES } from './label-jobs.ts'
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
const OURS = { name: 'own work', sell: true, change: true, credit: '' }

if (jobs.length === 0) {
  const names = await takenIn('Boat names', drawnFile(LABEL_NAMES))
  const edges = await takenIn('Label edges', drawnFile(LABEL_EDGES))
  await addJob(boatLabelsJob(names, edges))
  await keep(edges, {
    name: 'Label edges',
    drawn: LABEL_EDGES,
    tags: ['labels'],
    origin: 'drawn for the boat shed',
    licence: OURS,
  })
  const sketch = encodePng(soundings())
  const sounding = await takenIn('soundings.png', sketch)
  await addJob(soundingsJob(sounding, sketch))
  await keep(sounding, {
    name: 'Soundings sketch',
    tags: ['chart', 'lines'],
    origin: 'photographed from the pilot’s notebook',
    licence: { name: 'lent by the pilots of Saltmere', sell: false, change: true, credit: 'Pilots of Saltmere' },
  })
  const bird = encodePng(heron())
  const seen = await takenIn('heron.png', bird)
  await addJob(heronJob(seen, bird))
  await keep(seen, { name: 'Heron', tags: ['birds'], origin: 'photographed on the mudflats', licence: OURS })
  const shutter = new TextEncoder().encode(stormShutter())
  const drawn = await takenIn('storm-shutter.svg', shutter)
  await addJob(stormShutterJob(drawn, shutter))
  await keep(drawn, {
    name: 'Storm shutter',
    tags: ['houses', 'cut'],
    origin: 'drawn by the harbour office',
    licence: { name: 'as it is', sell: true, change: false, credit: '' },
  })
  const mesh = islandMesh()
  const island = await takenIn('saltmere.stl', mesh)
  await addJob(islandReliefJob(island, mesh, 'Island relief, from the mesh'))
  await keep(island, { name: 'Saltmere', tags: ['chart', 'relief'], origin: 'surveyed from the lighthouse', licence: OURS })
  const heights = encodePng(islandHeights())
  await addJob(islandReliefJob(await takenIn('saltmere-heights.png', heights), heights, 'Island relief'))
  const night = encodePng(harbourNight(2400, 1600))
  const pane = await takenIn('harbour-night.png', night)
  await addJob(harbourPaneJob(pane, night))
  await keep(pane, { name: 'Harbour at night', tags: ['harbour', 'photos'], origin: 'from the ferry’s deck', licence: OURS })
  await addJob(tideClockJob(await takenIn('tide-clock-face.png', encodePng(tideClockFace()))))
}
