import type { Truth } from './truth.ts'

/** One straight move as the machine plans it. Speeds mm/s, lengths mm. */
export interface Segment {
  readonly x0: number
  readonly y0: number
  readonly x1: number
  readonly y1: number
  readonly length: number
  readonly ux: number
  readonly uy: number
  readonly acceleration: number
  readonly nominal: number
  /** Beam at nominal speed, 0–1 of full power. */
  readonly beam: number
  /** Whether the beam follows the speed (M4) or stays (M3). */
  readonly follows: boolean
  /** Number of the program line that it came from. */
  readonly line: number
  /** Highest speed at its start that the corner allows. */
  readonly corner: number
  /** Speed planned at its start; changes while later moves become known. */
  entry: number
}

/**
 * Moves that are known and not yet begun. Every new one is planned from the back: each start may be only as fast as
 * the machine can still brake for what follows, then from the front: only as fast as it can have become.
 */
export class Planner {
  readonly segments: Segment[] = []
  private readonly truth: Truth
  private lastUx = 0
  private lastUy = 0
  private lastNominal = 0
  private resting = true

  constructor(truth: Truth) {
    this.truth = truth
  }

  get full(): boolean {
    return this.segments.length >= this.truth.plannerDepth
  }

  /** The machine came to rest, or lost its plan. */
  rest(): void {
    this.segments.length = 0
    this.resting = true
  }

  /** @param speed wanted, mm/s; Infinity for a rapid @param now speed of the machine at the start of the first move here */
  add(move: Pick<Segment, 'x0' | 'y0' | 'x1' | 'y1' | 'beam' | 'follows' | 'line'>, speed: number, now: number): void {
    const dx = move.x1 - move.x0
    const dy = move.y1 - move.y0
    const length = Math.hypot(dx, dy)
    if (length === 0) return
    const ux = dx / length
    const uy = dy / length
    const along = (limit: { x: number; y: number }): number =>
      Math.min(ux === 0 ? Infinity : limit.x / Math.abs(ux), uy === 0 ? Infinity : limit.y / Math.abs(uy))
    const acceleration = along(this.truth.acceleration)
    const nominal = Math.min(speed, along(this.truth.speed))
    const corner = this.resting ? 0 : this.cornerSpeed(ux, uy, nominal, acceleration)
    this.segments.push({ ...move, length, ux, uy, acceleration, nominal, corner, entry: 0 })
    this.lastUx = ux
    this.lastUy = uy
    this.lastNominal = nominal
    this.lastAcceleration = acceleration
    this.resting = false
    this.replan(now)
  }

  private lastAcceleration = 0

  /** On the circle that touches both moves and passes the corner within the deviation, centripetal force stays in bounds. */
  private cornerSpeed(ux: number, uy: number, nominal: number, acceleration: number): number {
    const slower = Math.min(nominal, this.lastNominal)
    const cosTurn = this.lastUx * ux + this.lastUy * uy
    if (cosTurn > 0.999999) return slower
    if (cosTurn < -0.999999) return 0
    const sinHalf = Math.sqrt((1 + cosTurn) / 2)
    const a = Math.min(acceleration, this.lastAcceleration)
    return Math.min(slower, Math.sqrt((a * this.truth.junctionDeviation * sinHalf) / (1 - sinHalf)))
  }

  private replan(now: number): void {
    const { segments } = this
    let exit = 0
    for (let i = segments.length - 1; i >= 1; i--) {
      const s = segments[i]
      const entry = Math.min(s.corner, Math.sqrt(exit * exit + 2 * s.acceleration * s.length))
      // What is settled from here to the front cannot change any more.
      if (i < segments.length - 1 && entry === s.entry) break
      s.entry = entry
      exit = entry
    }
    segments[0].entry = now
    for (let i = 1; i < segments.length; i++) {
      const before = segments[i - 1]
      const reach = Math.sqrt(before.entry * before.entry + 2 * before.acceleration * before.length)
      if (segments[i].entry <= reach) continue
      segments[i].entry = reach
    }
  }
}
