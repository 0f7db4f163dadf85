import type { DeskLive } from '@neotaxis/contract'
import { frameProgram } from '@neotaxis/core'
import {
  type Dial,
  halt,
  LinkError,
  MachineLink,
  type Program,
  ProgramRun,
  type Report,
  type RunNow,
  StoppedError,
} from '@neotaxis/link'
import { Refusal } from '../refusal.ts'
import type { FrameWays } from '../runs/frame-ways.ts'
import { instructionAt, type Prepared, waitAt } from '../runs/prepared.ts'
import { type RunFacts, runLive } from './desk-live.ts'
import { type DeskEvent, type DeskState, deskStep, isLinked, isOwned } from './desk-states.ts'
import { HandMoves } from './hand-moves.ts'
import { Rounds } from './rounds.ts'

/** How a machine is reached, and its outside where it is simulated. */
export interface Reach {
  readonly address: string
  readonly panel?: number
}

/** What the desk tells about a run so that it is written down. */
export interface RunKeeper {
  readonly changed: (id: string, now: RunNow, instruction: string | null) => void
}

/** A run that is ready to go on the machine. */
export interface ReadyRun {
  readonly facts: RunFacts
  readonly prepared: Prepared
  readonly program: Program
}

/** How a run is begun. */
export interface RunStart {
  readonly armed?: boolean
  /** The machine still has it, held: it is taken up there. */
  readonly adopt?: boolean
}

interface Running {
  readonly facts: RunFacts
  readonly prepared: Prepared
  readonly run: ProgramRun
}

export interface DeskSetting {
  readonly machine: string
  readonly reach: () => Reach
  readonly keeper: RunKeeper
  /** Something of what `live` says is new. */
  readonly tell: () => void
  /** Told when a connection stands, with what the machine says of itself. */
  readonly onReach?: (report: Report) => void
  readonly dial?: Dial
}

const ASK_MS = 200
const LOOK_AGAIN_MS = 1500
const ROUND_MS = 400

const DOING: Readonly<Record<DeskState, string>> = {
  off: 'nothing',
  connecting: 'nothing',
  lost: 'nothing',
  idle: 'nothing',
  homing: 'homing',
  jogging: 'moving the head',
  framing: 'framing',
  pulsing: 'finding the focus',
  preparing: 'preparing',
  starting: 'starting',
  running: 'running',
  holding: 'running',
  looking: 'running',
  stopping: 'stopping',
}
const RUNS: readonly DeskState[] = ['preparing', 'starting', 'running', 'holding', 'looking']

/**
 * One machine: its connection, and whatever is done with it. `desk-states.ts` says what can follow on what; nothing is sent to the
 * machine that the table does not allow, and stopping is open to everybody, always.
 */
export class Desk {
  readonly machine: string
  checked = false
  private readonly setting: DeskSetting
  private state: DeskState = 'off'
  private link: MachineLink | undefined
  private trouble = ''
  private report: Report | null = null
  private silent = false
  private holder: string | null = null
  private running: Running | undefined
  /** What is prepared or started now; a stop takes it away. */
  private starting: { readonly name: string; readonly abort: AbortController } | undefined
  private readonly rounds = new Rounds()
  private timer: ReturnType<typeof setInterval> | undefined
  /** Connections are wanted until somebody says otherwise; each wish has its number. */
  private wanted = false
  private wish = 0
  private connecting: Promise<void> | undefined
  /** It was stopped while nobody could tell it: so it is as soon as it is there again. */
  private stopOwed = false
  private ended = false

  /** What somebody does with the head by hand. */
  readonly hand = new HandMoves({
    take: (event, operator) => this.take(event, operator),
    state: () => this.state,
    over: () => this.step('done'),
    endsJog: () => this.link?.send('^'),
  })

  constructor(setting: DeskSetting) {
    this.setting = setting
    this.machine = setting.machine
  }

  live(): DeskLive {
    const { address, panel } = this.setting.reach()
    return {
      machine: this.machine,
      state: this.state,
      trouble: this.trouble,
      address,
      simulated: panel !== undefined,
      checked: this.checked,
      report: this.report,
      silent: this.silent,
      noisy: this.link?.noisy ?? false,
      holder: this.holder,
      run: this.running ? runLive(this.running.facts, this.running.prepared, this.running.run.state) : null,
      server: null,
    }
  }

  /** Whether an event can happen now; if so, it has. */
  private step(event: DeskEvent): boolean {
    const next = deskStep(this.state, event)
    if (next === undefined) return false
    this.state = next
    if (!isOwned(next)) this.holder = null
    this.setting.tell()
    return true
  }

  /** Takes the machine for somebody. @throws Refusal that names who is there, and what they do */
  private take(event: DeskEvent, operator: string): MachineLink {
    const mayJoin = event === 'jog' && this.state === 'jogging' && this.holder === operator
    if (isOwned(this.state) && !mayJoin) throw this.busy(operator)
    if (!this.link || deskStep(this.state, event) === undefined)
      throw new Refusal(409, 'not-connected', 'The machine is not connected.')
    this.holder = operator
    this.step(event)
    return this.link
  }

  private busy(operator: string): Refusal {
    const name = this.starting?.name ?? this.running?.facts.name
    const doing = `${DOING[this.state]}${RUNS.includes(this.state) && name ? ` “${name}”` : ''}`
    if (this.holder !== operator) return new Refusal(409, 'taken', `${this.holder} is at this machine: ${doing}.`)
    if (RUNS.includes(this.state)) return new Refusal(409, 'running', 'A run is under way: hold or stop it first.')
    if (this.state === 'stopping') return new Refusal(409, 'stopping', 'The machine is being stopped: wait until it stands.')
    return new Refusal(409, 'busy', `The machine is ${doing}: stop that first.`)
  }

  /** Connects and stays connected: a lost connection is looked for. @throws Refusal with the reason */
  async connect(): Promise<void> {
    this.wanted = true
    if (this.connecting) return this.connecting
    if (deskStep(this.state, 'connect') === undefined) return
    if (this.setting.reach().address === '')
      throw new Refusal(409, 'no-address', 'This machine has no address: programs are carried to it as files.')
    const mine = ++this.wish
    this.trouble = ''
    this.step('connect')
    this.connecting = this.open(mine).finally(() => {
      if (this.wish === mine) this.connecting = undefined
    })
    return this.connecting
  }

  private async open(mine: number): Promise<void> {
    let link: MachineLink | undefined
    try {
      link = await MachineLink.open(this.setting.reach().address, undefined, this.setting.dial)
      const report = await link.ask()
      if (this.wish !== mine || this.ended) throw new Refusal(409, 'disconnected', 'It was disconnected meanwhile.')
      this.adopt(link)
      this.report = report
      this.step('reached')
      if (this.stopOwed) void this.stop()
      else this.setting.onReach?.(report)
    } catch (cause) {
      link?.retire()
      if (this.wish !== mine || this.ended) throw cause instanceof Refusal ? cause : this.unreachable(cause)
      const refusal = this.unreachable(cause)
      this.trouble = refusal.message
      this.step('failed')
      this.again()
      throw refusal
    }
  }

  private unreachable(cause: unknown): Refusal {
    return new Refusal(502, 'no-machine', cause instanceof LinkError ? cause.message : 'The machine cannot be reached.')
  }

  private again(): void {
    if (!this.wanted || this.ended) return
    setTimeout(() => {
      if (this.wanted && !this.ended && this.state === 'lost') this.connect().catch(() => {})
    }, LOOK_AGAIN_MS).unref?.()
  }

  /** This connection counts from here on; an earlier one can do nothing any more. */
  private adopt(link: MachineLink): void {
    if (this.link && this.link !== link) this.link.retire()
    this.link = link
    link.onReport = (report) => {
      this.report = report
      this.silent = false
      this.setting.tell()
    }
    link.onLine = () => {}
    link.onGone = () => this.lost('The connection to the machine was lost.')
    clearInterval(this.timer)
    this.timer = setInterval(() => link.send('?'), ASK_MS)
    if (link.gone) link.onGone()
  }

  /** Drops the connection and makes it anew, unless somebody has the machine. @param why for people, meanwhile */
  reachAgain(why: string): void {
    if (isOwned(this.state) || !this.link) return
    this.link.retire()
    this.lost(why)
  }

  private lost(why: string): void {
    clearInterval(this.timer)
    this.link = undefined
    this.trouble = why
    this.rounds.end()
    this.starting?.abort.abort()
    this.starting = undefined
    this.step('gone')
    this.again()
  }

  /** Ends the connection, and does not look for it again. @throws Refusal while something is done: then all stays as it is */
  disconnect(): void {
    if (isOwned(this.state)) throw new Refusal(409, 'running', `The machine is ${DOING[this.state]}: stop it first.`)
    this.wanted = false
    this.wish++
    this.connecting = undefined
    clearInterval(this.timer)
    this.link?.retire()
    this.link = undefined
    this.report = null
    this.trouble = ''
    this.step('disconnect')
  }

  /** The server stops, or the machine is another server's now: the connection goes, and the machine holds by itself. */
  close(): void {
    this.ended = true
    this.wish++
    clearInterval(this.timer)
    this.starting?.abort.abort()
    this.rounds.end()
    this.running?.run.letGo()
    this.running?.run.link.retire()
    this.link?.retire()
  }

  private linked(): MachineLink {
    if (!this.link || !isLinked(this.state)) throw new Refusal(409, 'not-connected', 'The machine is not connected.')
    return this.link
  }

  /**
   * Goes along ways until told to stop, or once: dark or with a weak beam. The machine is taken before the ways are worked out.
   * @throws Refusal
   */
  async frame(
    operator: string,
    ways: (signal: AbortSignal) => Promise<FrameWays>,
    speedMmS: number,
    s: number,
    loop: boolean,
  ): Promise<void> {
    const link = this.take('frame', operator)
    const abort = new AbortController()
    this.starting = { name: '', abort }
    try {
      const found = await ways(abort.signal)
      if (abort.signal.aborted) throw stopped()
      if (found.ways.length === 0) throw new Refusal(422, 'nothing', 'The job burns nothing: there is nothing to go around.')
      const { mostMmS } = found
      const speed = Math.min(speedMmS, mostMmS ?? Infinity)
      this.repeat(link, frameProgram(found.ways, speed, s, mostMmS !== undefined), loop ? Infinity : 1)
    } catch (cause) {
      if (!abort.signal.aborted) this.step('done')
      throw abort.signal.aborted ? stopped() : cause
    } finally {
      if (this.starting?.abort === abort) this.starting = undefined
    }
  }

  /** A weak beam for moments, so many times: while the focus is looked for, or to see it come and go. */
  pulse(operator: string, s: number, count: number): void {
    this.repeat(this.take('pulse', operator), ['G21', `M3S${s}`, 'G1F600', 'G4P0.06', 'M5', 'G4P0.44'], count)
  }

  private repeat(link: MachineLink, lines: readonly string[], rounds: number): void {
    const { state } = this
    this.rounds.begin(link, state, lines, rounds).then(
      (byItself) => {
        if (byItself && this.state === state) this.step('done')
      },
      (cause: unknown) => {
        this.trouble = cause instanceof LinkError ? cause.message : 'The machine could not go on.'
        if (this.state === state) this.step('done')
      },
    )
  }

  /**
   * Takes the machine, prepares a run, and begins it. Whoever stops it meanwhile ends it: `prepare` is told by the signal, and
   * nothing is sent after that. @returns its id @throws Refusal
   */
  async start(
    operator: string,
    name: string,
    prepare: (signal: AbortSignal) => Promise<ReadyRun>,
    how: RunStart = {},
  ): Promise<string> {
    const link = this.take('prepare', operator)
    const abort = new AbortController()
    const { signal } = abort
    this.starting = { name, abort }
    try {
      const ready = await prepare(signal)
      if (signal.aborted || this.link !== link) throw stopped()
      this.running = undefined
      this.step('prepared')
      clearInterval(this.timer)
      if (!how.adopt) await this.clear(link)
      if (signal.aborted) throw stopped()
      const { facts, prepared, program } = ready
      const run = await ProgramRun.start(link, program, {
        token: facts.id,
        ...how,
        signal,
        patienceMs: 24 * 3_600_000,
        onChange: (now) => this.runChanged(facts.id, now),
        onLink: (found) => {
          this.link = found
        },
      })
      if (signal.aborted) {
        // Stopped between its first byte and here: the run is ended by the run itself, so that its place is known.
        run.letGo()
        throw stopped()
      }
      this.running = { facts, prepared, run }
      this.step('begun')
      this.runChanged(facts.id, run.state)
      void run.finished.then(() => this.runEnded(run))
      return facts.id
    } catch (cause) {
      // A stop has the machine now, and brings it to rest.
      if (signal.aborted || cause instanceof StoppedError) throw stopped()
      if (this.link === link) {
        this.adopt(link)
        this.step('done')
      }
      if (cause instanceof LinkError) throw new Refusal(409, 'machine', cause.message)
      throw cause
    } finally {
      if (this.starting?.abort === abort) this.starting = undefined
    }
  }

  /** What an earlier program left is dropped; alarms are told. */
  private async clear(link: MachineLink): Promise<void> {
    const report = await link.rested()
    if (report.lidOpen) throw new Refusal(409, 'lid', 'The lid is open: close it first.')
    if (report.state === 'emergency') throw new Refusal(409, 'emergency', 'The emergency stop is pressed: release it first.')
    if (report.state === 'alarm') throw new Refusal(409, 'alarm', 'The machine does not know where its head is: home it first.')
    if (report.state !== 'idle') {
      link.send('\x18')
      await link.rested()
    }
  }

  private runChanged(id: string, now: RunNow): void {
    if (now.report) this.report = now.report
    this.silent = now.silent
    const running = this.running?.facts.id === id ? this.running : undefined
    if (running) {
      const event = EVENT_OF[now.phase]
      if (event) this.step(event)
      const lines = now.place?.driven ?? 0
      this.setting.keeper.changed(id, now, now.phase === 'paused' ? instructionAt(running.prepared, lines) : null)
    }
    this.setting.tell()
  }

  private runEnded(run: ProgramRun): void {
    if (this.running?.run !== run || this.ended) return
    if (run.link.gone) {
      if (run.state.phase === 'stopped') this.stopOwed = true
      this.lost(run.state.reason)
      return
    }
    this.adopt(run.link)
    this.step('over')
  }

  /** @throws Refusal where a set-up begins and its list was not gone through */
  confirmSetUp(id: string, answers: readonly string[]): void {
    const { phase, place } = this.runOf(id).state
    if (phase !== 'paused' || !this.running) return
    const wait = waitAt(this.running.prepared, place?.driven ?? 0)
    if (wait?.list.some((item) => !answers.includes(item.id)))
      throw new Refusal(409, 'not-confirmed', 'Another set-up begins: go through its list first.')
  }

  /** The run on this machine, if it is this one. @throws Refusal */
  runOf(id: string): ProgramRun {
    if (this.running?.facts.id !== id) throw new Refusal(409, 'not-running', 'This run is not on the machine any more.')
    return this.running.run
  }

  /**
   * Whatever it does, it ends now, whoever says so. @param by who that is
   * @returns when the machine stands, or nobody can tell it any more
   */
  async stop(by = 'Somebody'): Promise<void> {
    this.rounds.end()
    if (this.link) this.holder ??= by
    const { state, starting, link } = this
    starting?.abort.abort()
    this.starting = undefined
    if (this.running && ['running', 'holding', 'looking'].includes(state)) {
      this.step('stop')
      await this.running.run.stop()
      return
    }
    if (state === 'stopping') {
      link?.send('!')
      return
    }
    if (!this.step('stop')) {
      // Nobody can tell it now: it is told as soon as it is there.
      if (state === 'lost' || state === 'connecting') this.stopOwed = true
      return
    }
    // Nothing went to the machine yet.
    if (state === 'preparing' || !link) return
    await this.bringToRest(link)
  }

  private async bringToRest(link: MachineLink): Promise<void> {
    const say = (trouble: string): void => {
      this.trouble = trouble
      this.setting.tell()
    }
    this.adopt(link)
    try {
      await halt(link, say)
      // A line that was under way when it was stopped may set it off once more: then it is halted again.
      await Promise.race([this.rounds.over, new Promise((resolve) => setTimeout(resolve, ROUND_MS))])
      const { obeyed } = await halt(link, say)
      this.stopOwed = false
      this.trouble = obeyed ? '' : this.trouble
      if (this.link === link) this.step('halted')
    } catch (cause) {
      if (!(cause instanceof LinkError)) throw cause
      // The connection went: it is looked for, and the machine is told again.
      this.stopOwed = true
    }
  }

  async settings(): Promise<ReadonlyMap<string, number>> {
    try {
      return await this.linked().settings()
    } catch (cause) {
      if (cause instanceof LinkError) throw new Refusal(409, 'machine', cause.message)
      throw cause
    }
  }

  /** Whether it is in the middle of something. */
  get isBusy(): boolean {
    return isOwned(this.state)
  }

  /** The panel of a simulated machine. @throws Refusal where it is a real one */
  panelPort(): number {
    const { panel } = this.setting.reach()
    if (panel === undefined)
      throw new Refusal(409, 'real', 'This is no simulated machine: its button and lid are at the machine.')
    return panel
  }

  get hasPanel(): boolean {
    return this.setting.reach().panel !== undefined
  }
}

const EVENT_OF: Readonly<Partial<Record<RunNow['phase'], DeskEvent>>> = {
  running: 'resumed',
  armed: 'resumed',
  paused: 'held',
  held: 'held',
  lid: 'held',
  homing: 'held',
  away: 'away',
  stopping: 'halting',
}

const stopped = (): Refusal => new Refusal(409, 'stopped', 'It was stopped before it began: nothing was burned.')
