import { type JobDocument, mainPiece, type TurnedOver, withSecondSide } from '@neotaxis/core'
import { useDispatch } from '../store/hooks.ts'
import { pieceLookedAt } from '../store/view-slice.ts'
import { useEdit } from './use-edit.ts'

/** Gives the workpiece that is looked at a second side, and shows that. */
export function useSecondSide(job: JobDocument): (way: TurnedOver) => void {
  const edit = useEdit()
  const dispatch = useDispatch()
  return (way) => {
    const piece = mainPiece(job)
    if (piece.back !== undefined) return
    let side: string | undefined
    edit(`second side of “${piece.name}”`, (base) => {
      const made = withSecondSide(base, way)
      side = made.side
      return made.job
    })
    if (side !== undefined) dispatch(pieceLookedAt(side))
  }
}
