import type { Machine } from '../machine/machine.ts'
import type { RotaryDevice } from '../machine/rotary-device.ts'
import { circumferenceMm, stepsPerMm } from './device.ts'

/** A machine without what was plugged into it. */
export function unplugged(machine: Machine): Machine {
  if (!machine.turns) return machine
  const { turns, ...flat } = machine
  return { ...flat, axes: { ...machine.axes, y: turns.flatY } }
}

/**
 * A machine with something turning in it, in the place of its y: its bed is the face of that, laid flat, as wide as it was and once around
 * high. Everything that plans for a bed plans for it.
 * @throws RangeError with a sentence where the device does not hold such a thing
 */
export function plugged(machine: Machine, device: RotaryDevice, diameterMm: number): Machine {
  const flat = unplugged(machine)
  const around = circumferenceMm(diameterMm)
  if (diameterMm < device.smallestMm || diameterMm > device.largestMm)
    throw new RangeError(`${device.name} holds from Ø ${device.smallestMm} to Ø ${device.largestMm} mm, not Ø ${diameterMm} mm.`)
  // Programs turn it by y so far: one on an axis of its own would stand still.
  if (device.axis !== 'y')
    throw new RangeError(`${device.name} turns on an axis of its own: jobs turn only what is plugged in for Y yet.`)
  const y = { travelMm: around, speedMmS: device.speedMmS, accelerationMmS2: device.accelerationMmS2 }
  return { ...flat, axes: { ...flat.axes, y }, turns: { device, diameterMm, flatY: flat.axes.y } }
}

/** What is set at the controller while it is plugged in, as a sentence. */
export function settingWords({ device, diameterMm }: NonNullable<Machine['turns']>): string {
  const steps = stepsPerMm(device.drive, diameterMm)
  return `machine off, ${device.axis === 'y' ? 'its motor in the place of Y' : 'its motor plugged in'}, machine on; ${steps.toFixed(3)} steps/mm on ${device.axis.toUpperCase()}${device.direction < 0 ? ', turning the other way' : ''}`
}
