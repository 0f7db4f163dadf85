import type { JobDocument } from '@neotaxis/core'
import { useCallback } from 'react'
import { useAnswer } from '../../api/use-answer.ts'
import { outlineView } from '../../workers/engine.ts'
import type { OutlineView } from '../../workers/shared.ts'

const NOTHING: OutlineView & { readonly of: JobDocument | undefined } = { paths: [], reports: {}, of: undefined }

/** The curves of an outline with their nodes, and what clean-up did; the old ones stay until the new ones are there. */
export function useOutlineView(job: JobDocument, node: string): OutlineView & { readonly of: JobDocument | undefined } {
  const question = useCallback(async () => ({ ...(await outlineView(job, node)), of: job }), [job, node])
  return useAnswer(question).value ?? NOTHING
}
