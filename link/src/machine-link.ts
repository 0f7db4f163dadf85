import { connect, type Socket } from 'node:net'

/** Something about a machine's connection that the operator should know; `message` is a sentence. */
export class LinkError extends Error {}

/** A place in a program: so many lines are driven to their end, and the head is here in the next one. Machine mm. */
export interface Place {
  readonly driven: number
  readonly x: number
  readonly y: number
  readonly z: number
}

/** What a machine says of itself when asked. */
export interface Report extends Place {
  readonly state: string
  /** Lines of the program that it took. */
  readonly taken: number
  readonly speedMmS: number
  /** % of full power that is asked of the beam. */
  readonly beam: number
  readonly queue: number
  /** Shares of the program's speed and power, %. */
  readonly speedShare: number
  readonly powerShare: number
  readonly lidOpen: boolean
  readonly air: boolean
  /** Where the lid cut the beam, while that is not made good. */
  readonly dark: Place | null
  /** What the program was begun with; “-” where none was. */
  readonly token: string
  /** Seconds that it has worked since it was switched on. */
  readonly seconds: number
}

/** Longest line that is read from a machine; more without an end is nonsense. */
const MAX_LINE = 4096
/** A report that did not come by then is asked for again, ms. */
const LOST_MS = 700

const SILENT = 'The machine does not answer any more.'

/** A status report as values; undefined where the line is none. */
export function readReport(line: string): Report | undefined {
  const found =
    /^<(\w+)\|line (\d+)\/(\d+)\|at (-?[\d.]+),(-?[\d.]+),(-?[\d.]+)\|speed ([\d.]+)\|beam ([\d.]+)\|queue (\d+)\|share (\d+),(\d+)\|lid (open|closed)\|air (on|off)\|dark (\S+)\|run (\S+)\|time ([\d.]+)>$/.exec(
      line,
    )
  if (!found) return undefined
  const dark = /^(\d+)@(-?[\d.]+),(-?[\d.]+),(-?[\d.]+)$/.exec(found[14])
  const number = (at: number): number => Number(found[at])
  return {
    state: found[1],
    driven: number(2),
    taken: number(3),
    x: number(4),
    y: number(5),
    z: number(6),
    speedMmS: number(7),
    beam: number(8),
    queue: number(9),
    speedShare: number(10),
    powerShare: number(11),
    lidOpen: found[12] === 'open',
    air: found[13] === 'on',
    dark: dark && { driven: Number(dark[1]), x: Number(dark[2]), y: Number(dark[3]), z: Number(dark[4]) },
    token: found[15],
    seconds: number(16),
  }
}

/**
 * One connection to a machine. Lines it says are handed to whoever listens; status reports are read here.
 * The protocol is told in `docs/machine-protocol.md`.
 */
export class MachineLink {
  readonly address: string
  private readonly socket: Socket
  private text = ''
  private reportWaiters: { readonly number: number; readonly take: (report: Report | undefined) => void }[] = []
  /** Questions asked and answered: a report that was under way before a question is no answer to it. */
  private asked = 0
  private told = 0
  private answerWaiters: ((line: string | undefined) => void)[] = []
  /** Told every line that is neither a status report nor the answer to a command. */
  onLine: (line: string) => void = () => {}
  onReport: (report: Report) => void = () => {}
  /** Told when the connection is gone. */
  onGone: () => void = () => {}
  gone = false

  private constructor(socket: Socket, address: string) {
    this.socket = socket
    this.address = address
    socket.setNoDelay(true)
    socket.on('data', (data) => this.read(data.toString('latin1')))
    socket.on('error', () => {})
    socket.on('close', () => {
      if (this.gone) return
      this.gone = true
      for (const { take } of this.reportWaiters.splice(0)) take(undefined)
      for (const waiter of this.answerWaiters.splice(0)) waiter(undefined)
      this.onGone()
    })
  }

  /**
   * Connects, and waits for the machine to say that it is ready.
   * @param address `tcp://127.0.0.1:PORT` @throws LinkError with a sentence
   */
  static async open(address: string, timeoutMs = 4000): Promise<MachineLink> {
    const found = /^tcp:\/\/([^:/]+):(\d{1,5})\/?$/.exec(address)
    if (!found || Number(found[2]) > 65_535)
      throw new LinkError(`“${address}” is no machine's address. Write it as tcp://127.0.0.1:PORT.`)
    const socket = connect({ host: found[1], port: Number(found[2]) })
    await new Promise<void>((resolve, reject) => {
      const refuse = (): void => reject(new LinkError(`Nothing answers at ${address}. Is the machine switched on?`))
      socket.once('connect', resolve)
      socket.once('error', refuse)
      socket.setTimeout(timeoutMs, () => {
        socket.destroy()
        refuse()
      })
    })
    socket.setTimeout(0)
    const link = new MachineLink(socket, address)
    await new Promise<void>((resolve, reject) => {
      const timer = setTimeout(() => {
        link.close()
        reject(new LinkError(`What answers at ${address} is no machine that can be talked to.`))
      }, timeoutMs)
      link.onLine = (line) => {
        clearTimeout(timer)
        if (line === 'ready') return resolve()
        link.close()
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

  private read(data: string): void {
    this.text += data
    for (let end = this.text.indexOf('\n'); end >= 0; end = this.text.indexOf('\n')) {
      const line = this.text.slice(0, end).trim()
      this.text = this.text.slice(end + 1)
      this.heard(line)
    }
    if (this.text.length > MAX_LINE) this.text = ''
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
    else this.onLine(line)
  }

  /** Sends bytes as they are. */
  send(text: string): void {
    if (text === '?') this.asked++
    if (!this.gone) this.socket.write(text, 'latin1')
  }

  /** Asks the machine how it is. @throws LinkError where it does not answer */
  async ask(timeoutMs = 3000): Promise<Report> {
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
      }, LOST_MS)
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
      const setting = /^([a-z.]+)=(-?[\d.]+)$/.exec(line)
      if (setting) found.set(setting[1], Number(setting[2]))
      else before(line)
    }
    try {
      await this.command('settings', timeoutMs)
    } finally {
      this.onLine = before
    }
    return found
  }

  /** Waits until it stands still. @returns what it says then @throws LinkError */
  async rested(timeoutMs = 20_000): Promise<Report> {
    const end = Date.now() + timeoutMs
    for (;;) {
      const report = await this.ask()
      if (report.speedMmS === 0 && report.state !== 'run') return report
      if (Date.now() > end) throw new LinkError('The machine does not come to rest.')
      await new Promise((resolve) => setTimeout(resolve, 20))
    }
  }

  close(): void {
    this.socket.destroy()
  }
}
