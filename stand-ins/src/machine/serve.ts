import { createServer, type Server, type Socket } from 'node:net'
import { LineError } from './line.ts'
import type { Machine } from './machine.ts'

/** What can be told to go wrong, and after how many lines. */
export interface Fault {
  readonly kind: 'drop' | 'lid' | 'reset' | 'garbage'
  readonly afterLines: number
}

export interface ServeOptions {
  readonly port: number
  /** Times real time; Infinity drives as fast as lines come. */
  readonly pace: number
  readonly faults?: readonly Fault[]
}

const TICK_MS = 20

/**
 * A machine on loopback TCP: lines in, `ok` or `error:N` out, one a line, in order; `?`, `!`, `~` and Ctrl-X act at once,
 * wherever they stand. Lines wait in a receive buffer of limited size; what does not fit is lost, as on a real one, and
 * the machine says `overflow` and stops with an alarm.
 */
export function serveMachine(machine: Machine, { port, pace, faults = [] }: ServeOptions): Promise<Server> {
  let client: Socket | undefined
  let waiting: string[] = []
  let partial = ''
  let waitingBytes = 0
  const pending = [...faults]

  const say = (text: string): void => {
    client?.write(`${text}\n`)
  }

  /** Takes lines while there is room; at the highest pace moves are driven as soon as the plan is full. */
  const work = (): void => {
    while (waiting.length > 0) {
      if (!machine.hasRoom) {
        if (pace === Infinity && machine.finishMove()) continue
        return
      }
      const line = waiting.shift()!
      waitingBytes -= line.length + 1
      answer(line)
      fail()
    }
  }

  const answer = (line: string): void => {
    try {
      if (line === 'home') {
        drain()
        machine.home()
      } else if (line === 'settings') settings()
      else machine.take(line)
      say('ok')
      // The end of a program: whatever is planned is driven.
      if (/^\s*M(2|30)\b/i.test(line)) drain()
    } catch (cause) {
      if (!(cause instanceof LineError)) throw cause
      say(`error:${cause.number} ${cause.message}`)
    }
  }

  const settings = (): void => {
    const { bed, speed, acceleration, junctionDeviation, plannerDepth, receiveBytes, fullS } = machine.truth
    for (const [name, value] of Object.entries({
      'bed.x': bed.x,
      'bed.y': bed.y,
      'speed.x': speed.x,
      'speed.y': speed.y,
      'acceleration.x': acceleration.x,
      'acceleration.y': acceleration.y,
      junction: junctionDeviation,
      planner: plannerDepth,
      receive: receiveBytes,
      'power.max': fullS,
    }))
      say(`${name}=${value}`)
  }

  const drain = (): void => {
    if (pace === Infinity) while (machine.finishMove());
  }

  const fail = (): void => {
    const due = pending.findIndex(({ afterLines }) => machine.counts.lines >= afterLines)
    if (due < 0) return
    const [{ kind }] = pending.splice(due, 1)
    if (kind === 'drop') client?.destroy()
    else if (kind === 'lid') {
      machine.lid(true)
      say('lid open')
    } else if (kind === 'reset') reset()
    else if (kind === 'garbage') say('\u0000\u0007?~~ok?\u0001')
  }

  const reset = (): void => {
    machine.reset()
    waiting = []
    partial = ''
    waitingBytes = 0
    say('reset')
  }

  const receive = (data: Buffer): void => {
    for (const c of data.toString('latin1')) {
      if (c === '?') say(machine.status())
      else if (c === '!') machine.hold()
      else if (c === '~') machine.resume()
      else if (c === '\x18') reset()
      else if (c === '\n') {
        waiting.push(partial.replace(/\r$/, ''))
        partial = ''
      } else if (waitingBytes + 1 > machine.truth.receiveBytes) {
        machine.alarm()
        say('overflow')
        waiting = []
        partial = ''
        waitingBytes = 0
        return
      } else partial += c
      if (!'?!~\x18'.includes(c)) waitingBytes++
    }
    work()
  }

  let owed = 0
  let last = performance.now()
  const timer = setInterval(() => {
    const now = performance.now()
    if (pace === Infinity) {
      // Lines stopped coming: the machine goes on with what it has.
      if (waiting.length === 0 && now - lastData > 200) drain()
    } else {
      owed += ((now - last) / 1000) * pace
      while (owed > 0) {
        const before = machine.counts.seconds
        if (!machine.finishMove()) {
          owed = 0
          break
        }
        owed -= machine.counts.seconds - before
      }
    }
    last = now
    work()
  }, TICK_MS)

  let lastData = performance.now()
  const server = createServer((socket) => {
    if (client && !client.destroyed) {
      socket.end('busy\n')
      return
    }
    client = socket
    socket.setNoDelay(true)
    socket.on('data', (data) => {
      lastData = performance.now()
      receive(data)
    })
    socket.on('error', () => {})
    // Nobody is there any more: what is planned is driven to its end with the lines that came, then it stands dark.
    socket.on('close', () => {
      if (client === socket) client = undefined
    })
    say('ready')
  })
  server.on('close', () => clearInterval(timer))
  return new Promise((resolve, reject) => {
    server.once('error', reject)
    server.listen(port, '127.0.0.1', () => resolve(server))
  })
}
