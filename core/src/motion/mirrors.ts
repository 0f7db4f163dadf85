import type { Machine, Mirrors } from '../machine/machine.ts'
import type { MoveBlock } from '../toolpath/moves.ts'
import type { Clock, MoveTotals } from './totals.ts'

interface Sums {
  seconds: number
  travelMm: number
  burnMm: number
}

/**
 * Adds up how long moves take on a scan head. Mirrors have no inertia that counts: a mark takes its length by its
 * speed, a jump its length by the jump speed; then they settle. After a jump for a time that grows with its length up to
 * a limit; at the end of a mark before a jump for the mark delay; between two marks for the turn delay times
 * (1 − cos θ)/2, θ the turn. (The usual delay model of scan controllers.)
 */
export class MirrorClock implements Clock {
  private readonly machine: Machine
  private readonly head: Mirrors
  private readonly onTimes: ((seconds: Float64Array) => void) | undefined
  private readonly sums: Sums[] = []
  private times = new Float64Array(1024)
  private told = 0
  private clock = 0
  private x = 0
  private y = 0
  private z = 0
  private box: [number, number, number, number] = [Infinity, Infinity, -Infinity, -Infinity]
  /** The last move, whose end is not known before what follows it. */
  private last:
    | { readonly rapid: boolean; readonly length: number; readonly ux: number; readonly uy: number; readonly of: Sums }
    | undefined

  constructor(machine: Machine, onTimes?: (seconds: Float64Array) => void) {
    if (machine.head.kind !== 'mirrors') throw new Error(`“${machine.name}” is a scan head without the delays of its mirrors.`)
    this.machine = machine
    this.head = machine.head
    this.onTimes = onTimes
  }

  section(): number {
    return this.sums.push({ seconds: 0, travelMm: 0, burnMm: 0 }) - 1
  }

  add({ count, x, y, z, s, speed }: MoveBlock): void {
    const sums = this.sums[this.sums.length - 1]
    const { x: across, y: down, z: along } = this.machine.axes
    for (let i = 0; i < count; i++) {
      const dx = x[i] / 1000 - this.x
      const dy = y[i] / 1000 - this.y
      const dz = z ? z[i] / 1000 - this.z : 0
      if (dz !== 0) {
        // The lens is moved by a stage that has nothing to do with the mirrors: they wait for it.
        this.rest(Math.abs(dz) / (along?.speedMmS ?? Infinity))
        this.z += dz
        if (dx === 0 && dy === 0) this.ends()
      }
      const length = Math.hypot(dx, dy)
      if (length === 0) continue
      const ux = dx / length
      const uy = dy / length
      const top = Math.min(
        ux === 0 ? Infinity : across.speedMmS / Math.abs(ux),
        uy === 0 ? Infinity : down.speedMmS / Math.abs(uy),
      )
      const rapid = speed[i] === 0
      this.settle(rapid ? undefined : { ux, uy })
      const seconds = length / (rapid ? top : Math.min(top, speed[i]))
      sums.seconds += seconds
      this.clock += seconds
      if (s[i] > 0) {
        sums.burnMm += length
        this.burns(this.x, this.y)
        this.burns(x[i] / 1000, y[i] / 1000)
      } else sums.travelMm += length
      this.x = x[i] / 1000
      this.y = y[i] / 1000
      this.last = { rapid, length, ux, uy, of: sums }
    }
    this.tell()
  }

  private burns(x: number, y: number): void {
    const { box } = this
    if (x < box[0]) box[0] = x
    if (y < box[1]) box[1] = y
    if (x > box[2]) box[2] = x
    if (y > box[3]) box[3] = y
  }

  /** @param next direction of the mark that follows; nothing where a jump or the end does */
  private settle(next: { readonly ux: number; readonly uy: number } | undefined): void {
    const { last } = this
    if (!last) return
    const { jumpDelayS, markDelayS, turnDelayS } = this.head
    let seconds: number
    if (last.rapid)
      seconds = jumpDelayS.least + (jumpDelayS.most - jumpDelayS.least) * Math.min(1, last.length / jumpDelayS.fullMm)
    else if (next) seconds = (turnDelayS * (1 - (last.ux * next.ux + last.uy * next.uy))) / 2
    else seconds = markDelayS
    last.of.seconds += seconds
    this.clock += seconds
    this.last = undefined
    this.ends()
  }

  /** A move ends now. */
  private ends(): void {
    if (!this.onTimes) return
    if (this.told === this.times.length) {
      const more = new Float64Array(2 * this.told)
      more.set(this.times)
      this.times = more
    }
    this.times[this.told++] = this.clock
  }

  private tell(): void {
    if (this.told > 0) this.onTimes?.(this.times.subarray(0, this.told))
    this.told = 0
  }

  rest(seconds = 0): void {
    this.settle(undefined)
    const sums = this.sums.at(-1)
    if (sums) sums.seconds += seconds
    this.clock += seconds
    this.tell()
  }

  finish(): readonly MoveTotals[] {
    this.rest()
    return this.sums
  }

  burned(): readonly [number, number, number, number] | null {
    return this.box[0] > this.box[2] ? null : this.box
  }
}
