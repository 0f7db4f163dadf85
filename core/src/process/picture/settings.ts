import type { OperationBase } from '../../job/document/operation.ts'
import type { Sparing } from '../../lineage/spared.ts'

/** Settings by which rows of dots are burned. */
export interface RowSettings extends OperationBase, Sparing {
  /** Distance of lines and of dots in a line. */
  readonly intervalMm: number
  /** Burns rows in both directions, or all from the left. */
  readonly bothWays: boolean
  /** Power of the weakest mark; `power` is that of the strongest. 0 where grey is not burned as power. */
  readonly minPower: number
  /** What is even from mark to mark: the power, or by the material's measured curve the depth, or the tone. */
  readonly evenIn: 'power' | 'depth' | 'tone'
  /** Share of the power in each pass, 0–1; a pass without one has all of it. */
  readonly passPowers: readonly number[]
  /** How far rows begin before their first mark and end behind their last, mm; absent: as far as the machine needs to be at full speed. */
  readonly runUpMm?: number
}

export interface PictureOperation extends RowSettings {
  readonly process: 'picture'
}

declare module '../../job/document/operation.ts' {
  interface Operations {
    picture: PictureOperation
  }
}
