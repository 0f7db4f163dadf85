import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { MachineLink } from './machine-link.ts'
import { programOf } from './program.ts'
import { ProgramRun } from './program-run.ts'
import { readReport, readSetting, receiveBytes } from './report.ts'
import type { Dial, Wire } from './wire.ts'

const REPORT =
  '<run|line 3/5|at 1.000,2.000,0.000|speed 10.0|beam 30|queue 2|share 100,100|lid closed|air off|dark -|run test.0.0.0.0.0|time 1.5000>'
/** The campaign sends ten times as many. */
const LINES = process.env.NEOTAXIS_CAMPAIGN === '1' ? 1_000_000 : 100_000

/** A wire whose other end is held by the test. */
class Held implements Wire {
  readonly sent: string[] = []
  closed = false
  onData: (text: string) => void = () => {}
  onClose: () => void = () => {}
  write(text: string): void {
    this.sent.push(text)
  }
  close(): void {
    this.closed = true
  }
}

async function linked(): Promise<{ wire: Held; link: MachineLink }> {
  const wire = new Held()
  const dial: Dial = async () => wire
  const opening = MachineLink.open('tcp://held:1', 1000, dial)
  await Promise.resolve()
  wire.onData('ready\n')
  return { wire, link: await opening }
}

describe('what a machine claims', () => {
  it('is read where it can be, and is garbage where it cannot', () => {
    expect(readReport(REPORT)).toMatchObject({ state: 'run', driven: 3, taken: 5, dark: null, token: 'test.0.0.0.0.0' })
    expect(readReport(REPORT.replace('dark -', 'dark 2@1.0,2.0,0.0'))!.dark).toEqual({ driven: 2, x: 1, y: 2, z: 0 })
    for (const [from, to] of [
      ['line 3/5', 'line 0/999999999999999'],
      ['line 3/5', 'line 6/5'],
      ['line 3/5', 'line -1/5'],
      ['beam 30', 'beam 101'],
      ['1.000,2.000', '1.0.0,2.000'],
      ['1.000,2.000', 'NaN,2.000'],
      ['1.000,2.000', '123456789.0,2.000'],
      ['time 1.5000', 'time 1e9'],
      ['<run', '<flying'],
      ['dark -', 'dark 9@1.0,2.0,0.0'],
      ['run test.0.0.0.0.0', `run ${'x'.repeat(200)}`],
    ])
      expect(readReport(REPORT.replace(from, to)), to).toBeUndefined()
  })

  it('in a setting may have as many digits as it likes behind the point', () => {
    expect(readSetting('speed.x=598.2340123456789')).toEqual(['speed.x', 598.2340123456789])
    expect(['speed.x=', 'speed.x=1.', '=3', 'Speed=3', 'speed.x=1,5', 'speed.x=NaN'].map(readSetting)).toEqual(
      Array(6).fill(undefined),
    )
  })

  it('of its buffer is believed where a controller could have it', () => {
    const told = (value: string): number => {
      const setting = readSetting(`receive=${value}`)
      return receiveBytes(new Map(setting ? [setting] : []))
    }
    expect(['127', '1024', '16', '1.2.3', '0', '-5', '1e9', '999999999', '12.5'].map(told)).toEqual([
      127, 1024, 16, 127, 127, 127, 127, 127, 127,
    ])
  })

  it('is never trusted into a number that is none, whatever is changed in a report', () => {
    fc.assert(
      fc.property(fc.nat(REPORT.length - 1), fc.string({ maxLength: 4 }), fc.nat(6), (at, text, cut) => {
        const report = readReport(REPORT.slice(0, at) + text + REPORT.slice(at + cut))
        if (!report) return
        for (const value of Object.values(report)) if (typeof value === 'number') expect(Number.isFinite(value)).toBe(true)
        expect(report.driven).toBeLessThanOrEqual(report.taken)
      }),
      { numRuns: 3000 },
    )
  })
})

describe('a machine that sends anything', () => {
  it(`never blocks whoever talks to it, nor gets more bytes than it said it can take: ${LINES} lines`, {
    timeout: 300_000,
  }, async () => {
    const { wire, link } = await linked()
    const text = Array.from({ length: 60_000 }, (_, i) => `G1X${i % 300}Y${(i * 7) % 200}S${i % 900}`).join('\n')
    const lines = text.split('\n')
    const receive = 127
    const starting = ProgramRun.start(link, programOf(text), { token: 'test', askMs: 1e6, silenceMs: 1e9 })
    const answer = async (say: string): Promise<void> => {
      wire.onData(say)
      await new Promise((resolve) => setImmediate(resolve))
    }
    await answer(`receive=${receive}\nok\n`)
    await answer(`${REPORT.replace('<run', '<idle')}\n`)
    await answer('ok\n')
    const run = await starting
    /** Lines that it said it took: by an answer each, or by a count that can be. */
    let said = 0
    let sent = 0
    let seen = 0
    const count = (): void => {
      for (; seen < wire.sent.length; seen++) sent += (wire.sent[seen].match(/^G1.*$/gm) ?? []).length
    }
    count()
    // Whatever is on the way when it begins counts from here.
    const random = mulberry(7)
    const status = (taken: number): string =>
      `<run|line ${Math.max(0, taken - 3)}/${taken}|at 1.0,2.0,0.0|speed 10.0|beam 30|queue 2|share 100,100|lid closed|air off|dark -|run test.0.0.0.0.0|time 1.5000>`
    let longest = 0
    for (let n = 0; n < LINES; ) {
      let batch = ''
      for (let i = 0; i < 200; i++, n++) {
        const kind = random(12)
        if (kind < 3) {
          batch += 'ok\n'
          if (said < sent) said++
        } else if (kind === 3) {
          const taken = Math.min(sent, said + random(4))
          said = Math.max(said, taken)
          batch += `${status(taken)}\n`
        } else if (kind === 4) batch += `${status(sent + 1 + random(1e6))}\n`
        else if (kind === 5) batch += `${status(0).replace('0/0', '0/999999999999999')}\n`
        else if (kind === 6) batch += `<${'|'.repeat(random(60))}\n`
        else if (kind === 7) batch += `receive=${random(1e9)}\n`
        else if (kind === 8) batch += `${'\u0000\u0007ÿ'.repeat(random(20))}\n`
        else if (kind === 9) batch += `${'o'.repeat(random(9000))}k\n`
        else if (kind === 10) batch += `${status(said).slice(0, random(150))}\n`
        else batch += `${String.fromCharCode(33 + random(90)).repeat(random(5))}\n`
        // What it can send next depends on what it heard so far.
        if (kind < 4) break
      }
      // What it computes, not what else this computer does meanwhile.
      const before = process.cpuUsage()
      wire.onData(batch)
      const { user, system } = process.cpuUsage(before)
      longest = Math.max(longest, (user + system) / 1000)
      count()
      const underWay = lines.slice(said, sent).reduce((sum, line) => sum + line.length + 1, 0)
      expect(underWay).toBeLessThanOrEqual(receive)
    }
    expect(sent).toBeGreaterThan(1000)
    expect(longest).toBeLessThan(50)
    expect(link.noisy).toBe(true)
    run.letGo()
    link.retire()
  })

  it('cannot make a resumed run begin where it was not: what it claims to have taken must be a part of the program', async () => {
    const { wire, link } = await linked()
    const starting = ProgramRun.start(link, programOf('G1X1\nG1X2'), { token: 'test', adopt: true, askMs: 1e6 })
    await Promise.resolve()
    wire.onData('receive=127\nok\n')
    await new Promise((resolve) => setImmediate(resolve))
    wire.onData(`${REPORT.replace('<run', '<hold').replace('3/5', '400/500').replace('speed 10.0', 'speed 0')}\n`)
    const run = await starting
    expect(run.state).toMatchObject({ phase: 'lost', reason: expect.stringContaining('Look at the piece') })
    link.retire()
  })
})

function mulberry(seed: number): (below: number) => number {
  let state = seed
  return (below) => {
    state = (state + 0x6d2b79f5) | 0
    let t = Math.imul(state ^ (state >>> 15), 1 | state)
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t
    return ((((t ^ (t >>> 14)) >>> 0) / 4294967296) * below) | 0
  }
}
