import type { Machine } from '../machine/machine.ts'
import type { MoveBlock } from '../plan/moves.ts'

/** Time and way of a stretch of moves. */
export interface MoveTotals {
  readonly seconds: number
  readonly travelMm: number
  readonly burnMm: number
}

/**
 * Adds up how long moves take on a machine that looks a limited number of moves ahead.
 *
 * Each move is a trapezoid between the speeds at its two ends. The speed at a joint is the lowest of: the speeds of
 * the moves it joins; what the corner allows (junction deviation: v² = a·δ·sin(θ/2)/(1 − sin(θ/2)), S. Jeon, "Improving
 * Grbl: Cornering Algorithm", 2011); what was reached from the joint before; and what lets the machine come to rest
 * at the end of the last move it knows of. That last limit is, with Vⱼ² the limit at joint j and Aⱼ the sum of
 * 2·a·length up to it,   v² ≤ min over the joints ahead of (Vⱼ² + Aⱼ) − A,   a sliding-window minimum: every move
 * costs the same, however deep the machine looks.
 */
export class MotionClock {
  private readonly maxX: number
  private readonly maxY: number
  private readonly accX: number
  private readonly accY: number
  private readonly deviation: number
  private readonly depth: number

  // One entry a move, in a ring of `depth + 2`.
  private readonly size: number
  private readonly length: Float64Array
  private readonly nominal: Float64Array
  private readonly acc: Float64Array
  /** Square of the speed allowed at the start of the move, by corner and nominal speeds. */
  private readonly corner: Float64Array
  /** Sum of 2·a·length of all moves before this one. */
  private readonly along: Float64Array
  private readonly burning: Uint8Array
  private readonly tag: Int32Array

  private first = 0
  private next = 0
  private sum = 0
  private entry2 = 0
  private lastX = 0
  private lastY = 0
  private ux = 0
  private uy = 0
  private hasLast = false
  // Joints of the window in a queue with rising values of corner + along.
  private readonly queue: Int32Array
  private queueHead = 0
  private queueTail = 0

  private current = -1
  private readonly totals: { seconds: number; travelMm: number; burnMm: number }[] = []

  constructor(machine: Machine) {
    this.maxX = machine.maxSpeedMmS.x
    this.maxY = machine.maxSpeedMmS.y
    this.accX = machine.accelerationMmS2.x
    this.accY = machine.accelerationMmS2.y
    this.deviation = machine.junctionDeviationMm
    this.depth = machine.plannerDepth
    this.size = this.depth + 2
    this.length = new Float64Array(this.size)
    this.nominal = new Float64Array(this.size)
    this.acc = new Float64Array(this.size)
    this.corner = new Float64Array(this.size)
    this.along = new Float64Array(this.size)
    this.burning = new Uint8Array(this.size)
    this.tag = new Int32Array(this.size)
    this.queue = new Int32Array(this.size)
  }

  /** Begins a stretch: moves that follow count for it. Returns its number. */
  section(): number {
    this.current = this.totals.length
    this.totals.push({ seconds: 0, travelMm: 0, burnMm: 0 })
    return this.current
  }

  add(block: MoveBlock): void {
    const { count, x, y, s, speed } = block
    for (let i = 0; i < count; i++) this.addMove(x[i], y[i], s[i], speed[i])
  }

  private addMove(x: number, y: number, s: number, speed: number): void {
    const dx = (x - this.lastX) / 1000
    const dy = (y - this.lastY) / 1000
    this.lastX = x
    this.lastY = y
    const length = Math.sqrt(dx * dx + dy * dy)
    if (length === 0) return
    if (this.next - this.first >= this.depth) this.retire()
    const ux = dx / length
    const uy = dy / length
    const ax = ux < 0 ? -ux : ux
    const ay = uy < 0 ? -uy : uy
    // Axis limits along this direction.
    let top = Infinity
    let acc = Infinity
    if (ax > 1e-9) {
      top = this.maxX / ax
      acc = this.accX / ax
    }
    if (ay > 1e-9) {
      if (this.maxY / ay < top) top = this.maxY / ay
      if (this.accY / ay < acc) acc = this.accY / ay
    }
    const wanted = speed > 0 && speed < top ? speed : top
    const at = this.next % this.size
    this.length[at] = length
    this.nominal[at] = wanted
    this.acc[at] = acc
    this.along[at] = this.sum
    this.burning[at] = s > 0 ? 1 : 0
    this.tag[at] = this.current
    this.corner[at] = this.hasLast ? this.cornerSpeed2(ux, uy, wanted, acc, (this.next - 1) % this.size) : 0
    this.sum += 2 * acc * length
    this.ux = ux
    this.uy = uy
    this.hasLast = true
    // The joint at the start of this move joins the queue.
    const value = this.corner[at] + this.along[at]
    while (this.queueTail > this.queueHead) {
      const back = this.queue[(this.queueTail - 1) % this.size] % this.size
      if (this.corner[back] + this.along[back] < value) break
      this.queueTail--
    }
    this.queue[this.queueTail++ % this.size] = this.next
    this.next++
    if (this.sum > 1e12) this.rebase()
  }

  private cornerSpeed2(ux: number, uy: number, wanted: number, acc: number, before: number): number {
    const slower = Math.min(wanted, this.nominal[before])
    const cos = -(this.ux * ux + this.uy * uy)
    if (cos < -0.999999) return slower * slower
    if (cos > 0.999999) return 0
    const half = Math.sqrt((1 - cos) / 2)
    const v2 = (Math.min(acc, this.acc[before]) * this.deviation * half) / (1 - half)
    return Math.min(v2, slower * slower)
  }

  /** Runs the oldest move known, with all that the machine knows now. */
  private retire(): void {
    const at = this.first % this.size
    // Its own start is no joint ahead any more.
    if (this.queueTail > this.queueHead && this.queue[this.queueHead % this.size] === this.first) this.queueHead++
    const length = this.length[at]
    const a = this.acc[at]
    const nextAlong = this.along[at] + 2 * a * length
    // At rest at the end of the last move known: v² = 0 there.
    let limit = this.sum
    if (this.queueTail > this.queueHead) {
      const ahead = this.queue[this.queueHead % this.size] % this.size
      const value = this.corner[ahead] + this.along[ahead]
      if (value < limit) limit = value
    }
    let exit2 = limit - nextAlong
    const reach = this.entry2 + 2 * a * length
    if (exit2 > reach) exit2 = reach
    if (exit2 < 0) exit2 = 0
    const v = this.nominal[at]
    const seconds = trapezoid(length, this.entry2, exit2, v, a)
    const total = this.totals[this.tag[at]]
    if (total) {
      total.seconds += seconds
      if (this.burning[at]) total.burnMm += length
      else total.travelMm += length
    }
    this.entry2 = exit2
    this.first++
  }

  private rebase(): void {
    const base = this.along[this.first % this.size]
    for (let i = this.first; i < this.next; i++) this.along[i % this.size] -= base
    this.sum -= base
  }

  /** All moves known so far are run to rest. @returns the totals of every section */
  finish(): readonly MoveTotals[] {
    while (this.first < this.next) this.retire()
    return this.totals
  }
}

/** Seconds for a length between two speeds (given as squares) with a top speed and an acceleration. */
function trapezoid(length: number, entry2: number, exit2: number, top: number, a: number): number {
  const peak2 = a * length + (entry2 + exit2) / 2
  const top2 = top * top
  const entry = Math.sqrt(entry2)
  const exit = Math.sqrt(exit2)
  if (peak2 <= top2) return (2 * Math.sqrt(peak2) - entry - exit) / a
  // A move entered faster than its own top speed cannot happen: corners are held to both moves' speeds.
  const speeding = (top2 - entry2) / (2 * a)
  const slowing = (top2 - exit2) / (2 * a)
  return (top - entry) / a + (top - exit) / a + (length - speeding - slowing) / top
}
