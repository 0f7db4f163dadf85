import { Button, Typography } from '@mui/material'
import type { DeskLive } from '@neotaxis/contract'
import { machineOrders } from '../../api/orders.ts'
import { Card } from '../../parts/Card.tsx'
import { Column } from '../../parts/Column.tsx'
import { isLinked } from '../live/desk-words.ts'
import { useDoing } from './use-doing.ts'

/** Whether the machine is there, and what must be done first. */
export function Connection({ desk, onCheck }: { readonly desk: DeskLive; readonly onCheck: () => void }) {
  const doing = useDoing()
  if (!isLinked(desk))
    return (
      <Column>
        <Typography variant="h2">{desk.state === 'connecting' ? 'Connecting …' : 'Not connected'}</Typography>
        {desk.trouble && <Typography>{desk.trouble}</Typography>}
        {desk.address === '' ? (
          <Typography>
            This machine has no address. Give it one on the machines' page, or save the program and carry it there.
          </Typography>
        ) : (
          <Button
            variant="contained"
            size="large"
            onClick={() => void doing(() => machineOrders.connect(desk.machine))}
            data-testid="connect"
          >
            Connect
          </Button>
        )}
      </Column>
    )
  if (!desk.checked)
    return (
      <Card mark="ask">
        <b>First connection</b>
        <span>Nobody has proved yet that this machine's beam goes off when it should.</span>
        <Button variant="contained" size="large" onClick={onCheck} data-testid="first-connection">
          Check it now
        </Button>
      </Card>
    )
  if (desk.report?.state === 'alarm')
    return (
      <Card mark="stop" role="alert">
        <b>The machine does not know where its head is.</b> Home it.
      </Card>
    )
  return null
}
