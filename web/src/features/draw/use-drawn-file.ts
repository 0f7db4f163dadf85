import type { Drawn } from '@neotaxis/core'
import { useEffect, useState } from 'react'
import { drawnFile } from '../../workers/engine.ts'
import type { DrawnFile } from '../../workers/shared.ts'

/** The drawing that numbers make, or why they make none; the last one stays until the next is there. */
export function useDrawnFile(drawn: Drawn): { readonly file: DrawnFile | undefined; readonly error: string | undefined } {
  const [made, setMade] = useState<{ file?: DrawnFile; error?: string }>({})
  useEffect(() => {
    let gone = false
    drawnFile(drawn).then(
      (file) => {
        if (!gone) setMade({ file })
      },
      (cause: unknown) => {
        if (!gone) setMade({ error: cause instanceof Error ? cause.message : 'Nothing can be drawn by these numbers.' })
      },
    )
    return () => {
      gone = true
    }
  }, [drawn])
  return { file: made.file, error: made.error }
}
