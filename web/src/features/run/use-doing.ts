import { useSnackbar } from 'notistack'
import { useCallback } from 'react'

/** Does something at the server; what goes wrong is told in a sentence. @returns whether it was done */
export function useDoing(): (work: () => Promise<unknown>) => Promise<boolean> {
  const { enqueueSnackbar } = useSnackbar()
  return useCallback(
    async (work) => {
      try {
        await work()
        return true
      } catch (cause) {
        enqueueSnackbar(cause instanceof Error ? cause.message : 'It could not be done.', {
          variant: 'error',
          autoHideDuration: 9000,
        })
        return false
      }
    },
    [enqueueSnackbar],
  )
}
