/** A place in shares of the artwork's width and height: it stays where it is on the artwork whatever its size. */
export interface Spot {
  readonly x: number
  readonly y: number
}

interface Switched {
  readonly on: boolean
}

/** Closed outlines smaller than an area, and open ones shorter than the side of a square of it, go. */
export interface SpecksStep extends Switched {
  readonly kind: 'specks'
  readonly areaMm2: number
}

/** What lies in a box goes: what is fully inside, or whatever it touches. */
export interface EraseStep extends Switched {
  readonly kind: 'erase'
  readonly x: number
  readonly y: number
  readonly width: number
  readonly height: number
  readonly touched: boolean
}

/** Open ends that are nearer to each other than a gap are joined; a line whose own ends are so near closes. */
export interface JoinStep extends Switched {
  readonly kind: 'join'
  readonly gapMm: number
}

/** Holes up to an area are filled. */
export interface FillStep extends Switched {
  readonly kind: 'fill'
  readonly areaMm2: number
}

/** What runs along something earlier, nearer than this, goes: nothing is burned twice. */
export interface DoublesStep extends Switched {
  readonly kind: 'doubles'
  readonly withinMm: number
}

/** Fewer nodes, within a distance. */
export interface SimplifyStep extends Switched {
  readonly kind: 'simplify'
  readonly toleranceMm: number
}

/** The stretch between two places of one outline (the shorter way round) is replaced, or cut away. */
export interface StretchStep extends Switched {
  readonly kind: 'stretch'
  readonly from: Spot
  readonly to: Spot
  readonly as: 'straight' | 'smooth' | 'refitted' | 'gone'
}

/** One node is changed. `at` is where it was, or where one is added. */
export interface NodeStep extends Switched {
  readonly kind: 'node'
  readonly at: Spot
  readonly change: 'move' | 'add' | 'remove' | 'corner' | 'smooth'
  readonly to?: Spot
}

/** A closed outline begins at this place. */
export interface StartStep extends Switched {
  readonly kind: 'start'
  readonly at: Spot
}

export type OutlineStep =
  | SpecksStep
  | EraseStep
  | JoinStep
  | FillStep
  | DoublesStep
  | SimplifyStep
  | StretchStep
  | NodeStep
  | StartStep

/** What a step did, for people to see. */
export interface StepReport {
  /** Outlines or lines that it took away. */
  readonly removed: number
  /** Nodes before less nodes after. */
  readonly fewerNodes: number
  /** How far the new lines lie off the old ones at most, mm; where it was measured. */
  readonly offMm?: number
  /** Why it did nothing. */
  readonly trouble?: string
}
