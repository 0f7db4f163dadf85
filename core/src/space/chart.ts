import { type Affine, composed, inverseOf, mapped, moving, SAME } from './affine.ts'
import { type Pose, poseMap, type Size } from './pose.ts'

/** What of a machine decides how its bed is counted. */
export interface BedFrame {
  /** y goes between front and rear. */
  readonly axes: { readonly y: { readonly travelMm: number } }
  /** Where the controller's zero lies, seen by someone in front of the machine. */
  readonly zero: 'front-left' | 'rear-left'
}

/** From the bed (mm, x right, y down from the rear left corner) to the controller's axes, mm: here alone a y is turned over. */
export const bedToAxes = ({ axes, zero }: BedFrame): Affine => (zero === 'front-left' ? [1, 0, 0, -1, 0, axes.y.travelMm] : SAME)

/**
 * From the face of a workpiece to the axes of the machine that it lies in, and back. The face is flat: one affine map.
 * The **sweep** is the face turned as it lies, so that its rows run along the machine's own x: pictures are burned in it.
 */
export interface Chart {
  /** Surface mm → axes mm. */
  readonly toAxes: Affine
  /** Axes mm → surface mm. */
  readonly fromAxes: Affine
  /** Surface mm → sweep mm; the same where the workpiece is not turned. */
  readonly toSweep: Affine
  /** Sweep mm → surface mm. */
  readonly fromSweep: Affine
  /** How the workpiece is turned on the bed, degrees. */
  readonly deg: number
  /** Along a row. @param x sweep mm @returns axis, µm */
  sweepX(x: number): number
  /** From row to row. @param y sweep mm @returns axis, µm */
  sweepY(y: number): number
  /** The way back: axes µm → sweep mm. */
  fromX(x: number): number
  fromY(y: number): number
}

/** The chart of a flat face. @param size of the box around it */
export function flatChart(machine: BedFrame, pose: Pose, size: Size): Chart {
  const { xMm, yMm, deg = 0 } = pose
  const axes = bedToAxes(machine)
  const toAxes = composed(poseMap(pose, size), axes)
  const toSweep = poseMap({ xMm: 0, yMm: 0, deg }, size)
  const [, , , sign, , f] = composed(moving(xMm, yMm), axes)
  return {
    toAxes,
    fromAxes: inverseOf(toAxes),
    toSweep,
    fromSweep: deg === 0 ? SAME : inverseOf(toSweep),
    deg,
    sweepX: (x) => Math.round((xMm + x) * 1000),
    sweepY: (y) => Math.round((f + sign * y) * 1000),
    fromX: (x) => x / 1000 - xMm,
    fromY: (y) => (sign < 0 ? f - y / 1000 : y / 1000 - f),
  }
}

/** Surface points as the controller counts them, µm, whole numbers. @param points x, y pairs, mm */
export function pointsToAxes({ toAxes }: Chart, points: Float64Array): Float64Array {
  const out = new Float64Array(points.length)
  const [a, b, c, d, e, f] = toAxes
  for (let i = 0; i < points.length; i += 2) {
    const x = points[i]
    const y = points[i + 1]
    out[i] = Math.round((e + a * x + c * y) * 1000)
    out[i + 1] = Math.round((f + d * y + b * x) * 1000)
  }
  return out
}

/** A place of the axes on the surface. @param x,y axes, µm @returns surface mm */
export const axesToPoint = ({ fromAxes }: Chart, x: number, y: number): readonly [number, number] =>
  mapped(fromAxes, x / 1000, y / 1000)
