import type { OperationBase } from '../../job/document/operation.ts'
import type { Sparing } from '../../lineage/spared.ts'
import type { FollowSettings } from '../follow-settings.ts'

/** In which way an area is filled with lines. */
export type FillStrategy = 'sweep' | 'patches' | 'rings'

/** An area within outlines, filled with lines. */
export interface AreaOperation extends OperationBase, Sparing, FollowSettings {
  readonly process: 'area'
  /** Distance of its lines. */
  readonly intervalMm: number
  readonly strategy: FillStrategy
  /** How its lines are turned from the machine's own x, degrees clockwise; rings have none. */
  readonly deg: number
  /** A second set of lines across the first in every pass, degrees; absent: none. */
  readonly crossDeg?: number
  /** Lines there and back, or all one way. */
  readonly bothWays: boolean
  /** Where it begins: lines at the far or the near side of the bed, rings at the edge or in the middle. */
  readonly begins: 'far' | 'near'
  /** Pieces nearer to each other than this share their sweeps, mm: 0 each alone; absent: all of them do. */
  readonly shareMm?: number
  /** How far its lines keep inside the edge: half the line's own width makes the burn as wide as the artwork. */
  readonly insetMm: number
  /** How far sweeps begin before their lines and end behind them, mm; absent: as far as the machine needs to be at full speed. */
  readonly runUpMm?: number
}

declare module '../../job/document/operation.ts' {
  interface Operations {
    area: AreaOperation
  }
}
