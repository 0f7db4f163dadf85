import type { JobDocument } from '@neotaxis/core'
import { useEffect, useRef, useState } from 'react'
import { store } from '../../store/store.ts'
import { benchFacts } from '../../workers/engine.ts'
import type { BenchFacts } from '../../workers/shared.ts'
import { useEvaluation } from '../../workers/use-evaluation.ts'

/** Facts are asked for this often at most while something is dragged. */
const OFTEN_MS = 300
const AGAIN_MS = 60

/**
 * What the bench tells of a picture, as soon as its burn is worked out; the old facts stay until then. While something is
 * dragged the burn comes first, and facts of a moment ago are better than none.
 */
export function useBenchFacts(job: JobDocument, operation: string | undefined, step: string | undefined): BenchFacts | undefined {
  const ready = useEvaluation((state) => state.forecast)
  const [facts, setFacts] = useState<BenchFacts>()
  const asked = useRef({ at: 0, number: 0, shown: 0 })
  useEffect(() => {
    if (!operation || ready !== job) return
    let timer: ReturnType<typeof setTimeout> | undefined
    const wanted = new AbortController()
    const ask = (): void => {
      const number = ++asked.current.number
      asked.current.at = performance.now()
      benchFacts(job, operation, step).then(
        (found) => {
          if (found && number > asked.current.shown) {
            asked.current.shown = number
            setFacts(found)
          }
          // Something more urgent went first.
          if (!found && !wanted.signal.aborted) timer = setTimeout(ask, AGAIN_MS)
        },
        () => {},
      )
    }
    const { document, base } = store.getState().job
    const wait = document === base ? 0 : asked.current.at + OFTEN_MS - performance.now()
    if (wait > 0) timer = setTimeout(ask, wait)
    else ask()
    return () => {
      wanted.abort()
      clearTimeout(timer)
    }
  }, [job, operation, step, ready])
  return facts
}
