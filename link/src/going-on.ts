import { markBefore } from './marks.ts'
import { ModeReader } from './modes.ts'
import type { Program } from './program.ts'
import type { Place } from './report.ts'
import { LinkError } from './wire.ts'

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
 * was cut short, then the others. Nothing is burned twice, and nothing left out. Only lines after the program's last mark
 * before that place are read.
 * @throws LinkError where the program sets a zero of its own, so that its places are not known
 */
export function goingOn(program: Program, place: Omit<Place, 'z'> & { readonly z: number | undefined }): GoingOn {
  const reader = new ModeReader()
  const mark = markBefore(program.marks ?? [], place.driven)
  if (mark) reader.modes = { ...mark.modes }
  const take = (text: string): void => reader.take(Buffer.from(text, 'latin1'), 0, text.length)
  const lines = program.lines((mark?.lines ?? 0) + 1)[Symbol.iterator]()
  for (let i = mark?.lines ?? 0; i < place.driven; i++) {
    const next = lines.next()
    if (next.done) break
    take(next.value)
  }
  const { modes, words } = reader
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
    ...(modes.s === undefined ? [] : [`S${modes.s}`]),
    ...(modes.feed > 0 ? [`F${mm(modes.feed)}`] : []),
    `G${modes.motion}`,
  ]
  if (cut.done) return { preamble: preamble(), lines: [], line }
  take(cut.value)
  const moves = words.x !== undefined || words.y !== undefined || words.z !== undefined
  const unit = modes.inches ? 25.4 : 1
  let rest = cut.value
  if (moves) {
    const end = (['x', 'y', 'z'] as const).flatMap((axis) => {
      const to = modes[axis]
      return to === undefined ? [] : [axis.toUpperCase() + mm(to)]
    })
    rest = [`G${modes.motion}`, ...end].join(' ')
    if (modes.motion > 1) {
      const centre = (start: number | undefined, by: number | undefined, at: number): string =>
        mm((start ?? 0) + (by ?? 0) * unit - at)
      rest += ` I${centre(from.x, words.i, place.x)} J${centre(from.y, words.j, place.y)}`
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
