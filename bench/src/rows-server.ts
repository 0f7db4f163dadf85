// How the server answers while it is given the worst that anybody may send: health ten times a second, and a Stop in the middle.
import { type ChildProcess, spawn } from 'node:child_process'
import { randomFillSync } from 'node:crypto'
import { closeSync, mkdtempSync, openSync, rmSync, writeSync } from 'node:fs'
import { request } from 'node:http'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { Worker } from 'node:worker_threads'
import { encodePng, type JobDocument, packJob } from '@neotaxis/core'
import { sampleJob, squarePicture } from '@neotaxis/core/testing/sample-job'
import { goingOn, MarkMaker } from '@neotaxis/link'
import { strToU8, zipSync } from 'fflate'
import { buildPrograms, program } from '../../scripts/build.mjs'
import { freePort, startDatabase } from '../../scripts/database.mjs'
import { programInFile } from '../../server/src/runs/program-file.ts'
import type { Row } from './measure.ts'

const ALLOWED_GAP_MS = 150
const ALLOWED_STOP_MS = 100
const MACHINE = 'bench-60'

/** Polls in a thread of its own, so that nothing this process does is taken for the server's. */
const POLLER = `
const { parentPort, workerData } = require('node:worker_threads')
const { request, Agent } = require('node:http')
const agent = new Agent({ keepAlive: true, maxSockets: 8 })
const ask = (path, method) => new Promise((resolve, reject) => {
  const sent = performance.now()
  const headers = { 'Content-Type': 'application/json', 'X-Operator': 'bench' }
  const call = request(workerData.url + path, { method, agent, headers }, (answer) => {
    answer.resume()
    answer.once('end', () => resolve(performance.now() - sent))
  })
  call.once('error', reject)
  call.end()
})
let last = performance.now()
let gap = 0
let stop = 0
const health = setInterval(() => ask('/health', 'GET').then(() => {
  const now = performance.now()
  gap = Math.max(gap, now - last)
  last = now
}, () => {}), 100)
const stops = setInterval(() => ask('/machines/${MACHINE}/stop', 'POST').then((ms) => { stop = Math.max(stop, ms) }, () => {}), 330)
parentPort.on('message', () => {
  clearInterval(health)
  clearInterval(stops)
  gap = Math.max(gap, performance.now() - last)
  parentPort.postMessage({ gap, stop })
  setTimeout(() => process.exit(0), 50)
})
`

interface Answered {
  readonly status: number
  readonly body: Buffer
}

function send(url: string, path: string, type: string, body: Uint8Array): Promise<Answered> {
  return new Promise((resolve, reject) => {
    const headers = { 'Content-Type': type, 'Content-Length': body.length, 'X-Operator': 'bench' }
    const call = request(`${url}${path}`, { method: 'POST', headers }, (answer) => {
      const parts: Buffer[] = []
      answer.on('data', (part: Buffer) => parts.push(part))
      answer.once('end', () => resolve({ status: answer.statusCode ?? 0, body: Buffer.concat(parts) }))
    })
    call.once('error', reject)
    call.end(body)
  })
}

const json = (value: unknown): Uint8Array => Buffer.from(JSON.stringify(value))
const bytes = 'application/octet-stream'

/** 40 edits of 5 000 patches each, that touch the same as others do. */
const manyEdits = (tag: string, from: number): Uint8Array =>
  json({
    base: 0,
    edits: Array.from({ length: 40 }, (_, e) => ({
      id: `${tag}-${e}`,
      name: 'much',
      kind: 'edit',
      patches: Array.from({ length: 5000 }, (_, p) => ({
        path: ['workpieces', 'piece', 'pose', p % 2 ? 'xMm' : 'yMm'],
        value: (p % 90) + from,
      })),
    })),
  })

/** Outlines with 500 nodes each moved by hand: as large as a job gets by honest work. */
function cleanedByHand(count: number): Record<string, object> {
  const ids = Array.from({ length: 500 }, (_, i) => `s${i}`)
  const step = (i: number) => ({
    kind: 'node',
    on: true,
    at: { x: i / 500, y: 0.5 },
    change: 'move',
    to: { x: i / 500, y: 0.51 },
  })
  const steps = Object.fromEntries(ids.map((id, i) => [id, step(i)]))
  return Object.fromEntries(
    Array.from({ length: count }, (_, n) => [`hand${n}`, { kind: 'clean', name: `hand ${n}`, from: 'edge', steps, order: ids }]),
  )
}

function deepJson(depth: number): Uint8Array {
  return Buffer.from(`{"job":${'{"a":'.repeat(depth)}1${'}'.repeat(depth)}}`)
}

function noise(side: number, channels: 1 | 3): Uint8Array {
  const samples = randomFillSync(new Uint8Array(side * side * channels))
  return encodePng({ widthPx: side, heightPx: side, channels, samples, full: 255 })
}

interface Load {
  readonly what: string
  readonly run: () => Promise<string>
}

/** Longest gap of the poll and slowest Stop under one load. */
async function under(url: string, { what, run }: Load): Promise<Row[]> {
  const poller = new Worker(POLLER, { eval: true, workerData: { url } })
  await new Promise((resolve) => setTimeout(resolve, 700))
  const started = performance.now()
  const note = await run()
  const seconds = (performance.now() - started) / 1000
  await new Promise((resolve) => setTimeout(resolve, 400))
  const found = await new Promise<{ gap: number; stop: number }>((resolve) => {
    poller.once('message', resolve)
    poller.postMessage('end')
  })
  const told = `${note}; ${seconds.toFixed(1)} s`
  return [
    { what: `${what}: longest gap of health`, ours: found.gap, reference: ALLOWED_GAP_MS, unit: 'ms', target: 1, note: told },
    { what: `${what}: slowest Stop`, ours: found.stop, reference: ALLOWED_STOP_MS, unit: 'ms', target: 1 },
  ]
}

/** Going on near the end of a program of five million lines that lies on the disk. */
function resumeRow(folder: string): Row {
  const file = join(folder, 'long.gcode')
  const marks = new MarkMaker()
  const out = openSync(file, 'w')
  const piece = Buffer.from(Array.from({ length: 5000 }, (_, i) => `X${i % 600}.125Y${i % 400}.5S${i % 1000}\n`).join(''))
  for (let i = 0; i < 1000; i++) {
    writeSync(out, piece)
    marks.take(piece)
  }
  closeSync(out)
  const { lines, marks: found } = marks.done()
  const run = programInFile({ file, lines, marks: found })
  const times = Array.from({ length: 5 }, (_, i) => {
    const started = performance.now()
    const rest = goingOn(run, { driven: 4_900_000 + 1000 * i, x: 1, y: 1, z: 0 }).lines[Symbol.iterator]()
    rest.next()
    return performance.now() - started
  }).sort((a, b) => a - b)
  return {
    what: 'going on at line 4.9 M of 5 M: to the first line',
    ours: times[2],
    reference: 1000,
    unit: 'ms',
    target: 1,
    note: `${(piece.length / 1000).toFixed(0)} MB of program`,
  }
}

export async function serverRows(): Promise<Row[]> {
  await buildPrograms()
  const folder = mkdtempSync(join(tmpdir(), 'neotaxis-bench-server-'))
  const database = await startDatabase(folder)
  const children: ChildProcess[] = []
  const fork = async <T>(file: string, args: string[], env: NodeJS.ProcessEnv): Promise<T> => {
    const child = spawn(process.execPath, [file, ...args], {
      env: { ...process.env, ...env },
      stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
    })
    children.push(child)
    return new Promise<T>((resolve, reject) => {
      child.once('message', (message) => resolve(message as T))
      child.once('exit', () => reject(new Error('It did not start.')))
    })
  }
  try {
    const machine = await fork<{ port: number; panel: number }>(program('stand-ins', 'main'), [MACHINE, '0', '0', '1'], {})
    const port = await freePort()
    await fork(program('server', 'main'), [], {
      NEOTAXIS_DB_PORT: String(database.port),
      NEOTAXIS_PORT: String(port),
      NEOTAXIS_LOG: 'silent',
      NEOTAXIS_SIMULATED: `${MACHINE}=${machine.port}/${machine.panel}`,
    })
    const url = `http://127.0.0.1:${port}/api`
    const picture = squarePicture(60, 10)
    const png = encodePng({ widthPx: 80, heightPx: 80, channels: 1, samples: picture.samples as Uint8Array, full: 255 })
    const { asset } = JSON.parse((await send(url, '/assets', bytes, png)).body.toString()) as { asset: string }
    const sample = sampleJob({ picture })
    const job = { ...sample, nodes: { ...sample.nodes, source: { ...sample.nodes.source, asset } } } as JobDocument
    const addJob = async (document: JobDocument = job): Promise<string> =>
      (JSON.parse((await send(url, '/jobs', 'application/json', json({ job: document }))).body.toString()) as { id: string }).id
    const rows: Row[] = [resumeRow(folder)]
    for (const load of await loads(url, job, png, addJob)) {
      process.stderr.write(`  ${load.what}\n`)
      rows.push(...(await under(url, load)))
    }
    return rows
  } finally {
    for (const child of children) child.kill('SIGTERM')
    await database.stop()
    rmSync(folder, { recursive: true, force: true })
  }
}

async function loads(
  url: string,
  job: JobDocument,
  png: Uint8Array,
  addJob: (document?: JobDocument) => Promise<string>,
): Promise<readonly Load[]> {
  const contested = await addJob()
  const edits = [manyEdits('a', 1), manyEdits('b', 2)]
  const zeros = zipSync({
    'job.json': strToU8(JSON.stringify(job)),
    [`assets/${'a'.repeat(64)}.png`]: [new Uint8Array(900_000_000), { level: 6 }],
  })
  const fat = zipSync({ 'job.json': [strToU8(JSON.stringify({ ...job, note: 'x'.repeat(40_000_000) })), { level: 1 }] })
  const whole = packJob(job, () => png)
  const program = Buffer.from(`G21\nG90\nM4\n${'G1X10.125Y20.5S300F3000\n'.repeat(4_300_000)}`)
  const uploads = Array.from({ length: 16 }, () => noise(2200, 1))
  const photos = Array.from({ length: 4 }, () => noise(4500, 1))
  const large = { ...job, nodes: { ...job.nodes, ...cleanedByHand(60) } } as JobDocument
  const largeMb = (json(large).length / 1e6).toFixed(1)
  const statuses = (answers: readonly Answered[]): string =>
    `answers ${[...new Set(answers.map(({ status }) => status))].join(', ')}`
  return [
    { what: 'nothing', run: () => new Promise((resolve) => setTimeout(resolve, 2000, 'idle')) },
    {
      what: 'two saves of 40 × 5 000 patches that touch the same',
      run: async () => {
        const first = await send(url, `/jobs/${contested}/edits`, 'application/json', edits[0])
        const second = await send(url, `/jobs/${contested}/edits`, 'application/json', edits[1])
        return `${statuses([first, second])}, ${(JSON.parse(second.body.toString()) as { status: string }).status}`
      },
    },
    {
      what: `a job file of ${(zeros.length / 1e6).toFixed(1)} MB that unpacks to 900 MB`,
      run: async () => statuses([await send(url, '/jobs/file', 'application/zip', zeros)]),
    },
    {
      what: 'a job file with 40 MB of job.json',
      run: async () => statuses([await send(url, '/jobs/file', 'application/zip', fat)]),
    },
    {
      what: `${(program.length / 1e6).toFixed(0)} MB of program text`,
      run: async () => statuses([await send(url, '/jobs/program?name=long', bytes, program)]),
    },
    {
      what: 'JSON 100 000 deep, ten times',
      run: async () =>
        statuses(await Promise.all(Array.from({ length: 10 }, () => send(url, '/jobs', 'application/json', deepJson(100_000))))),
    },
    {
      what: '16 pictures of 5 MP at once',
      run: async () => statuses(await Promise.all(uploads.map((body) => send(url, '/assets', bytes, body)))),
    },
    {
      what: '4 pictures of 20 MP at once',
      run: async () => statuses(await Promise.all(photos.map((body) => send(url, '/assets', bytes, body)))),
    },
    {
      what: '100 uploads of 100 bytes, one after the other',
      run: async () => {
        const answers: Answered[] = []
        for (let i = 0; i < 100; i++) answers.push(await send(url, '/assets', bytes, Buffer.from(`no picture ${i}`.padEnd(100))))
        return statuses(answers)
      },
    },
    {
      what: `20 jobs of ${largeMb} MB: made, opened, listed`,
      run: async () => {
        for (let i = 0; i < 20; i++) {
          const id = await addJob({ ...large, name: `Large ${i}` })
          await (await fetch(`${url}/jobs/${id}`)).arrayBuffer()
        }
        const started = performance.now()
        const list = await fetch(`${url}/jobs`)
        await list.arrayBuffer()
        return `the list took ${(performance.now() - started).toFixed(0)} ms`
      },
    },
    {
      what: '20 job files opened and packed',
      run: async () =>
        statuses(await Promise.all(Array.from({ length: 20 }, () => send(url, '/jobs/file', 'application/zip', whole)))),
    },
  ]
}
