// Puts the Saltmere demo data where it is missing: `seed.ts ADDRESS`, with the folder for files in NEOTAXIS_FILES.
import { existsSync, mkdirSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { encodePng } from '@neotaxis/core'
import { dropFiles, tideClockFace } from './pictures.ts'
import { tideClockJob } from './tide-clock.ts'

const [address] = process.argv.slice(2)

async function call<T>(path: string, init?: RequestInit): Promise<T> {
  const response = await fetch(`${address}/api${path}`, init)
  if (!response.ok) throw new Error(`${path}: ${response.status} ${await response.text()}`)
  return (await response.json()) as T
}

const folder = process.env.NEOTAXIS_FILES
if (folder && !existsSync(join(folder, 'lino-fish.png'))) {
  mkdirSync(folder, { recursive: true })
  for (const [name, bytes] of Object.entries(dropFiles())) writeFileSync(join(folder, name), bytes)
}
const { jobs } = await call<{ jobs: unknown[] }>('/jobs')
if (jobs.length === 0) {
  const facts = await call<{ asset: string; widthPx: number; heightPx: number; hasAlpha: boolean }>('/assets', {
    method: 'POST',
    body: Buffer.from(encodePng(tideClockFace())),
  })
  await call('/jobs', {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ job: tideClockJob({ ...facts, name: 'tide-clock-face.png' }) }),
  })
}
