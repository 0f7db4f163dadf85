import { Arena, type Kernel, kernelMaker } from '../kernels/kernel.ts'
import { MOTION_WASM } from '../kernels/motion.wasm.ts'
import type { Machine } from '../machine/machine.ts'
import { axesInto, BLOCK_BYTES, BLOCK_MOVES, blockInto, hasAllAxes, type MoveBlock } from '../toolpath/moves.ts'
import type { Clock, MoveTotals } from './totals.ts'

/** What `kernels/src/motion` does: see there. */
interface MotionKernel {
  freeFrom(): number
  workBytes(size: number): number
  begin(
    speedX: number,
    speedY: number,
    accelX: number,
    accelY: number,
    junction: number,
    planner: number,
    size: number,
    work: number,
    sums: number,
  ): void
  beginSection(number: number): void
  beginAxes(speedZ: number, accelZ: number, speedA: number, accelA: number): void
  add(count: number, x: number, y: number, s: number, speed: number): void
  addAll(count: number, x: number, y: number, z: number, a: number, s: number, speed: number): void
  dwell(seconds: number): void
  finish(): void
  timesInto(at: number): void
  timesTold(): number
  burned(side: number): number
}

const motionKernel = kernelMaker<MotionKernel>(MOTION_WASM)
const MOST_SECTIONS = 1024

/**
 * Adds up how long moves take on a machine that looks a limited number of moves ahead.
 *
 * Each move is a trapezoid between the speeds at its two ends. The speed at a joint is the lowest of: the speeds of
 * the moves it joins; what the corner allows (junction deviation δ: on the circle that touches both moves and passes the
 * corner within δ, centripetal acceleration stays within a, so v² = a·δ·sin(θ/2)/(1 − sin(θ/2))); what was reached from
 * the joint before; and what lets the machine come to rest at the end of the last move it knows of. That last limit is, with Vⱼ² the limit at joint j and Aⱼ the sum of
 * 2·a·length up to it,   v² ≤ min over the joints ahead of (Vⱼ² + Aⱼ) − A,   a sliding-window minimum: every move
 * costs the same, however deep the machine looks.
 */
export class MotionClock implements Clock {
  private readonly kernel: Kernel<MotionKernel> = motionKernel.fresh()
  private readonly sums: number
  private readonly block: number
  private readonly memory: ArrayBufferLike
  private sections = 0
  private readonly onTimes: ((seconds: Float64Array) => void) | undefined
  private readonly times: number

  constructor(machine: Machine, onTimes?: (seconds: Float64Array) => void) {
    this.onTimes = onTimes
    const { run, room } = this.kernel
    const { axes, head, plannerDepth } = machine
    const junction = head.kind === 'gantry' ? head.junctionDeviationMm : 0
    const size = 2 ** Math.ceil(Math.log2(plannerDepth + 2))
    const arena = new Arena(run.freeFrom())
    const work = arena.take(run.workBytes(size))
    this.sums = arena.take(24 * MOST_SECTIONS)
    this.block = arena.take(BLOCK_BYTES)
    this.times = arena.take(onTimes ? 8 * (BLOCK_MOVES + plannerDepth + 2) : 8)
    this.memory = room(arena.bytes).buffer
    const { x, y, z, a } = axes
    run.begin(x.speedMmS, y.speedMmS, x.accelerationMmS2, y.accelerationMmS2, junction, plannerDepth, size, work, this.sums)
    const free = Number.POSITIVE_INFINITY
    run.beginAxes(z?.speedMmS ?? free, z?.accelerationMmS2 ?? free, a?.speedDegS ?? free, a?.accelerationDegS2 ?? free)
  }

  /** Begins a stretch: moves that follow count for it. Returns its number. */
  section(): number {
    if (this.sections === MOST_SECTIONS) throw new RangeError(`A plan has at most ${MOST_SECTIONS} stretches.`)
    this.kernel.run.beginSection(this.sections)
    return this.sections++
  }

  add(block: MoveBlock): void {
    if (block.count > BLOCK_MOVES) throw new RangeError(`A block holds at most ${BLOCK_MOVES} moves, not ${block.count}.`)
    this.telling(() => {
      const { run } = this.kernel
      const [x, y, s, speed] = blockInto(block, this.memory, this.block)
      if (hasAllAxes(block)) run.addAll(block.count, x, y, ...axesInto(block, this.memory, this.block), s, speed)
      else run.add(block.count, x, y, s, speed)
    })
  }

  /** Hands on the ends of the moves that were driven meanwhile. */
  private telling(work: () => void): void {
    if (!this.onTimes) {
      work()
      return
    }
    this.kernel.run.timesInto(this.times)
    work()
    const told = this.kernel.run.timesTold()
    if (told > 0) this.onTimes(new Float64Array(this.memory, this.times, told))
  }

  rest(seconds = 0): void {
    this.telling(() => this.kernel.run.dwell(seconds))
  }

  /** All moves known so far are run to rest. @returns the totals of every section */
  finish(): readonly MoveTotals[] {
    this.telling(() => this.kernel.run.finish())
    const sums = new Float64Array(this.memory, this.sums, 3 * this.sections)
    return Array.from({ length: this.sections }, (_, i) => ({
      seconds: sums[3 * i],
      travelMm: sums[3 * i + 1],
      burnMm: sums[3 * i + 2],
    }))
  }

  /** The box around all burning moves so far, mm: [x0, y0, x1, y1]; null where nothing is burned. */
  burned(): readonly [number, number, number, number] | null {
    const side = (which: number): number => this.kernel.run.burned(which) / 1000
    return side(0) > side(2) ? null : [side(0), side(1), side(2), side(3)]
  }
}
