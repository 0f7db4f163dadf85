import { goingOn } from './going-on.ts'
import { halt } from './halt.ts'
import type { MachineLink } from './machine-link.ts'
import type { Program } from './program.ts'
import { type Place, type Report, receiveBytes } from './report.ts'
import { type Base, FROM_START, readToken, runOn, tokenOf } from './run-token.ts'
import { LinkError } from './wire.ts'

/**
 * running · armed: the button at the machine is waited for · paused: the program waits (M0) · held: by the operator, or
 * because the connection was lost and is back · lid: it was opened · homing: it was reset or stopped dead, home it first ·
 * away: the connection is lost · stopping: told to stop, until the machine says that it stands · and the ends: done · refused: a
 * line was not taken · stopped: by the operator · lost: the place is not known any more.
 */
export type RunPhase =
  | 'running'
  | 'armed'
  | 'paused'
  | 'held'
  | 'lid'
  | 'homing'
  | 'away'
  | 'stopping'
  | 'done'
  | 'refused'
  | 'stopped'
  | 'lost'

const ENDS: readonly RunPhase[] = ['done', 'refused', 'stopped', 'lost']

/** How a run stands. */
export interface RunNow {
  readonly phase: RunPhase
  /** What happened, for people; empty where nothing did. */
  readonly reason: string
  /** Lines of the program that are driven to their end, and where the head is in the next one. */
  readonly place: Place | null
  /** Seconds of the machine's own clock. */
  readonly seconds: number
  readonly report: Report | undefined
  /** It has not answered for a while. */
  readonly silent: boolean
}

export interface RunOptions {
  /** By which machine and sender know this run again. */
  readonly token: string
  /** Wait for the button at the machine. */
  readonly armed?: boolean
  /** Go on from here instead of from the start. */
  readonly from?: Place
  /** The machine still has this run, held: go on with it. */
  readonly adopt?: boolean
  /** Go on by itself when a lost connection is back. */
  readonly persist?: boolean
  /** How long a lost connection is looked for, ms. */
  readonly patienceMs?: number
  /** How often it is asked how it is, ms. */
  readonly askMs?: number
  /** No answer for so long: the connection counts as lost, ms. */
  readonly silenceMs?: number
  readonly onChange?: (now: RunNow) => void
  /** A lost connection is back as another one. */
  readonly onLink?: (link: MachineLink) => void
  /** Stopped before it began: looked at before `begin`, and before the first byte. */
  readonly signal?: AbortSignal
}

/** It was stopped before its first line was sent. */
export class StoppedError extends LinkError {}

const SILENT_MS = 1500
const LOOK_AGAIN_MS = 250
/** Standing idle in the middle for so long is no pause between lines any more, ms. */
const IDLE_MS = 1200
const LID_OPEN = 'The lid is open: the beam is off, the place is kept.'

/**
 * One run of a program. As many bytes as the machine's receive buffer holds are under way, never more: each `ok` makes room,
 * and each status report puts right what was lost on the way. Whatever goes wrong, the machine stands dark, and the place is
 * kept to go on from.
 */
export class ProgramRun {
  readonly finished: Promise<RunNow>
  private readonly program: Program
  private readonly options: RunOptions
  /** The connection it has now: another one after it was lost. */
  link: MachineLink
  /** Told to go on, and not yet heard of since: a report that it stands was under way before. */
  private goingOn = false
  private now: RunNow = { phase: 'running', reason: '', place: null, seconds: 0, report: undefined, silent: false }
  private resolve: (now: RunNow) => void = () => {}
  private buffer = 127
  // What is sent: lines that are not answered yet, by their bytes.
  private source: Iterator<string> = [][Symbol.iterator]()
  private next: IteratorResult<string> = { done: true, value: undefined }
  private underWay: number[] = []
  private bytes = 0
  /** Lines answered since `begin`. */
  private answered = 0
  /** How the machine's count of lines and the program's belong together: what stands before the program, and from where. */
  private base: Base = FROM_START
  private startSeconds = 0
  private secondsBefore = 0
  private heardAt = 0
  private timer: ReturnType<typeof setInterval> | undefined
  private busy = false
  /** Since when it stands idle in the middle. */
  private idleSince: number | undefined

  /** What the machine still has of the plan is no use: begin again from the place. */
  private startsOver = false
  /** Told to stop: no line goes to the machine any more, whatever was under way. */
  private stopAsked = false
  /** Nobody listens to it any more: a lost connection is not looked for. */
  private isLet = false
  /** How often it was told to hold or to stop: what was begun before such a word does not go on after it. */
  private words = 0

  private constructor(link: MachineLink, program: Program, options: RunOptions) {
    this.link = link
    this.program = program
    this.options = options
    this.finished = new Promise((resolve) => {
      this.resolve = resolve
    })
  }

  /** Begins a run, or takes up one that the machine still has. @throws LinkError where it cannot begin */
  static async start(link: MachineLink, program: Program, options: RunOptions): Promise<ProgramRun> {
    const run = new ProgramRun(link, program, options)
    run.buffer = receiveBytes(await link.settings())
    const report = options.adopt ? await link.rested() : await link.ask()
    run.mayGo()
    run.startSeconds = report.seconds
    run.attend()
    if (options.adopt) run.takeUp(report)
    else {
      try {
        await run.begin(options.from)
      } catch (cause) {
        run.letGo()
        throw cause
      }
    }
    return run
  }

  get state(): RunNow {
    return this.now
  }

  private get ended(): boolean {
    return ENDS.includes(this.now.phase)
  }

  /** @throws StoppedError where it was told to stop */
  private mayGo(): void {
    if (this.stopAsked || this.options.signal?.aborted) throw new StoppedError('It was stopped before it began.')
  }

  private change(change: Partial<RunNow>): void {
    if (this.ended) return
    // Once it is told to stop, nothing else happens to it but the end.
    if (this.stopAsked && change.phase !== undefined && !['stopping', 'stopped'].includes(change.phase)) return
    this.now = { ...this.now, ...change }
    this.options.onChange?.(this.now)
    if (this.ended) {
      this.letGo()
      this.resolve(this.now)
    }
  }

  /** Listens no more: somebody else may take the run up, or nobody. */
  letGo(): void {
    this.isLet = true
    clearInterval(this.timer)
    this.timer = undefined
    const { link } = this
    // Whoever listens now in its place goes on listening.
    if (link.onLine === this.onLine) link.onLine = () => {}
    if (link.onReport === this.onReport) link.onReport = () => {}
    if (link.onGone === this.onGone) link.onGone = () => {}
  }

  private readonly onLine = (line: string): void => this.heard(line)
  private readonly onReport = (report: Report): void => this.reported(report)
  private readonly onGone = (): void => void this.away()

  /** Listens to the connection, and asks again and again how the machine is. */
  private attend(): void {
    const { link } = this
    this.heardAt = Date.now()
    link.onLine = this.onLine
    link.onReport = this.onReport
    link.onGone = this.onGone
    clearInterval(this.timer)
    this.timer = setInterval(() => {
      const quiet = Date.now() - this.heardAt
      if (quiet > (this.options.silenceMs ?? 12_000)) {
        link.close()
        return
      }
      if (quiet > SILENT_MS !== this.now.silent) this.change({ silent: quiet > SILENT_MS })
      link.send('?')
    }, this.options.askMs ?? 150)
  }

  private async begin(from: Place | undefined): Promise<void> {
    this.mayGo()
    const rest = from && goingOn(this.program, from)
    // Until lines are under way, a report of a machine that has nothing to do is no report of a program that is done.
    this.busy = true
    this.base = rest ? { preamble: rest.preamble.length, from } : FROM_START
    await this.link.command(`begin ${tokenOf(this.options.token, this.base)}`)
    this.mayGo()
    if (this.options.armed && !from) await this.link.command('arm')
    this.mayGo()
    this.change({ phase: this.options.armed && !from ? 'armed' : 'running', reason: '' })
    this.busy = false
    if (rest) this.stream(rest.preamble[Symbol.iterator](), rest.lines[Symbol.iterator]())
    else this.stream(this.program.lines(1)[Symbol.iterator]())
  }

  private stream(...parts: Iterator<string>[]): void {
    this.source = (function* () {
      for (const part of parts) for (let n = part.next(); !n.done; n = part.next()) yield n.value
    })()
    this.underWay = []
    this.bytes = 0
    this.answered = 0
    this.idleSince = undefined

    this.next = this.source.next()
    this.fill()
  }

  private fill(): void {
    if (this.stopAsked || this.options.signal?.aborted) return
    let text = ''
    while (!this.next.done) {
      const size = this.next.value.length + 1
      if (this.bytes + size > this.buffer && this.underWay.length > 0) break
      this.underWay.push(size)
      this.bytes += size
      text += `${this.next.value}\n`
      this.next = this.source.next()
    }
    if (text !== '') this.link.send(text)
  }

  private answer(count: number): void {
    for (let i = 0; i < count; i++) {
      this.bytes -= this.underWay.shift() ?? 0
      this.answered++
    }
    this.fill()
  }

  /** The machine's place in lines of the program. */
  private placeOf({ driven, x, y, z }: Place): Place {
    const { preamble, from } = this.base
    // Still on the way to where the program goes on.
    if (driven < preamble) return from
    return { driven: from.driven + driven - preamble, x, y, z }
  }

  private heard(line: string): void {
    this.heardAt = Date.now()
    if (this.ended || this.busy) return
    if (line === 'ok') {
      if (this.underWay.length > 0) this.answer(1)
    } else if (line.startsWith('error:')) {
      // The lid, an alarm and the emergency stop refuse all that was under way: they are told by themselves.
      if (/^error:(6|7|10|11)\b/.test(line)) return
      void this.refused(line)
    } else if (line === 'overflow') this.change({ phase: 'homing', reason: 'The machine lost a part of the program.' })
    else if (line.startsWith('reset')) this.change({ phase: 'held', reason: 'The machine was reset: its place is kept.' })
    else if (line.startsWith('lid open')) this.change({ phase: 'lid', reason: LID_OPEN })
    // Whatever else is said is told by the next report too, and what is not known is noise.
  }

  private async refused(line: string): Promise<void> {
    const number = this.base.from.driven + this.answered + 1 - this.base.preamble
    this.busy = true
    let place = this.now.place
    try {
      const { report } = await halt(this.link, (reason) => this.change({ phase: 'stopping', reason }))
      if (report && runOn(report) === this.options.token) place = this.placeOf(report)
    } catch (cause) {
      if (!(cause instanceof LinkError)) throw cause
    }
    this.change({
      phase: 'refused',
      place,
      reason: `The machine refused line ${number}: ${line.replace(/^error:\d+ ?/, '')}. The beam is off.`,
    })
  }

  private reported(report: Report): void {
    this.heardAt = Date.now()
    if (this.ended || this.busy || this.stopAsked) return
    if (runOn(report) !== this.options.token) {
      this.unknown()
      return
    }
    // It cannot have taken what was never sent.
    if (report.taken > this.answered + this.underWay.length) {
      this.link.heardNonsense()
      return
    }
    // What was lost on the way is put right: the machine knows what it took.
    if (report.taken > this.answered) this.answer(report.taken - this.answered)
    const place = this.placeOf(report.dark ?? report)
    const seconds = this.secondsBefore + report.seconds - this.startSeconds
    const all = this.next.done === true && this.underWay.length === 0 && report.taken === this.answered
    this.change({ report, place, seconds, silent: false, ...this.phaseOf(report, all) })
  }

  private phaseOf(report: Report, all: boolean): Partial<RunNow> {
    const { phase } = this.now
    if (report.state !== 'idle' || report.queue > 0) this.idleSince = undefined
    switch (report.state) {
      case 'run':
        return { phase: 'running', reason: '' }
      case 'armed':
        return { phase: 'armed', reason: '' }
      case 'pause':
        return { phase: 'paused', reason: '' }
      case 'hold':
        if (report.dark) return { phase: 'lid', reason: 'The lid was opened: the beam went off, the place is kept.' }
        return phase === 'held' || this.goingOn ? {} : { phase: 'held' }
      case 'lid':
        return { phase: 'lid', reason: LID_OPEN }
      case 'alarm':
        return phase === 'homing'
          ? {}
          : { phase: 'homing', reason: 'The machine stopped dead: it must be homed before it goes on.' }
      case 'emergency':
        return { phase: 'homing', reason: 'The emergency stop is pressed.' }
      default:
        if (report.queue > 0) return {}
        if (all) {
          void this.endDark()
          return {}
        }

        // Idle in the middle for a while: lines were lost on the way, or it was reset while it stood.
        this.idleSince ??= Date.now()
        if (phase !== 'running' || Date.now() - this.idleSince < IDLE_MS) return {}

        return {
          phase: 'held',
          reason: 'The machine stands and waits: a part of the program did not reach it. The place is kept.',
        }
    }
  }

  /** Whatever the program's last line says, the beam is off after it. */
  private async endDark(): Promise<void> {
    this.busy = true
    await this.link.command('M5').catch(() => {})
    this.change({ phase: 'done', reason: '' })
  }

  private unknown(): void {
    const { place } = this.now
    this.change({
      phase: 'lost',
      reason: `The machine was switched off, or has forgotten the program. ${
        place
          ? `It was last seen in line ${place.driven + 1}, at X ${place.x.toFixed(1)} Y ${place.y.toFixed(1)}; what it burned after that is not known.`
          : 'What it burned is not known.'
      } Look at the piece before anything is run again.`,
    })
  }

  /** The connection is gone: it is looked for until it is back, or patience ends. */
  private async away(): Promise<void> {
    clearInterval(this.timer)
    if (this.ended || this.now.phase === 'away' || this.stopAsked) return
    this.change({ phase: 'away', reason: 'The connection to the machine is lost: it brakes and stands dark by itself.' })
    const end = Date.now() + (this.options.patienceMs ?? 60_000)
    for (;;) {
      await new Promise((resolve) => setTimeout(resolve, LOOK_AGAIN_MS))
      if (this.ended || this.isLet) return
      let link: MachineLink | undefined
      try {
        link = await this.link.reopen()
        const report = await link.rested()
        if (this.ended || this.isLet) {
          link.retire()
          return
        }
        this.link = link
        this.options.onLink?.(link)
        this.takeUp(report)
        return
      } catch (cause) {
        link?.retire()
        if (!(cause instanceof LinkError)) throw cause
        if (this.ended) return
        if (Date.now() > end) {
          this.change({
            phase: 'lost',
            reason: `${cause.message} It was last seen in line ${(this.now.place?.driven ?? 0) + 1}.`,
          })
          return
        }
      }
    }
  }

  /** The machine has this run: lines that it took are not sent again. */
  private takeUp(report: Report): void {
    const token = readToken(report.token)
    // What it claims to have of this run must be a part of it.
    if (
      token?.id !== this.options.token ||
      token.base.from.driven > this.program.count ||
      token.base.from.driven + report.taken - token.base.preamble > this.program.count
    ) {
      this.unknown()
      return
    }
    this.base = token.base
    const { preamble, from } = this.base
    this.underWay = []
    this.bytes = 0
    this.answered = report.taken
    // In the middle of its way to the place, the way begins again.
    const inPreamble = preamble > 0 && report.taken <= preamble
    this.source = this.program.lines(from.driven + report.taken - preamble + 1)[Symbol.iterator]()
    this.next = inPreamble ? { done: true, value: undefined } : this.source.next()
    const armed = report.state === 'armed'
    this.change({
      report,
      place: this.placeOf(report.dark ?? report),
      phase: armed ? 'armed' : 'held',
      reason: 'The connection was lost and is back: the machine holds its place.',
    })
    this.startsOver = inPreamble
    this.attend()
    if (armed) this.fill()
    else if (this.options.persist) void this.resume().catch(() => {})
  }

  /** Brakes and stands dark; goes on with `resume`. What is armed is stopped. */
  hold(): void {
    if (this.ended || this.stopAsked) return
    this.words++
    if (this.now.phase === 'armed') void this.stop()
    else this.link.send('!')
  }

  /** Shares of the program's speed and power, 0.1–2. With a beam that follows the speed, the dose changes with power alone. */
  adjust(speed: number, power: number): void {
    if (this.ended || this.stopAsked) return
    const step = (share: number): number => Math.min(20, Math.max(1, Math.round(share * 10)))
    this.link.send(String.fromCharCode(0x80 + step(speed)) + String.fromCharCode(0xa0 + step(power)))
  }

  /** Goes on from where it stands. @throws LinkError where something must be done first */
  async resume(): Promise<void> {
    if (this.ended || this.stopAsked) throw new LinkError('The run is over.')
    if (this.now.phase === 'away') throw new LinkError('The connection to the machine is lost.')
    // Pressed twice: it is under way already.
    if (this.busy || this.now.phase === 'running') return
    const { words } = this
    const report = await this.link.ask()
    // A hold or a stop that was pressed meanwhile counts more.
    if (this.words !== words || this.ended) return
    if (report.lidOpen) throw new LinkError('Close the lid first.')
    if (report.state === 'emergency') throw new LinkError('Release the emergency stop first.')
    if (report.state === 'hold' && !report.dark && !this.startsOver) {
      await this.link.rested()
      if (this.words !== words || this.ended) return
      this.change({ phase: 'running', reason: '' })
      this.link.send('~')
      this.fill()
      this.goingOn = true
      const known = (): void => {
        this.goingOn = false
      }
      this.link.ask().then(known, known)
      return
    }
    if (report.state === 'pause') {
      this.link.send('~')
      return
    }
    if (this.busy || report.state === 'run' || report.state === 'armed') return
    await this.startOver(words)
  }

  /** The plan is dropped, the place is driven to in the dark, and the program goes on from there. */
  private async startOver(words: number): Promise<void> {
    this.busy = true
    try {
      // Whatever it still drives comes to rest first: the place is where it is then.
      this.link.send('!')
      const rested = await this.link.rested()
      if (this.words !== words) return
      if (runOn(rested) !== this.options.token) {
        this.busy = false
        this.unknown()
        return
      }
      const place = this.placeOf(rested.dark ?? rested)
      this.change({ place })
      await this.reset()
      const after = await this.link.ask()
      if (this.stopAsked) return
      if (after.state === 'alarm') await this.link.command('home', 60_000)
      this.secondsBefore += after.seconds - this.startSeconds
      this.startSeconds = after.seconds
      this.startsOver = false
      await this.begin(place)
      // Held meanwhile, when it did not move yet: what goes there now is held at once.
      if (this.words !== words) this.link.send('!')
    } catch (cause) {
      if (!(cause instanceof StoppedError)) throw cause
    } finally {
      this.busy = false
    }
  }

  /** Ctrl-X, and the machine's word that it was heard, or two seconds. */
  private reset(): Promise<void> {
    return new Promise<void>((resolve) => {
      const before = this.link.onLine
      const done = (): void => {
        this.link.onLine = before
        clearTimeout(timer)
        resolve()
      }
      const timer = setTimeout(done, 2000)
      this.link.onLine = (line) => line.startsWith('reset') && done()
      this.link.send('\x18')
    })
  }

  /**
   * Ends the run here, at once and for good. It counts as stopped when the machine has said that it stands: one that does not
   * obey is reset, and what it does is told in `reason`. @returns when it is over
   */
  async stop(): Promise<void> {
    if (this.ended) return
    if (this.stopAsked) {
      this.link.send('!')
      await this.finished
      return
    }
    const { link, now } = this
    this.stopAsked = true
    this.words++
    clearInterval(this.timer)
    if (now.phase === 'away') {
      this.change({
        phase: 'stopped',
        reason: 'Stopped while the connection was lost: the machine brakes and stands dark by itself. Look at it.',
      })
      return
    }
    this.change({ phase: 'stopping', reason: 'Stopping.' })
    try {
      const { report, obeyed } = await halt(link, (reason) => this.change({ phase: 'stopping', reason }))
      if (report && runOn(report) === this.options.token) {
        this.secondsBefore += report.seconds - this.startSeconds
        this.change({ report, place: this.placeOf(report.dark ?? report), seconds: this.secondsBefore })
      }
      this.change({
        phase: 'stopped',
        reason: obeyed ? 'Stopped by the operator.' : 'Stopped by a reset: the machine did not obey the stop. Have it looked at.',
      })
    } catch (cause) {
      if (!(cause instanceof LinkError)) throw cause
      this.change({
        phase: 'stopped',
        reason: 'The connection was lost while it was being stopped: the machine brakes and stands dark by itself. Look at it.',
      })
    }
  }
}
