import { Box, Button, ToggleButton, ToggleButtonGroup, Typography } from '@mui/material'
import type { DeskLive, PanelWish } from '@neotaxis/contract'
import { useEffect, useState } from 'react'
import { machineOrders } from '../../api/orders.ts'
import { useDoing } from './use-doing.ts'

/** The outside of a simulated machine, which a real one has in reach of a hand: button, lid, emergency stop, and its clock. */
export function SimulatedPanel({ desk }: { readonly desk: DeskLive }) {
  const doing = useDoing()
  const [times, setTimes] = useState(1)
  const at = (request: PanelWish): void => void doing(() => machineOrders.panel(desk.machine, request))
  useEffect(() => {
    machineOrders
      .panel(desk.machine, { do: 'state' })
      .then((state) => setTimes(state.times))
      .catch(() => {})
  }, [desk.machine])
  const lid = desk.report?.lidOpen ?? false
  const emergency = desk.report?.state === 'emergency'
  const button = { minHeight: 44, flex: 1, px: 0.5 } as const
  return (
    <Box component="section" aria-label="At the simulated machine" sx={{ display: 'grid', gap: 0.8 }}>
      <Typography variant="h3">At the machine (simulated)</Typography>
      <Box sx={{ display: 'flex', gap: 0.8 }}>
        <Button size="small" variant="outlined" sx={button} onClick={() => at({ do: 'press' })} data-testid="panel-press">
          Press start
        </Button>
        <Button size="small" variant="outlined" sx={button} onClick={() => at({ do: 'lid', open: !lid })} data-testid="panel-lid">
          {lid ? 'Close lid' : 'Open lid'}
        </Button>
        <Button
          size="small"
          variant="outlined"
          color="error"
          sx={button}
          onClick={() => at({ do: 'emergency', pressed: !emergency })}
        >
          {emergency ? 'Release' : 'Emergency'}
        </Button>
      </Box>
      <ToggleButtonGroup
        exclusive
        size="small"
        value={times}
        onChange={(_, value) => {
          if (!value) return
          setTimes(value)
          at({ do: 'pace', times: value })
        }}
        aria-label="How fast its time passes"
        sx={{ '& button': { flex: 1, textTransform: 'none', minHeight: 36, color: 'text.primary' } }}
      >
        {[1, 10, 60].map((value) => (
          <ToggleButton key={value} value={value}>
            {value} × time
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
    </Box>
  )
}
