import { type AddressInfo, connect as connectTo, createServer, type Server } from 'node:net'
import { Bed, type Fault, Machine, serveMachine, TRUTHS } from '@neotaxis/stand-ins'
import { afterEach, describe, expect, it } from 'vitest'
import { MachineLink } from './machine-link.ts'
import { programOf } from './program.ts'
import { ProgramRun, type RunNow, type RunOptions } from './program-run.ts'
import { readReport } from './report.ts'
import { LinkError } from './wire.ts'

/** The campaign does each of them 14 times. */
const TIMES = process.env.NEOTAXIS_CAMPAIGN === '1' ? 14 : 4

let server: Server | undefined
let link: MachineLink | undefined
afterEach(() => {
  link?.close()
  server?.close()
})

const addressOf = (at: Server): string => `tcp://127.0.0.1:${(at.address() as AddressInfo).port}`

async function connect(machine: Machine, faults: readonly Fault[] = [], pace = Infinity): Promise<MachineLink> {
  server?.close()
  server = await serveMachine(machine, { port: 0, pace, faults, stallMs: 300, delayMs: 60 })
  link = await MachineLink.open(addressOf(server))
  return link
}

/** Runs with somebody at the machine, who closes the lid, releases the stop and goes on. */
async function attended(
  machine: Machine,
  text: string,
  faults: readonly Fault[],
  options: Partial<RunOptions> = {},
): Promise<RunNow> {
  const to = await connect(machine, faults, 60)
  let busy = false
  const hand = async ({ phase, report }: RunNow): Promise<void> => {
    if (busy || !['lid', 'homing', 'held', 'paused'].includes(phase)) return
    busy = true
    try {
      if (report?.lidOpen || machine.isLidOpen) machine.lid(false)
      if (machine.state === 'emergency') machine.emergency(false)
      await run.resume()
    } catch (cause) {
      if (!(cause instanceof LinkError)) throw cause
    } finally {
      busy = false
    }
  }
  const run = await ProgramRun.start(to, programOf(text), {
    token: 'test',
    askMs: 25,
    silenceMs: 2000,
    patienceMs: 4000,
    ...options,
    onChange: (now) => void setTimeout(() => void hand(now), 5),
  })
  return run.finished
}

const started = async (machine: Machine, text: string, faults: readonly Fault[] = [], options: Partial<RunOptions> = {}) =>
  ProgramRun.start(await connect(machine, faults), programOf(text), { token: 'test', askMs: 25, ...options })

/** Rows of dots there and back, an arc, and a cut around: about five seconds of work. */
function mixedProgram(): string {
  const lines = ['; a mixed program', 'G21', 'G90', 'G54', 'M5', 'M4 S0', 'M8']
  for (let row = 0; row < 14; row++) {
    const forward = row % 2 === 0
    const x = (i: number): string => (forward ? 12 + i * 0.9 : 12 + (40 - i) * 0.9).toFixed(3)
    lines.push(`G0X${forward ? 8 : 52}Y${(20 + row * 0.3).toFixed(3)}`)
    lines.push(`G1X${x(0)}S0F12000`)
    for (let i = 1; i <= 40; i++) lines.push(`X${x(i)}S${(i * 7 + row) % 3 === 0 ? 0 : 300}`)
    lines.push(`X${forward ? 52 : 8}S0`)
  }
  lines.push('M9', 'G0X20Y40', 'G1S700F1800', 'G2X30Y50I10J0', 'G1', 'G91', 'X5', 'Y5', 'G90', 'G0X10Y10', 'G1S650F2400')
  for (let i = 0; i <= 60; i++)
    lines.push(`X${(30 + 18 * Math.cos(i / 9.5)).toFixed(3)}Y${(70 + 14 * Math.sin(i / 9.5)).toFixed(3)}`)
  return [...lines, 'M5', 'G0X0Y0', 'M2'].join('\n')
}

const bedOf = (): Bed => new Bed(120, 120, 0.1, 0.12)
const mixed = mixedProgram()

/** J/mm² by cell. */
function energies(bed: Bed): Float64Array {
  const all = new Float64Array(bed.columns * bed.rows)
  for (let r = 0; r < bed.rows; r++) for (let c = 0; c < bed.columns; c++) all[r * bed.columns + c] = bed.energy(c, r)
  return all
}

async function undisturbed(): Promise<Float64Array> {
  const bed = bedOf()
  expect((await attended(new Machine(TRUTHS['bench-60'], bed), mixed, [])).phase).toBe('done')
  return energies(bed)
}

/** Cells that got nothing but should have, and cells that got more than they should. */
function compared(bed: Bed, whole: Float64Array): { gaps: number; twice: number } {
  const now = energies(bed)
  let gaps = 0
  let twice = 0
  for (let i = 0; i < now.length; i++) {
    if (now[i] < whole[i] * 0.6) gaps++
    if (now[i] > whole[i] * 1.4 + 1e-9) twice++
  }
  return { gaps, twice }
}

describe('a run', () => {
  it('never sends more than the machine can hold', async () => {
    const machine = new Machine({ ...TRUTHS['bench-60'], receiveBytes: 64 })
    expect((await (await started(machine, mixed)).finished).phase).toBe('done')
    expect(machine.counts.alarms).toBe(0)
  })

  it('tells which line the machine refuses and why, and stops there with the beam off', async () => {
    const machine = new Machine(TRUTHS['bench-60'])
    const now = await (await started(machine, 'G21\nG90\nM4 S100\nG1 X10 F600\nG33 X5\nG1 X20')).finished
    expect(now).toMatchObject({ phase: 'refused' })
    expect(now.reason).toContain('line 5: a word that this machine does not know')
    const outside = await (await started(new Machine(TRUTHS['bench-60']), 'G21\nG90\nG0 X900')).finished
    expect(outside.reason).toContain('line 3: outside the bed')
  })

  it('waits for the button at the machine when it is armed', async () => {
    const machine = new Machine(TRUTHS['bench-60'])
    const run = await started(machine, mixed, [], { armed: true })
    expect(run.state.phase).toBe('armed')
    await expect.poll(() => run.state.report?.state).toBe('armed')
    expect(machine.counts.seconds).toBe(0)
    machine.press()
    expect((await run.finished).phase).toBe('done')
    expect(machine.counts.seconds).toBeGreaterThan(2)
  })

  it('holds in the middle of a move, goes on, and leaves neither a gap nor a double burn', async () => {
    const whole = await undisturbed()
    const bed = bedOf()
    const machine = new Machine(TRUTHS['bench-60'], bed)
    const run = await ProgramRun.start(await connect(machine, [], 5), programOf(mixed), { token: 'test', askMs: 20 })
    for (let i = 1; i < 5; i++) {
      await expect.poll(() => run.state.place?.driven ?? 0, { interval: 5 }).toBeGreaterThan(i * 90)
      run.hold()
      await expect.poll(() => run.state.phase).toBe('held')
      await run.resume()
    }
    expect((await run.finished).phase).toBe('done')
    const { gaps, twice } = compared(bed, whole)
    expect(gaps + twice).toBe(0)
  })

  it('goes on once: a report that it stands, asked for before, holds it no second time', async () => {
    const to = await connect(new Machine(TRUTHS['bench-60'], bedOf()), [], 20)
    const { send } = to
    to.send = (text) => {
      // The question is on the way when it is told to go on.
      if (text === '~') send.call(to, '?')
      send.call(to, text)
    }
    const phases: string[] = []
    const run = await ProgramRun.start(to, programOf(mixed), {
      token: 'test',
      askMs: 25,
      onChange: ({ phase }) => phases.at(-1) !== phase && phases.push(phase),
    })
    for (let i = 0; i < 3; i++) {
      run.hold()
      await expect.poll(() => run.state.phase).toBe('held')
      await run.resume()
      await expect.poll(() => run.state.report?.state).toBe('run')
    }
    await run.finished
    expect(phases.filter((phase) => phase === 'held')).toHaveLength(3)
  })

  it('is stopped with one call: the machine stands, and the place is told', async () => {
    const machine = new Machine(TRUTHS['bench-60'])
    const run = await ProgramRun.start(await connect(machine, [], 5), programOf(mixed), { token: 'test', askMs: 20 })
    await expect.poll(() => run.state.place?.driven ?? 0).toBeGreaterThan(20)
    await run.stop()
    const now = await run.finished
    expect(now.phase).toBe('stopped')
    expect(now.place!.driven).toBeGreaterThan(20)
    await expect.poll(() => machine.state).toBe('idle')
    await expect(run.resume()).rejects.toThrow('The run is over')
  })

  it('waits at a pause in the program until it is told to go on', async () => {
    const run = await started(new Machine(TRUTHS['bench-60']), 'G21\nG90\nG0X10\nM0\nG0X20\nM2')
    await expect.poll(() => run.state.phase).toBe('paused')
    expect(run.state.report!.x).toBe(10)
    await run.resume()
    expect((await run.finished).report!.x).toBe(20)
  })

  it('ends with the beam off, even where the program has no end', async () => {
    const bed = bedOf()
    const machine = new Machine(TRUTHS['bench-60'], bed)
    const run = await started(machine, 'G21\nG90\nM3 S300\nG1 X20 F3000')
    expect((await run.finished).phase).toBe('done')
    const burned = bed.total()
    machine.take('G1 X50')
    while (machine.finishMove());
    expect(bed.total()).toBe(burned)
  })

  it('is adjusted while it runs: slower with the same dose, or with more of it', async () => {
    const burned = async (speed: number, power: number): Promise<{ energy: number; seconds: number }> => {
      const bed = bedOf()
      const machine = new Machine(TRUTHS['bench-60'], bed)
      const run = await ProgramRun.start(await connect(machine, [], 60), programOf('G21\nG90\nM4S300\nG1X100F3000\nG1X0\nM2'), {
        token: 'test',
        askMs: 20,
      })
      run.adjust(speed, power)
      const { seconds } = await run.finished
      return { energy: bed.total(), seconds }
    }
    const plain = await burned(1, 1)
    const slow = await burned(0.5, 1)
    const strong = await burned(1, 1.5)
    expect(slow.seconds).toBeGreaterThan(1.6 * plain.seconds)
    expect(slow.energy / plain.energy).toBeCloseTo(1, 1)
    expect(strong.energy / plain.energy).toBeGreaterThan(1.35)
  })

  it('goes on after the lid was opened while the plan was empty: lines that were refused then are sent again', async () => {
    const whole = await undisturbed()
    for (let i = 0; i < 4; i++) {
      const bed = bedOf()
      // A buffer of a few lines: most of the program has not reached the machine yet.
      const machine = new Machine({ ...TRUTHS['bench-60'], receiveBytes: 48 }, bed)
      const run = await ProgramRun.start(await connect(machine, [], 60), programOf(mixed), { token: 'test', askMs: 20 })
      await expect.poll(() => run.state.place?.driven ?? 0, { interval: 3 }).toBeGreaterThan(60 + i * 100)
      while (machine.finishMove());
      machine.lid(true)
      await expect.poll(() => run.state.report?.lidOpen).toBe(true)
      machine.lid(false)
      await run.resume()
      expect((await run.finished).phase).toBe('done')
      const { gaps, twice } = compared(bed, whole)
      expect(gaps + twice).toBeLessThanOrEqual(2)
      link?.close()
    }
  })

  it('is not done before it began: a machine that says it is idle together with its answer has driven nothing yet', async () => {
    // Answers that wait for each other come as one: the answer to `begin` and a report behind it.
    const bunch = createServer((near) => {
      let held = ''
      const far = connectTo((server!.address() as AddressInfo).port, '127.0.0.1')
      const flush = setInterval(() => {
        if (held !== '') near.write(held, 'latin1')
        held = ''
      }, 30)
      far.on('data', (data) => {
        held += data.toString('latin1')
      })
      near.on('data', (data) => far.write(data))
      near.on('error', () => {})
      near.on('close', () => {
        clearInterval(flush)
        far.destroy()
      })
    })
    server = await serveMachine(new Machine(TRUTHS['bench-60']), { port: 0, pace: Infinity })
    await new Promise<void>((resolve) => bunch.listen(0, '127.0.0.1', resolve))
    link = await MachineLink.open(addressOf(bunch))
    const run = await ProgramRun.start(link, programOf('G21\nG90\nG1X10F6000\nM2'), { token: 'test', askMs: 2 })
    expect((await run.finished).place?.driven).toBe(4)
    bunch.close()
  })

  it('cannot go on in the middle of a program that sets its own zero, and says so', async () => {
    const machine = new Machine(TRUTHS['bench-60'])
    const text = `G21\nG90\nG92X0Y0\n${'G1X50F6000\nG1X0\n'.repeat(30)}M2`
    const run = await started(machine, text, [{ kind: 'lid', afterLines: 20 }])
    await expect.poll(() => run.state.phase).toBe('lid')
    machine.lid(false)
    await expect(run.resume()).rejects.toThrow('sets a zero of its own')
    await run.stop()
  })
})

describe('faults at random moments', { timeout: 60_000 }, () => {
  const kinds: Fault['kind'][] = ['drop', 'lid', 'reset', 'garbage', 'mangle', 'delay', 'stall', 'emergency']
  const total = programOf(mixed).lines(1)
  const lines = [...total].length

  it.each(kinds)(`%s, ${TIMES} times: all is burned once, and nothing left out`, async (kind) => {
    const whole = await undisturbed()
    for (let i = 0; i < TIMES; i++) {
      const afterLines = 1 + ((i * 7919 + kind.length * 104_729) % (lines - 1))
      const bed = bedOf()
      const machine = new Machine(TRUTHS['bench-60'], bed)
      const now = await attended(machine, mixed, [{ kind, afterLines }])
      link?.close()
      const where = `${kind} after line ${afterLines}: ${now.reason}`
      expect(now.phase, where).toBe('done')
      const { gaps, twice } = compared(bed, whole)
      // Where it was stopped dead the ends of two stretches may share or miss a cell of 0.1 mm.
      expect(gaps, where).toBeLessThanOrEqual(2)
      expect(twice, where).toBeLessThanOrEqual(2)
    }
  })

  it(`two or three at once, ${TIMES} times`, async () => {
    const whole = await undisturbed()
    for (let i = 0; i < TIMES; i++) {
      const faults = [0, 1, 2].map((k) => ({
        kind: kinds[(i * 3 + k * 5) % kinds.length],
        afterLines: 20 + ((i * 131 + k * 177) % 560),
      }))
      const bed = bedOf()
      const now = await attended(new Machine(TRUTHS['bench-60'], bed), mixed, faults)
      link?.close()
      const where = faults.map(({ kind, afterLines }) => `${kind}@${afterLines}`).join(' ')
      expect(now.phase, `${where}: ${now.reason}`).toBe('done')
      const { gaps, twice } = compared(bed, whole)
      expect(gaps, where).toBeLessThanOrEqual(6)
      expect(twice, where).toBeLessThanOrEqual(6)
    }
  })

  it(`the power cut, ${TIMES} times: it says clearly that the place is not known`, async () => {
    for (let i = 0; i < TIMES; i++) {
      const machine = new Machine(TRUTHS['bench-60'])
      const now = await attended(machine, mixed, [{ kind: 'power', afterLines: 60 + (i % 8) * 70 }])
      link?.close()
      expect(now.phase).toBe('lost')
      expect(now.reason).toMatch(/was switched off, or has forgotten the program\..*not known.*Look at the piece/)
      expect(machine.beamNow).toBe(0)
    }
  })
})

describe('another sender', () => {
  it('takes up a run where the first one left it', async () => {
    const whole = await undisturbed()
    const bed = bedOf()
    const machine = new Machine(TRUTHS['bench-60'], bed)
    const first = await ProgramRun.start(await connect(machine, [], 2), programOf(mixed), { token: 'r7', askMs: 20 })
    await expect.poll(() => first.state.place?.driven ?? 0, { interval: 5 }).toBeGreaterThan(100)
    // The first sender dies: nobody looks for the machine any more.
    first.letGo()
    const address = link!.address
    link!.close()
    await expect.poll(() => machine.state).toBe('hold')
    link = await MachineLink.open(address)
    const second = await ProgramRun.start(link, programOf(mixed), { token: 'r7', adopt: true, askMs: 20 })
    expect(second.state.phase).toBe('held')
    await second.resume()
    expect((await second.finished).phase).toBe('done')
    const { gaps, twice } = compared(bed, whole)
    expect(gaps + twice).toBe(0)
  })
})

describe('connecting', () => {
  it('refuses addresses that are none, ports where nothing answers, and devices that answer nonsense', async () => {
    await expect(MachineLink.open('http://127.0.0.1:80')).rejects.toThrow(LinkError)
    await expect(MachineLink.open('tcp://127.0.0.1:1')).rejects.toThrow('Nothing answers at tcp://127.0.0.1:1')
    const other = createServer((socket) => socket.end('220 mail ready\n'))
    await new Promise<void>((resolve) => other.listen(0, '127.0.0.1', resolve))
    await expect(MachineLink.open(addressOf(other))).rejects.toThrow('is no machine that can be talked to')
    other.close()
  })

  it('lets one at a time talk to a machine', async () => {
    const first = await connect(new Machine(TRUTHS['bench-60']))
    await expect(MachineLink.open(first.address)).rejects.toThrow('The machine is taken')
  })

  it('reads what a machine says of itself, and nothing else', async () => {
    const machine = new Machine(TRUTHS['bench-60'])
    machine.take('G0 X5 Y7')
    expect(readReport(machine.status())).toMatchObject({
      state: 'run',
      driven: 0,
      taken: 1,
      queue: 1,
      lidOpen: false,
      dark: null,
    })
    expect(readReport('<idle|at 1,2>')).toBeUndefined()
    const settings = await (await connect(machine)).settings()
    expect(settings.size).toBe(14)
    expect([settings.get('bed.x'), settings.get('mirrors'), settings.get('field')]).toEqual([600, 0, 0])
  })
})
