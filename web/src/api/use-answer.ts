import { useEffect, useState } from 'react'

/** What somebody works out for this page. */
export interface Found<T> {
  /** What was found last; of an earlier question until this one is answered. */
  readonly value: T | undefined
  /** Whether it is the answer to this question. */
  readonly isCurrent: boolean
  /** The sentence where nothing was found. */
  readonly error: string | undefined
}

/**
 * The answer to the newest question, in whatever order answers come.
 * @param question asks, and may stop when the signal says that nobody waits any more; the same function until the question is another.
 *   Undefined: there is nothing to ask. What it gives as undefined changes nothing.
 */
export function useAnswer<T>(question: ((signal: AbortSignal) => Promise<T | undefined>) | undefined): Found<T> {
  const [found, setFound] = useState<{ readonly of: unknown; readonly value?: T; readonly error?: string }>({ of: undefined })
  useEffect(() => {
    if (!question) return
    const asked = new AbortController()
    question(asked.signal).then(
      (value) => {
        if (!asked.signal.aborted && value !== undefined) setFound({ of: question, value })
      },
      (cause: unknown) => {
        if (asked.signal.aborted) return
        const error = cause instanceof Error ? cause.message : 'It cannot be worked out.'
        setFound(({ value }) => ({ of: question, error, ...(value !== undefined && { value }) }))
      },
    )
    return () => asked.abort()
  }, [question])
  const isCurrent = question !== undefined && found.of === question
  return { value: found.value, isCurrent, error: isCurrent ? found.error : undefined }
}
