import { type ChildProcess, spawn } from 'node:child_process'
import { encodePng, type JobDocument } from '@neotaxis/core'
import { onRectangle, sampleJob, squarePicture } from '@neotaxis/core/testing/sample-job'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { buildPrograms, program } from '../../scripts/build.mjs'
import { atPanel } from './machines/panel-client.ts'
import { CONFIRMED_ON_PLY } from './testing/confirmed.ts'

/** Each costs the lease that the dead server had. */
const KILLS = process.env.NEOTAXIS_CAMPAIGN === '1' ? 6 : 1
const database = `runkill_${process.pid}`
let machine: ChildProcess
let ports: { port: number; panel: number }
let server: { readonly child: ChildProcess; readonly url: string }

const fork = (file: string, args: string[], env: NodeJS.ProcessEnv = {}): ChildProcess =>
  spawn(process.execPath, [file, ...args], {
    env: { ...process.env, ...env },
    stdio: ['ignore', 'ignore', 'ignore', 'ipc'],
  })
const told = <T>(child: ChildProcess): Promise<T> =>
  new Promise((resolve, reject) => {
    child.once('message', (message) => resolve(message as T))
    child.once('exit', () => reject(new Error('It ended.')))
  })

async function startServer(): Promise<void> {
  const child = fork(program('server', 'main'), [], {
    NEOTAXIS_DB_NAME: database,
    NEOTAXIS_PORT: '0',
    NEOTAXIS_LOG: 'silent',
    NEOTAXIS_SIMULATED: `bench-60=${ports.port}/${ports.panel}`,
  })
  const { listening } = await told<{ listening: number }>(child)
  server = { child, url: `http://127.0.0.1:${listening}/api` }
}

beforeAll(async () => {
  await buildPrograms()
  machine = fork(program('stand-ins', 'main'), ['bench-60', '0', '0', '1'])
  ports = await told(machine)
  await startServer()
})
afterAll(() => {
  server.child.kill('SIGKILL')
  machine.kill('SIGKILL')
})

async function call<T>(route: string, method = 'GET', body?: unknown): Promise<T> {
  const raw = body instanceof Uint8Array
  const response = await fetch(server.url + route, {
    method,
    headers: { 'X-Operator': 'Mara', 'Content-Type': raw ? 'application/octet-stream' : 'application/json' },
    ...(body !== undefined && { body: raw ? Buffer.from(body) : JSON.stringify(body) }),
  })
  if (!response.ok) throw new Error(`${route}: ${response.status} ${await response.text()}`)
  return (response.status === 204 ? undefined : await response.json()) as T
}
const phase = async (id: string): Promise<string> => (await call<{ phase: string }>(`/runs/${id}`)).phase
const state = async (): Promise<string> =>
  /^<(\w+)/.exec((await atPanel<{ status: string }>(ports.panel, { do: 'state' })).status)![1]

it(`a server killed in the middle of a run, ${KILLS} times: the machine stands dark, the run is found in its place and goes on`, {
  timeout: 300_000,
}, async () => {
  const picture = squarePicture(60, 10)
  const png = encodePng({ widthPx: 80, heightPx: 80, channels: 1, samples: picture.samples as Uint8Array, full: 255 })
  const { asset } = await call<{ asset: string }>('/assets', 'POST', png)
  const sample = sampleJob({ picture, widthMm: 18, xMm: 12, yMm: 10, engrave: { intervalMm: 0.15 } })
  const job = {
    ...onRectangle(sample, { widthMm: 44, heightMm: 40 }),
    nodes: { ...sample.nodes, source: { ...sample.nodes.source, asset } },
  } as JobDocument
  const { id: jobId } = await call<{ id: string }>('/jobs', 'POST', { job })
  await expect
    .poll(
      async () =>
        (await call<{ machines: { machine: string; state: string }[] }>('/live')).machines.find(
          (one) => one.machine === 'bench-60',
        )?.state,
    )
    .toBe('idle')
  await call('/machines/bench-60/check', 'POST')
  const { id } = await call<{ id: string }>('/machines/bench-60/runs', 'POST', {
    jobId,
    revision: 0,
    armed: false,
    answers: CONFIRMED_ON_PLY,
    parentId: null,
  })
  interface Live {
    readonly machines: readonly {
      readonly run: { readonly phase: string; readonly place: { readonly driven: number } | null } | null
    }[]
  }
  let driven = 0
  for (let round = 0; round < KILLS; round++) {
    await expect
      .poll(async () => (await call<Live>('/live')).machines[0].run?.place?.driven ?? 0, { timeout: 15_000, interval: 20 })
      .toBeGreaterThan(driven + 30)
    server.child.kill('SIGKILL')
    await expect.poll(state).toBe('hold')
    // It brakes, then it is dark.
    await expect.poll(async () => (await atPanel<{ watts: number }>(ports.panel, { do: 'state' })).watts).toBe(0)
    await startServer()
    await expect.poll(async () => (await call<Live>('/live')).machines[0].run?.phase, { timeout: 60_000 }).toBe('held')
    driven = (await call<Live>('/live')).machines[0].run!.place!.driven
    await call(`/runs/${id}/resume`, 'POST')
  }
  await atPanel(ports.panel, { do: 'pace', times: 60 })
  await expect.poll(() => phase(id), { timeout: 30_000 }).toBe('done')
  const run = await call<{ seconds: number; estimateSeconds: number; events: { phase: string }[] }>(`/runs/${id}`)
  expect(run.events.filter((event) => event.phase === 'away')).toHaveLength(KILLS)
})
