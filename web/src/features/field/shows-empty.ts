/** A choice whose first answer is none of the others: its words are shown as well, under its label. */
export const SHOWS_EMPTY = { inputLabel: { shrink: true }, select: { displayEmpty: true } } as const
