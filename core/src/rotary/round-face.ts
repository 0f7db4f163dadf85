import type { Cylinder, Profiled, Surface, Tapered } from '../job/document/workpiece.ts'
import { sectorOf } from './cone.ts'
import { checkProfile, diameterAt } from './profile.ts'

/** What is turned: how thick it is, how thick at the left and the right end of its face, or at places along it, mm. */
export type Thick = number | Pick<Tapered, 'leftMm' | 'rightMm'> | Pick<Profiled, 'places'>

/** A face that turns. */
export type Round = Cylinder | Tapered | Profiled

/** What the controller counts around, and the face is as high as: the widest place of something round, mm. */
export const widestMm = (surface: Round): number => Math.max(...diametersOf(surface))

/** Its thinnest place, mm. */
export const narrowestMm = (surface: Round): number => Math.min(...diametersOf(surface))

function diametersOf(surface: Round): readonly number[] {
  if (surface.kind === 'cylinder') return [surface.diameterMm]
  return surface.kind === 'cone' ? [surface.leftMm, surface.rightMm] : surface.places.map(({ diameterMm }) => diameterMm)
}

/** Something round as it is kept with a workpiece. @throws RangeError with a sentence where it is none */
export function roundOf(thick: Thick): Round {
  if (typeof thick === 'number') return { kind: 'cylinder', diameterMm: thick }
  if ('leftMm' in thick) return { kind: 'cone', leftMm: thick.leftMm, rightMm: thick.rightMm }
  checkProfile(thick.places)
  return { kind: 'profile', places: thick.places }
}

/** Its diameter at a place along its face, mm. @param lengthMm of the face */
export function diameterOn(surface: Round, lengthMm: number, alongMm: number): number {
  if (surface.kind === 'cylinder') return surface.diameterMm
  if (surface.kind === 'profile') return diameterAt(surface.places, alongMm)
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
  const long = surface.kind === 'profile' ? (surface.places.at(-1)?.alongMm ?? 1) : 1
  return Array.from({ length: places }, (_, i) => diameterOn(surface, long, (long * i) / (places - 1)) / 2)
}

/** How long something round is along its axis, mm, where its side is so long. @throws RangeError where the side is shorter than its ends differ */
export function axisMm(surface: Round, sideMm: number): number {
  if (surface.kind !== 'cone') return sideMm
  sectorOf(coneOf(surface, sideMm))
  return Math.sqrt(sideMm ** 2 - ((surface.rightMm - surface.leftMm) / 2) ** 2)
}

/** A tapered face as the sector that it is laid flat. */
export const coneOf = ({ leftMm, rightMm }: Pick<Tapered, 'leftMm' | 'rightMm'>, slantMm: number) => ({
  smallMm: Math.min(leftMm, rightMm),
  largeMm: Math.max(leftMm, rightMm),
  slantMm,
})
