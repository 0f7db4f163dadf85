import { LinkError, type Place } from './machine-link.ts'
import type { Program } from './program.ts'

/** What the lines of a program have set so far. mm. */
interface Modes {
  motion: number
  inches: boolean
  relative: boolean
  beam: 'M3' | 'M4' | 'M5'
  air: '' | 'M7' | 'M8'
  s: string
  /** mm/min */
  feed: number
  /** Where the last line ends, as far as lines said so. */
  x: number | undefined
  y: number | undefined
  z: number | undefined
  ownZero: boolean
}

const start = (): Modes => ({
  motion: 0,
  inches: false,
  relative: false,
  beam: 'M5',
  air: '',
  s: '',
  feed: 0,
  x: undefined,
  y: undefined,
  z: undefined,
  ownZero: false,
})

const WORD = /([A-Z])\s*([-+]?(?:\d+\.?\d*|\.\d+))/gi

type Words = ReadonlyMap<string, number>

/** Sets what a line sets. @returns the words that have numbers of their own */
function apply(modes: Modes, line: string): Words {
  const words = new Map<string, number>()
  let waits = false
  for (const [, l, n] of line.matchAll(WORD)) {
    const letter = l.toUpperCase()
    const value = Number(n)
    if (letter === 'G') {
      if (value <= 3) modes.motion = value
      else if (value === 20 || value === 21) modes.inches = value === 20
      else if (value === 90 || value === 91) modes.relative = value === 91
      else if (value === 92) modes.ownZero = true
      else if (value === 4) waits = true
    } else if (letter === 'M') {
      if (value >= 3 && value <= 5) modes.beam = `M${value}` as Modes['beam']
      else if (value === 7 || value === 8) modes.air = `M${value}` as Modes['air']
      else if (value === 9) modes.air = ''
    } else if (letter === 'S') modes.s = `S${value}`
    else if (letter === 'F') modes.feed = value * (modes.inches ? 25.4 : 1)
    else words.set(letter, value)
  }
  if (waits) return new Map()
  const unit = modes.inches ? 25.4 : 1
  for (const axis of ['x', 'y', 'z'] as const) {
    const value = words.get(axis.toUpperCase())
    if (value !== undefined) modes[axis] = modes.relative ? (modes[axis] ?? 0) + value * unit : value * unit
  }
  return words
}

const mm = (value: number): string => String(Number(value.toFixed(4)))

/** What is sent to go on from a place, and how its lines are counted. */
export interface GoingOn {
  /** Lines before the first one of the program. */
  readonly preamble: readonly string[]
  /** The program from its line `line` on, that one only as far as it is still to be driven. */
  readonly lines: Iterable<string>
  readonly line: number
}

/**
 * The rest of a program from a place in it: dark to that place, everything set as it was there, the rest of the line that
 * was cut short, then the others. Nothing is burned twice, and nothing left out.
 * @throws LinkError where the program sets a zero of its own, so that its places are not known
 */
export function goingOn(program: Program, place: Omit<Place, 'z'> & { readonly z: number | undefined }): GoingOn {
  const modes = start()
  const lines = program.lines(1)[Symbol.iterator]()
  for (let i = 0; i < place.driven; i++) {
    const next = lines.next()
    if (next.done) break
    apply(modes, next.value)
  }
  if (modes.ownZero)
    throw new LinkError('This program sets a zero of its own (G92): it cannot go on from the middle. Run it again.')
  const from = { x: modes.x, y: modes.y }
  const cut = lines.next()
  const line = place.driven + 1
  const preamble = (): string[] => [
    'G21 G90',
    'M5',
    modes.air || 'M9',
    `G0 X${mm(place.x)} Y${mm(place.y)}${place.z === undefined ? '' : ` Z${mm(place.z)}`}`,
    ...(modes.beam === 'M5' ? [] : [modes.beam]),
    ...(modes.s ? [modes.s] : []),
    ...(modes.feed > 0 ? [`F${mm(modes.feed)}`] : []),
    `G${modes.motion}`,
  ]
  if (cut.done) return { preamble: preamble(), lines: [], line }
  const words = apply(modes, cut.value)
  const moves = ['X', 'Y', 'Z'].some((axis) => words.has(axis))
  const unit = modes.inches ? 25.4 : 1
  let rest = cut.value
  if (moves) {
    const end = (['x', 'y', 'z'] as const).flatMap((axis) =>
      modes[axis] === undefined ? [] : [axis.toUpperCase() + mm(modes[axis])],
    )
    rest = [`G${modes.motion}`, ...end].join(' ')
    if (modes.motion > 1) {
      const centre = (start: number | undefined, by: string, at: number): string =>
        mm((start ?? 0) + (words.get(by) ?? 0) * unit - at)
      rest += ` I${centre(from.x, 'I', place.x)} J${centre(from.y, 'J', place.y)}`
    }
  }
  // Inches and relative moves begin again with the line after.
  const back = moves ? [...(modes.inches ? ['G20'] : []), ...(modes.relative ? ['G91'] : [])].join(' ') : ''
  const before = moves ? preamble() : [...preamble(), ...(modes.inches ? ['G20'] : []), ...(modes.relative ? ['G91'] : [])]
  return { preamble: before, line, lines: followed(rest, back, lines) }
}

function* followed(rest: string, back: string, lines: Iterator<string>): Generator<string> {
  yield rest
  let first = true
  for (let next = lines.next(); !next.done; next = lines.next()) {
    yield first && back ? `${back} ${next.value}` : next.value
    first = false
  }
}
