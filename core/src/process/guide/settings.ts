import type { OperationBase } from '../../job/document/operation.ts'

/** Lines that lead hand and eye: they burn nothing, or a faint line where that is asked for. */
export interface GuideOperation extends OperationBase {
  readonly process: 'guide'
  /** Whether a faint line is drawn by the beam. */
  readonly drawn: boolean
}

declare module '../../job/document/operation.ts' {
  interface Operations {
    guide: GuideOperation
  }
}
