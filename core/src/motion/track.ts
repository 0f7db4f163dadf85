import type { Machine } from '../machine/machine.ts'
import { type PathEvent, standsFor } from '../toolpath/events.ts'
import type { MoveBlock, PlanSink } from '../toolpath/moves.ts'
import { type Clock, motionClock } from './clock.ts'

/** A stretch of the track that belongs to one operation. */
export interface TrackPart {
  readonly id: string
  readonly firstMove: number
  /** Lines of the program before its first move, comments not counted. */
  readonly linesBefore: number
}

/**
 * Every move of a plan with the time at which it ends: from time to place, from place to time. Machine coordinates, µm.
 * 18 bytes a move.
 */
export interface Track {
  readonly count: number
  readonly x: Int32Array
  readonly y: Int32Array
  /** Beam during the move as S value; 0 is off. */
  readonly s: Uint16Array
  /** Seconds since the start at which the move ends. */
  readonly seconds: Float64Array
  readonly parts: readonly TrackPart[]
  /** Where lines of the program stand that are no moves: at each, how many lines and moves there are before it. */
  readonly marks: readonly TrackMark[]
  /** Where it waits in the midst of an operation: after so many lines, for what. */
  readonly waits: readonly TrackWait[]
}

export interface TrackWait {
  readonly lines: number
  readonly text: string
}

export interface TrackMark {
  readonly move: number
  readonly lines: number
}

/** Keeps the moves of a plan as a track, as a sink beside others. */
export class TrackRecorder implements PlanSink {
  private readonly clock: Clock
  private readonly linesSoFar: () => number
  private readonly parts: { id: string; firstMove: number; linesBefore: number }[] = []
  private readonly marks: TrackMark[] = []
  private readonly waits: TrackWait[] = []
  private count = 0
  private timed = 0
  private x = new Int32Array(1 << 14)
  private y = new Int32Array(1 << 14)
  private s = new Uint16Array(1 << 14)
  private seconds = new Float64Array(1 << 14)

  /** @param linesSoFar lines of the program that were written until now, comments not counted */
  constructor(machine: Machine, linesSoFar: () => number = () => 0) {
    this.linesSoFar = linesSoFar
    this.clock = motionClock(machine, (ends) => {
      this.seconds.set(ends, this.timed)
      this.timed += ends.length
    })
  }

  operation(id: string): void {
    this.clock.section()
    this.parts.push({ id, firstMove: this.count, linesBefore: this.linesSoFar() })
    this.mark()
  }

  moves(block: MoveBlock): void {
    const { count } = block
    while (this.count + count > this.x.length) this.grow()
    this.x.set(block.x.subarray(0, count), this.count)
    this.y.set(block.y.subarray(0, count), this.count)
    this.s.set(block.s.subarray(0, count), this.count)
    this.count += count
    this.clock.add(block)
  }

  event(event: PathEvent): void {
    const seconds = standsFor(event)
    if (seconds !== undefined) this.clock.rest(seconds)
    const part = this.parts.at(-1)
    // What is switched or asked before an operation comes before its part.
    const before = part?.firstMove === this.count || event.kind === 'pause' || event.kind === 'set-up'
    if (part && before) Object.assign(part, { firstMove: this.count, linesBefore: this.linesSoFar() })
    if (event.kind === 'refocus') this.waits.push({ lines: this.linesSoFar(), text: event.text })
    this.mark()
  }

  private mark(): void {
    this.marks.push({ move: this.count, lines: this.linesSoFar() })
  }

  private grow(): void {
    const larger = <T extends Int32Array | Uint16Array | Float64Array>(old: T, fresh: T): T => {
      fresh.set(old)
      return fresh
    }
    const size = 2 * this.x.length
    this.x = larger(this.x, new Int32Array(size))
    this.y = larger(this.y, new Int32Array(size))
    this.s = larger(this.s, new Uint16Array(size))
    this.seconds = larger(this.seconds, new Float64Array(size))
  }

  track(): Track {
    this.clock.finish()
    if (this.timed !== this.count) throw new Error(`${this.count} moves, but ${this.timed} times.`)
    const { count } = this
    return {
      count,
      x: this.x.subarray(0, count),
      y: this.y.subarray(0, count),
      s: this.s.subarray(0, count),
      seconds: this.seconds.subarray(0, count),
      parts: this.parts,
      marks: this.marks,
      waits: this.waits,
    }
  }
}

/** How long a track takes, s. */
export const trackSeconds = (track: Track): number => (track.count > 0 ? track.seconds[track.count - 1] : 0)

/** The move that is driven at a time: the first that ends after it; `count` where all are over. */
export function moveAt({ count, seconds }: Track, time: number): number {
  let low = 0
  let high = count
  while (low < high) {
    const middle = (low + high) >> 1
    if (seconds[middle] > time) high = middle
    else low = middle + 1
  }
  return low
}

/** Where the head is at a time, machine mm; along each move the time is taken as even. */
export function headAt(
  track: Track,
  time: number,
): { readonly x: number; readonly y: number; readonly burning: boolean; readonly move: number } {
  const move = moveAt(track, time)
  if (track.count === 0) return { x: 0, y: 0, burning: false, move }
  if (move === track.count) return { x: track.x[move - 1] / 1000, y: track.y[move - 1] / 1000, burning: false, move }
  const from = startOf(track, move)
  const t0 = move > 0 ? track.seconds[move - 1] : 0
  const share = Math.min(1, Math.max(0, (time - t0) / Math.max(1e-12, track.seconds[move] - t0)))
  return {
    x: (from.x + (track.x[move] - from.x) * share) / 1000,
    y: (from.y + (track.y[move] - from.y) * share) / 1000,
    burning: track.s[move] > 0,
    move,
  }
}

/** Where a move starts, µm. */
export const startOf = (track: Track, move: number): { readonly x: number; readonly y: number } =>
  move > 0 ? { x: track.x[move - 1], y: track.y[move - 1] } : { x: 0, y: 0 }

/** The part that a move belongs to. */
export function partOf(track: Track, move: number): number {
  let part = 0
  while (part + 1 < track.parts.length && track.parts[part + 1].firstMove <= move) part++
  return part
}

/** The time at which so many lines of the program are driven. @param lines comments not counted */
export function timeOfLines(track: Track, lines: number): number {
  if (track.marks.length === 0) return 0
  let at = 0
  while (at + 1 < track.marks.length && track.marks[at + 1].lines <= lines) at++
  const mark = track.marks[at]
  const end = track.marks[at + 1]?.move ?? track.count
  const move = Math.min(end, mark.move + Math.max(0, lines - mark.lines))
  return move > 0 ? track.seconds[move - 1] : 0
}

/** A stretch of time in which a place is burned, s. */
export interface Moment {
  readonly from: number
  readonly to: number
}

/** When a place is burned. @param x,y machine mm @param within mm @returns moments in order, near ones joined */
export function momentsAt(track: Track, x: number, y: number, within: number): Moment[] {
  const moments: { from: number; to: number }[] = []
  const r2 = (within * 1000) ** 2
  const px = x * 1000
  const py = y * 1000
  for (let i = 0; i < track.count; i++) {
    if (track.s[i] === 0) continue
    const ax = i > 0 ? track.x[i - 1] : 0
    const ay = i > 0 ? track.y[i - 1] : 0
    const dx = track.x[i] - ax
    const dy = track.y[i] - ay
    const length2 = dx * dx + dy * dy
    const t = length2 > 0 ? Math.min(1, Math.max(0, ((px - ax) * dx + (py - ay) * dy) / length2)) : 0
    if ((px - ax - t * dx) ** 2 + (py - ay - t * dy) ** 2 > r2) continue
    const from = i > 0 ? track.seconds[i - 1] : 0
    const last = moments.at(-1)
    if (last && from - last.to < 1) last.to = track.seconds[i]
    else moments.push({ from, to: track.seconds[i] })
  }
  return moments
}
