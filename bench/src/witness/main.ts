// `witness write FOLDER`: the demo's jobs and forty generated ones as files, with the bytes of their programs and what their
// forecasts look like. `witness check FOLDER`: whether the same files still give the same, byte for byte and pixel for pixel.
import { createHash } from 'node:crypto'
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { assetsOf, assetsSupply, type JobDocument, packJob, type SourceFacts, unpackJob, writeProgram } from '@neotaxis/core'
import { demoJobs } from '@neotaxis/demo'
import { takeIn } from '@neotaxis/intake'
import { forecastDigest } from './forecast-digest.ts'
import { generatedJob } from './generated.ts'

const GENERATED = 40

/** What a job gave. */
interface Testimony {
  readonly programBytes: number
  readonly program: string
  readonly forecast: string
}

const digest = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex')

const files = new Map<string, Uint8Array>()

async function takenIn(name: string, given: Uint8Array): Promise<{ facts: SourceFacts; bytes: Uint8Array }> {
  const { bytes, ...facts } = await takeIn(given)
  files.set(facts.asset, bytes)
  return { facts: { ...facts, name }, bytes }
}

/** The program and forecast of a job file as this program reads it. */
function testimony(file: Uint8Array): Testimony & { readonly text: Uint8Array } {
  const { job, assets } = unpackJob(file)
  const supply = assetsSupply((asset) => assets.get(asset))
  const pieces: Uint8Array[] = []
  writeProgram(job, supply, (bytes) => pieces.push(bytes.slice()))
  const text = Buffer.concat(pieces)
  return { text, programBytes: text.length, program: digest(text), forecast: digest(forecastDigest(job, supply)) }
}

async function write(folder: string): Promise<void> {
  mkdirSync(folder, { recursive: true })
  const all: Record<string, Testimony> = {}
  const keep = (name: string, job: JobDocument): void => {
    const file = packJob(job, (asset) => {
      const bytes = files.get(asset)
      if (!bytes) throw new Error(`The file ${asset} of “${name}” is missing (${assetsOf(job).length} wanted).`)
      return bytes
    })
    writeFileSync(join(folder, `${name}.neotaxis`), file)
    const { text, ...said } = testimony(file)
    writeFileSync(join(folder, `${name}.gcode`), text)
    all[name] = said
    console.log(`${name}: ${said.programBytes} bytes`)
  }
  for await (const { job } of demoJobs(async (name, bytes) => (await takenIn(name, bytes)).facts))
    keep(`demo-${job.name.toLowerCase().replace(/[^a-z]+/g, '-')}`, job)
  for (let i = 0; i < GENERATED; i++) {
    const { name, job } = await generatedJob(i, takenIn)
    keep(name, job)
  }
  writeFileSync(join(folder, 'testimony.json'), `${JSON.stringify(all, null, 1)}\n`)
}

function check(folder: string): number {
  const all = JSON.parse(readFileSync(join(folder, 'testimony.json'), 'utf8')) as Record<string, Testimony>
  let different = 0
  for (const [name, before] of Object.entries(all)) {
    let said = 'the same'
    try {
      const { text, ...now } = testimony(readFileSync(join(folder, `${name}.neotaxis`)))
      const program = now.program === before.program
      const forecast = now.forecast === before.forecast
      if (!program) writeFileSync(join(folder, `${name}.now.gcode`), text)
      if (!program || !forecast) said = `${program ? '' : 'another program '}${forecast ? '' : 'another forecast'}`
    } catch (cause) {
      said = String(cause)
    }
    if (said !== 'the same') {
      different++
      console.log(`${name}: ${said}`)
    }
  }
  console.log(`${Object.keys(all).length} jobs, ${different} different`)
  return different
}

const [verb, folder] = process.argv.slice(2)
if (verb === 'write' && folder) await write(folder)
else if (verb === 'check' && folder && existsSync(folder)) process.exitCode = check(folder) > 0 ? 1 : 0
else {
  console.error('witness write FOLDER, or witness check FOLDER')
  process.exitCode = 2
}
