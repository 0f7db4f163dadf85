import type { Machine } from '../machine/machine.ts'
import { MirrorClock } from './mirrors.ts'
import { MotionClock } from './time.ts'
import type { Clock } from './totals.ts'

export type { Clock } from './totals.ts'

/**
 * The clock for a machine of its kind.
 * @param onTimes told when each move ends, seconds since the start, in order; read it at once, it is used again
 */
export const motionClock = (machine: Machine, onTimes?: (seconds: Float64Array) => void): Clock =>
  machine.head.kind === 'mirrors' ? new MirrorClock(machine, onTimes) : new MotionClock(machine, onTimes)
