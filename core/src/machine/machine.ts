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

/** How the mirrors of a scan head wait. */
export interface Mirrors {
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

/** What a machine can do. Machine coordinates: mm, origin and axes as the controller has them. */
export interface Machine {
  readonly id: string
  readonly version: number
  readonly name: string
  /** A head that is moved over the bed, or mirrors that swing the beam over a small field. */
  readonly kind: 'moving-head' | 'scan-head'
  readonly bed: { readonly widthMm: number; readonly heightMm: number }
  /** Where the controller's zero lies, seen by someone in front of the machine. */
  readonly zero: 'front-left' | 'rear-left'
  readonly watts: number
  /** Watts for shares of full power as measured, rising; empty where nobody measured: then it is taken as straight. */
  readonly powerCurve: readonly PowerPoint[]
  /** The S value that means full power. */
  readonly fullPowerS: number
  readonly maxSpeedMmS: { readonly x: number; readonly y: number }
  readonly accelerationMmS2: { readonly x: number; readonly y: number }
  /** How far a corner may be cut in thought when its speed is chosen. */
  readonly junctionDeviationMm: number
  /** How many moves the controller looks ahead. */
  readonly plannerDepth: number
  /** Of a scan head. */
  readonly mirrors?: Mirrors
  /** Seconds from a command until the beam follows it by two thirds. */
  readonly riseTimeS: number
  readonly lenses: readonly Lens[]
  /** Id of the lens that is fitted. */
  readonly lens: string
  /** How far the lens goes up and down by itself, mm; 0 where it is set by hand. */
  readonly focusTravelMm: number
  readonly hasAir: boolean
  /** Where its controller answers, as `tcp://HOST:PORT`; empty where programs are carried to it. */
  readonly address: string
  /** Bytes a second that its line takes in; absent where nobody measured: then it is taken as a network's. */
  readonly lineBytesS?: number
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

/** The fastest that a path is followed in any direction, mm/s. */
export const pathTopSpeed = ({ maxSpeedMmS }: Pick<Machine, 'maxSpeedMmS'>): number => Math.min(maxSpeedMmS.x, maxSpeedMmS.y)
