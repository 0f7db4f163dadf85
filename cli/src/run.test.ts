import type { AddressInfo, Server } from 'node:net'
import { createServer } from 'node:net'
import { type Bench, type JobDocument, MACHINES, operationMarks, ResultCache, writeProgram } from '@neotaxis/core'
import { greyPicture, sampleJob } from '@neotaxis/core/testing/sample-job'
import { LinkError, MachineLink, type RunResult, runProgram } from '@neotaxis/link'
import { Bed, type Fault, Machine, serveMachine, TRUTHS } from '@neotaxis/stand-ins'
import { afterEach, describe, expect, it } from 'vitest'

let server: Server | undefined
afterEach(() => server?.close())

async function machineOn(machine: Machine, faults: readonly Fault[] = []): Promise<string> {
  server = await serveMachine(machine, { port: 0, pace: Infinity, faults })
  return `tcp://127.0.0.1:${(server.address() as AddressInfo).port}`
}

async function send(machine: Machine, text: string, faults: readonly Fault[] = []): Promise<RunResult> {
  const link = await MachineLink.open(await machineOn(machine, faults))
  try {
    return await runProgram(link, text.split('\n'))
  } finally {
    link.close()
  }
}

/** A picture of dots or soft tones, engraved and cut around. */
function jobOf(side: number, grey: (x: number, y: number) => number, change: Partial<JobDocument> = {}) {
  const picture = greyPicture(side, side, grey)
  const engrave = { power: 0.5, speedMmS: 300, intervalMm: 0.2 }
  const sample = sampleJob({ picture, widthMm: 40, xMm: 30, yMm: 20, distanceMm: 2, engrave, cut: { kerfMm: 0.18 } })
  const job: JobDocument = { ...sample, onBed: { xMm: 40, yMm: 60 }, ...change }
  const bench: Bench = { picture: () => picture, cache: new ResultCache() }
  const decoder = new TextDecoder()
  let text = ''
  const report = writeProgram(job, bench, (bytes) => {
    text += decoder.decode(bytes)
  })
  return { job, bench, text, report }
}

const disc = (x: number, y: number): number => (Math.hypot(x - 100, y - 100) < 70 ? 40 + ((x * 7 + y * 3) % 60) : 255)

describe('a job on the simulated machine', () => {
  it('takes the time that was estimated, within 0.5 %, and burns every dot of the picture and no other', async () => {
    const { job, bench, text, report } = jobOf(200, disc, { runOrder: ['engrave'] })
    const bed = new Bed(600, 400, 0.1, 0.12)
    const machine = new Machine(TRUTHS['bench-60'], bed)
    const result = await send(machine, text)
    expect(result).toMatchObject({ state: 'done', reason: '' })
    expect(Math.abs(result.seconds / report.seconds - 1)).toBeLessThan(0.005)
    expect(machine.counts.burnMm).toBeCloseTo(report.burnMm, 0)
    expect(machine.counts.alarms).toBe(0)
    const marks = operationMarks(job, job.operations.engrave as never, bench)
    let wrong = 0
    for (let r = 0; r < marks.rows; r++) {
      for (let c = 0; c < marks.columns; c++) {
        const x = 40 + 30 + (c + 0.5) * 0.2
        const y = 400 - (60 + 20 + (r + 0.5) * 0.2)
        // The cell left of the dot's middle lies within its bar.
        const burned = bed.energy[Math.floor(y / 0.1) * bed.columns + Math.floor((x - 0.05) / 0.1)] > 0
        if (burned !== marks.levels[r * marks.columns + c] > 0) wrong++
      }
    }
    expect(wrong).toBe(0)
  })

  it.each([
    ['a fine and fast raster', { engrave: { speedMmS: 580, intervalMm: 0.1 } }, 'bench-60'],
    ['one way only, slow', { engrave: { speedMmS: 60, bothWays: false } }, 'bench-60'],
    ['curves at speed, many passes', { cut: { speedMmS: 150, passes: 4 } }, 'bench-60'],
    [
      'a machine that looks only 32 moves ahead',
      { engrave: { speedMmS: 280, intervalMm: 0.1 }, cut: { speedMmS: 120 } },
      'corner-20',
    ],
  ] as const)('estimates %s within 0.5 %', async (_what, change, id) => {
    const base = jobOf(200, disc).job
    const operations = {
      engrave: { ...base.operations.engrave, ...('engrave' in change ? change.engrave : {}) },
      cut: { ...base.operations.cut, ...('cut' in change ? change.cut : {}) },
    } as JobDocument['operations']
    const { text, report } = jobOf(200, disc, { operations, machine: MACHINES.find((m) => m.id === id)! })
    const { state, seconds } = await send(new Machine(TRUTHS[id]), text)
    expect(state).toBe('done')
    expect(Math.abs(seconds / report.seconds - 1)).toBeLessThan(0.005)
  })

  it('estimates thousands of tiny moves within 0.5 %', async () => {
    // A rough outline: traced from hard pixels, offset by nothing.
    const base = jobOf(200, (x, y) =>
      Math.hypot(x - 100, y - 100) < 60 + 12 * Math.sin(60 * Math.atan2(y - 100, x - 100)) ? 0 : 255,
    ).job
    const cut = { ...base.operations.cut, node: 'edge', speedMmS: 90, kerfMm: 0.1 } as JobDocument['operations'][string]
    const { text, report } = jobOf(
      200,
      (x, y) => (Math.hypot(x - 100, y - 100) < 60 + 12 * Math.sin(60 * Math.atan2(y - 100, x - 100)) ? 0 : 255),
      { operations: { cut }, runOrder: ['cut'] },
    )
    const { seconds, lines } = await send(new Machine(TRUTHS['bench-60']), text)
    expect(lines).toBeGreaterThan(500)
    expect(Math.abs(seconds / report.seconds - 1)).toBeLessThan(0.005)
  })
})

describe('the link', () => {
  const { text } = jobOf(60, (x, y) => (Math.hypot(x - 30, y - 30) < 22 ? 60 : 255))

  it('never sends more than the machine can hold', async () => {
    const machine = new Machine({ ...TRUTHS['bench-60'], receiveBytes: 64 })
    expect(await send(machine, text)).toMatchObject({ state: 'done' })
    expect(machine.counts.alarms).toBe(0)
  })

  it.each([
    ['lid', 'stopped', /lid was opened/],
    ['reset', 'stopped', /was reset/],
    ['drop', 'lost', /connection to the machine was lost/],
    ['garbage', 'done', /^$/],
  ] as const)('survives: %s → %s', async (kind, state, reason) => {
    for (const afterLines of [3, 40, 300]) {
      const machine = new Machine(TRUTHS['bench-60'])
      const result = await send(machine, text, [{ kind, afterLines }])
      expect(result.state).toBe(state)
      expect(result.reason).toMatch(reason)
      server?.close()
    }
  })

  it('does not wait for a machine whose lid opens on the last line', async () => {
    const program = ['G21', 'G90', 'M4 S100', 'G1 X50 F600', 'G1 X0']
    const machine = new Machine(TRUTHS['bench-60'])
    const result = await send(machine, program.join('\n'), [{ kind: 'lid', afterLines: program.length }])
    expect(result.state).toBe('stopped')
    expect(result.reason).toContain('lid was opened')
  })

  it('tells which line the machine refuses and why, and stops there', async () => {
    const result = await send(new Machine(TRUTHS['bench-60']), 'G21\nG90\nM4 S100\nG1 X10 F600\nG33 X5\nG1 X20')
    expect(result).toMatchObject({ state: 'refused', lines: 4 })
    expect(result.reason).toContain('line 5: a word that this machine does not know')
    const outside = await send(new Machine(TRUTHS['bench-60']), 'G21\nG90\nG0 X900')
    expect(outside.reason).toContain('outside the bed')
  })

  it('refuses addresses that are none, ports where nothing answers, and devices that answer nonsense', async () => {
    await expect(MachineLink.open('http://127.0.0.1:80')).rejects.toThrow(LinkError)
    await expect(MachineLink.open('tcp://127.0.0.1:1')).rejects.toThrow('Nothing answers at tcp://127.0.0.1:1')
    const other = createServer((socket) => socket.end('220 mail ready\n'))
    await new Promise<void>((resolve) => other.listen(0, '127.0.0.1', resolve))
    const address = `tcp://127.0.0.1:${(other.address() as AddressInfo).port}`
    await expect(MachineLink.open(address)).rejects.toThrow('is no machine that can be talked to')
    other.close()
  })

  it('lets one at a time talk to a machine', async () => {
    const address = await machineOn(new Machine(TRUTHS['bench-60']))
    const first = await MachineLink.open(address)
    await expect(MachineLink.open(address)).rejects.toThrow('The machine is taken')
    first.close()
  })
})
