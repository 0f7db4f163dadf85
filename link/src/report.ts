/** A place in a program: so many lines are driven to their end, and the head is here in the next one. Machine mm. */
export interface Place {
  readonly driven: number
  readonly x: number
  readonly y: number
  readonly z: number
}

const STATES = ['idle', 'run', 'hold', 'pause', 'armed', 'lid', 'alarm', 'emergency'] as const

/** What a machine says of itself when asked. */
export interface Report extends Place {
  readonly state: (typeof STATES)[number]
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

// What a machine says is a claim: numbers of more digits than any machine has are garbage, not numbers.
const COUNT = '(\\d{1,9})'
const MM = '(-?\\d{1,5}(?:\\.\\d{1,6})?)'
const AMOUNT = '(\\d{1,9}(?:\\.\\d{1,6})?)'
const PLACE = `${MM},${MM},${MM}`
const STATUS = new RegExp(
  `^<(${STATES.join('|')})\\|line ${COUNT}/${COUNT}\\|at ${PLACE}\\|speed ${AMOUNT}\\|beam ${AMOUNT}\\|queue ${COUNT}` +
    `\\|share (\\d{1,3}),(\\d{1,3})\\|lid (open|closed)\\|air (on|off)\\|dark (?:-|${COUNT}@${PLACE})\\|run ([!-~]{1,120})\\|time ${AMOUNT}>$`,
)

/** A status report as values; undefined where the line is none, or claims what no machine can be: driven before taken. */
export function readReport(line: string): Report | undefined {
  const found = STATUS.exec(line)
  if (!found) return undefined
  const number = (at: number): number => Number(found[at])
  const driven = number(2)
  const taken = number(3)
  const dark = found[14] === undefined ? null : { driven: number(14), x: number(15), y: number(16), z: number(17) }
  if (driven > taken || number(8) > 100 || (dark && dark.driven > taken)) return undefined
  return {
    state: found[1] as Report['state'],
    driven,
    taken,
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
    dark,
    token: found[18],
    seconds: number(19),
  }
}

const SETTING = /^([a-z][a-z.]{0,30})=(-?\d{1,9}(?:\.\d{1,20})?)$/

/** One of a machine's settings, as it tells them one a line; undefined where the line is none. */
export function readSetting(line: string): readonly [name: string, value: number] | undefined {
  const found = SETTING.exec(line)
  return found ? [found[1], Number(found[2])] : undefined
}

const LEAST_RECEIVE = 16
const MOST_RECEIVE = 1 << 16
const USUAL_RECEIVE = 127

/** Bytes of lines that may be under way, by what the machine claims: a value that no controller has is not believed. */
export function receiveBytes(settings: ReadonlyMap<string, number>): number {
  const told = settings.get('receive')
  return told !== undefined && Number.isInteger(told) && told >= LEAST_RECEIVE && told <= MOST_RECEIVE ? told : USUAL_RECEIVE
}

const EVENTS =
  /^(ready|busy|ok|error:\d{1,3}( .*)?|lid open(\|.*)?|lid closed|reset(\|.*)?|alarm(\|.*)?|emergency(\|.*)?|emergency released|start pressed|pause|overflow)$/

/** Whether a line is one that a machine says by itself or as an answer; anything else on the wire is noise. */
export const isKnownLine = (line: string): boolean => EVENTS.test(line)
