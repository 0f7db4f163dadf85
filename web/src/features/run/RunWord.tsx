import { Box } from '@mui/material'
import type { RunLive } from '@neotaxis/contract'
import { Card } from '../../parts/Card.tsx'
import { Words } from '../../parts/words.tsx'
import { TYPE, WEIGHT } from '../../theme/tokens.ts'

/** What a run has to say now: a planned pause in letters that are read from the machine, trouble with its reason. */
export function RunWord({ run }: { readonly run: RunLive }) {
  if (run.phase === 'paused')
    return (
      <Card mark="done" gap="none" role="status" data-testid="run-instruction">
        <Words size="body" tone="quiet" bottom="tight">
          The job waits for you
        </Words>
        <Box sx={{ fontSize: TYPE.word, fontWeight: WEIGHT.heavy, letterSpacing: '-0.01em', overflowWrap: 'anywhere' }}>
          {run.instruction || 'Go on when you are ready.'}
        </Box>
      </Card>
    )
  if (run.reason === '') return null
  return (
    <Card mark="stop" role="alert" data-testid="run-reason">
      {run.reason}
    </Card>
  )
}
