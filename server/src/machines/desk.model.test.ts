import { LinkError, programOf } from '@neotaxis/link'
import { type Fault, Machine, TRUTHS } from '@neotaxis/stand-ins'
import { afterEach, describe, expect, it, vi } from 'vitest'
import { Refusal } from '../refusal.ts'
import type { Prepared } from '../runs/prepared.ts'
import { type Cable, cableTo } from '../testing/simulated-machine.ts'
import { Desk, type ReadyRun } from './desk.ts'
import type { DeskState } from './desk-states.ts'

const HISTORIES = Number(process.env.NEOTAXIS_HISTORIES ?? 300) / 5
const FIRST = Number(process.env.NEOTAXIS_SEED ?? 1)

const PROGRAM = `G21\nG90\nM4S500\n${'G1X60F3000\nG1X0Y1\n'.repeat(12)}M5\nM2`
const FRAME: [number, number][][] = [
  [
    [0, 0],
    [30, 0],
    [30, 20],
    [0, 0],
  ],
]
const OPERATORS = ['Mara', 'Tobin'] as const
/** States in which a beam may be on: each has an owner. */
const MAY_BURN: readonly DeskState[] = [
  'starting',
  'running',
  'holding',
  'looking',
  'stopping',
  'framing',
  'pulsing',
  'lost',
  'connecting',
]

function random(seed: number): (below: number) => number {
  let state = seed
  return (below) => {
    state = (state + 0x6d2b79f5) | 0
    let t = Math.imul(state ^ (state >>> 15), 1 | state)
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t
    return Math.floor((((t ^ (t >>> 14)) >>> 0) / 4294967296) * below)
  }
}

const prepared: Prepared = {
  file: '',
  stops: [],
  lines: programOf(PROGRAM).count,
  marks: [],
  seconds: 40,
  times: new Float64Array([0, 40]),
  parts: [{ id: 'cut', linesBefore: 0, pause: null, list: [] }],
  operations: [],
  bounds: null,
  preflight: [],
}

/** A desk on a machine, both in simulated time; what was told of its runs. */
class Bench {
  readonly machine = new Machine(TRUTHS['bench-60'])
  readonly cable: Cable
  readonly desk: Desk
  readonly begun = new Map<string, string>()
  /** Orders under way: what came of them is looked at when they are done. */
  readonly orders: Promise<unknown>[] = []
  /** What came of an order that is no sentence for the operator. */
  readonly mistakes: unknown[] = []
  private number = 0
  private readonly below: (n: number) => number

  constructor(below: (n: number) => number, faults: readonly Fault[]) {
    this.below = below
    this.cable = cableTo(this.machine, () => below(30), { times: 1 }, faults)
    this.desk = new Desk({
      machine: 'bench-60',
      reach: () => ({ address: 'tcp://machine:1' }),
      keeper: { changed: (id, now) => void this.begun.set(id, now.phase) },
      tell: () => {},
      dial: this.cable.dial,
    })
    this.desk.checked = true
  }

  get state(): DeskState {
    return this.desk.live().state
  }

  order(work: () => unknown): void {
    this.orders.push(
      (async () => {
        try {
          await work()
        } catch (cause) {
          // What cannot be done is refused with a sentence; anything else is a mistake.
          if (!(cause instanceof Refusal || cause instanceof LinkError) || !cause.message.endsWith('.')) this.mistakes.push(cause)
        }
      })(),
    )
  }

  /** Starts a run whose program takes a while to be made. */
  start(operator: string): void {
    const id = `run-${this.number++}`
    const facts = { id, jobId: 'j', name: id, operator, only: null, startedAt: 0 }
    const wait = this.below(400)
    const prepare = async (signal: AbortSignal): Promise<ReadyRun> => {
      await new Promise((resolve) => setTimeout(resolve, wait))
      signal.throwIfAborted()
      return { facts, prepared, program: programOf(PROGRAM) }
    }
    this.order(() => this.desk.start(operator, id, prepare, { armed: this.below(5) === 0 }))
  }

  /** Something that somebody does, one as likely as another; what is worth more stands there more often. */
  act(): void {
    const { desk, machine, cable, below } = this
    const operator = OPERATORS[below(2)]
    const { run } = desk.live()
    const acts: readonly (() => void)[] = [
      () => this.start(operator),
      () => this.start(operator),
      () => this.start(operator),
      // Two at once, of two operators.
      () => {
        this.start('Mara')
        this.start('Tobin')
      },
      () => this.order(() => desk.hand.home(operator)),
      () => this.order(() => desk.hand.getReady(operator, below(12), 8)),
      () => this.order(() => desk.hand.jog(operator, below(20) - 10, 5, 0, 80)),
      () => this.order(() => desk.hand.go(operator, { x: below(60), y: below(60) }, 80)),
      () => this.order(() => desk.hand.standing(operator, { x: below(60), y: 5 }, 80, async () => 1)),
      () => this.order(() => desk.hand.configure(operator, ['settings', 'field 0'])),
      () => this.order(() => desk.frame(operator, async () => ({ ways: FRAME }), 80, 20, below(2) === 0)),
      () => this.order(() => desk.frame(operator, async () => ({ ways: FRAME }), 80, 20, true)),
      () => this.order(() => desk.pulse(operator, 20, 1 + below(4))),
      () => this.order(() => desk.stop()),
      () => this.order(() => desk.stop()),
      () => this.order(() => desk.stop()),
      () => this.order(() => desk.disconnect()),
      () => this.order(() => desk.connect()),
      () => this.order(() => desk.connect()),
      () => cable.cut(),
      () => this.order(() => run && desk.runOf(run.id).hold()),
      () => this.order(() => run && desk.runOf(run.id).resume()),
      () => machine.lid(!machine.isLidOpen),
      () => machine.press(),
    ]
    acts[below(acts.length)]()
  }

  /** What must hold at every moment. */
  check(where: string): void {
    const { state, holder, run } = this.desk.live()
    // A machine that burns belongs to somebody, and is shown so.
    if (this.machine.beamNow > 0) expect(MAY_BURN, `${where}: it burns while the desk is ${state}`).toContain(state)
    if (
      ['homing', 'jogging', 'framing', 'pulsing', 'preparing', 'starting', 'running', 'holding', 'looking', 'stopping'].includes(
        state,
      )
    )
      expect(holder, `${where}: ${state} without an owner`).not.toBeNull()
    // Never “stopped” while it says that it runs.
    if (state === 'idle' && run?.phase === 'stopped') expect(this.machine.beamNow, where).toBe(0)
    const open = [...this.begun.values()].filter((phase) => !['done', 'stopped', 'refused', 'lost'].includes(phase))
    expect(open.length, `${where}: ${open.length} runs at once`).toBeLessThanOrEqual(1)
  }
}

async function history(seed: number): Promise<void> {
  const below = random(seed)
  const kinds: Fault['kind'][] = ['drop', 'reset', 'garbage', 'mangle', 'delay', 'stall', 'deaf', 'stubborn', 'boast', 'power']
  const faults = below(2) === 0 ? [] : [{ kind: kinds[below(kinds.length)], afterLines: 3 + below(30) }]
  const bench = new Bench(below, faults)
  bench.order(() => bench.desk.connect())
  await vi.advanceTimersByTimeAsync(200)
  const where = (what: string): string => `history ${seed}${faults[0] ? ` with ${faults[0].kind}` : ''}, ${what}`
  for (let step = 0; step < 40; step++) {
    bench.act()
    bench.check(where(`step ${step}`))
    const pause = below(6) === 0 ? 2000 : 40 + below(200)
    for (let passed = 0; passed < pause; passed += 40) {
      await vi.advanceTimersByTimeAsync(40)
      bench.check(where(`after step ${step}`))
    }
  }
  // Whatever is going on: one press, and it is dark and at rest, with nobody at it.
  bench.machine.lid(false)
  if (bench.machine.state === 'emergency') bench.machine.emergency(false)
  bench.order(() => bench.desk.stop())
  await vi.advanceTimersByTimeAsync(2500)
  if (!['off', 'lost', 'connecting'].includes(bench.state)) {
    await vi.advanceTimersByTimeAsync(3000)
    expect(bench.machine.beamNow, where('after the stop')).toBe(0)
    expect(['idle', 'off', 'lost', 'connecting'], where('after the stop')).toContain(bench.state)
  }
  // Connected again, it ends where the last one said, and a start works as on the first day.
  bench.order(() => bench.desk.disconnect())
  await vi.advanceTimersByTimeAsync(100)
  bench.order(() => bench.desk.connect())
  await vi.advanceTimersByTimeAsync(8000)
  expect(bench.state, where('connected again')).toBe('idle')
  expect(bench.machine.beamNow, where('at the end')).toBe(0)
  await vi.advanceTimersByTimeAsync(70_000)
  await Promise.all(bench.orders)
  expect(bench.mistakes, where('orders')).toEqual([])
  bench.desk.close()
  bench.cable.front.end()
}

afterEach(() => void vi.useRealTimers())

describe('a desk under interleavings', () => {
  it(`in ${HISTORIES} random histories burns nothing that nobody owns, and stops when it is told to`, {
    timeout: 1_200_000,
  }, async () => {
    vi.useFakeTimers({
      toFake: ['setTimeout', 'clearTimeout', 'setInterval', 'clearInterval', 'Date', 'performance'],
    })
    for (let seed = FIRST; seed < FIRST + HISTORIES; seed++) await history(seed)
  })
})
