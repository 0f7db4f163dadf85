import { Button, LinearProgress } from '@mui/material'
import { useSnackbar } from 'notistack'
import { useEffect, useState } from 'react'
import { cancelWork, progressNow } from '../../workers/engine.ts'

/** What takes longer is said to be under way, ms. */
const LONG_MS = 500

/** Says what is under way, how far it is, and offers to stop it, where it takes long. */
export function useWaited(): <T>(name: string, work: Promise<T>) => Promise<T> {
  const { enqueueSnackbar, closeSnackbar } = useSnackbar()
  return async (name, work) => {
    let key: ReturnType<typeof enqueueSnackbar> | undefined
    const timer = setTimeout(() => {
      key = enqueueSnackbar(<UnderWay name={name} />, {
        persist: true,
        action: (
          <Button color="inherit" onClick={cancelWork} data-testid="stop-working">
            Leave it
          </Button>
        ),
      })
    }, LONG_MS)
    try {
      return await work
    } finally {
      clearTimeout(timer)
      if (key !== undefined) closeSnackbar(key)
    }
  }
}

function UnderWay({ name }: { readonly name: string }) {
  const [share, setShare] = useState(0)
  useEffect(() => {
    const timer = setInterval(() => setShare(progressNow()), 150)
    return () => clearInterval(timer)
  }, [])
  return (
    <span style={{ display: 'inline-grid', gap: 6, width: 220 }}>
      {name}…
      <LinearProgress
        variant={share > 0 ? 'determinate' : 'indeterminate'}
        value={100 * share}
        color="inherit"
        aria-label={name}
      />
    </span>
  )
}
