import { inverse } from '../numeric/monotone.ts'
import type { RotaryDevice } from './rotary-device.ts'

/** One lens that fits the machine. */
export interface Lens {
  readonly id: string
  readonly name: string
  readonly focalLengthMm: number
  /** Diameter of the spot in focus. */
  readonly spotMm: number
  /** So far above and below the focus the spot stays narrow enough. */
  readonly depthOfFocusMm: number
}

/** A straight axis: how far it goes, and how fast. */
export interface Axis {
  readonly travelMm: number
  readonly speedMmS: number
  readonly accelerationMmS2: number
}

/** An axis that something turns on, for as long as it likes. */
export interface TurningAxis {
  readonly speedDegS: number
  readonly accelerationDegS2: number
}

/** A head that is moved over the bed. */
export interface Gantry {
  readonly kind: 'gantry'
  /** How far a corner may be cut in thought when its speed is chosen. */
  readonly junctionDeviationMm: number
}

/** Mirrors that swing the beam over a small field, and how they wait. */
export interface Mirrors {
  readonly kind: 'mirrors'
  /** After a jump: the least, the most, and the length of jump from which it is the most. */
  readonly jumpDelayS: { readonly least: number; readonly most: number; readonly fullMm: number }
  /** At the end of a mark that is followed by a jump, or by nothing. */
  readonly markDelayS: number
  /** Between two marks, for a turn right back; less where they turn less. */
  readonly turnDelayS: number
}

/** A measured point of the power curve: what comes out for a share of full power. */
export interface PowerPoint {
  readonly power: number
  readonly watts: number
}

/** Between what a source's pulses can be set. */
export interface Pulses {
  /** A second. */
  readonly hz: { readonly min: number; readonly max: number }
  /** How long each lasts, ns; absent where it is fixed. */
  readonly ns?: { readonly min: number; readonly max: number }
}

/** Something that turns in a machine now, in the place of its y: the face of it, laid flat, is the bed. */
export interface Turning {
  readonly device: RotaryDevice
  readonly diameterMm: number
  /** The axis that goes between front and rear where nothing turns. */
  readonly flatY: Axis
}

/** What a machine can do. Machine coordinates: mm, origin and axes as the controller has them. */
export interface Machine {
  readonly id: string
  readonly version: number
  readonly name: string
  /**
   * What the controller moves. x goes from left to right, y between front and rear; z is the lens, absent where it is set by
   * hand; on a something turns, where a rotary is built in.
   */
  readonly axes: { readonly x: Axis; readonly y: Axis; readonly z?: Axis; readonly a?: TurningAxis }
  readonly head: Gantry | Mirrors
  /** Where the controller's zero lies, seen by someone in front of the machine. */
  readonly zero: 'front-left' | 'rear-left'
  readonly watts: number
  /** Watts for shares of full power as measured, rising; empty where nobody measured: then it is taken as straight. */
  readonly powerCurve: readonly PowerPoint[]
  /** ISO date on which that was last measured. */
  readonly powerRead?: string
  /** Of a source that gives its light in pulses which can be set; absent where they cannot. */
  readonly pulses?: Pulses
  /** Above this share of full power the source wears out early; absent: it stands all of it. */
  readonly safePower?: number
  /** The S value that means full power. */
  readonly fullPowerS: number
  /** How many moves the controller looks ahead. */
  readonly plannerDepth: number
  /** Seconds from a command until the beam follows it by two thirds. */
  readonly riseTimeS: number
  readonly lenses: readonly Lens[]
  /** Id of the lens that is fitted. */
  readonly lens: string
  readonly hasAir: boolean
  /** Where its controller answers, as `tcp://HOST:PORT`; empty where programs are carried to it. */
  readonly address: string
  /** Bytes a second that its line takes in; absent where nobody measured: then it is taken as a network's. */
  readonly lineBytesS?: number
  /** Lines a second that its controller reads; absent where nobody measured: then it is taken as fast enough. */
  readonly linesS?: number
  /** Devices that something turns in, each plugged in when it is needed. */
  readonly rotaries?: Readonly<Record<string, RotaryDevice>>
  /** What turns in it, in a job that is made for that; absent: the bed is a bed. */
  readonly turns?: Turning
}

/** What a line of unknown speed is taken for, bytes/s. */
export const NETWORK_BYTES_S = 200_000

/** Seconds that a program of so many bytes takes to be sent. */
export const secondsToSend = ({ lineBytesS = NETWORK_BYTES_S }: Pick<Machine, 'lineBytesS'>, bytes: number): number =>
  bytes / lineBytesS

export function fittedLens(machine: Machine): Lens {
  const lens = machine.lenses.find(({ id }) => id === machine.lens) ?? machine.lenses[0]
  if (!lens) throw new Error(`“${machine.name}” has no lens.`)
  return lens
}

/** Diameter of the spot, mm. */
export const spotMm = (machine: Machine): number => fittedLens(machine).spotMm

/** The power that gives so many watts, 0–1. */
export const powerFor = (machine: Pick<Machine, 'watts' | 'powerCurve'>, watts: number): number =>
  inverse((power) => wattsAt(machine, power), watts, 0, 1)

/** Watts for a share of full power: on straight lines between the measured points, from nothing at 0 to all at 1. */
export function wattsAt(machine: Pick<Machine, 'watts' | 'powerCurve'>, power: number): number {
  const points = [
    { power: 0, watts: 0 },
    ...machine.powerCurve.filter(({ power: p }) => p > 0 && p < 1),
    { power: 1, watts: machine.watts },
  ]
  const last = machine.powerCurve.find(({ power: p }) => p === 1)
  if (last) points[points.length - 1] = last
  const next = points.findIndex((point) => point.power >= power)
  if (next <= 0) return next === 0 ? 0 : points[points.length - 1].watts
  const a = points[next - 1]
  const b = points[next]
  return a.watts + ((b.watts - a.watts) * (power - a.power)) / (b.power - a.power)
}

/** A lens that goes up and down, where nobody measured how fast. */
export const LENS_AXIS: Axis = { travelMm: 40, speedMmS: 10, accelerationMmS2: 100 }

/** Width and depth of the bed: as far as x and y go. */
export const bedSize = ({ axes: { x, y } }: Pick<Machine, 'axes'>): { readonly widthMm: number; readonly heightMm: number } => ({
  widthMm: x.travelMm,
  heightMm: y.travelMm,
})

/** The fastest that a path is followed in any direction, mm/s. */
export const pathTopSpeed = ({ axes: { x, y } }: Pick<Machine, 'axes'>): number => Math.min(x.speedMmS, y.speedMmS)
