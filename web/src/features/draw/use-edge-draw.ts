import { faceEdge, flattenPath, type JobDocument, withFaceOf } from '@neotaxis/core'
import { pathsOf } from '@neotaxis/core/formats/svg/path-data'
import { useSnackbar } from 'notistack'
import { useEffect, useState } from 'react'
import type { Tool } from '../../stage/tool.ts'
import { onCommand } from '../bar/commands.ts'
import { useEdit } from '../use-edit.ts'
import { type HandPoint, handData } from './hand-line.ts'
import { usePen } from './use-pen.tsx'

/** How far chords may lie off a bend, mm. */
const CHORD_MM = 0.02

/** Draws the edge of the workpiece corner by corner where it lies: asked for by a command. */
export function useEdgeDraw(job: JobDocument): Tool | undefined {
  const edit = useEdit()
  const { enqueueSnackbar } = useSnackbar()
  const [draws, setDraws] = useState(false)
  useEffect(() => onCommand({ 'draw-edge': () => setDraws(true) }))
  const pen = usePen(job, {
    hint: 'Press for corners of the workpiece, pull for bends, or type: 40 is a side, 20 30 a place. Enter closes it',
    least: 3,
    onDone: (points: readonly HandPoint[]) => {
      try {
        const edge = faceEdge(pathsOf(handData(points, true)).map((path) => flattenPath(path, CHORD_MM)))
        if (edge.length > 1) throw new Error('This line crosses itself: the edge of a workpiece goes around it once.')
        edit('the edge of the workpiece', (base) => withFaceOf(base, edge))
        setDraws(false)
      } catch (cause) {
        enqueueSnackbar(cause instanceof Error ? cause.message : 'This can be no edge.', { variant: 'error' })
      }
    },
    onLeave: () => setDraws(false),
  })
  return draws ? pen : undefined
}
