import type { Surface, Tapered } from '../job/document/workpiece.ts'
import { sectorOf } from './cone.ts'

/** What is turned: how thick it is, or how thick at the left and the right end of its face, mm. */
export type Thick = number | Pick<Tapered, 'leftMm' | 'rightMm'>

/** What the controller counts around, and the face is as high as: the widest place of something round, mm. */
export const widestMm = (surface: Exclude<Surface, { kind: 'flat' }>): number =>
  surface.kind === 'cylinder' ? surface.diameterMm : Math.max(surface.leftMm, surface.rightMm)

/** Its diameter at a place along its face, mm. @param lengthMm of the face */
export function diameterOn(surface: Exclude<Surface, { kind: 'flat' }>, lengthMm: number, alongMm: number): number {
  if (surface.kind === 'cylinder') return surface.diameterMm
  const share = Math.max(0, Math.min(1, alongMm / lengthMm))
  return surface.leftMm + (surface.rightMm - surface.leftMm) * share
}

/**
 * Half its diameter at even distances along the axis of something round, mm, from the left of its face to the right.
 * @param count of places, from 2; what is straight needs no more
 */
export function radiiAlong(surface: Surface, count: number): readonly number[] {
  if (surface.kind === 'flat') return []
  const places = Math.max(2, count)
  return Array.from({ length: places }, (_, i) => diameterOn(surface, 1, i / (places - 1)) / 2)
}

/** How long something round is along its axis, mm, where its side is so long. @throws RangeError where the side is shorter than its ends differ */
export function axisMm(surface: Exclude<Surface, { kind: 'flat' }>, sideMm: number): number {
  if (surface.kind === 'cylinder') return sideMm
  sectorOf(coneOf(surface, sideMm))
  return Math.sqrt(sideMm ** 2 - ((surface.rightMm - surface.leftMm) / 2) ** 2)
}

/** A tapered face as the sector that it is laid flat. */
export const coneOf = ({ leftMm, rightMm }: Thick & object, slantMm: number) => ({
  smallMm: Math.min(leftMm, rightMm),
  largeMm: Math.max(leftMm, rightMm),
  slantMm,
})
