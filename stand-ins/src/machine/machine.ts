import { arcChords } from './arc.ts'
import { type Arch, overFace, riseAt, type Uneven, unevenAt } from './arched.ts'
import { Bed, type Stroke } from './bed.ts'
import { LineError, readWords } from './line.ts'
import { Modes } from './modes.ts'
import { brakingPhases, headPhases, mirrorPhases, type Phase, within } from './phases.ts'
import { Planner, type Segment } from './planner.ts'
import { Rotary, type Turned } from './rotary.ts'
import { type FieldTable, ScanField } from './scan-lens.ts'
import { type Truth, turning } from './truth.ts'

export type MachineState = 'idle' | 'run' | 'hold' | 'pause' | 'armed' | 'lid' | 'alarm' | 'emergency'

/** What the machine counts while it works. */
export interface Counts {
  seconds: number
  burnMm: number
  travelMm: number
  lines: number
  alarms: number
}

/** Places closer than this are the same, mm. */
const SAME = 1e-6
/** Slower than this it says that it stands, and it does: nothing slips when it is reset, mm/s. */
const STANDS = 0.05

/** How fast the probe comes down, mm/s. */
const PROBE_MM_S = 4

/**
 * A machine that does what its lines say: it knows modes, plans and drives moves with acceleration and corners, and
 * burns. Time is its own: `drive` lets some of it pass.
 */
export class Machine {
  truth: Truth
  /** As it is where nothing was put into it. */
  private readonly own: Truth
  readonly counts: Counts = { seconds: 0, burnMm: 0, travelMm: 0, lines: 0, alarms: 0 }
  bed: Bed | undefined
  /** Told what happens without being asked: the lid, resets, the button. */
  onEvent: (text: string) => void = () => {}
  /** Height of what lies on the bed, mm: the lens is in focus when it stands as high. */
  surface = 0
  private readonly planner: Planner
  private modes = new Modes()
  private mode: Exclude<MachineState, 'run'> = 'idle'
  /** Told to stop, and still braking. */
  private stopping = false
  /** The lid cut the beam in the middle of a move. */
  private dark = false
  /** Where that was. */
  private darkFrom = ''
  private jogging = false
  private lidOpen = false
  private pauseAfter = false
  /** Where the last line taken ends; the head may still be on its way. */
  private target = { x: 0, y: 0, z: 0 }
  private head = { x: 0, y: 0, z: 0 }
  /** How far the head is from where it thinks it is: after it was stopped dead. */
  private slip = { x: 0, y: 0 }
  private speedShare = 1
  private powerShare = 1
  private token = '-'
  private taken = 0
  /** The face of what lies there is curved. */
  arch: Arch | undefined
  /** What lies there is uneven. */
  uneven: Uneven | undefined
  /** What turns in it. */
  private rotary: Rotary | undefined
  /** Where a scan head's beam goes; undefined where the head drives along a gantry. */
  readonly field: ScanField | undefined
  /** Between `begin` and the program's end. */
  private inProgram = false
  /** Reset in the middle of a program: what still comes of it is refused. */
  private brokenOff = false

  constructor(truth: Truth, bed?: Bed) {
    this.truth = truth
    this.own = truth
    this.bed = bed
    this.planner = new Planner(truth)
    this.rotary = truth.turned && new Rotary(truth.turned)
    this.field = truth.mirrors && new ScanField(truth.bed.x, truth.bed.y)
  }

  /** Something is put in that turns in the place of y: a diameter, mm, or all of it; nothing: it is taken out. What was burned lies elsewhere then. */
  turn(what: number | Turned | undefined): void {
    const truth = what === undefined ? this.own : turning(this.own, what)
    if (JSON.stringify(truth.turned) === JSON.stringify(this.truth.turned)) return
    this.truth = truth
    this.rotary = truth.turned && new Rotary(truth.turned)
    this.planner.refit(truth)
    if (this.bed) this.bed = new Bed(truth.bed.x, truth.bed.y, this.bed.cell, truth.spot)
  }

  get state(): MachineState {
    return this.mode === 'idle' && this.planner.segments.length > 0 ? 'run' : this.mode
  }

  /** Whether another line can be taken now. */
  get hasRoom(): boolean {
    return !this.planner.full && !this.pauseAfter && this.mode !== 'pause'
  }

  get queued(): number {
    return this.planner.segments.length
  }

  /** Whether time lets it move on. */
  get isDriving(): boolean {
    return this.planner.segments.length > 0 && (this.mode === 'idle' || this.stopping)
  }

  get isLidOpen(): boolean {
    return this.lidOpen
  }

  /** W that come out of the lens now. */
  get beamNow(): number {
    const s = this.planner.segments[0]
    if (this.lidOpen || this.mode === 'emergency') return 0
    const asked = s && this.isDriving && !this.dark ? s.beam * this.powerShare : 0
    return this.watts(asked)
  }

  private get speed(): number {
    const s = this.planner.segments[0]
    if (!s || !this.isDriving) return 0
    return this.truth.mirrors && s.done < s.length ? this.planner.top(s) : s.entry
  }

  /** Lines since `begin` that are driven to their end. */
  private get driven(): number {
    const s = this.planner.segments[0]
    return s ? s.line - 1 : this.taken
  }

  private place(): string {
    return `line ${this.driven}/${this.taken}|at ${this.head.x.toFixed(3)},${this.head.y.toFixed(3)},${this.head.z.toFixed(3)}`
  }

  /** What it says when it is asked with `?`. Machine mm and mm/s. */
  status(): string {
    const s = this.planner.segments[0]
    const beam = s && this.state === 'run' ? Math.round(s.beam * this.powerShare * 1000) / 10 : 0
    return [
      `<${this.state}`,
      this.place(),
      `speed ${this.speed.toFixed(1)}`,
      `beam ${Math.min(100, beam)}`,
      `queue ${this.queued}`,
      `share ${Math.round(this.speedShare * 100)},${Math.round(this.powerShare * 100)}`,
      `lid ${this.lidOpen ? 'open' : 'closed'}`,
      `air ${this.modes.air ? 'on' : 'off'}`,
      `dark ${this.dark ? this.darkFrom : '-'}`,
      `run ${this.token}`,
      `time ${this.counts.seconds.toFixed(4)}>`,
    ].join('|')
  }

  /** Takes one line. @throws LineError where it is refused: nothing of it is done */
  take(line: string): void {
    this.refuseUnlessReady()
    if (this.brokenOff) throw new LineError(11)
    const words = readWords(line)
    const { modes } = this
    const value = (letter: string): number | undefined => words.find((word) => word.letter === letter)?.value
    const has = (letter: string, number: number): boolean => words.some((word) => word.letter === letter && word.value === number)
    const shifts = has('G', 92)
    const waits = has('G', 4)
    const moves = !shifts && !waits && ['X', 'Y', 'Z'].some((letter) => value(letter) !== undefined)
    modes.check(words, moves)
    const before = { motion: modes.motion }
    this.counts.lines++
    this.taken++
    for (const word of words) modes.set(word, this.truth.fullS)
    const [x, y, z] = ['X', 'Y', 'Z'].map(value)
    if (shifts) {
      modes.offsetX = this.target.x - (x ?? 0) * modes.unit
      modes.offsetY = this.target.y - (y ?? 0) * modes.unit
    } else if (waits) this.queue({ ...this.target }, Math.max(0, value('P') ?? 0))
    else if (moves) this.moveTo(x, y, z, value, before.motion)
    if (has('M', 0)) this.pauseAfter = true
    if (has('M', 2) || has('M', 30)) this.inProgram = false
  }

  private refuseUnlessReady(): void {
    if (this.mode === 'emergency') throw new LineError(10)
    if (this.mode === 'alarm') throw new LineError(6)
    if (this.mode === 'lid') throw new LineError(7)
  }

  private moveTo(
    x: number | undefined,
    y: number | undefined,
    z: number | undefined,
    value: (letter: string) => number | undefined,
    motionBefore: number,
  ): void {
    const { modes, target } = this
    const go = (now: number, offset: number, to: number | undefined): number =>
      to === undefined ? now : modes.absolute ? offset + to * modes.unit : now + to * modes.unit
    const end = { x: go(target.x, modes.offsetX, x), y: go(target.y, modes.offsetY, y), z: go(target.z, 0, z) }
    if (!this.reaches(end)) {
      this.alarm()
      throw new LineError(4)
    }
    if (modes.motion < 2) {
      this.queue(end, 0)
      return
    }
    const centre = { x: target.x + (value('I') ?? 0) * modes.unit, y: target.y + (value('J') ?? 0) * modes.unit }
    const chords = arcChords(target.x, target.y, end.x, end.y, centre.x, centre.y, modes.motion === 2)
    if (!chords) {
      modes.motion = motionBefore as 0
      this.counts.lines--
      this.taken--
      throw new LineError(5)
    }
    if (!chords.every((chord) => this.reaches({ ...chord, z: end.z }))) {
      this.alarm()
      throw new LineError(4)
    }
    const from = target.z
    chords.forEach((chord, i) => {
      this.queue({ ...chord, z: from + ((end.z - from) * (i + 1)) / chords.length }, 0)
    })
  }

  private reaches({ x, y, z }: { x: number; y: number; z: number }): boolean {
    const { bed, focusTravel = 0, turned } = this.truth
    const turns = turned !== undefined
    return (
      x >= -SAME && x <= bed.x + SAME && (turns || (y >= -SAME && y <= bed.y + SAME)) && z >= -SAME && z <= focusTravel + SAME
    )
  }

  private queue(end: { x: number; y: number; z: number }, wait: number, speed?: number): void {
    const { modes, target } = this
    const rapid = speed === undefined && modes.motion === 0 && wait === 0
    this.planner.add(
      {
        x0: target.x,
        y0: target.y,
        z0: target.z,
        x1: end.x,
        y1: end.y,
        z1: end.z,
        beam: speed === undefined && modes.beamOn && !rapid ? modes.power : 0,
        follows: modes.follows,
        rapid,
        // A move by hand is no line of the program: those before it are driven.
        line: speed === undefined ? this.taken : this.taken + 1,
        wait,
      },
      rapid ? Infinity : (speed ?? modes.feed),
    )
    this.target = end
  }

  /** Moves by hand: on from where it is, no farther than the bed reaches. mm, mm/s. @throws LineError */
  jog(dx: number, dy: number, dz: number, speed: number): void {
    this.refuseUnlessReady()
    if (this.mode !== 'idle' || (this.queued > 0 && !this.jogging)) throw new LineError(9)
    const { bed, focusTravel = 0 } = this.truth
    const inside = (v: number, most: number): number => Math.min(most, Math.max(0, v))
    this.jogging = true
    this.queue(
      {
        x: inside(this.target.x + dx, bed.x),
        y: this.rotary === undefined ? inside(this.target.y + dy, bed.y) : this.target.y + dy,
        z: inside(this.target.z + dz, focusTravel),
      },
      0,
      speed,
    )
    if (this.queued === 0) this.jogging = false
  }

  /** Lowers the lens until its probe touches what lies there, or the bed, mm above it. @throws LineError */
  probe(): number {
    this.refuseUnlessReady()
    if (this.truth.focusTravel === undefined) throw new LineError(2)
    if (this.mode !== 'idle' || this.queued > 0) throw new LineError(9)
    const risen = this.surface > 0 ? (this.risen()?.(this.head.x, this.head.y) ?? 0) : 0
    const touched = Math.min(this.truth.focusTravel, Math.max(0, this.surface + risen))
    this.jog(0, 0, touched - this.target.z, PROBE_MM_S)
    return touched
  }

  /** A hand sets the lens so many mm over the bed, while the head stands. @throws LineError */
  setLens(z: number): void {
    const { focusTravel } = this.truth
    if (focusTravel === undefined || !(z >= 0 && z <= focusTravel)) throw new LineError(2)
    if ((this.mode !== 'idle' && this.mode !== 'pause') || this.queued > 0) throw new LineError(9)
    this.head = { ...this.head, z }
    this.target = { ...this.target, z }
  }

  /** A scan head takes the correction of its field, or forgets it; not while it moves. @throws LineError */
  correct(table: FieldTable | undefined): void {
    if (!this.field) throw new LineError(2)
    if (this.queued > 0) throw new LineError(9)
    this.field.table = table
  }

  /** A program begins: its lines are counted from here. @param token by which whoever sends it knows it again */
  begin(token: string): void {
    this.refuseUnlessReady()
    if (this.queued > 0) throw new LineError(9)
    this.token = token
    this.taken = 0
    this.brokenOff = false
    this.inProgram = true
    this.modes = Object.assign(new Modes(), { offsetX: this.modes.offsetX, offsetY: this.modes.offsetY })
    this.adjust(1, 1)
  }

  /** Takes lines, but waits for the button at the machine before it moves. */
  arm(): void {
    this.refuseUnlessReady()
    if (this.queued > 0) throw new LineError(9)
    this.mode = 'armed'
  }

  /** The start button at the machine: begins what is armed, goes on after a pause. */
  press(): void {
    if (this.mode !== 'armed' && this.mode !== 'pause') return
    this.mode = 'idle'
    this.onEvent('start pressed')
  }

  /** @param speed,power shares of what the program says, 0.1–2 */
  adjust(speed: number, power: number): void {
    this.speedShare = speed
    this.powerShare = power
    this.planner.adjust(speed)
  }

  /** Drives the oldest move to its end, burning as it goes. @returns false where there is none, or the machine stands */
  finishMove(): boolean {
    return this.step(Infinity) !== undefined
  }

  /** Lets time pass. @returns seconds in which it moved or waited */
  drive(seconds: number): number {
    let left = seconds
    while (left > 0) {
      const used = this.step(left)
      if (used === undefined) break
      left -= used
    }
    return seconds - left
  }

  /** The oldest move, no longer than so many seconds. @returns seconds used, undefined where nothing moves */
  private step(seconds: number): number | undefined {
    const { segments } = this.planner
    if (this.pauseAfter && segments.length === 0 && this.mode === 'idle') {
      this.pauseAfter = false
      this.mode = 'pause'
      this.onEvent('pause')
    }
    if (!this.isDriving) return undefined
    const s = segments[0]
    let used = 0
    let whole = true
    for (const phase of this.phasesOf(s, segments[1])) {
      const t = Math.min(phase.seconds, seconds - used)
      const { way, speed } = within(phase, t)
      const { rotary } = this
      const before = rotary?.lagMm ?? 0
      rotary?.drive(phase.from * s.uy, speed * s.uy, t)
      this.go(s, way, t, before)
      used += t
      s.entry = speed
      if (t < phase.seconds) {
        whole = false
        break
      }
    }
    this.counts.seconds += used
    if (this.stopping && s.entry <= 1e-9) this.stopped()
    else if (whole) this.finish(s)
    return used
  }

  private phasesOf(s: Segment, next: Segment | undefined): Phase[] {
    const { mirrors } = this.truth
    if (mirrors) return mirrorPhases(s, this.planner.top(s), next, mirrors)
    return this.stopping ? brakingPhases(s) : headPhases(s, this.planner.top(s), next?.entry ?? 0)
  }

  private finish(s: Segment): void {
    this.go(s, s.length - s.done, 0)
    const { segments } = this.planner
    segments.shift()
    if (segments.length === 0) {
      this.planner.rest()
      this.jogging = false
      if (this.stopping) this.stopped()
    } else segments[0].entry = s.entry
  }

  /** Goes on along a move, and burns on the way. */
  private go(s: Segment, wanted: number, seconds: number, lagBefore = this.rotary?.lagMm ?? 0): void {
    const to = Math.min(s.length, s.done + wanted)
    const beam = this.dark || this.mode === 'lid' ? 0 : s.beam * this.powerShare
    if (to > s.done) {
      if (s.beam > 0 && beam > 0) this.counts.burnMm += to - s.done
      else this.counts.travelMm += to - s.done
      this.burnAlong(s, s.done, to, seconds, beam, lagBefore)
      s.done = to
      this.head = { x: s.x0 + s.ux * to, y: s.y0 + s.uy * to, z: s.z0 + s.uz * to }
      if (to >= s.length) this.head = { x: s.x1, y: s.y1, z: s.z1 }
    } else if (seconds > 0) {
      s.waited += seconds
      if (!s.follows && beam > 0)
        this.bed?.spotBurn(this.head.x + this.slip.x, this.head.y + this.slip.y, this.watts(beam) * seconds)
    }
  }

  /** With a beam that follows the speed every mm gets the same, else slow parts get more. */
  private burnAlong(s: Segment, from: number, to: number, seconds: number, beam: number, lagBefore: number): void {
    if (!this.bed) return
    const watts = this.watts(beam)
    if (watts <= 0) return
    const { latency, backlash, spot } = this.truth
    const speed = seconds > 0 ? (to - from) / seconds : this.planner.top(s)
    const dose = s.follows ? Math.min(watts / s.nominal, this.truth.watts / this.planner.top(s)) : watts / Math.max(0.01, speed)
    const late = latency * speed
    const dx = s.ux * late + Math.sign(s.ux) * (backlash / 2) + this.slip.x
    const dy = s.uy * late + Math.sign(s.uy) * (backlash / 2) + this.slip.y
    const stroke = {
      x0: s.x0 + s.ux * from + dx,
      y0: s.y0 + s.uy * from + dy,
      x1: s.x0 + s.ux * to + dx,
      y1: s.y0 + s.uy * to + dy,
      dose,
      spot: spot * this.blur(),
    }
    if (this.field && !this.field.isStraight) {
      for (const part of this.field.strokes(stroke)) this.bed.burn(part)
      return
    }
    const parts = this.rotary?.strokes(stroke, lagBefore) ?? this.onFace(stroke)
    if (!parts) this.bed.burn(stroke)
    else for (const { rise, ...part } of parts) this.bed.burn(rise === 0 ? part : { ...part, spot: spot * this.blur(rise) })
  }

  /** How much higher than it is thick what lies there is at a place; undefined where it is level. */
  private risen(): ((x: number, y: number) => number) | undefined {
    const { arch, uneven } = this
    if (uneven) return (x, y) => unevenAt(uneven, x, y) + (arch ? riseAt(arch, x, y) : 0)
    return arch && ((x, y) => riseAt(arch, x, y))
  }

  private onFace(stroke: Stroke) {
    const risen = this.risen()
    return risen && overFace(risen, stroke)
  }

  /** @param rise of the surface over where it is said to be, mm */
  private blur(rise = 0): number {
    const { focusTravel, depthOfFocus, focusError } = this.truth
    if (focusTravel === undefined && rise === 0) return 1
    const off = (focusTravel === undefined ? 0 : this.head.z - this.surface - focusError) - rise
    return Math.sqrt(1 + (off / depthOfFocus) ** 2)
  }

  /** What comes out for a share of full power, W. */
  watts(beam: number): number {
    const share = this.truth.inverted ? 1 - Math.min(1, beam) : Math.min(1, beam)
    const { turnOn, watts } = this.truth
    return share <= turnOn ? 0 : (watts * (share - turnOn)) / (1 - turnOn)
  }

  private stopped(): void {
    this.stopping = false
    if (!this.jogging) return
    this.jogging = false
    this.planner.rest()
    this.target = { ...this.head }
    if (this.mode === 'hold') this.mode = 'idle'
  }

  /** Brakes, with the beam following; goes on with `resume`. Moving by hand simply ends. */
  hold(): void {
    if (this.mode === 'armed') this.mode = 'idle'
    if (this.mode !== 'idle') return
    const moving = this.speed >= STANDS
    // Between two lines of a program too.
    if (this.queued > 0 || this.pauseAfter || this.inProgram) this.mode = 'hold'
    this.brake(moving)
  }

  private brake(moving: boolean): void {
    if (!this.truth.mirrors && moving) this.stopping = true
    else this.stopped()
  }

  /** On again after a hold or a pause. After the lid too: but what was passed in the dark stays dark. */
  resume(): void {
    if (this.mode !== 'hold' && this.mode !== 'pause') return
    if (this.stopping) return
    this.mode = 'idle'
    this.dark = false
    if (this.planner.segments[0]) this.planner.segments[0].entry = 0
    this.planner.replan(true)
  }

  lid(open: boolean): void {
    if (open === this.lidOpen) return
    this.lidOpen = open
    if (open) {
      this.onEvent(`lid open|${this.place()}`)
      if (this.mode === 'alarm' || this.mode === 'emergency') return
      this.dark = this.queued > 0
      this.darkFrom = `${this.driven}@${this.head.x.toFixed(3)},${this.head.y.toFixed(3)},${this.head.z.toFixed(3)}`
      const moving = this.speed > 0
      this.mode = 'lid'
      if (moving) this.brake(true)
    } else {
      this.onEvent('lid closed')
      if (this.mode === 'lid') this.mode = this.queued > 0 ? 'hold' : 'idle'
    }
  }

  /** Motors without power: stands at once, dark, and no longer knows where. */
  emergency(pressed: boolean): void {
    if (pressed === (this.mode === 'emergency')) return
    if (pressed) {
      this.onEvent(`emergency|${this.place()}`)
      this.lose()
      this.mode = 'emergency'
    } else {
      this.mode = 'alarm'
      this.onEvent('emergency released')
    }
  }

  /** Whatever is wrong: beam off, plan lost, nothing moves until reset and home. */
  alarm(): void {
    this.counts.alarms++
    this.onEvent(`alarm|${this.place()}`)
    this.lose()
    this.mode = 'alarm'
  }

  /** The plan is dropped; stopped dead out of a move, the head slips by a part of its braking way. */
  private lose(): void {
    const s = this.planner.segments[0]
    // Lines beyond the one it was in are as if never taken.
    this.taken = this.driven
    const speed = this.speed
    if (s && speed >= STANDS && !this.truth.mirrors) {
      const slipped = Math.min(2, (speed * speed) / (2 * s.acceleration)) / 4
      this.slip = { x: this.slip.x + s.ux * slipped, y: this.slip.y + s.uy * slipped }
    }
    this.planner.rest()
    this.inProgram = false
    this.stopping = this.jogging = this.dark = this.pauseAfter = false
    this.modes = Object.assign(new Modes(), { offsetX: this.modes.offsetX, offsetY: this.modes.offsetY })
    this.target = { ...this.head }
  }

  /** Plan and modes are lost, the beam is off; the head's place is lost where it was moving. */
  reset(): void {
    this.onEvent(`reset|${this.place()}`)
    const moving = this.speed >= STANDS && !this.truth.mirrors
    this.lose()
    this.brokenOff = this.token !== '-'
    this.adjust(1, 1)
    if (this.mode === 'emergency') return
    this.mode = moving || this.mode === 'alarm' ? 'alarm' : this.lidOpen ? 'lid' : 'idle'
  }

  /** Off and on again: it knows nothing any more, not even where its head is. */
  powerCycle(): void {
    this.lose()
    this.taken = 0
    this.token = '-'
    this.brokenOff = false
    this.counts.seconds = 0
    this.modes = new Modes()
    this.slip = { x: this.head.x + this.slip.x, y: this.head.y + this.slip.y }
    this.head = { x: 0, y: 0, z: 0 }
    this.target = { ...this.head }
    this.mode = 'alarm'
  }

  /** Finds its corner: everything is known again. @throws LineError */
  home(): void {
    if (this.mode === 'emergency') throw new LineError(10)
    if (this.lidOpen) throw new LineError(7)
    if (this.queued > 0) throw new LineError(9)
    this.mode = 'idle'
    this.slip = { x: 0, y: 0 }
    this.head = { x: 0, y: 0, z: this.head.z }
    this.target = { ...this.head }
    this.modes.offsetX = this.modes.offsetY = 0
  }
}
