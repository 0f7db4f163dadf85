import { Box, Button } from '@mui/material'
import { useSnackbar } from 'notistack'
import { useEffect } from 'react'
import { useLocation } from 'react-router'
import { machineOrders } from '../../api/orders.ts'
import { useLive } from '../../api/use-live.ts'
import { useCatalogue } from '../bar/use-catalogue.ts'
import { isBusy } from './desk-words.ts'

/** While any machine does something, one press on any screen stops it; Shift Esc does too. */
export function StopAnywhere() {
  const { pathname } = useLocation()
  const { enqueueSnackbar } = useSnackbar()
  const machines = useLive((live) => live.machines)
  const busy = machines.filter((desk) => isBusy(desk) && desk.state !== 'jogging')
  const profiles = useCatalogue()?.machines
  const stop = (machine: string): void => {
    machineOrders
      .stop(machine)
      .catch((cause: Error) => enqueueSnackbar(`${cause.message} Use the stop at the machine.`, { variant: 'error' }))
  }
  const first = busy[0]?.machine
  // biome-ignore lint/correctness/useExhaustiveDependencies: all that are busy are stopped
  useEffect(() => {
    if (!first) return
    const key = (event: KeyboardEvent): void => {
      if (event.key === 'Escape' && event.shiftKey) for (const { machine } of busy) stop(machine)
    }
    window.addEventListener('keydown', key)
    return () => window.removeEventListener('keydown', key)
  }, [first])
  if (busy.length === 0 || /\/run$/.test(pathname)) return null
  return (
    <Box sx={{ position: 'fixed', left: 14, bottom: 150, zIndex: 1400, display: 'grid', gap: 1 }}>
      {busy.map(({ machine, run }) => (
        <Button
          key={machine}
          variant="contained"
          onClick={() => stop(machine)}
          data-testid={`stop-${machine}`}
          sx={{ bgcolor: 'shop.hot', color: 'shop.halo', minHeight: 56, px: 3, fontSize: 18, '&:hover': { bgcolor: 'shop.hot' } }}
        >
          Stop {profiles?.find(({ id }) => id === machine)?.name ?? machine}
          {run && run.phase !== 'done' ? `: ${run.name}` : ''}
        </Button>
      ))}
    </Box>
  )
}
