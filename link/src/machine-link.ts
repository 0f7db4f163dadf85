import { isKnownLine, type Report, readReport, readSetting } from './report.ts'
import { type Dial, dialTcp, LinkError, type Wire } from './wire.ts'

/** Longest line that is read from a machine; more without an end is nonsense. */
const MAX_LINE = 4096
/** A report that did not come by then is asked for again, ms. */
const LOST_MS = 700
/** So many lines of nonsense within so long are trouble of the link. */
const NOISY_LINES = 3
const NOISY_MS = 10_000

const SILENT = 'The machine does not answer any more.'

/**
 * One connection to a machine. Lines it says are handed to whoever listens; status reports are read here.
 * The protocol is told in `docs/machine-protocol.md`.
 */
export class MachineLink {
  readonly address: string
  private readonly wire: Wire
  private readonly dial: Dial
  private text = ''
  private reportWaiters: { readonly number: number; readonly take: (report: Report | undefined) => void }[] = []
  /** Questions asked and answered: a report that was under way before a question is no answer to it. */
  private asked = 0
  private told = 0
  private answerWaiters: ((line: string | undefined) => void)[] = []
  /** When nonsense was heard last, at most as often as it counts. */
  private nonsense: number[] = []
  /** Told every line that is neither a status report nor the answer to a command. */
  onLine: (line: string) => void = () => {}
  onReport: (report: Report) => void = () => {}
  /** Told when the connection is gone. */
  onGone: () => void = () => {}
  gone = false

  private constructor(wire: Wire, address: string, dial: Dial) {
    this.wire = wire
    this.address = address
    this.dial = dial
    wire.onData = (text) => this.read(text)
    wire.onClose = () => this.ended()
  }

  /**
   * Connects, and waits for the machine to say that it is ready.
   * @param address `tcp://127.0.0.1:PORT` @throws LinkError with a sentence
   */
  static async open(address: string, timeoutMs = 4000, dial: Dial = dialTcp): Promise<MachineLink> {
    const link = new MachineLink(await dial(address, timeoutMs), address, dial)
    await new Promise<void>((resolve, reject) => {
      const timer = setTimeout(() => {
        link.retire()
        reject(new LinkError(`What answers at ${address} is no machine that can be talked to.`))
      }, timeoutMs)
      link.onLine = (line) => {
        clearTimeout(timer)
        if (line === 'ready') return resolve()
        link.retire()
        reject(
          new LinkError(
            line === 'busy'
              ? 'The machine is taken: somebody else is connected to it.'
              : `What answers at ${address} is no machine that can be talked to.`,
          ),
        )
      }
      link.onGone = () => {
        clearTimeout(timer)
        reject(new LinkError(`The machine at ${address} closed the connection.`))
      }
    })
    link.onLine = () => {}
    link.onGone = () => {}
    return link
  }

  /** A new connection to the same machine, made the same way. @throws LinkError */
  reopen(): Promise<MachineLink> {
    return MachineLink.open(this.address, undefined, this.dial)
  }

  private ended(): void {
    if (this.gone) return
    this.gone = true
    for (const { take } of this.reportWaiters.splice(0)) take(undefined)
    for (const waiter of this.answerWaiters.splice(0)) waiter(undefined)
    this.onGone()
  }

  private read(data: string): void {
    const lines = (this.text + data).split('\n')
    this.text = lines.pop() ?? ''
    for (const line of lines) this.heard(line.trim())
    if (this.text.length > MAX_LINE) {
      this.text = ''
      this.heardNonsense()
    }
  }

  private heard(line: string): void {
    if (line === '') return
    const report = readReport(line)
    if (report) {
      this.told++
      const due = this.reportWaiters.filter(({ number }) => number <= this.told)
      this.reportWaiters = this.reportWaiters.filter(({ number }) => number > this.told)
      for (const { take } of due) take(report)
      this.onReport(report)
    } else if (line.startsWith('reset')) {
      // Lines that it had not taken are forgotten: nobody answers them any more.
      for (const waiter of this.answerWaiters.splice(0)) waiter('error:0 it was reset')
      this.onLine(line)
    } else if (this.answerWaiters.length > 0 && (line === 'ok' || line.startsWith('error:'))) this.answerWaiters.shift()!(line)
    else {
      if (!isKnownLine(line) && !readSetting(line)) this.heardNonsense()
      this.onLine(line)
    }
  }

  /** Something came that no machine says, or claims what cannot be. */
  heardNonsense(): void {
    this.nonsense.push(Date.now())
    if (this.nonsense.length > NOISY_LINES) this.nonsense.shift()
  }

  /** Whether so much nonsense came of late that the cable, or what is at its end, should be looked at. */
  get noisy(): boolean {
    return this.nonsense.length >= NOISY_LINES && Date.now() - this.nonsense[0] < NOISY_MS
  }

  /** Sends bytes as they are. */
  send(text: string): void {
    if (text === '?') this.asked++
    if (!this.gone) this.wire.write(text)
  }

  /**
   * Asks the machine how it is. @throws LinkError where it does not answer
   * @param lostMs an answer that did not come by then is asked for again
   */
  async ask(timeoutMs = 3000, lostMs = LOST_MS): Promise<Report> {
    return new Promise((resolve, reject) => {
      if (this.gone) return reject(new LinkError(SILENT))
      const forget = (): void => {
        this.reportWaiters = this.reportWaiters.filter((waiter) => waiter.take !== take)
      }
      const take = (report: Report | undefined): void => {
        clearTimeout(timer)
        clearInterval(again)
        if (report) resolve(report)
        else reject(new LinkError(SILENT))
      }
      const timer = setTimeout(() => {
        clearInterval(again)
        forget()
        reject(new LinkError(SILENT))
      }, timeoutMs)
      // Answers come in the order of their questions. Others came, but too few: some were lost on the way, and must not be waited
      // for. Nothing came at all: they are late, and none of those under way is taken for the answer to a later question.
      let heard = this.told
      const again = setInterval(() => {
        const lost = this.told > heard
        heard = this.told
        if (lost) {
          forget()
          this.told = this.asked
          heard = this.told
        }
        this.send('?')
        if (lost) this.reportWaiters.push({ number: this.asked, take })
      }, lostMs)
      this.send('?')
      this.reportWaiters.push({ number: this.asked, take })
    })
  }

  /** Sends one line that is no part of a program. @throws LinkError where it is refused, or not answered */
  async command(line: string, timeoutMs = 5000): Promise<void> {
    const answer = await new Promise<string | undefined>((resolve) => {
      if (this.gone) return resolve(undefined)
      const take = (text: string | undefined): void => {
        clearTimeout(timer)
        resolve(text)
      }
      const timer = setTimeout(() => {
        this.answerWaiters = this.answerWaiters.filter((waiter) => waiter !== take)
        resolve(undefined)
      }, timeoutMs)
      this.answerWaiters.push(take)
      this.send(`${line}\n`)
    })
    if (answer === undefined) throw new LinkError(SILENT)
    if (answer !== 'ok') throw new LinkError(`The machine refuses: ${answer.replace(/^error:\d+ ?/, '')}.`)
  }

  /** The machine's settings by name. */
  async settings(timeoutMs = 3000): Promise<ReadonlyMap<string, number>> {
    const found = new Map<string, number>()
    const before = this.onLine
    this.onLine = (line) => {
      const setting = readSetting(line)
      if (!setting) before(line)
      else if (found.size < MOST_SETTINGS) found.set(...setting)
    }
    try {
      await this.command('settings', timeoutMs)
    } finally {
      this.onLine = before
    }
    return found
  }

  /** Touches what lies under the head. @returns its height over the bed, mm @throws LinkError */
  async probe(timeoutMs = 60_000): Promise<number> {
    let height: number | undefined
    const before = this.onLine
    this.onLine = (line) => {
      const setting = readSetting(line)
      if (setting?.[0] === 'probe') height = setting[1]
      else before(line)
    }
    try {
      await this.command('probe', timeoutMs)
    } finally {
      this.onLine = before
    }
    if (height === undefined) throw new LinkError('The machine did not say where its probe touched.')
    return height
  }

  /** Waits until it stands still. @returns what it says then @throws LinkError */
  async rested(timeoutMs = 20_000): Promise<Report> {
    const end = Date.now() + timeoutMs
    for (;;) {
      const report = await this.ask()
      if (standsStill(report)) return report
      if (Date.now() > end) throw new LinkError('The machine does not come to rest.')
      await new Promise((resolve) => setTimeout(resolve, 20))
    }
  }

  /** Ends the connection; whoever listened is told. */
  close(): void {
    this.wire.close()
    this.ended()
  }

  /** Ends the connection without a word: from here on it can do nothing, and says nothing. */
  retire(): void {
    this.onLine = () => {}
    this.onReport = () => {}
    this.onGone = () => {}
    this.close()
  }
}

const MOST_SETTINGS = 200

/** Neither driving nor still braking. */
export const standsStill = ({ state, speedMmS }: Report): boolean => speedMmS === 0 && state !== 'run'
