import type { OperationBase } from '../../job/document/operation.ts'

/** Lines and edges that are marked, not cut. */
export interface ScoreOperation extends OperationBase {
  readonly process: 'score'
}

declare module '../../job/document/operation.ts' {
  interface Operations {
    score: ScoreOperation
  }
}
