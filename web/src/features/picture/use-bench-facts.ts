import type { JobDocument } from '@neotaxis/core'
import { useEffect, useState } from 'react'
import { benchFacts } from '../../workers/engine.ts'
import type { BenchFacts } from '../../workers/shared.ts'
import { useEvaluation } from '../../workers/use-evaluation.ts'

/** What the bench tells of a picture, as soon as its burn is worked out; the old facts stay until then. */
export function useBenchFacts(job: JobDocument, operation: string | undefined, step: string | undefined): BenchFacts | undefined {
  const ready = useEvaluation((state) => state.forecast)
  const [facts, setFacts] = useState<BenchFacts>()
  useEffect(() => {
    if (!operation || ready !== job) return
    let left = false
    benchFacts(job, operation, step).then(
      (found) => {
        if (!left) setFacts(found)
      },
      () => {},
    )
    return () => {
      left = true
    }
  }, [job, operation, step, ready])
  return facts
}
