import {
  burnedAt,
  type DrawingNode,
  type Drawn,
  type JobDocument,
  placeOf,
  redrawn,
  sourceOf,
  type TextSpec,
} from '@neotaxis/core'
import { useSnackbar } from 'notistack'
import { useState } from 'react'
import { faceSpace } from '../../stage/layers/face.ts'
import type { Tool } from '../../stage/tool.ts'
import type { Drawing } from '../../workers/shared.ts'
import { useEdit } from '../use-edit.ts'
import { redraw } from './redraw.ts'
import { Writing } from './Writing.tsx'

/** A line is meant from this far, CSS px. */
const NEAR = 7

type Written = DrawingNode & { readonly drawn: Drawn & TextSpec }

/** A text of the job is pressed twice, and typed anew where it stands. @param drawing of the workpiece that is looked at */
export function useRetype(job: JobDocument, drawing: Drawing | undefined): Tool {
  const edit = useEdit()
  const { enqueueSnackbar } = useSnackbar()
  const [root, setRoot] = useState<string>()
  const writtenIn = (id: string | undefined): Written | undefined => {
    const node = id === undefined ? undefined : job.nodes[id]
    return node?.kind === 'drawing' && node.drawn?.kind === 'text' ? (node as Written) : undefined
  }
  const node = writtenIn(root)
  const done = async (text: string): Promise<void> => {
    setRoot(undefined)
    if (root === undefined || !node || text === node.drawn.text || text.trim() === '') return
    try {
      const made = await redraw(node.drawn, { ...node.drawn, text })
      if (made) edit(`write “${text.split('\n')[0]}”`, (base) => (base.nodes[root] ? redrawn(base, root, made.as) : base))
      for (const notice of made?.notices ?? []) enqueueSnackbar(notice)
    } catch (cause) {
      enqueueSnackbar(cause instanceof Error ? cause.message : 'It could not be written.', { variant: 'error' })
    }
  }
  return {
    name: 'retype',
    space: faceSpace(job),
    twice: ({ x, y, scale }) => {
      const hit = drawing && burnedAt(job, drawing, x, y, NEAR / scale)
      const found = hit && sourceOf(job, hit.node)
      if (!writtenIn(found)) return false
      setRoot(found)
      return true
    },
    over: (showing) => {
      if (root === undefined || !node) return null
      const place = placeOf(job, root)
      const scale = place.heightMm / node.heightMm || 1
      return (
        <Writing
          key={root}
          at={[place.xMm, place.yMm]}
          box={{ widthMm: Math.max(place.widthMm, 20), heightMm: Math.max(place.heightMm * 1.4, node.drawn.capMm * scale * 1.6) }}
          capMm={node.drawn.capMm * scale}
          align={node.drawn.align}
          text={node.drawn.text}
          showing={showing}
          onDone={(text) => void done(text)}
        />
      )
    },
  }
}
