import type { ProcessName } from '@neotaxis/core'
import { useSnackbar } from 'notistack'
import { useDispatch } from '../../store/hooks.ts'
import { jobOnScreen } from '../../store/job-on-screen.ts'
import { selected } from '../../store/view-slice.ts'
import { useEdit } from '../use-edit.ts'
import { givenName, givenTo } from './becoming.ts'

/** Gives artwork a process more, and selects what it made; says why where that cannot be. */
export function useGive(): (nodes: readonly string[], process: ProcessName) => void {
  const edit = useEdit()
  const dispatch = useDispatch()
  const { enqueueSnackbar } = useSnackbar()
  return (nodes, process) => {
    const base = jobOnScreen()
    if (!base) return
    try {
      const { job, operation } = givenTo(base, nodes, process)
      edit(givenName(process), () => job)
      dispatch(selected({ kind: 'operation', id: operation }))
    } catch (cause) {
      enqueueSnackbar(cause instanceof Error ? cause.message : 'That cannot be.', { variant: 'error' })
    }
  }
}
