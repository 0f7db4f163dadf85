import { burnOrder, type JobDocument } from '@neotaxis/core'
import { useEffect } from 'react'
import { useLocation, useNavigate } from 'react-router'
import { useDispatch } from '../../store/hooks.ts'
import { selected } from '../../store/view-slice.ts'

/** What was just begun is chosen, once. */
export function useFirstChosen(job: JobDocument | null | undefined): void {
  const dispatch = useDispatch()
  const navigate = useNavigate()
  const { state } = useLocation()
  const isBegun = (state as { begun?: boolean } | null)?.begun === true
  const first = job ? burnOrder(job)[0] : undefined
  useEffect(() => {
    if (!isBegun || first === undefined) return
    dispatch(selected({ kind: 'operation', id: first }))
    // Once: a reload chooses nothing.
    void navigate('.', { replace: true, state: null })
  }, [isBegun, first, dispatch, navigate])
}
