import { Box } from '@mui/material'
import type { RunLive } from '@neotaxis/contract'

/** What a run has to say now: a planned pause in letters that are read from the machine, trouble with its reason. */
export function RunWord({ run }: { readonly run: RunLive }) {
  if (run.phase === 'paused')
    return (
      <Box
        role="status"
        data-testid="run-instruction"
        sx={{ border: 3, borderColor: 'primary.main', borderRadius: 2, p: 2, lineHeight: 1.15 }}
      >
        <Box sx={{ fontSize: 14, color: 'text.secondary', mb: 0.6 }}>The job waits for you</Box>
        <Box sx={{ fontSize: 34, fontWeight: 780, letterSpacing: '-0.01em', overflowWrap: 'anywhere' }}>
          {run.instruction || 'Go on when you are ready.'}
        </Box>
      </Box>
    )
  if (run.reason === '') return null
  return (
    <Box
      role="alert"
      data-testid="run-reason"
      sx={{ border: 3, borderColor: 'shop.stop', borderRadius: 2, p: 1.4, fontSize: 17, fontWeight: 650, lineHeight: 1.3 }}
    >
      {run.reason}
    </Box>
  )
}
