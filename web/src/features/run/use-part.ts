import type { JobDocument } from '@neotaxis/core'
import { useMemo } from 'react'
import { useAnswer } from '../../api/use-answer.ts'
import { partOf } from '../../workers/engine.ts'
import type { Measure } from '../../workers/shared.ts'

/** What is asked for when something is only typed. */
const LATER_MS = 200

/** What a run of a part of a job takes, and what speaks against it; undefined while it is not known. @param isWhole there is no part */
export function usePart(run: JobDocument, isWhole: boolean): Pick<Measure, 'report' | 'findings'> | undefined {
  const question = useMemo(
    () =>
      isWhole
        ? undefined
        : async (signal: AbortSignal) => {
            await new Promise((resolve) => setTimeout(resolve, LATER_MS))
            return signal.aborted ? undefined : partOf(run)
          },
    [run, isWhole],
  )
  const { value, isCurrent } = useAnswer(question)
  return isCurrent ? value : undefined
}
