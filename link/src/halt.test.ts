import type { AddressInfo, Server } from 'node:net'
import { type Fault, Machine, serveMachine, TRUTHS } from '@neotaxis/stand-ins'
import { afterEach, describe, expect, it } from 'vitest'
import { halt } from './halt.ts'
import { MachineLink } from './machine-link.ts'
import { programOf } from './program.ts'
import { ProgramRun, type RunNow, StoppedError } from './program-run.ts'

let server: Server | undefined
let link: MachineLink | undefined
afterEach(() => {
  link?.retire()
  server?.close()
})

async function connect(machine: Machine, faults: readonly Fault[] = [], pace = 1): Promise<MachineLink> {
  server = await serveMachine(machine, { port: 0, pace, faults, stallMs: 2500 })
  link = await MachineLink.open(`tcp://127.0.0.1:${(server.address() as AddressInfo).port}`)
  return link
}
const long = `G21\nG90\nM4S500\n${'G1X400F3000\nG1X0\n'.repeat(40)}M2`

/** Begins a run, stops it once it burns, and says what was told meanwhile. */
async function stopped(fault?: Fault['kind']): Promise<{ machine: Machine; told: RunNow[]; seconds: number }> {
  const machine = new Machine(TRUTHS['bench-60'])
  const told: RunNow[] = []
  const run = await ProgramRun.start(await connect(machine, fault ? [{ kind: fault, afterLines: 6 }] : []), programOf(long), {
    token: 'test',
    askMs: 30,
    onChange: (now) => told.push(now),
  })
  await expect.poll(() => machine.beamNow, { interval: 10 }).toBeGreaterThan(0)
  const before = performance.now()
  await run.stop()
  return { machine, told, seconds: (performance.now() - before) / 1000 }
}

describe('a stop', () => {
  it('brakes a machine that obeys, and keeps its place', async () => {
    const { machine, told, seconds } = await stopped()
    expect(told.at(-1)).toMatchObject({ phase: 'stopped', reason: 'Stopped by the operator.' })
    expect(machine.beamNow).toBe(0)
    expect(machine.state).toBe('idle')
    expect(seconds).toBeLessThan(1)
  })

  it('that is not obeyed is followed by a reset within a second, and told as what it is', async () => {
    const { machine, told, seconds } = await stopped('deaf')
    expect(seconds).toBeLessThan(1.6)
    expect(machine.beamNow).toBe(0)
    expect(told.some(({ phase, reason }) => phase === 'stopping' && reason.includes('did not obey'))).toBe(true)
    expect(told.at(-1)!.reason).toContain('Stopped by a reset')
  })

  it('is never said to be done while the machine reports that it runs: it is reset again and again', async () => {
    const { machine, told } = await stopped('stubborn')
    expect(told.some(({ reason }) => reason.includes('press its emergency stop now'))).toBe(true)
    const end = told.findIndex(({ phase }) => phase === 'stopped')
    expect(end).toBe(told.length - 1)
    // Until then it was stopping, and nothing else.
    const first = told.findIndex(({ phase }) => phase === 'stopping')
    expect(new Set(told.slice(first, end).map(({ phase }) => phase))).toEqual(new Set(['stopping']))
    expect(machine.beamNow).toBe(0)
  })

  it('of an armed machine lasts until it has let go of the program: its button begins nothing after that', async () => {
    const machine = new Machine(TRUTHS['bench-60'])
    const told: RunNow[] = []
    const run = await ProgramRun.start(await connect(machine, [{ kind: 'stubborn', afterLines: 6 }]), programOf(long), {
      token: 'test',
      askMs: 30,
      armed: true,
      onChange: (now) => told.push(now),
    })
    await expect.poll(() => machine.queued).toBeGreaterThan(4)
    await run.stop()
    expect(told.some(({ reason }) => reason.includes('keeps the program in spite of the reset'))).toBe(true)
    machine.press()
    expect([machine.state, machine.queued, machine.beamNow]).toEqual(['idle', 0, 0])
  })

  it('of a machine that does not answer is told to be pressed there, until it answers', async () => {
    const { told } = await stopped('stall')
    expect(told.some(({ phase, reason }) => phase === 'stopping' && reason.includes('does not answer'))).toBe(true)
    expect(told.at(-1)!.phase).toBe('stopped')
  })

  it('wins over whatever is under way: resume, hold and start do nothing after it', async () => {
    const machine = new Machine(TRUTHS['bench-60'])
    const run = await ProgramRun.start(await connect(machine), programOf(long), { token: 'test', askMs: 30 })
    await expect.poll(() => machine.beamNow, { interval: 10 }).toBeGreaterThan(0)
    run.hold()
    await expect.poll(() => run.state.phase).toBe('held')
    const resuming = run.resume()
    const stopping = run.stop()
    await Promise.allSettled([resuming, stopping, run.resume(), run.stop()])
    expect(run.state.phase).toBe('stopped')
    expect(machine.state).toBe('idle')
    run.adjust(2, 2)
    await expect(run.resume()).rejects.toThrow('The run is over')
  })

  it('that comes before the start has sent its first byte leaves the machine as it was', async () => {
    const machine = new Machine(TRUTHS['bench-60'])
    const to = await connect(machine)
    for (const delay of [0, 1, 3, 8]) {
      const abort = new AbortController()
      const starting = ProgramRun.start(to, programOf(long), { token: 'test', askMs: 30, signal: abort.signal })
      await new Promise((resolve) => setTimeout(resolve, delay))
      abort.abort()
      // Either it had begun, and is a run that is stopped, or nothing of it was sent.
      const run = await starting.catch((cause: unknown) => {
        expect(cause).toBeInstanceOf(StoppedError)
      })
      if (run) await run.stop()
      else await halt(to, () => {})
      expect(machine.state).toBe('idle')
      expect(machine.beamNow).toBe(0)
    }
  })
})
