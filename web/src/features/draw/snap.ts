import { micro } from '@neotaxis/core'

/** Places are taken to the next whole step, unless Alt is held, mm. */
const STEP = 1

/** A number of the face as it is taken by the hand, mm. */
export const snap = (v: number, { alt }: { readonly alt: boolean }): number => (alt ? micro(v) : Math.round(v / STEP) * STEP)
