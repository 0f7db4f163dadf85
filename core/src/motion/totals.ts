import type { MoveBlock } from '../toolpath/moves.ts'

/** Time and way of a stretch of moves. */
export interface MoveTotals {
  readonly seconds: number
  readonly travelMm: number
  readonly burnMm: number
}

/** Adds up how long moves take. */
export interface Clock {
  /** Begins a stretch: moves that follow count for it. Returns its number. */
  section(): number
  add(block: MoveBlock): void
  /** The machine comes to rest here, and stands. @param seconds of its own; what somebody is waited for does not count */
  rest(seconds?: number): void
  /** All moves known so far are run to rest. @returns the totals of every section */
  finish(): readonly MoveTotals[]
  /** The box around all burning moves so far, mm: [x0, y0, x1, y1]; null where nothing is burned. */
  burned(): readonly [number, number, number, number] | null
}
