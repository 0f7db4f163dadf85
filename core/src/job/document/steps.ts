import type { Pose } from '../../space/pose.ts'

/** One thing that happens in a job, in its order. */
export type Step =
  /** An operation; `off` where it keeps its place and is not burned. */
  (
    | { readonly kind: 'burn'; readonly operation: string; readonly off?: true }
    /** The machine waits until somebody has done what is asked. */
    | { readonly kind: 'pause'; readonly text: string }
    /** Work at the piece that is no machine's: cleaning, masking, filling. */
    | { readonly kind: 'by-hand'; readonly text: string; readonly minutes: number }
    /** Work by another tool: the piece leaves the machine. */
    | {
        readonly kind: 'elsewhere'
        readonly text: string
        readonly tool: string
        /** The outlines that it cuts. */
        readonly of?: readonly string[]
        /** How wide it cuts, mm: its path keeps half of it away from what is wanted. */
        readonly toolMm?: number
        /** What is wanted; absent: the parts within the outlines. */
        readonly keeps?: 'sheet'
      }
    /** The piece or the machine is prepared anew, until the next set-up; programs saved as files part here. */
    | {
        readonly kind: 'set-up'
        readonly name: string
        readonly fixture?: string
        /** Workpieces that lie otherwise from here on. */
        readonly poses?: Readonly<Record<string, Pose>>
      }
  ) & {
    /** Steps beside each other with the same name are one group of the line. */
    readonly group?: string
  }

/** Whether a step burns something. */
export const burns = (step: Step): step is Extract<Step, { kind: 'burn' }> => step.kind === 'burn' && !step.off

/** What is asked of whoever stands at the machine before it goes on; undefined where the beam goes on by itself. */
export function askedBy(step: Step): string | undefined {
  switch (step.kind) {
    case 'burn':
      return undefined
    case 'set-up':
      return step.name
    default:
      return step.text
  }
}

/** Whether a program that is saved as a file ends here, and the next one begins. */
export const partsPrograms = (step: Step): boolean => step.kind === 'set-up' || step.kind === 'elsewhere'
