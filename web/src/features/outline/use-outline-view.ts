import type { JobDocument } from '@neotaxis/core'
import { useEffect, useState } from 'react'
import { outlineView } from '../../workers/engine.ts'
import type { OutlineView } from '../../workers/shared.ts'

/** The curves of an outline with their nodes, and what clean-up did; the old ones stay until the new ones are there. */
export function useOutlineView(job: JobDocument, node: string): OutlineView & { readonly of: JobDocument | undefined } {
  const [view, setView] = useState<OutlineView & { of: JobDocument | undefined }>({ paths: [], reports: {}, of: undefined })
  useEffect(() => {
    let left = false
    outlineView(job, node).then(
      (made) => {
        if (!left) setView({ ...made, of: job })
      },
      () => {},
    )
    return () => {
      left = true
    }
  }, [job, node])
  return view
}
