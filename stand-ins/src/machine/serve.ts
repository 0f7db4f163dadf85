import { createServer, type Server } from 'node:net'
import { LineError } from './line.ts'
import type { Machine } from './machine.ts'

export const FAULTS = [
  'drop',
  'lid',
  'reset',
  'garbage',
  'mangle',
  'delay',
  'stall',
  'power',
  'emergency',
  // Hears no hold any more; nor the first resets.
  'deaf',
  'stubborn',
  // Claims in its next reports what cannot be.
  'boast',
] as const

/** What can be told to go wrong, and after how many lines. */
export interface Fault {
  readonly kind: (typeof FAULTS)[number]
  readonly afterLines: number
}

/** Times real time, that can be changed while it runs. */
export interface Pace {
  times: number
}

export interface ServeOptions {
  /** Times real time; Infinity drives as fast as lines come. */
  readonly pace: number | Pace
  readonly faults?: readonly Fault[]
  /** How long a stall lasts, and how late answers are under a delay, ms. */
  readonly stallMs?: number
  readonly delayMs?: number
}

const TICK_MS = 5
/** Resets that a stubborn machine does not hear, and reports in which a boastful one claims nonsense. */
const STUBBORN = 3
const BOASTS = 3
/**
 * Faster than real time the machine waits so many of its ticks for a line before it drives a plan that is not full; at the highest
 * pace, before it takes a program for paused. Ticks, not time: whoever stands still with the whole computer misses nothing.
 */
const PATIENCE = 12
const PAUSED = 20
/** Bytes that are heard wherever they stand, not as part of a line: `?`, `!`, `~`, `^`, Ctrl-X, and 0x80… for shares. */
const isRealTime = (code: number): boolean =>
  code === 63 || code === 33 || code === 126 || code === 94 || code === 24 || code >= 0x80

/** Whoever is connected to a machine: a socket, or anything that takes text. */
export interface Client {
  write(text: string): void
  /** Cuts the connection: `close` of what `connect` returned is called. */
  destroy(): void
}

/** The correction of a field has at most so many places each way. */
const MOST_FIELD_POINTS = 17

/** A machine that clients can be connected to, one at a time. */
export interface Front {
  /** @returns what the client sends and when it is gone; undefined where somebody else is connected */
  connect(client: Client): { readonly data: (text: string) => void; readonly close: () => void } | undefined
  /** The machine is switched off. */
  end(): void
}

/**
 * A machine on loopback TCP: lines in, `ok` or `error:N` out, one a line, in order; some bytes act at once, wherever
 * they stand. Lines wait in a receive buffer of limited size; what does not fit is lost, as on a real one, and the
 * machine says `overflow` and stops with an alarm. `docs/machine-protocol.md` tells it all.
 */
export function serveMachine(machine: Machine, options: ServeOptions & { readonly port: number }): Promise<Server> {
  const front = attendMachine(machine, options)
  const server = createServer((socket) => {
    socket.setNoDelay(true)
    socket.on('error', () => {})
    const heard = front.connect({ write: (text) => void socket.write(text, 'latin1'), destroy: () => void socket.destroy() })
    if (!heard) {
      socket.end('busy\n')
      return
    }
    socket.on('data', (data) => heard.data(data.toString('latin1')))
    socket.on('close', heard.close)
  })
  server.on('close', () => front.end())
  return new Promise((resolve, reject) => {
    server.once('error', reject)
    server.listen(options.port, '127.0.0.1', () => resolve(server))
  })
}

/** The same without a port: whoever holds it connects clients. Time is `performance.now` and timers, so it can be simulated. */
export function attendMachine(machine: Machine, options: ServeOptions): Front {
  const { faults = [], stallMs = 2000, delayMs = 300 } = options
  const pace: Pace = typeof options.pace === 'number' ? { times: options.pace } : options.pace
  let client: Client | undefined
  let waiting: string[] = []
  let partial = ''
  let waitingBytes = 0
  const pending = [...faults]
  let stalledUntil = 0
  let lateUntil = 0
  let mangleNext = false
  let late: { text: string; at: number }[] = []
  let coming: { readonly points: number; readonly offsets: [number, number][] } | undefined

  const say = (text: string): void => {
    const line = `${mangleNext && text === 'ok' ? 'o\u0004' : text}\n`
    if (text === 'ok') mangleNext = false
    const now = performance.now()
    if (now < lateUntil || late.length > 0) late.push({ text: line, at: now + delayMs })
    else client?.write(line)
  }
  machine.onEvent = say

  const forget = (): void => {
    waiting = []
    partial = ''
    waitingBytes = 0
  }

  /** Takes lines while there is room; at the highest pace moves are driven as soon as the plan is full. */
  const work = (): void => {
    while (waiting.length > 0 && performance.now() >= stalledUntil) {
      // A question needs no room in the plan.
      if (!machine.hasRoom && waiting[0] !== 'settings') {
        if (pace.times === Infinity && machine.finishMove()) continue
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
      command(line)
      say('ok')
      // The end of a program: whatever is planned is driven.
      if (/^\s*M(0|2|30)\b/i.test(line)) {
        quiet = Infinity
        drain()
      }
    } catch (cause) {
      if (!(cause instanceof LineError)) throw cause
      say(`error:${cause.number} ${cause.message}`)
    }
  }

  const command = (line: string): void => {
    const [word, ...rest] = line.split(' ')
    if (word === 'home') {
      drain()
      machine.home()
    } else if (word === 'settings') settings()
    else if (word === 'begin') machine.begin(rest[0] ?? '-')
    else if (word === 'arm') machine.arm()
    else if (word === 'probe') {
      const touched = machine.probe()
      drain()
      say(`probe=${touched.toFixed(3)}`)
    } else if (word === 'jog') {
      const [dx, dy, dz, speed] = rest.map(Number)
      if (![dx, dy, dz, speed].every(Number.isFinite)) throw new LineError(1)
      if (!(speed > 0)) throw new LineError(3)
      machine.jog(dx, dy, dz, speed)
    } else if (word === 'field' || word === 'nodes') correct(word, rest.map(Number))
    else machine.take(line)
  }

  /** Places of a correction until all of them are there: only then it holds. */
  const correct = (word: 'field' | 'nodes', values: readonly number[]): void => {
    if (!values.every(Number.isInteger)) throw new LineError(1)
    if (word === 'field') {
      const [points] = values
      if (values.length !== 1 || points < 0 || points === 1 || points > MOST_FIELD_POINTS) throw new LineError(1)
      machine.correct(undefined)
      coming = points === 0 ? undefined : { points, offsets: [] }
      return
    }
    const [first, ...um] = values
    if (!coming || um.length === 0 || um.length % 2 !== 0 || first !== coming.offsets.length) throw new LineError(1)
    if (first + um.length / 2 > coming.points ** 2) throw new LineError(1)
    for (let i = 0; i < um.length; i += 2) coming.offsets.push([um[i] / 1000, um[i + 1] / 1000])
    if (coming.offsets.length < coming.points ** 2) return
    machine.correct(coming)
    coming = undefined
  }

  const settings = (): void => {
    const { bed, speed, acceleration, junctionDeviation, plannerDepth, receiveBytes, fullS, focusTravel } = machine.truth
    for (const [name, value] of Object.entries({
      'bed.x': bed.x,
      'bed.y': bed.y,
      'bed.z': focusTravel ?? 0,
      'speed.x': speed.x,
      'speed.y': speed.y,
      'acceleration.x': acceleration.x,
      'acceleration.y': acceleration.y,
      junction: junctionDeviation,
      planner: plannerDepth,
      receive: receiveBytes,
      'power.max': fullS,
      mirrors: machine.truth.mirrors ? 1 : 0,
      around: machine.truth.turned ? machine.truth.bed.y : 0,
      field: machine.field?.table?.points ?? 0,
    }))
      say(`${name}=${value}`)
  }

  const drain = (): void => {
    if (pace.times === Infinity) while (machine.finishMove());
  }

  const fail = (): void => {
    const due = pending.findIndex(({ afterLines }) => machine.counts.lines >= afterLines)
    if (due < 0) return
    const [{ kind }] = pending.splice(due, 1)
    const now = performance.now()
    if (kind === 'drop') client?.destroy()
    else if (kind === 'lid') machine.lid(true)
    else if (kind === 'reset') reset()
    else if (kind === 'emergency') machine.emergency(true)
    else if (kind === 'garbage') client?.write('\u0000\u0007?~~ok?\u0001\n<nonsense|\n')
    else if (kind === 'mangle') mangleNext = true
    else if (kind === 'delay') lateUntil = now + 5 * delayMs
    else if (kind === 'stall') stalledUntil = now + stallMs
    else if (kind === 'deaf') deaf = true
    else if (kind === 'stubborn') {
      deaf = true
      ignoredResets = STUBBORN
    } else if (kind === 'boast') boasts = BOASTS
    else {
      client?.destroy()
      forget()
      machine.powerCycle()
    }
  }

  const reset = (): void => {
    forget()
    machine.reset()
  }

  const atOnce = (code: number): void => {
    if (code === 63) say(boasts-- > 0 ? boast(machine.status()) : machine.status())
    else if (code === 24 && ignoredResets-- > 0) return
    else if (code === 33 && deaf) return
    else if (code === 33) machine.hold()
    else if (code === 94) machine.hold()
    else if (code === 126) machine.resume()
    else if (code === 24) reset()
    else if (code >= 0x81 && code <= 0x94) machine.adjust((code - 0x80) / 10, powerShare)
    else if (code >= 0xa1 && code <= 0xb4) machine.adjust(speedShare, (code - 0xa0) / 10)
    if (code >= 0x81 && code <= 0x94) speedShare = (code - 0x80) / 10
    if (code >= 0xa1 && code <= 0xb4) powerShare = (code - 0xa0) / 10
    if (code === 24) speedShare = powerShare = 1
  }
  let speedShare = 1
  let powerShare = 1
  let deaf = false
  let ignoredResets = 0
  let boasts = 0

  const receive = (text: string): void => {
    for (let i = 0; i < text.length; i++) {
      const code = text.charCodeAt(i)
      if (isRealTime(code)) {
        atOnce(code)
        continue
      }
      if (code === 10) {
        quiet = 0
        waiting.push(partial.replace(/\r$/, ''))
        partial = ''
        waitingBytes++
      } else if (waitingBytes + 1 > machine.truth.receiveBytes) {
        machine.alarm()
        say('overflow')
        forget()
        return
      } else {
        partial += text[i]
        waitingBytes++
      }
    }
    work()
  }

  /** Heard while it stalled: worked through afterwards. */
  let unheard = ''
  /** Ticks since the last line. */
  let quiet = Infinity
  let owed = 0
  let last = performance.now()
  const timer = setInterval(() => {
    const now = performance.now()
    const passed = (now - last) / 1000
    last = now
    quiet++
    while (late.length > 0 && late[0].at <= now) {
      const { text } = late.shift()!
      client?.write(text)
    }
    // It neither hears nor answers then; what it has planned is driven, and what brakes comes to rest.
    const stalls = now < stalledUntil
    if (!stalls && unheard !== '') {
      const text = unheard
      unheard = ''
      receive(text)
    }
    if (pace.times === Infinity) {
      // Lines stopped coming: the machine goes on with what it has.
      if (!stalls && waiting.length === 0 && quiet > PAUSED) drain()
    } else {
      owed = Math.min(owed + passed * pace.times, pace.times)
      // Between two lines that come in time a faster clock must not starve it.
      // What brakes does not wait for anything.
      const starved = (): boolean =>
        machine.state === 'run' && pace.times > 1 && machine.hasRoom && waiting.length === 0 && quiet < PATIENCE
      while (owed > 0 && machine.isDriving && !starved()) {
        // In small steps, so that lines are taken as soon as there is room.
        const used = machine.drive(Math.min(owed, 0.002))
        if (used <= 0) break
        owed -= used
        work()
      }
      if (!machine.isDriving) owed = 0
      // Nothing left to drive: a pause or the end shows.
      machine.drive(1e-9)
    }
    work()
  }, TICK_MS)

  return {
    connect(from) {
      if (client) return undefined
      client = from
      late = []
      unheard = ''
      say('ready')
      return {
        data: (text) => {
          // What came while it stalled is heard first, in the order in which it came.
          if (performance.now() < stalledUntil || unheard !== '') unheard += text
          else receive(text)
        },
        // Nobody is there any more: it brakes and holds its place, dark; lines it had not taken are forgotten.
        close: () => {
          if (client !== from) return
          client = undefined
          forget()
          machine.hold()
        },
      }
    },
    end: () => clearInterval(timer),
  }
}

/** The same report with counts that no program has. */
const boast = (status: string): string => status.replace(/line \d+\/\d+/, 'line 0/999999999999999')
