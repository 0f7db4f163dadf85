import type { Surface } from '../job/document/workpiece.ts'

/**
 * Half its diameter at even distances along the axis of something round, mm, from the left of its face to the right.
 * @param count of places, from 2; a cylinder needs no more
 */
export function radiiAlong(surface: Surface, count: number): readonly number[] {
  if (surface.kind === 'flat') return []
  return Array.from({ length: Math.max(2, Math.min(count, 2)) }, () => surface.diameterMm / 2)
}
