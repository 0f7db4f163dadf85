import type { Bounds } from '../geometry/bounds.ts'
import { type Affine, cosSin, mapped, moving } from './affine.ts'

/**
 * How a box lies in the space around it: where its corner would be if it were not turned, mm, and how far it is turned about
 * its own middle, degrees, x towards y (clockwise on a screen). So turning never moves its middle, and moving never turns it.
 */
export interface Pose {
  readonly xMm: number
  readonly yMm: number
  /** Absent: not turned. */
  readonly deg?: number
}

export interface Size {
  readonly widthMm: number
  readonly heightMm: number
}

/** From a box's own mm, from its corner, to the space that it lies in. */
export function poseMap({ xMm, yMm, deg = 0 }: Pose, { widthMm, heightMm }: Size): Affine {
  if (deg === 0) return moving(xMm, yMm)
  const [cos, sin] = cosSin(deg)
  const [w, h] = [widthMm / 2, heightMm / 2]
  return [cos, sin, -sin, cos, xMm + w - (cos * w - sin * h), yMm + h - (sin * w + cos * h)]
}

/** Width and height of the box around a turned box. */
export function turnedSize({ widthMm, heightMm }: Size, deg: number): Size {
  if (deg === 0) return { widthMm, heightMm }
  const [cos, sin] = cosSin(deg).map(Math.abs)
  return { widthMm: widthMm * cos + heightMm * sin, heightMm: widthMm * sin + heightMm * cos }
}

/** The box around a turned box, in the space that it lies in. */
export function poseBounds(pose: Pose, size: Size): Bounds {
  const { widthMm, heightMm } = turnedSize(size, pose.deg ?? 0)
  const [x, y] = [pose.xMm + size.widthMm / 2, pose.yMm + size.heightMm / 2]
  if (!pose.deg) return { x0: pose.xMm, y0: pose.yMm, x1: pose.xMm + widthMm, y1: pose.yMm + heightMm }
  return { x0: x - widthMm / 2, y0: y - heightMm / 2, x1: x + widthMm / 2, y1: y + heightMm / 2 }
}

/** The four corners of a box where it lies: rear left, rear right, front right, front left. */
export function poseCorners(pose: Pose, size: Size): (readonly [number, number])[] {
  const map = poseMap(pose, size)
  const { widthMm: w, heightMm: h } = size
  return [mapped(map, 0, 0), mapped(map, w, 0), mapped(map, w, h), mapped(map, 0, h)]
}

/** An angle as people read it: above −180 to 180 degrees, to a thousandth; 0 for none. */
export function readDeg(deg: number): number {
  const turned = (((deg % 360) + 540) % 360) - 180
  const exact = Math.round((turned === -180 ? 180 : turned) * 1000) / 1000
  return exact === 0 ? 0 : exact
}
