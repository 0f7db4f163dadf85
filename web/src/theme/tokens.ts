// What everything on the page is measured in: distances, sizes of type, roundness.

/** Distances between things and around them, px. */
export const SPACE = { none: 0, hair: 2, tight: 4, snug: 8, room: 12, wide: 16, open: 24 } as const
export type Space = keyof typeof SPACE

/** Sizes of type, px: read at arm's length in a workshop. */
export const TYPE = {
  tiny: 12,
  small: 12.5,
  plain: 13.5,
  body: 14.5,
  name: 16,
  title: 18,
  figure: 20,
  large: 28,
  word: 34,
  clock: 76,
} as const
export type TypeSize = keyof typeof TYPE

/** How thick type is. */
export const WEIGHT = { plain: 400, firm: 650, strong: 700, heavy: 780 } as const
export type Weight = keyof typeof WEIGHT

/** How round corners are, px. */
export const EDGE = { sharp: 2, small: 5, card: 10, sheet: 15, pill: 25 } as const
