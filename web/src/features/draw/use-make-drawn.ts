import type { Drawn, JobDocument } from '@neotaxis/core'
import { useSnackbar } from 'notistack'
import { useDispatch } from '../../store/hooks.ts'
import { severalSelected } from '../../store/view-slice.ts'
import { newId } from '../new-id.ts'
import { useEdit } from '../use-edit.ts'
import { type DrawnAt, drawnInto } from './drawn-into.ts'

/** Makes something drawn a part of the job, and selects it: its numbers are then beside the stage. */
export function useMakeDrawn(job: JobDocument): (drawn: Drawn, at: DrawnAt) => Promise<void> {
  const edit = useEdit()
  const dispatch = useDispatch()
  const { enqueueSnackbar } = useSnackbar()
  return async (drawn, at) => {
    try {
      const change = await drawnInto(job, drawn, at, newId().slice(0, 8))
      let root: string | undefined
      edit(drawn.kind === 'text' ? 'write a text' : 'draw a shape', (base) => {
        const made = change(base)
        root = made.root
        return made.job
      })
      if (root !== undefined) dispatch(severalSelected([root]))
    } catch (cause) {
      enqueueSnackbar(cause instanceof Error ? cause.message : 'It could not be drawn.', { variant: 'error' })
    }
  }
}
