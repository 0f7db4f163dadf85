/** How this machine really is. It may differ from the profile that its owner wrote down. Machine mm, mm/s, mm/s². */
export interface Truth {
  readonly bed: { readonly x: number; readonly y: number }
  readonly speed: { readonly x: number; readonly y: number }
  readonly acceleration: { readonly x: number; readonly y: number }
  /** How far a corner may be cut in thought when its speed is chosen, mm. */
  readonly junctionDeviation: number
  /** Moves that are looked ahead. */
  readonly plannerDepth: number
  /** Bytes that are taken before they are read. */
  readonly receiveBytes: number
  readonly watts: number
  /** The S value of full power. */
  readonly fullS: number
  readonly spot: number
}

/** The machines that can be stood in for, by the id of their shipped profile; true to it. */
export const TRUTHS: Readonly<Record<string, Truth>> = {
  'bench-60': {
    bed: { x: 600, y: 400 },
    speed: { x: 600, y: 400 },
    acceleration: { x: 6000, y: 3000 },
    junctionDeviation: 0.01,
    plannerDepth: 128,
    receiveBytes: 1024,
    watts: 60,
    fullS: 1000,
    spot: 0.12,
  },
  'corner-20': {
    bed: { x: 300, y: 200 },
    speed: { x: 300, y: 250 },
    acceleration: { x: 3000, y: 2000 },
    junctionDeviation: 0.01,
    plannerDepth: 32,
    receiveBytes: 256,
    watts: 20,
    fullS: 1000,
    spot: 0.1,
  },
}

/** The same machine with every number off by up to `share`, always the same for the same seed: as real ones are. */
export function deviating(truth: Truth, seed: number, share: number): Truth {
  let state = (seed * 2654435761 + 1) >>> 0
  const off = (value: number): number => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0
    return value * (1 + share * (2 * (state / 2 ** 32) - 1))
  }
  return {
    ...truth,
    acceleration: { x: off(truth.acceleration.x), y: off(truth.acceleration.y) },
    junctionDeviation: off(truth.junctionDeviation),
    watts: off(truth.watts),
    spot: off(truth.spot),
  }
}
