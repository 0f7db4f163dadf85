import type { OperationBase } from '../../job/document/operation.ts'

/** A program from elsewhere, run as it is written: power is the share of what is written, the speed is the fastest that burns. */
export interface ProgramOperation extends OperationBase {
  readonly process: 'program'
}

declare module '../../job/document/operation.ts' {
  interface Operations {
    program: ProgramOperation
  }
}
