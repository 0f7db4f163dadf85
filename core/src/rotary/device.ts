import type { ChuckDrive, RollerDrive } from '../machine/rotary-device.ts'

const positive = (value: number, what: string): number => {
  if (!(value > 0) || !Number.isFinite(value)) throw new RangeError(`The ${what} must be more than 0.`)
  return value
}

/** Once around something, mm. @throws RangeError with a sentence */
export const circumferenceMm = (diameterMm: number): number => Math.PI * positive(diameterMm, 'diameter')

/** A diameter by a tape around it, mm. */
export const diameterByTape = (aroundMm: number): number => positive(aroundMm, 'circumference') / Math.PI

/** How far something turns for a millimetre of its surface, degrees. */
export const degreesPerMm = (diameterMm: number): number => 360 / circumferenceMm(diameterMm)

/**
 * Steps of the motor for a millimetre of the object's surface. On rollers the object's diameter does not count: its surface goes as far as
 * theirs; in a chuck it does.
 * @throws RangeError with a sentence
 */
export function stepsPerMm(drive: RollerDrive | ChuckDrive, diameterMm: number): number {
  const steps = positive(drive.stepsPerTurn, 'number of steps')
  if (drive.kind === 'roller') return steps / (Math.PI * positive(drive.rollerMm, 'diameter of the roller'))
  return (steps * positive(drive.gear, 'gear')) / circumferenceMm(diameterMm)
}

/**
 * A drive after a test turn: a mark was made, the object was turned once by what is known, another mark was made.
 * @param beyondMm how far the second mark lies beyond the first; less than 0: it did not come round
 * @throws RangeError with a sentence where that is no turn
 */
export function afterTurnTest<T extends RollerDrive | ChuckDrive>(drive: T, diameterMm: number, beyondMm: number): T {
  const around = circumferenceMm(diameterMm)
  if (!(Math.abs(beyondMm) < around / 2))
    throw new RangeError('The marks lie half a turn apart: look at the number of steps, or at the diameter, and turn again.')
  // It went farther than it should: a step goes farther than was thought.
  return { ...drive, stepsPerTurn: (drive.stepsPerTurn * around) / (around + beyondMm) }
}

/** Of rubber on what is usually turned. */
const FRICTION = 0.5
const GRAVITY_MM_S2 = 9810

/**
 * How soon the surface of something on rollers can be sped up before it slips, mm/s²: friction, over what it has against being turned
 * (a thin wall has all of its weight at the surface, solid stuff half: F = µ·m·g, I = m·r² or m·r²/2).
 */
export const slipsAtMmS2 = (isSolid: boolean, friction = FRICTION): number => (friction * GRAVITY_MM_S2) / (isSolid ? 0.5 : 1)
