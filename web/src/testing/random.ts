/** Numbers from a seed, the same every time (mulberry32). */
export function randomFrom(seed: number): {
  /** 0 ≤ x < 1 */
  next(): number
  below(count: number): number
  pick<T>(list: readonly T[]): T
  chance(share: number): boolean
} {
  let state = seed >>> 0
  const next = (): number => {
    state = (state + 0x6d2b79f5) >>> 0
    let t = Math.imul(state ^ (state >>> 15), 1 | state)
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296
  }
  const below = (count: number): number => Math.floor(next() * count)
  return { next, below, pick: (list) => list[below(list.length)], chance: (share) => next() < share }
}
