import type { DeskLive } from '@neotaxis/contract'
import { Card } from '../../parts/Card.tsx'
import { Quiet } from '../../parts/words.tsx'
import { isLinked } from '../live/desk-words.ts'

/** What should be known of the machine while it is connected: that it does not obey, that its line is bad, that another server has it. */
export function MachineWord({ desk }: { readonly desk: DeskLive }) {
  const trouble = isLinked(desk) ? desk.trouble : ''
  return (
    <>
      {trouble !== '' && (
        <Card mark="stop" role="alert" data-testid="machine-trouble">
          {trouble}
        </Card>
      )}
      {desk.noisy && (
        <Card mark="ask" role="status" data-testid="machine-noisy">
          <b>The machine sends what cannot be read.</b> Look at its cable and its address; nothing is believed that it claims.
        </Card>
      )}
      {desk.server !== null && (
        <Quiet role="status" data-testid="machine-server">
          The server at {desk.server} has this machine: what you press here goes there.
        </Quiet>
      )}
    </>
  )
}
