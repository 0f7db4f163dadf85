import type { RowSettings } from '../picture/settings.ts'

/** Grey burned as depth. */
export interface ReliefOperation extends RowSettings {
  readonly process: 'relief'
}

declare module '../../job/document/operation.ts' {
  interface Operations {
    relief: ReliefOperation
  }
}
