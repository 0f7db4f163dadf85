/** How many movements of the hand a whole job may take from the dropped file to the press that starts. */
export interface Movements {
  /** As few are wanted. */
  readonly most: number
  /** So many it takes at most now, where that is more. */
  readonly now?: number
}

/** The whole jobs of a laser shop: pictures, outlines, workshop. */
export const WHOLE_JOBS = {
  P1: { most: 6 },
  'P1 inverted': { most: 6 },
  P2: { most: 7 },
  P3: { most: 8 },
  P4: { most: 10 },
  P5: { most: 7 },
  P6: { most: 8 },
  O1: { most: 4 },
  O2: { most: 4 },
  O3: { most: 6 },
  O4: { most: 12 },
  O5: { most: 10 },
  O6: { most: 4 },
  O7: { most: 8 },
  O8: { most: 6 },
  W1: { most: 20 },
  W2: { most: 5 },
  W3: { most: 8 },
  W4: { most: 10 },
  W5: { most: 10 },
  W6: { most: 8 },
  'W6 field': { most: 8 },
  W7: { most: 10 },
} as const satisfies Record<string, Movements>

export type WholeJob = keyof typeof WHOLE_JOBS
