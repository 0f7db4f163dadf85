import type { Patch } from '../job/patches/edit.ts'

/** stop: cannot run · ask: runs after a yes · note: worth knowing. */
export type Severity = 'stop' | 'ask' | 'note'

/** One click that mends a finding. */
export interface Fix {
  readonly label: string
  readonly patches: readonly Patch[]
}

/** Something about a job that the operator should see, at a place and on an operation. */
export interface Finding {
  /** The same for the same trouble with the same thing, whatever its size. */
  readonly id: string
  readonly kind: string
  readonly severity: Severity
  /** The workpiece on whose face it is; absent: the first. */
  readonly workpiece?: string
  /** Face mm. */
  readonly x: number
  readonly y: number
  readonly operation?: string
  /** What, where and how much. */
  readonly message: string
  readonly fixes: readonly Fix[]
  /** Marked as meant by the operator, and unchanged since. */
  readonly meant: boolean
}

/** A finding as a check reports it. */
export type Found = Omit<Finding, 'meant'>
