import { Box } from '@mui/material'
import type { DeskLive } from '@neotaxis/contract'
import { isLinked } from '../live/desk-words.ts'

/** What should be known of the machine while it is connected: that it does not obey, that its line is bad, that another server has it. */
export function MachineWord({ desk }: { readonly desk: DeskLive }) {
  const trouble = isLinked(desk) ? desk.trouble : ''
  return (
    <>
      {trouble !== '' && (
        <Box
          role="alert"
          data-testid="machine-trouble"
          sx={{ border: 3, borderColor: 'shop.stop', borderRadius: 2, p: 1.4, fontSize: 17, fontWeight: 700, lineHeight: 1.3 }}
        >
          {trouble}
        </Box>
      )}
      {desk.noisy && (
        <Box role="status" data-testid="machine-noisy" sx={{ border: 2, borderColor: 'shop.ask', borderRadius: 2, p: 1.4 }}>
          <b>The machine sends what cannot be read.</b> Look at its cable and its address; nothing is believed that it claims.
        </Box>
      )}
      {desk.server !== null && (
        <Box role="status" sx={{ fontSize: 13, color: 'text.secondary' }} data-testid="machine-server">
          The server at {desk.server} has this machine: what you press here goes there.
        </Box>
      )}
    </>
  )
}
