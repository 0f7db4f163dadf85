import { LinkError, type MachineLink, type Report } from './machine-link.ts'

/** How a run ended. */
export interface RunResult {
  /** done: to its end · refused: the machine would not take a line · stopped: an alarm, the lid, a reset · lost: the connection */
  readonly state: 'done' | 'refused' | 'stopped' | 'lost'
  /** Lines that the machine took. */
  readonly lines: number
  /** Seconds of the machine's own clock. */
  readonly seconds: number
  /** Where the head is as far as is known. */
  readonly at: { readonly x: number; readonly y: number } | null
  /** What happened, for people; empty when done. */
  readonly reason: string
}

/** How often the machine is asked whether it is done, ms. */
const ASK_MS = 100

/**
 * Streams a program. As many bytes as the machine's receive buffer holds are under way, never more: each `ok` makes
 * room for the next line. Whatever goes wrong, no further line is sent, and the beam is off.
 * @param lines of the program, as they are needed
 */
export async function runProgram(link: MachineLink, lines: Iterable<string>): Promise<RunResult> {
  const buffer = (await link.settings()).get('receive') ?? 127
  const before = await link.ask()
  const source = lines[Symbol.iterator]()
  const underWay: number[] = []
  let bytes = 0
  let taken = 0
  let next = source.next()
  let ending: Pick<RunResult, 'state' | 'reason'> | undefined
  await new Promise<void>((resolve) => {
    const end = (state: RunResult['state'], reason: string): void => {
      if (ending) return
      ending = { state, reason }
      resolve()
    }
    const fill = (): void => {
      let text = ''
      while (!ending && !next.done) {
        const line = next.value.replace(/;.*$/, '').trim()
        if (line !== '') {
          const size = line.length + 1
          if (bytes + size > buffer && underWay.length > 0) break
          underWay.push(size)
          bytes += size
          text += `${line}\n`
        }
        next = source.next()
      }
      if (text !== '') link.send(text)
      if (next.done && underWay.length === 0) end('done', '')
    }
    link.onGone = () => end('lost', 'The connection to the machine was lost.')
    link.onLine = (line) => {
      if (ending) return
      const size = line === 'ok' || line.startsWith('error:') ? underWay.shift() : undefined
      if (line === 'ok') {
        bytes -= size ?? 0
        taken++
        fill()
      } else if (line.startsWith('error:'))
        end('refused', `The machine refused line ${taken + 1}: ${line.replace(/^error:\d+ ?/, '')}.`)
      else if (line === 'overflow') end('stopped', 'The machine lost a part of the program and stopped with an alarm.')
      else if (line === 'lid open') end('stopped', 'The lid was opened: the beam is off, and the machine stands.')
      else if (line === 'reset') end('stopped', 'The machine was reset: home it before it goes on.')
      // Anything else is noise on the line.
    }
    fill()
  })
  const { state, reason } = ending!
  if (state === 'lost') return { state, reason, lines: taken, seconds: 0, at: null }
  // Beam off and plan dropped, unless all is well.
  if (state !== 'done') link.send('\x18')
  const after = await rested(link, state === 'done')
  if (!after) return { state: 'lost', reason: 'The machine does not answer any more.', lines: taken, seconds: 0, at: null }
  const seconds = after.seconds - before.seconds
  const at = { x: after.x, y: after.y }
  if (state === 'done' && (after.state === 'lid' || after.state === 'alarm')) {
    const why = after.state === 'lid' ? 'The lid was opened' : 'The machine stopped with an alarm'
    return { state: 'stopped', reason: `${why} before it had driven all lines.`, lines: taken, seconds, at }
  }
  return { state, reason, lines: taken, seconds, at }
}

/** Waits until the machine has driven all that it took, or cannot. */
async function rested(link: MachineLink, toTheEnd: boolean): Promise<Report | undefined> {
  try {
    for (;;) {
      const report = await link.ask()
      const stands = report.state === 'lid' || report.state === 'alarm'
      if (!toTheEnd || stands || (report.queue === 0 && report.state !== 'run')) return report
      await new Promise((resolve) => setTimeout(resolve, ASK_MS))
    }
  } catch (cause) {
    if (cause instanceof LinkError) return undefined
    throw cause
  }
}
