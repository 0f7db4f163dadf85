import type { Look } from '@neotaxis/contract'
import type { JobDocument, Operation, RunChange } from '@neotaxis/core'
import type { ComponentType } from 'react'
import type { ProcessWords } from './process-words.ts'

export interface ProcessFieldsProps<S = Operation> {
  readonly job: JobDocument
  readonly id: string
  readonly operation: S
  /**
   * Changes settings of the operation. @param name of the edit, for people @param change what follows from other settings is
   * worked out from the job as it is then: what is on screen may be an edit behind
   */
  readonly set: (
    name: string,
    change: Partial<Operation> | ((operation: Operation, job: JobDocument) => Partial<Operation>),
  ) => void
}

/** What the page shows of a process: its words, its block, its fields. */
export interface ProcessPage extends ProcessWords {
  /** Said where it follows no recipe and has no speed of its own: it is run as it is written. */
  readonly asWritten?: string
  /** What its block says beside its name: how it is done, where that is a choice. */
  readonly how?: (operation: Operation) => string | undefined
  /** The pattern of its blocks: processes are told apart by texture, not by colour alone. */
  readonly texture: string
  readonly textureSize: string
  /** Asked before the piece is lifted. */
  readonly question: string
  readonly answers: readonly (readonly [Look['answer'], string])[]
  /** What a good answer is called in the journal. */
  readonly wellDone: string
  /** What to try first when something is missing. */
  readonly again: (operation: Operation) => RunChange
  /** Whether its tone can be measured. */
  readonly hasTone: boolean
  /** Its own settings. */
  readonly Fields: ComponentType<ProcessFieldsProps>
  /** How strong it is, against what the material stands. */
  readonly Dose: ComponentType<ProcessFieldsProps>
}

/** Once more, with a little of the power. */
export const alittleMore = ({ power, speedMmS }: Operation): RunChange => ({
  power: Math.max(0.01, Number((power * 0.3).toFixed(2))),
  speedMmS,
  passes: 1,
})

export const NOTHING = (): null => null

/** What is asked of whatever should come out as dark as expected. */
export const ASKED_BY_TONE = {
  question: 'as expected?',
  answers: [
    ['yes', 'as expected'],
    ['light', 'too light'],
    ['dark', 'too dark'],
  ],
  wellDone: 'as expected',
  again: alittleMore,
  hasTone: true,
} as const satisfies Partial<ProcessPage>
