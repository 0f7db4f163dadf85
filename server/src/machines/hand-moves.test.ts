import { fieldLines } from '@neotaxis/link'
import { Machine, TRUTHS } from '@neotaxis/stand-ins'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { cableTo } from '../testing/simulated-machine.ts'
import { Desk } from './desk.ts'

const POINTS = 9
const TABLE = { points: POINTS, offsetsUm: Array.from({ length: 2 * POINTS ** 2 }, (_, i) => (i % 2 ? -2 : 1) * (i >> 1)) }

/** A desk that is connected to a scan head, in the time of the test. */
async function atScanHead() {
  const machine = new Machine(TRUTHS['scan-20'])
  const cable = cableTo(machine, () => 10, { times: 1 })
  const desk = new Desk({
    machine: 'scan-20',
    reach: () => ({ address: 'tcp://machine:1' }),
    keeper: { changed: () => {} },
    tell: () => {},
    dial: cable.dial,
  })
  void desk.connect()
  await pass(500)
  const close = (): void => {
    desk.close()
    cable.front.end()
  }
  return { machine, desk, cable, close }
}

const pass = (ms: number) => vi.advanceTimersByTimeAsync(ms)

/** What comes of work that is under way. */
const outcome = <T>(work: Promise<T>): Promise<PromiseSettledResult<T>> => Promise.allSettled([work]).then(([came]) => came)

/** What comes of work while time passes. */
async function meanwhile<T>(work: Promise<T>): Promise<PromiseSettledResult<T>> {
  const came = outcome(work)
  await pass(20_000)
  return came
}

beforeEach(() => {
  vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout', 'setInterval', 'clearInterval', 'Date', 'performance'] })
})
afterEach(() => void vi.useRealTimers())

describe('what is told to a machine line by line', () => {
  it('is told whole', async () => {
    const { machine, desk, close } = await atScanHead()
    expect((await meanwhile(desk.hand.configure('Mara', fieldLines(TABLE)))).status).toBe('fulfilled')
    expect(machine.field?.table?.offsets).toHaveLength(POINTS ** 2)
    expect(desk.live()).toMatchObject({ state: 'idle', holder: null })
    close()
  })

  it('holds as a whole or not at all: stopped half-way nothing is corrected, that is told, and the next time begins anew', async () => {
    const { machine, desk, close } = await atScanHead()
    await meanwhile(desk.hand.configure('Mara', fieldLines(TABLE)))
    const came = outcome(desk.hand.configure('Mara', fieldLines(TABLE)))
    await pass(100)
    expect(desk.live()).toMatchObject({ state: 'jogging', holder: 'Mara' })
    void desk.stop('Tobin')
    await pass(20_000)
    expect(await came).toMatchObject({ status: 'rejected', reason: { status: 409, code: 'not-told' } })
    expect(machine.field?.table).toBeUndefined()
    expect(desk.live()).toMatchObject({ state: 'idle', holder: null })
    expect((await meanwhile(desk.hand.configure('Tobin', fieldLines(TABLE)))).status).toBe('fulfilled')
    expect(machine.field?.table?.offsets[80]).toEqual([0.08, -0.16])
    close()
  })

  it('is not told where the connection goes: nobody has the machine then', async () => {
    const { machine, desk, cable, close } = await atScanHead()
    const came = outcome(desk.hand.configure('Mara', fieldLines(TABLE)))
    await pass(60)
    cable.cut()
    await pass(500)
    expect(await came).toMatchObject({ status: 'rejected', reason: { status: 409 } })
    expect(machine.field?.table).toBeUndefined()
    expect(desk.live()).toMatchObject({ holder: null })
    close()
  })
})

describe('the head, by hand', () => {
  it('is moved by one at a time; somebody else is told who', async () => {
    const { desk, close } = await atScanHead()
    const home = outcome(desk.hand.home('Mara'))
    await pass(20)
    const refused = outcome(desk.hand.go('Tobin', { x: 5, y: 5 }, 100))
    await pass(20_000)
    expect(await refused).toMatchObject({ reason: { code: 'taken', message: 'Mara is at this machine: homing.' } })
    expect((await home).status).toBe('fulfilled')
    expect((await meanwhile(desk.hand.go('Tobin', { x: 5, y: 6 }, 100))).status).toBe('fulfilled')
    expect(desk.live().report).toMatchObject({ x: 5, y: 6 })
    close()
  })

  it('does nothing where it does not stand: a stop on the way ends what it went there for', async () => {
    const { desk, close } = await atScanHead()
    await meanwhile(desk.hand.home('Mara'))
    const looked = vi.fn(async () => 'seen')
    const there = await meanwhile(desk.hand.standing('Mara', { x: 20, y: 10 }, 100, looked))
    expect(there).toMatchObject({ status: 'fulfilled', value: { done: 'seen', at: { x: 20, y: 10 } } })
    const away = outcome(desk.hand.standing('Mara', { x: 60, y: 60 }, 5, looked))
    await pass(300)
    void desk.stop()
    await pass(20_000)
    expect(await away).toMatchObject({ status: 'rejected', reason: { code: 'not-there' } })
    expect(looked).toHaveBeenCalledTimes(1)
    close()
  })
})
