import { type framePath, frameProgram } from '@neotaxis/core'
import { LinkError, MachineLink, type Place, type Program, ProgramRun, type Report, type RunNow } from '@neotaxis/link'
import { Refusal } from '../refusal.ts'
import { type Prepared, partAt, timeAt } from '../runs/prepare.ts'

/** How a machine is reached, and its outside where it is simulated. */
export interface Reach {
  readonly address: string
  readonly panel?: number
}

/** A run as pages show it while it goes on. */
export interface RunLive {
  readonly id: string
  readonly jobId: string | null
  readonly name: string
  readonly operator: string
  readonly phase: string
  readonly reason: string
  readonly place: Place | null
  readonly lines: number
  /** Seconds of the machine's clock, and of the estimate: all of it, and what is done of it. */
  readonly seconds: number
  readonly estimateSeconds: number
  readonly doneSeconds: number
  readonly operation: string | null
  readonly only: readonly string[] | null
  readonly startedAt: number
}

export type Activity = 'none' | 'run' | 'frame' | 'pulse' | 'jog' | 'home'

/** How a machine stands, for every open page. */
export interface DeskLive {
  readonly machine: string
  readonly link: 'off' | 'connecting' | 'on'
  readonly trouble: string
  readonly address: string
  readonly simulated: boolean
  /** The first connection was gone through. */
  readonly checked: boolean
  readonly report: Report | null
  readonly silent: boolean
  readonly activity: Activity
  readonly holder: string | null
  readonly run: RunLive | null
}

/** What the desk tells about a run so that it is written down. */
export interface RunKeeper {
  readonly changed: (id: string, now: RunNow) => void
}

interface Running {
  readonly facts: Pick<RunLive, 'id' | 'jobId' | 'name' | 'operator' | 'only' | 'startedAt'>
  readonly prepared: Prepared
  readonly run: ProgramRun
}

const ASK_MS = 200
const LOOK_AGAIN_MS = 1500
/** Beam while framing is at most this share of full power. */
export const MOST_FRAME_POWER = 0.1

/** A line under way arrives within this. */
const STOP_MS = 400

/** One machine: its connection, and whatever is done with it. One thing at a time; stopping is open to everybody. */
export class Desk {
  readonly machine: string
  checked = false
  private readonly reach: () => Reach
  private readonly keeper: RunKeeper
  private readonly tell: () => void
  private link: MachineLink | undefined
  private state: 'off' | 'connecting' | 'on' = 'off'
  private trouble = ''
  private report: Report | null = null
  private silent = false
  private activity: Activity = 'none'
  private holder: string | null = null
  private running: Running | undefined
  private looping = false
  private timer: ReturnType<typeof setInterval> | undefined
  private wanted = false
  private ended = false
  /** Told when a connection stands, with what the machine says of itself. */
  onReach: (report: Report) => void = () => {}

  constructor(machine: string, reach: () => Reach, keeper: RunKeeper, tell: () => void) {
    this.machine = machine
    this.reach = reach
    this.keeper = keeper
    this.tell = tell
  }

  live(): DeskLive {
    const { address, panel } = this.reach()
    return {
      machine: this.machine,
      link: this.state,
      trouble: this.trouble,
      address,
      simulated: panel !== undefined,
      checked: this.checked,
      report: this.report,
      silent: this.silent,
      activity: this.activity,
      holder: this.holder,
      run: this.runLive(),
    }
  }

  private runLive(): RunLive | null {
    if (!this.running) return null
    const { facts, prepared, run } = this.running
    const { phase, reason, place, seconds } = run.state
    const lines = place?.driven ?? 0
    return {
      ...facts,
      phase,
      reason,
      place,
      lines: prepared.lines,
      seconds,
      estimateSeconds: prepared.seconds,
      doneSeconds: phase === 'done' ? prepared.seconds : timeAt(prepared, lines),
      operation: partAt(prepared, lines),
    }
  }

  /** Connects and stays connected: a lost connection is looked for. @throws Refusal with the reason */
  async connect(): Promise<void> {
    this.wanted = true
    if (this.state !== 'off') return
    const { address } = this.reach()
    if (address === '') throw new Refusal(409, 'no-address', 'This machine has no address: programs are carried to it as files.')
    this.state = 'connecting'
    this.trouble = ''
    this.tell()
    try {
      const link = await MachineLink.open(address)
      this.adoptLink(link)
      const report = await link.ask()
      this.report = report
      this.onReach(report)
      this.tell()
    } catch (cause) {
      this.link?.close()
      this.link = undefined
      this.state = 'off'
      this.trouble = cause instanceof LinkError ? cause.message : 'The machine cannot be reached.'
      this.tell()
      this.again()
      throw new Refusal(502, 'no-machine', this.trouble)
    }
  }

  private again(): void {
    if (!this.wanted || this.ended) return
    setTimeout(() => {
      if (this.wanted && !this.ended && this.state === 'off') this.connect().catch(() => {})
    }, LOOK_AGAIN_MS).unref()
  }

  private adoptLink(link: MachineLink): void {
    this.link = link
    this.state = 'on'
    link.onReport = (report) => {
      this.report = report
      this.silent = false
      this.tell()
    }
    link.onLine = () => {}
    link.onGone = () => this.lost('The connection to the machine was lost.')
    clearInterval(this.timer)
    this.timer = setInterval(() => link.send('?'), ASK_MS)
  }

  private lost(why: string): void {
    clearInterval(this.timer)
    this.link = undefined
    this.state = 'off'
    this.trouble = why
    this.looping = false
    this.end()
    this.again()
  }

  disconnect(): void {
    this.wanted = false
    if (this.running && !this.isOver()) throw new Refusal(409, 'running', 'A run is under way: stop it first.')
    clearInterval(this.timer)
    if (this.link) {
      this.link.onGone = () => {}
      this.link.close()
    }
    this.link = undefined
    this.state = 'off'
    this.report = null
    this.trouble = ''
    this.end()
  }

  /** The server stops: the connection goes, and the machine holds by itself. */
  close(): void {
    this.ended = true
    clearInterval(this.timer)
    this.running?.run.letGo()
    this.link?.close()
    this.running?.run.link.close()
  }

  private isOver(): boolean {
    return !this.running || ['done', 'refused', 'stopped', 'lost'].includes(this.running.run.state.phase)
  }

  private linked(): MachineLink {
    if (!this.link) throw new Refusal(409, 'not-connected', 'The machine is not connected.')
    return this.link
  }

  /** One at a time: somebody else at the machine is named. */
  private take(operator: string, activity: Activity): void {
    const busy = this.activity !== 'none' && !(this.activity === 'run' && this.isOver())
    if (busy && this.holder !== operator) throw new Refusal(409, 'taken', `${this.holder} is at this machine: ${this.doing()}.`)
    if (busy && this.activity === 'run') throw new Refusal(409, 'running', 'A run is under way: hold or stop it first.')
    if (busy && (activity === 'run' || this.activity !== activity)) {
      if (this.activity === 'frame' || this.activity === 'pulse')
        throw new Refusal(409, 'busy', 'The machine is framing: stop that first.')
    }
    this.activity = activity
    this.holder = operator
    this.tell()
  }

  private doing(): string {
    const name = this.running?.facts.name
    return {
      none: 'nothing',
      run: `running “${name}”`,
      frame: 'framing',
      pulse: 'finding the focus',
      jog: 'moving the head',
      home: 'homing',
    }[this.activity]
  }

  private end(): void {
    if (this.activity === 'run' && !this.isOver()) return
    this.activity = 'none'
    this.holder = null
    this.tell()
  }

  private async during<T>(operator: string, activity: Activity, work: (link: MachineLink) => Promise<T>): Promise<T> {
    const link = this.linked()
    this.take(operator, activity)
    try {
      return await work(link)
    } catch (cause) {
      if (cause instanceof LinkError) throw new Refusal(409, 'machine', cause.message)
      throw cause
    } finally {
      this.end()
    }
  }

  home(operator: string): Promise<void> {
    return this.during(operator, 'home', async (link) => {
      const report = await link.ask()
      if (report.state === 'hold' || report.state === 'pause') {
        link.send('\x18')
        await link.rested()
      }
      await link.command('home', 60_000)
    })
  }

  /** Moves by so much, no farther than the bed. mm, mm/s */
  jog(operator: string, dx: number, dy: number, dz: number, speed: number): Promise<void> {
    return this.during(operator, 'jog', (link) => link.command(`jog ${dx} ${dy} ${dz} ${speed}`))
  }

  /** Ends moving by hand. */
  jogEnd(): void {
    if (!this.running || this.isOver()) this.link?.send('^')
  }

  /** Moves to a place on the bed, or to a height of the lens. mm, mm/s */
  go(operator: string, to: { x?: number; y?: number; z?: number }, speed: number): Promise<void> {
    return this.during(operator, 'jog', async (link) => {
      const now = await link.rested()
      const by = (target: number | undefined, at: number): number => (target === undefined ? 0 : target - at)
      await link.command(`jog ${by(to.x, now.x).toFixed(3)} ${by(to.y, now.y).toFixed(3)} ${by(to.z, now.z).toFixed(3)} ${speed}`)
    })
  }

  /** Goes along ways until told to stop, or once: dark or with a weak beam. */
  async frame(operator: string, ways: ReturnType<typeof framePath>, speedMmS: number, s: number, loop: boolean): Promise<void> {
    if (ways.length === 0) throw new Refusal(422, 'nothing', 'The job burns nothing: there is nothing to go around.')
    await this.repeat(operator, 'frame', frameProgram(ways, speedMmS, s), loop ? Infinity : 1)
  }

  /** A weak beam for moments, so many times: while the focus is looked for, or to see it come and go. */
  async pulse(operator: string, s: number, count: number): Promise<void> {
    await this.repeat(operator, 'pulse', ['G21', `M3S${s}`, 'G1F600', 'G4P0.06', 'M5', 'G4P0.44'], count)
  }

  /** What goes round and round at the moment. */
  private round: Promise<void> = Promise.resolve()

  private async repeat(operator: string, activity: 'frame' | 'pulse', lines: readonly string[], rounds: number): Promise<void> {
    const link = this.linked()
    this.take(operator, activity)
    this.looping = true
    const once = async (): Promise<void> => {
      await link.command(`begin ${activity}`)
      for (const line of lines) {
        if (!this.looping) return
        await link.command(line, 60_000)
      }
      // The end of a round: what is planned is driven.
      await link.command('M2', 60_000)
      while (this.looping) {
        const { state, queue } = await link.ask()
        if (queue === 0 && state !== 'run') return
        await new Promise((resolve) => setTimeout(resolve, 30))
      }
    }
    const round = async (): Promise<void> => {
      for (let n = 0; n < rounds && this.looping; n++) await once()
    }
    this.round = round()
      .catch((cause: unknown) => {
        this.trouble = cause instanceof LinkError ? cause.message : ''
      })
      .finally(() => {
        this.looping = false
        this.end()
      })
  }

  /** Starts a run, or takes up one that the machine still has. */
  async run(
    facts: Running['facts'],
    prepared: Prepared,
    program: Program,
    how: { armed?: boolean; adopt?: boolean; from?: Place },
  ): Promise<void> {
    const link = this.linked()
    this.take(facts.operator, 'run')
    clearInterval(this.timer)
    try {
      if (!how.adopt) await this.clear(link)
      const run = await ProgramRun.start(link, program, {
        token: facts.id,
        ...how,
        patienceMs: 24 * 3_600_000,
        onChange: (now) => this.runChanged(facts.id, now),
      })
      this.running = { facts, prepared, run }
      this.runChanged(facts.id, run.state)
      void run.finished.then(() => this.runEnded(run))
    } catch (cause) {
      this.running = undefined
      this.adoptLink(link)
      this.end()
      if (cause instanceof LinkError) throw new Refusal(409, 'machine', cause.message)
      throw cause
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
    this.state = now.phase === 'away' ? 'off' : 'on'
    if (this.running) this.keeper.changed(id, now)
    this.tell()
  }

  private runEnded(run: ProgramRun): void {
    if (run.state.phase === 'lost' && run.link.gone) this.lost(run.state.reason)
    else {
      this.adoptLink(run.link)
      this.end()
    }
  }

  /** The run on this machine, if it is this one. @throws Refusal */
  runOf(id: string): ProgramRun {
    if (this.running?.facts.id !== id) throw new Refusal(409, 'not-running', 'This run is not on the machine any more.')
    return this.running.run
  }

  /** Whatever it does, it ends now. */
  async stop(): Promise<void> {
    this.looping = false
    if (this.running && !this.isOver()) {
      await this.running.run.stop()
      return
    }
    const { link } = this
    if (!link) return
    link.send('!')
    // A line that was under way when it was stopped may set it off once more: then it is held again.
    await Promise.race([this.round, new Promise((resolve) => setTimeout(resolve, STOP_MS))])
    try {
      link.send('!')
      await link.rested()
      link.send('\x18')
    } catch (cause) {
      if (!(cause instanceof LinkError)) throw cause
    }
    this.end()
  }

  async settings(): Promise<ReadonlyMap<string, number>> {
    try {
      return await this.linked().settings()
    } catch (cause) {
      if (cause instanceof LinkError) throw new Refusal(409, 'machine', cause.message)
      throw cause
    }
  }

  /** The panel of a simulated machine. @throws Refusal where it is a real one */
  panelPort(): number {
    const { panel } = this.reach()
    if (panel === undefined)
      throw new Refusal(409, 'real', 'This is no simulated machine: its button and lid are at the machine.')
    return panel
  }

  get hasPanel(): boolean {
    return this.reach().panel !== undefined
  }
}
