import type { OperationBase } from '../../job/document/operation.ts'
import type { FollowSettings } from '../follow-settings.ts'

export interface CutOperation extends OperationBase, FollowSettings {
  readonly process: 'cut'
  /** Width of the cut; half of it is kept away from what is wanted. */
  readonly kerfMm: number
  /** What is wanted: the parts within the outlines, or the sheet that they open, a stencil. */
  readonly keeps?: 'sheet'
  /** How far a closed cut goes on beyond where it began, mm; absent: not at all. */
  readonly overcutMm?: number
  /** How long the lines are, in the waste, on which a closed cut begins and ends, mm; absent: none. */
  readonly leadInMm?: number
  readonly leadOutMm?: number
}

declare module '../../job/document/operation.ts' {
  interface Operations {
    cut: CutOperation
  }
}
