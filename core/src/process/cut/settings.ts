import type { OperationBase } from '../../job/document/operation.ts'

export interface CutOperation extends OperationBase {
  readonly process: 'cut'
  /** Width of the cut; half of it is kept away from what is wanted. */
  readonly kerfMm: number
  /** What is wanted: the parts within the outlines, or the sheet that they open, a stencil. */
  readonly keeps?: 'sheet'
  /** How far a closed cut goes on beyond where it began, mm; absent: not at all. */
  readonly overcutMm?: number
}

declare module '../../job/document/operation.ts' {
  interface Operations {
    cut: CutOperation
  }
}
