import type { Truth } from './truth.ts'

/** What a move is asked to do. Machine mm. */
export interface Move {
  readonly x0: number
  readonly y0: number
  readonly z0: number
  readonly x1: number
  readonly y1: number
  readonly z1: number
  /** Beam at the speed wanted, 0–1 of full power. */
  readonly beam: number
  /** Whether the beam follows the speed (M4) or stays (M3). */
  readonly follows: boolean
  readonly rapid: boolean
  /** Number of the program line that it came from. */
  readonly line: number
  /** Seconds to wait at its end; a wait alone has no length. */
  readonly wait: number
}

/** One straight move as the machine plans it. Speeds mm/s, lengths mm. */
export interface Segment extends Move {
  readonly length: number
  readonly ux: number
  readonly uy: number
  readonly uz: number
  readonly acceleration: number
  /** Speed wanted, axes allowing. */
  readonly nominal: number
  /** The fastest that the axes can in this direction. */
  readonly limit: number
  /** Highest speed at its start that the corner allows. */
  readonly corner: number
  /** How far it is driven, and how long it has waited at its end. */
  done: number
  waited: number
  /** Speed at the place reached; before it begins, the speed planned for its start. */
  entry: number
}

/** Speed and acceleration of the lens going up and down. */
const Z_SPEED = 10
const Z_ACCELERATION = 100

/**
 * Moves that are known and not yet finished. Every new one is planned from the back: each start may be only as fast as
 * the machine can still brake for what follows, then from the front: only as fast as it can have become.
 */
export class Planner {
  readonly segments: Segment[] = []
  private truth: Truth
  private last: Segment | undefined
  /** Share of the speed wanted that is driven. */
  private share = 1

  constructor(truth: Truth) {
    this.truth = truth
  }

  get full(): boolean {
    return this.segments.length >= this.truth.plannerDepth
  }

  /** The machine is another one from here on: nothing moves. */
  refit(truth: Truth): void {
    this.truth = truth
  }

  /** The machine came to rest, or lost its plan. */
  rest(): void {
    this.segments.length = 0
    this.last = undefined
  }

  /** The speed that a move may have now. */
  top(s: Segment): number {
    return s.rapid ? s.nominal : Math.min(s.limit, s.nominal * this.share)
  }

  /** @param share of the speed wanted, for all that is not driven yet */
  adjust(share: number): void {
    this.share = share
    this.replan(true)
  }

  /** @param speed wanted, mm/s; Infinity for a rapid */
  add(move: Move, speed: number): void {
    const dx = move.x1 - move.x0
    const dy = move.y1 - move.y0
    const dz = move.z1 - move.z0
    const length = Math.hypot(dx, dy, dz)
    if (length === 0 && move.wait === 0) return
    const ux = length > 0 ? dx / length : 0
    const uy = length > 0 ? dy / length : 0
    const uz = length > 0 ? dz / length : 0
    const along = (x: number, y: number, z: number): number =>
      Math.min(
        ux === 0 ? Infinity : x / Math.abs(ux),
        uy === 0 ? Infinity : y / Math.abs(uy),
        uz === 0 ? Infinity : z / Math.abs(uz),
      )
    const acceleration = Math.min(1e9, along(this.truth.acceleration.x, this.truth.acceleration.y, Z_ACCELERATION))
    const limit = Math.min(1e9, along(this.truth.speed.x, this.truth.speed.y, Z_SPEED))
    const nominal = Math.min(speed, limit)
    const made: Segment = {
      ...move,
      length,
      ux,
      uy,
      uz,
      acceleration,
      nominal,
      limit,
      corner: 0,
      done: 0,
      waited: 0,
      entry: 0,
    }
    const corner = this.last ? this.cornerSpeed(this.last, made) : 0
    const segment = { ...made, corner }
    this.segments.push(segment)
    this.last = segment
    this.replan(false)
  }

  /** On the circle that touches both moves and passes the corner within the deviation, centripetal force stays in bounds. */
  private cornerSpeed(before: Segment, after: Segment): number {
    if (before.wait > 0 || before.length === 0 || after.length === 0) return 0
    const slower = Math.min(after.nominal, before.nominal)
    const cosTurn = before.ux * after.ux + before.uy * after.uy + before.uz * after.uz
    if (cosTurn > 0.999999) return slower
    if (cosTurn < -0.999999) return 0
    const sinHalf = Math.sqrt((1 + cosTurn) / 2)
    const a = Math.min(after.acceleration, before.acceleration)
    return Math.min(slower, Math.sqrt((a * this.truth.junctionDeviation * sinHalf) / (1 - sinHalf)))
  }

  /** @param wholly also where nothing new came: after a stop, or a change of speed */
  replan(wholly: boolean): void {
    const { segments } = this
    let exit = 0
    for (let i = segments.length - 1; i >= 1; i--) {
      const s = segments[i]
      const corner = Math.min(s.corner, this.top(s), this.top(segments[i - 1]))
      const entry = Math.min(corner, Math.sqrt(exit * exit + 2 * s.acceleration * s.length))
      // What is settled from here to the front cannot change any more.
      if (!wholly && i < segments.length - 1 && entry === s.entry) break
      s.entry = entry
      exit = entry
    }
    for (let i = 1; i < segments.length; i++) {
      const before = segments[i - 1]
      const reach = Math.sqrt(before.entry * before.entry + 2 * before.acceleration * (before.length - before.done))
      if (segments[i].entry > reach) segments[i].entry = reach
    }
  }
}
