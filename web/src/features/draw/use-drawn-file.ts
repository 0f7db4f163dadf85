import type { Drawn } from '@neotaxis/core'
import { useEffect, useRef, useState } from 'react'
import { drawnFile } from '../../workers/engine.ts'
import type { DrawnFile } from '../../workers/shared.ts'
import { LatestOnly } from './latest-only.ts'

/** What takes longer is said to be under way, ms. */
const LONG_MS = 500

export interface DrawnNow {
  readonly file: DrawnFile | undefined
  readonly error: string | undefined
  /** Whether a drawing has been on its way for a while. */
  readonly isLong: boolean
}

/**
 * The drawing that numbers make, or why they make none; the last one stays until the next is there. While one is made only the
 * newest of the others waits.
 */
export function useDrawnFile(drawn: Drawn): DrawnNow {
  const [made, setMade] = useState<{ file?: DrawnFile; error?: string }>({})
  const [isLong, setLong] = useState(false)
  const queue = useRef<LatestOnly<Drawn>>(undefined)
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout> | undefined
    const own = new LatestOnly<Drawn>(async (next) => {
      timer ??= setTimeout(() => setLong(true), LONG_MS)
      const result = await drawnFile(next).then(
        (file) => ({ file }),
        (cause: unknown) => ({ error: cause instanceof Error ? cause.message : 'Nothing can be drawn by these numbers.' }),
      )
      if (queue.current !== own) return
      setMade(result)
      if (own.waits) return
      clearTimeout(timer)
      timer = undefined
      setLong(false)
    })
    queue.current = own
    return () => {
      queue.current = undefined
      clearTimeout(timer)
    }
  }, [])
  useEffect(() => queue.current?.want(drawn), [drawn])
  return { file: made.file, error: made.error, isLong }
}
