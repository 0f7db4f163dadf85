import type { Bed } from './bed.ts'
import { LineError, readWords, type Word } from './line.ts'
import { Planner, type Segment } from './planner.ts'
import type { Truth } from './truth.ts'

export type MachineState = 'idle' | 'run' | 'hold' | 'lid' | 'alarm'

/** The numbers that G and M may have; the other letters take any. */
const WORDS: Readonly<Record<string, readonly number[]>> = {
  G: [0, 1, 20, 21, 54, 90, 91, 92],
  M: [2, 3, 4, 5, 7, 8, 9, 30],
}

const known = ({ letter, value }: Word): boolean => WORDS[letter]?.includes(value) ?? 'FSXYN'.includes(letter)

const isRapid = ({ letter, value }: Word): boolean => letter === 'G' && value === 0

/** What the machine counts while it works. */
export interface Counts {
  seconds: number
  burnMm: number
  travelMm: number
  lines: number
  alarms: number
}

/**
 * A machine that does what its lines say: it knows modes, plans and drives moves with acceleration and corners, and
 * burns. Time is its own: `advance` lets some of it pass.
 */
export class Machine {
  readonly truth: Truth
  readonly counts: Counts = { seconds: 0, burnMm: 0, travelMm: 0, lines: 0, alarms: 0 }
  private readonly bed: Bed | undefined
  private readonly planner: Planner
  private mode: MachineState = 'idle'
  /** Where the last line taken ends; the head may still be on its way. */
  private targetX = 0
  private targetY = 0
  private headX = 0
  private headY = 0
  private speed = 0
  // Modes of the lines.
  private rapid = true
  private inches = false
  private absolute = true
  private feed = 0
  private beamOn = false
  private follows = true
  private power = 0
  private offsetX = 0
  private offsetY = 0

  constructor(truth: Truth, bed?: Bed) {
    this.truth = truth
    this.bed = bed
    this.planner = new Planner(truth)
  }

  get state(): MachineState {
    return this.mode === 'idle' && this.planner.segments.length > 0 ? 'run' : this.mode
  }

  /** Whether another line can be taken now. */
  get hasRoom(): boolean {
    return !this.planner.full
  }

  get queued(): number {
    return this.planner.segments.length
  }

  /** `<state|at x,y|speed v|beam %|queue n|time s>` in machine mm and mm/s. */
  status(): string {
    const beam = this.state === 'run' && this.planner.segments[0] ? Math.round(this.planner.segments[0].beam * 1000) / 10 : 0
    return `<${this.state}|at ${this.headX.toFixed(3)},${this.headY.toFixed(3)}|speed ${this.speed.toFixed(1)}|beam ${beam}|queue ${this.queued}|time ${this.counts.seconds.toFixed(4)}>`
  }

  /** Takes one line. @throws LineError where it is refused: nothing of it is done */
  take(line: string): void {
    if (this.mode === 'alarm') throw new LineError(6)
    if (this.mode === 'lid') throw new LineError(7)
    const words = readWords(line)
    // Known words first: a line that is refused must not leave its beam on, or any other mode.
    for (const word of words) if (!known(word)) throw new LineError(2)
    const value = (letter: string): number | undefined => words.find((word) => word.letter === letter)?.value
    const moves = value('X') !== undefined || value('Y') !== undefined
    const cutting = words.some(({ letter, value: v }) => letter === 'G' && v === 1) || (!this.rapid && !words.some(isRapid))
    const shifts = words.some(({ letter, value: v }) => letter === 'G' && v === 92)
    if (moves && !shifts && cutting && !((value('F') ?? this.feed) > 0)) throw new LineError(3)
    this.counts.lines++
    for (const word of words) this.setMode(word)
    const unit = this.inches ? 25.4 : 1
    const f = value('F')
    if (f !== undefined) this.feed = (f * unit) / 60
    const s = value('S')
    if (s !== undefined) this.power = Math.min(1, Math.max(0, s / this.truth.fullS))
    const x = value('X')
    const y = value('Y')
    if (shifts) {
      this.offsetX = this.targetX - (x ?? 0) * unit
      this.offsetY = this.targetY - (y ?? 0) * unit
      return
    }
    if (x === undefined && y === undefined) return
    const go = (now: number, offset: number, to: number | undefined): number =>
      to === undefined ? now : this.absolute ? offset + to * unit : now + to * unit
    this.move(go(this.targetX, this.offsetX, x), go(this.targetY, this.offsetY, y))
  }

  private setMode({ letter, value }: Word): void {
    if (letter === 'G') {
      if (value === 0 || value === 1) this.rapid = value === 0
      else if (value === 20 || value === 21) this.inches = value === 20
      else if (value === 90 || value === 91) this.absolute = value === 90
    } else if (letter === 'M') {
      if (value === 3 || value === 4) {
        this.beamOn = true
        this.follows = value === 4
      } else if (value === 5 || value === 2 || value === 30) this.beamOn = false
    }
  }

  private move(x: number, y: number): void {
    const { bed } = this.truth
    if (x < -1e-6 || y < -1e-6 || x > bed.x + 1e-6 || y > bed.y + 1e-6) {
      this.alarm()
      throw new LineError(4)
    }
    const beam = this.beamOn && !this.rapid ? this.power : 0
    const move = { x0: this.targetX, y0: this.targetY, x1: x, y1: y, beam, follows: this.follows, line: this.counts.lines }
    this.planner.add(
      move,
      this.rapid ? Infinity : this.feed,
      this.planner.segments.length === 0 ? 0 : this.planner.segments[0].entry,
    )
    this.targetX = x
    this.targetY = y
  }

  /** Drives the oldest move to its end, burning as it goes. @returns false where there is none, or the machine stands */
  finishMove(): boolean {
    const { segments } = this.planner
    if (this.mode !== 'idle' || segments.length === 0) return false
    const s = segments[0]
    const a = s.acceleration
    const from = s.entry
    const to = segments[1]?.entry ?? 0
    const peak = Math.min(s.nominal, Math.sqrt(Math.max(0, a * s.length + (from * from + to * to) / 2)))
    const up = Math.max(0, (peak * peak - from * from) / (2 * a))
    const down = Math.max(0, (peak * peak - to * to) / (2 * a))
    const flat = Math.max(0, s.length - up - down)
    this.counts.seconds += (2 * peak - from - to) / a + (flat > 0 ? flat / peak : 0)
    if (s.beam > 0) {
      this.counts.burnMm += s.length
      this.deposit(s, [up, flat, down], [(from + peak) / 2, peak, (peak + to) / 2])
    } else this.counts.travelMm += s.length
    this.headX = s.x1
    this.headY = s.y1
    this.speed = to
    segments.shift()
    if (segments.length === 0) this.planner.rest()
    else segments[0].entry = to
    return true
  }

  /** Burns a move: with a beam that follows the speed every mm gets the same, else slow parts get more. */
  private deposit(s: Segment, lengths: readonly number[], speeds: readonly number[]): void {
    if (!this.bed) return
    const watts = s.beam * this.truth.watts
    if (s.follows) {
      this.bed.burn({ ...s, dose: watts / s.nominal })
      return
    }
    let at = 0
    lengths.forEach((length, i) => {
      const x0 = s.x0 + s.ux * at
      const y0 = s.y0 + s.uy * at
      at += length
      this.bed?.burn({ x0, y0, x1: s.x0 + s.ux * at, y1: s.y0 + s.uy * at, dose: watts / Math.max(0.01, speeds[i]) })
    })
  }

  /** Whatever is wrong: beam off, plan lost, nothing moves until reset and home. */
  alarm(): void {
    this.counts.alarms++
    this.mode = 'alarm'
    this.planner.rest()
    this.speed = 0
    this.beamOn = false
  }

  hold(): void {
    if (this.mode === 'idle') this.mode = 'hold'
  }

  resume(): void {
    if (this.mode === 'hold') this.mode = 'idle'
  }

  lid(open: boolean): void {
    if (open && this.mode !== 'alarm') this.mode = 'lid'
    else if (!open && this.mode === 'lid') this.mode = 'hold'
  }

  /** Plan and modes are lost, the beam is off; the head's place is lost where it was moving. */
  reset(): void {
    const moving = this.queued > 0
    this.planner.rest()
    this.speed = 0
    this.beamOn = false
    this.rapid = true
    this.targetX = this.headX
    this.targetY = this.headY
    this.mode = moving || this.mode === 'alarm' ? 'alarm' : 'idle'
  }

  /** Finds its corner: everything is known again. */
  home(): void {
    if (this.queued > 0) throw new LineError(9)
    this.mode = 'idle'
    this.headX = this.headY = this.targetX = this.targetY = this.offsetX = this.offsetY = 0
  }
}
