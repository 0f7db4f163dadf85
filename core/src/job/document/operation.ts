/** What every operation says, whatever its process is. */
export interface OperationBase {
  /** The artwork that it burns, all of it with these settings. */
  readonly of: readonly string[]
  /** The placements that are meant; absent: all of the artwork's. */
  readonly at?: readonly string[]
  readonly recipe?: string
  /** The material that its settings were made for, where nothing is known of them on the one that it burns: its name. */
  readonly keptFrom?: string
  /** How the piece has to be prepared for it, in a word or two: “masked”; absent: as it is. */
  readonly prepared?: string
  /** Share of full power, 0–1. */
  readonly power: number
  readonly speedMmS: number
  readonly passes: number
  readonly air: boolean
  /** Pulses a second, and how long each lasts, ns, where the source's can be set; absent: as the source stands. */
  readonly pulseHz?: number
  readonly pulseNs?: number
  /** How far the lens stands over its focus while this burns, mm; below 0 under it. Of machines whose lens is driven. Absent: in focus. */
  readonly offFocusMm?: number
}

/**
 * Operations by the name of their process. Each folder of `process/` adds its own here, so that a process more is a folder more.
 */
// biome-ignore lint/suspicious/noEmptyInterface: filled by the folders of the processes
export interface Operations {}

/** Settings of one process for some artwork. */
export type Operation = Operations[keyof Operations] & OperationBase

export type ProcessName = keyof Operations
