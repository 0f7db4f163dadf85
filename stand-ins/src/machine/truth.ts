import { Rotary, type Turned } from './rotary.ts'

/** How a scan head's mirrors wait. Seconds and mm. */
export interface Mirrors {
  /** After a jump: the least, the most, and the length from which it is the most. */
  readonly jumpDelay: { readonly least: number; readonly most: number; readonly fullMm: number }
  /** At the end of a mark that is followed by a jump or by nothing. */
  readonly markDelay: number
  /** Between two marks that turn right back; less where they turn less. */
  readonly turnDelay: number
}

/** How this machine really is. It may differ from the profile that its owner wrote down. Machine mm, mm/s, mm/s², s. */
export interface Truth {
  readonly bed: { readonly x: number; readonly y: number }
  readonly speed: { readonly x: number; readonly y: number }
  readonly acceleration: { readonly x: number; readonly y: number }
  /** How far a corner may be cut in thought when its speed is chosen, mm. */
  readonly junctionDeviation: number
  /** Moves that are looked ahead. */
  readonly plannerDepth: number
  /** Bytes that are taken before they are read. */
  readonly receiveBytes: number
  readonly watts: number
  /** The S value of full power. */
  readonly fullS: number
  readonly spot: number
  /** Something turns in a rotary in the place of y, which may go on for ever. */
  readonly turned?: Turned
  /** Given for a scan head: its mirrors have no inertia that counts, but they wait. */
  readonly mirrors?: Mirrors
  /** The lens can be moved up from its lowest place, mm; left out where it is fixed. */
  readonly focusTravel?: number
  /** Distance from the focus over which the spot grows by 1.41, mm. */
  readonly depthOfFocus: number
  /** How far the true focus lies from where it is thought to be, mm. */
  readonly focusError: number
  /** The beam follows its command this much later, s. */
  readonly latency: number
  /** Play of the drive: going back and forth the head is off by half of it either way, mm. */
  readonly backlash: number
  /** Share of full power at which the source wakes up; below it gives nothing. */
  readonly turnOn: number
  /** Some controllers are wired the wrong way round: the beam is on when it should be off. */
  readonly inverted: boolean
  /** How uneven the material is that lies in it: share by which its answer wanders. */
  readonly unevenness: number
}

const EXACT = { focusError: 0, latency: 0, backlash: 0, turnOn: 0, inverted: false, unevenness: 0 }

/** The machines that can be stood in for, by the id of their shipped profile; true to it. */
export const TRUTHS: Readonly<Record<string, Truth>> = {
  'bench-60': {
    ...EXACT,
    bed: { x: 600, y: 400 },
    speed: { x: 600, y: 400 },
    acceleration: { x: 6000, y: 3000 },
    junctionDeviation: 0.01,
    plannerDepth: 128,
    receiveBytes: 1024,
    watts: 60,
    fullS: 1000,
    spot: 0.12,
    focusTravel: 40,
    depthOfFocus: 2,
  },
  'corner-20': {
    ...EXACT,
    bed: { x: 300, y: 200 },
    speed: { x: 300, y: 250 },
    acceleration: { x: 3000, y: 2000 },
    junctionDeviation: 0.01,
    plannerDepth: 32,
    receiveBytes: 256,
    watts: 20,
    fullS: 1000,
    spot: 0.1,
    focusTravel: 25,
    depthOfFocus: 1.5,
  },
  'scan-20': {
    ...EXACT,
    bed: { x: 110, y: 110 },
    speed: { x: 4000, y: 4000 },
    acceleration: { x: 1e6, y: 1e6 },
    junctionDeviation: 0.01,
    plannerDepth: 64,
    receiveBytes: 1024,
    watts: 20,
    fullS: 1000,
    spot: 0.04,
    focusTravel: 60,
    depthOfFocus: 1.2,
    mirrors: { jumpDelay: { least: 0.0001, most: 0.0004, fullMm: 10 }, markDelay: 0.0002, turnDelay: 0.0001 },
  },
}

/** The same machine with something turning in its rotary: a diameter, mm, or all that is to be known of it. */
export function turning(truth: Truth, what: number | Turned): Truth {
  const turned = typeof what === 'number' ? { diameter: what } : what
  const around = new Rotary(turned).around
  return {
    ...truth,
    turned,
    bed: { ...truth.bed, y: around },
    speed: { ...truth.speed, y: turned.speed ?? truth.speed.y },
    acceleration: { ...truth.acceleration, y: turned.acceleration ?? truth.acceleration.y },
  }
}

/** The same machine with every number off by up to `share`, always the same for the same seed: as real ones are. */
export function deviating(truth: Truth, seed: number, share: number): Truth {
  let state = (seed * 2654435761 + 1) >>> 0
  const draw = (): number => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0
    return 2 * (state / 2 ** 32) - 1
  }
  const off = (value: number): number => value * (1 + share * draw())
  return {
    ...truth,
    acceleration: { x: off(truth.acceleration.x), y: off(truth.acceleration.y) },
    junctionDeviation: off(truth.junctionDeviation),
    watts: off(truth.watts),
    spot: off(truth.spot),
    latency: share * 0.002 * Math.abs(draw()),
    backlash: share * 0.4 * Math.abs(draw()),
    turnOn: share * 0.5 * Math.abs(draw()),
    focusError: share * 10 * draw(),
    unevenness: share,
    ...(truth.mirrors && {
      mirrors: { ...truth.mirrors, markDelay: off(truth.mirrors.markDelay), turnDelay: off(truth.mirrors.turnDelay) },
    }),
  }
}
