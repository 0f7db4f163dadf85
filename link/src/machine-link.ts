import { connect, type Socket } from 'node:net'

/** Something about a machine's connection that the operator should know; `message` is a sentence. */
export class LinkError extends Error {}

/** What a machine says of itself when asked. */
export interface Report {
  readonly state: string
  readonly x: number
  readonly y: number
  readonly queue: number
  /** Seconds that it has worked since it was switched on. */
  readonly seconds: number
}

/** Longest line that is read from a machine; more without an end is nonsense. */
const MAX_LINE = 4096

/**
 * One connection to a machine. Lines it says are handed to whoever listens; status reports are read here.
 * The protocol is told in `docs/machine-protocol.md`.
 */
export class MachineLink {
  private readonly socket: Socket
  private text = ''
  private report: Report | undefined
  private reportWaiters: ((report: Report) => void)[] = []
  /** Told every line that is no status report. */
  onLine: (line: string) => void = () => {}
  /** Told when the connection is gone. */
  onGone: () => void = () => {}
  gone = false

  private constructor(socket: Socket) {
    this.socket = socket
    socket.setNoDelay(true)
    socket.on('data', (data) => this.read(data.toString('latin1')))
    socket.on('error', () => {})
    socket.on('close', () => {
      this.gone = true
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
    const link = new MachineLink(socket)
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
      const status = /^<(\w+)\|at (-?[\d.]+),(-?[\d.]+)\|.*\|queue (\d+)\|time ([\d.]+)>$/.exec(line)
      if (status) {
        this.report = {
          state: status[1],
          x: Number(status[2]),
          y: Number(status[3]),
          queue: Number(status[4]),
          seconds: Number(status[5]),
        }
        for (const waiter of this.reportWaiters.splice(0)) waiter(this.report)
      } else if (line !== '') this.onLine(line)
    }
    if (this.text.length > MAX_LINE) this.text = ''
  }

  /** Sends bytes as they are. */
  send(text: string): void {
    this.socket.write(text, 'latin1')
  }

  /** Asks the machine how it is. @throws LinkError where it does not answer */
  async ask(timeoutMs = 3000): Promise<Report> {
    this.send('?')
    return new Promise((resolve, reject) => {
      const timer = setTimeout(() => reject(new LinkError('The machine does not answer any more.')), timeoutMs)
      this.reportWaiters.push((report) => {
        clearTimeout(timer)
        resolve(report)
      })
    })
  }

  /** The machine's settings by name. */
  async settings(timeoutMs = 3000): Promise<ReadonlyMap<string, number>> {
    const found = new Map<string, number>()
    await new Promise<void>((resolve, reject) => {
      const timer = setTimeout(() => reject(new LinkError('The machine does not tell its settings.')), timeoutMs)
      this.onLine = (line) => {
        const setting = /^([a-z.]+)=(-?[\d.]+)$/.exec(line)
        if (setting) found.set(setting[1], Number(setting[2]))
        else if (line === 'ok') {
          clearTimeout(timer)
          resolve()
        }
      }
      this.send('settings\n')
    })
    this.onLine = () => {}
    return found
  }

  close(): void {
    this.socket.destroy()
  }
}
