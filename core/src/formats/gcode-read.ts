import type { MoveRecord } from '../toolpath/moves.ts'

/** Something in a program that a machine would refuse, or that should not be. */
export interface ProgramProblem {
  readonly line: number
  readonly severity: 'stop' | 'note'
  readonly message: string
}

export interface ReadProgram {
  /** A move to its end from where the last one ended; µm as the file has them, S as the file's own. */
  readonly moves: MoveRecord
  /** Around what it burns, file mm: [x0, y0, x1, y1]; null where it burns nothing. */
  readonly box: readonly [number, number, number, number] | null
  readonly topSpeedMmS: number
  readonly air: boolean
  readonly problems: readonly ProgramProblem[]
}

/** So many problems are told; after that it is another kind of file. */
const MOST_PROBLEMS = 20
/** How far a chord may lie off its arc, mm. */
const ARC_MM = 0.005

const KNOWN: Readonly<Record<string, readonly number[]>> = {
  G: [0, 1, 2, 3, 4, 17, 20, 21, 54, 90, 91, 92, 94],
  M: [0, 2, 3, 4, 5, 7, 8, 9, 30],
}

class Growing {
  count = 0
  x = new Int32Array(1024)
  y = new Int32Array(1024)
  s = new Uint16Array(1024)
  speed = new Float32Array(1024)

  push(x: number, y: number, s: number, speed: number): void {
    if (this.count === this.x.length) {
      const grow = <T extends Int32Array | Uint16Array | Float32Array>(old: T, fresh: T): T => {
        fresh.set(old)
        return fresh
      }
      const size = 2 * this.count
      this.x = grow(this.x, new Int32Array(size))
      this.y = grow(this.y, new Int32Array(size))
      this.s = grow(this.s, new Uint16Array(size))
      this.speed = grow(this.speed, new Float32Array(size))
    }
    this.x[this.count] = Math.round(x * 1000)
    this.y[this.count] = Math.round(y * 1000)
    this.s[this.count] = s
    this.speed[this.count++] = speed
  }
}

/**
 * Reads G-code as a laser controller would: G0–G4, G20/21, G90/91, G92, M3/4/5, M7–9, M0, M2/30, F in mm (or inches) a
 * minute, S 0–65 535. Arcs become chords within 5 µm. What it does not know is told with its line, and nothing of that line is done.
 * (RS-274, the words that laser controllers share.)
 */
export function readProgram(text: string): ReadProgram {
  const moves = new Growing()
  const problems: ProgramProblem[] = []
  const box: [number, number, number, number] = [Infinity, Infinity, -Infinity, -Infinity]
  let motion = 0
  let unit = 1
  let relative = false
  let beam = false
  let s = 0
  let feed = 0
  let x = 0
  let y = 0
  let offsetX = 0
  let offsetY = 0
  let air = false
  let topSpeed = 0
  let ended = false
  const left: { waits?: number; lifts?: number } = {}
  const problem = (line: number, message: string, severity: ProgramProblem['severity'] = 'stop'): void => {
    if (problems.length < MOST_PROBLEMS) problems.push({ line, severity, message })
  }
  const burns = (px: number, py: number): void => {
    box[0] = Math.min(box[0], px)
    box[1] = Math.min(box[1], py)
    box[2] = Math.max(box[2], px)
    box[3] = Math.max(box[3], py)
  }
  const go = (px: number, py: number): void => {
    const on = beam && motion !== 0 ? s : 0
    if (on > 0) {
      burns(x, y)
      burns(px, py)
      topSpeed = Math.max(topSpeed, feed / 60)
    }
    moves.push(px, py, on, motion === 0 ? 0 : feed / 60)
    x = px
    y = py
  }
  let number = 0
  for (let at = 0; at <= text.length; ) {
    let end = text.indexOf('\n', at)
    if (end < 0) end = text.length
    const line = text
      .slice(at, end)
      .replace(/;.*$/, '')
      .replace(/\([^)]*\)/g, '')
      .trim()
      .toUpperCase()
    at = end + 1
    number++
    if (line === '' || line === '%') continue
    const words = new Map<string, number>()
    const modes: [string, number][] = []
    const rest = line.replace(/([A-Z])\s*([-+]?(?:\d+\.?\d*|\.\d+))/g, (_all, letter: string, digits: string) => {
      const value = Number(digits)
      if (letter === 'G' || letter === 'M') modes.push([letter, value])
      else words.set(letter, value)
      return ''
    })
    if (rest.trim() !== '') {
      problem(number, `“${rest.trim().slice(0, 30)}” is no word of a program.`)
      continue
    }
    const unknown =
      modes.find(([letter, value]) => !KNOWN[letter].includes(value)) ??
      [...words].find(([letter]) => !'FIJNPSXYZ'.includes(letter))
    if (unknown) {
      problem(number, `“${unknown[0]}${unknown[1]}” is a word that Neotaxis does not know.`)
      continue
    }
    let shifts = false
    let waits = false
    for (const [letter, value] of modes) {
      if (letter === 'G') {
        if (value <= 3) motion = value
        else if (value === 4) waits = true
        else if (value === 20 || value === 21) unit = value === 20 ? 25.4 : 1
        else if (value === 90 || value === 91) relative = value === 91
        else if (value === 92) shifts = true
      } else if (value === 3 || value === 4) beam = true
      else if (value === 5) beam = false
      else if (value === 7 || value === 8) air = true
      else if (value === 2 || value === 30) {
        beam = false
        ended = true
      }
    }
    if (waits) left.waits ??= number
    if (words.has('Z')) left.lifts ??= number
    const power = words.get('S')
    if (power !== undefined) s = Math.max(0, Math.min(65_535, Math.round(power)))
    const f = words.get('F')
    if (f !== undefined) feed = f * unit
    const wx = words.get('X')
    const wy = words.get('Y')
    if (shifts) {
      if (wx !== undefined) offsetX = x - wx * unit
      if (wy !== undefined) offsetY = y - wy * unit
      continue
    }
    if (waits || (wx === undefined && wy === undefined)) continue
    if (motion !== 0 && !(feed > 0)) {
      problem(number, 'A move without a speed (F).')
      continue
    }
    const to = (now: number, offset: number, value: number | undefined): number =>
      value === undefined ? now : relative ? now + value * unit : offset + value * unit
    const px = to(x, offsetX, wx)
    const py = to(y, offsetY, wy)
    if (motion < 2) {
      go(px, py)
      continue
    }
    const cx = x + (words.get('I') ?? 0) * unit
    const cy = y + (words.get('J') ?? 0) * unit
    const radius = Math.hypot(x - cx, y - cy)
    if (radius === 0 || Math.abs(radius - Math.hypot(px - cx, py - cy)) > Math.max(0.01, radius * 0.002)) {
      problem(number, 'An arc whose ends are not equally far from its centre.')
      continue
    }
    const from = Math.atan2(y - cy, x - cx)
    let turn = Math.atan2(py - cy, px - cx) - from
    if (motion === 2 && turn >= -1e-9) turn -= 2 * Math.PI
    if (motion === 3 && turn <= 1e-9) turn += 2 * Math.PI
    const chords = Math.max(1, Math.ceil(Math.abs(turn) / (2 * Math.acos(Math.max(0, 1 - ARC_MM / radius)))))
    for (let i = 1; i < chords; i++)
      go(cx + radius * Math.cos(from + (turn * i) / chords), cy + radius * Math.sin(from + (turn * i) / chords))
    go(px, py)
  }
  if (!ended)
    problem(
      number,
      beam
        ? 'It ends with the beam on and without an end (M2): the beam is switched off after it.'
        : 'It has no end (M2): one is added.',
      'note',
    )
  if (left.waits !== undefined) problem(left.waits, 'It waits here (G4): waits are left out, the beam goes on at once.', 'note')
  if (left.lifts !== undefined)
    problem(left.lifts, 'It moves the lens (Z): that is left out, the lens stays where it is.', 'note')
  const { count } = moves
  return {
    moves: {
      count,
      x: moves.x.subarray(0, count),
      y: moves.y.subarray(0, count),
      s: moves.s.subarray(0, count),
      speed: moves.speed.subarray(0, count),
    },
    box: box[0] > box[2] ? null : box,
    topSpeedMmS: topSpeed,
    air,
    problems,
  }
}
