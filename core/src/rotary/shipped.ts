import type { RotaryDevice } from '../machine/rotary-device.ts'

/** Devices that a shop begins with; its own stand in the profiles of its machines. */
export const ROTARIES: Readonly<Record<string, RotaryDevice>> = {
  rollers: {
    name: 'Roller bed',
    drive: { kind: 'roller', rollerMm: 64, stepsPerTurn: 7200 },
    axis: 'y',
    direction: 1,
    smallestMm: 15,
    largestMm: 120,
    longestMm: 400,
    speedMmS: 120,
    accelerationMmS2: 800,
  },
  chuck: {
    name: 'Chuck',
    drive: { kind: 'chuck', stepsPerTurn: 12_800, gear: 1 },
    axis: 'y',
    direction: 1,
    smallestMm: 4,
    largestMm: 150,
    longestMm: 300,
    speedMmS: 150,
    accelerationMmS2: 1500,
  },
}
