import { Box, Button, Tooltip } from '@mui/material'
import { useSnackbar } from 'notistack'
import { useEffect } from 'react'
import { createPortal } from 'react-dom'
import { machineOrders } from '../../api/orders.ts'
import { useLive } from '../../api/use-live.ts'
import { Words } from '../../parts/words.tsx'
import { TYPE, WEIGHT } from '../../theme/tokens.ts'
import { useCatalogue } from '../bar/use-catalogue.ts'
import { isBusy } from './desk-words.ts'
import { useOwnStops, useStopPlace } from './stop-place.ts'

/** While any machine does something, one press on any screen stops it, in the bar where there is one; Shift Esc does too. */
export function StopAnywhere() {
  const place = useStopPlace()
  const own = useOwnStops()
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
  const shown = busy.filter(({ machine }) => !own.includes(machine))
  if (shown.length === 0) return null
  const buttons = shown.map(({ machine, run }) => {
    const name = profiles?.find(({ id }) => id === machine)?.name ?? machine
    const what = run && run.phase !== 'done' ? `: ${run.name}` : ''
    return (
      <Tooltip key={machine} title={`Stop ${name}${what}  (Shift Esc)`}>
        <Button
          variant="contained"
          onClick={() => stop(machine)}
          data-testid={`stop-${machine}`}
          sx={{ bgcolor: 'shop.hot', color: 'shop.halo', minWidth: 44, px: 1.6, '&:hover': { bgcolor: 'shop.hot' } }}
          size="large"
        >
          <Words as="span" size="name">
            Stop
          </Words>{' '}
          <Box
            component="span"
            sx={{
              ml: 0.6,
              fontWeight: WEIGHT.plain,
              fontSize: TYPE.small,
              maxWidth: 130,
              overflow: 'hidden',
              textOverflow: 'ellipsis',
            }}
          >
            {name}
            {what}
          </Box>
        </Button>
      </Tooltip>
    )
  })
  if (place) return createPortal(buttons, place)
  return <Box sx={{ position: 'fixed', right: 14, top: 8, zIndex: 1400, display: 'flex', gap: 1 }}>{buttons}</Box>
}
