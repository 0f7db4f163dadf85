import type { Ring } from '../geometry/ring.ts'
import type { DotField } from '../lineage/field.ts'
import type { Marks } from '../picture/prepare.ts'
import type { Affine } from '../space/affine.ts'
import type { MoveRecord } from '../toolpath/moves.ts'
import type { SweptSet } from './area/fill.ts'
import type { Lead } from './cut/leads.ts'

/** Rows of dots, burned at full speed with run-ups. */
export interface Rows {
  readonly form: 'rows'
  readonly field: DotField
  readonly marks: Marks
  /** Share of full power of each mark level 0–255, in a full pass. */
  readonly powers: Float64Array
  /** Share of it in each pass: as many as there are passes. */
  readonly passShares: readonly number[]
  readonly speedMmS: number
  readonly bothWays: boolean
  /** How far before and behind its marks a row begins and ends, mm; absent: as far as the machine needs to be at full speed. */
  readonly runUpMm?: number | undefined
}

/** How lines and edges are followed. */
export interface Followed {
  readonly power: number
  readonly speedMmS: number
  readonly passes: number
  /** Power that is kept where the machine slows down; absent: it follows the speed all the way down. */
  readonly leastPower?: number | undefined
  /** Share of the power in each pass; what is missing is full. */
  readonly passPowers?: readonly number[] | undefined
  /** So much deeper the lens stands in each pass, mm. */
  readonly focusStepMm?: number | undefined
  /** So long the machine stands dark between two passes, s. */
  readonly restS?: number | undefined
}

/** Paths that are followed in a good order, each as often as there are passes. */
export interface Paths extends Followed {
  readonly form: 'paths'
  /** Polygons that close, or lines from end to end; face mm. */
  readonly paths: readonly Ring[]
  readonly closed: boolean
  /** How far those that close go on beyond where they began, mm. */
  readonly overcutMm?: number
  /** How each of them begins and ends in the waste; what is missing has no lead. */
  readonly leads?: readonly (Lead | undefined)[]
}

/** Straight lines, each burned at full speed with a run-up before and behind, in this order in every pass. */
export interface Sweeps extends Followed {
  readonly form: 'sweeps'
  readonly sets: readonly SweptSet[]
  readonly bothWays: boolean
  /** As of rows. */
  readonly runUpMm?: number | undefined
}

/** Lines that are followed from end to end, in this order in every pass. */
export interface Threads extends Followed {
  readonly form: 'threads'
  /** Polylines, face mm. */
  readonly threads: readonly Ring[]
}

/** Moves that are made as they were written elsewhere. */
export interface Moves {
  readonly form: 'moves'
  readonly moves: MoveRecord
  /** From the program's own mm to the face. */
  readonly toFace: Affine
  /** Share of the power that is written. */
  readonly power: number
  readonly passes: number
}

/** What the beam does for a piece of an operation. */
export type Strokes = Rows | Paths | Sweeps | Threads | Moves
