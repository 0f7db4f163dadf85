import type { Track } from '@neotaxis/core'

/** So many of them are shown behind the head, and before it. */
const BEHIND = 6
const BEFORE = 3
/** Moves that are looked through for them, to either side. */
const LOOKED_AT = 4000

interface TravelMove {
  readonly move: number
  /** 1 beside the head, towards 0 farther away. */
  readonly near: number
}

/** The moves without a beam that lie around a move of the run. @param at the move that the head is in */
export function travelNear({ s, count }: Pick<Track, 's' | 'count'>, at: number): TravelMove[] {
  const found: TravelMove[] = []
  for (let i = Math.min(at, count - 1), n = 0; i >= 0 && n < BEHIND && at - i < LOOKED_AT; i--)
    if (s[i] === 0) found.push({ move: i, near: 1 - n++ / BEHIND })
  for (let i = at + 1, n = 0; i < count && n < BEFORE && i - at < LOOKED_AT; i++)
    if (s[i] === 0) found.push({ move: i, near: 1 - (n++ + 1) / (BEFORE + 1) })
  return found
}
