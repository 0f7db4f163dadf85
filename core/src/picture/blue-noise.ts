import { BLUE_NOISE } from './blue-noise-tile.ts'

/** Side of the tile, dots. */
export const TILE = 64

let ranks: Uint16Array | undefined

/** Ranks 0…4095 of the tile that ships: made by `npm run kernels` with `voidAndCluster`. */
export function blueNoiseRanks(): Uint16Array {
  if (ranks) return ranks
  const bytes = Uint8Array.from((globalThis as unknown as { atob(text: string): string }).atob(BLUE_NOISE), (c) =>
    c.charCodeAt(0),
  )
  ranks = Uint16Array.from({ length: TILE * TILE }, (_, i) => bytes[2 * i] | (bytes[2 * i + 1] << 8))
  return ranks
}
