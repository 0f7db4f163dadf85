import { Box } from '@mui/material'
import type { Trouble } from '../../api/shop.ts'
import { tellTime } from '../field/told.ts'

/** That something is not told just now, what is shown instead, and from when it is. */
export function AwayNote({ trouble, at }: { readonly trouble: Trouble | undefined; readonly at: number | undefined }) {
  if (!trouble) return null
  const from = at && tellTime(at)
  return (
    <Box role="status" sx={{ gridColumn: '1 / -1', bgcolor: 'error.main', color: 'background.paper', px: 2, py: 1 }}>
      {trouble.away ? 'The server is not answering.' : trouble.message}
      {from ? ` What you see is from ${from}.` : ''}
      {trouble.away ? ' It comes back by itself.' : ''}
    </Box>
  )
}
