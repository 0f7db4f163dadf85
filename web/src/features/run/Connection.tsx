import { Box, Button, Typography } from '@mui/material'
import type { DeskLive } from '@neotaxis/contract'
import { machineOrders } from '../../api/orders.ts'
import { isLinked } from '../live/desk-words.ts'
import { useDoing } from './use-doing.ts'

/** Whether the machine is there, and what must be done first. */
export function Connection({ desk, onCheck }: { readonly desk: DeskLive; readonly onCheck: () => void }) {
  const doing = useDoing()
  if (!isLinked(desk))
    return (
      <Box sx={{ display: 'grid', gap: 1 }}>
        <Typography variant="h2">{desk.state === 'connecting' ? 'Connecting …' : 'Not connected'}</Typography>
        {desk.trouble && <Typography>{desk.trouble}</Typography>}
        {desk.address === '' ? (
          <Typography>
            This machine has no address. Give it one on the machines' page, or save the program and carry it there.
          </Typography>
        ) : (
          <Button
            variant="contained"
            sx={{ minHeight: 48 }}
            onClick={() => void doing(() => machineOrders.connect(desk.machine))}
            data-testid="connect"
          >
            Connect
          </Button>
        )}
      </Box>
    )
  if (!desk.checked)
    return (
      <Box sx={{ border: 2, borderColor: 'shop.ask', borderRadius: 2, p: 1.4, display: 'grid', gap: 1 }}>
        <b>First connection</b>
        <span>Nobody has proved yet that this machine's beam goes off when it should.</span>
        <Button variant="contained" sx={{ minHeight: 48 }} onClick={onCheck} data-testid="first-connection">
          Check it now
        </Button>
      </Box>
    )
  if (desk.report?.state === 'alarm')
    return (
      <Box role="alert" sx={{ border: 2, borderColor: 'shop.stop', borderRadius: 2, p: 1.4 }}>
        <b>The machine does not know where its head is.</b> Home it.
      </Box>
    )
  return null
}
