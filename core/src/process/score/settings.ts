import type { OperationBase } from '../../job/document/operation.ts'
import type { FollowSettings } from '../follow-settings.ts'

/** Lines and edges that are marked, not cut. */
export interface ScoreOperation extends OperationBase, FollowSettings {
  readonly process: 'score'
}

declare module '../../job/document/operation.ts' {
  interface Operations {
    score: ScoreOperation
  }
}
