import type { Bounds } from '../../geometry/bounds.ts'

/** What a run burns of the operations that it has. */
export interface RunLimits {
  /** Only what lies in this box of the main workpiece's face, mm. */
  readonly zone?: Bounds
  /** Only what comes from this moment on, s. */
  readonly fromSeconds?: number
}
