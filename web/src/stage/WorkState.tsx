import { Box, Button, LinearProgress, Typography } from '@mui/material'
import { Row } from '../parts/Row.tsx'
import { EDGE } from '../theme/tokens.ts'
import { resumeWork, stopWork, useEvaluation } from '../workers/use-evaluation.ts'

/** Work that takes longer than half a second: how far it is, and the way to stop it. */
export function WorkState() {
  const progress = useEvaluation((state) => state.progress)
  const cancelled = useEvaluation((state) => state.cancelled)
  const error = useEvaluation((state) => state.error)
  if (progress === undefined && !cancelled && !error) return null
  return (
    <Box
      sx={{
        position: 'absolute',
        left: '50%',
        top: 54,
        transform: 'translateX(-50%)',
        bgcolor: 'background.paper',
        border: 1,
        borderColor: 'divider',
        borderRadius: `${EDGE.card}px`,
        px: 2,
        py: 1,
        minWidth: 260,
      }}
      role="status"
    >
      {error ? (
        <Typography color="error">{error}</Typography>
      ) : cancelled ? (
        <Row gap="wide">
          Left. What you see is from before.{' '}
          <Button size="small" onClick={resumeWork}>
            Work it out
          </Button>
        </Row>
      ) : (
        <Row gap="wide">
          Working it out
          <LinearProgress variant="determinate" value={100 * (progress ?? 0)} sx={{ flex: 1 }} aria-label="Progress" />
          {/* “Stop” is the machine's word alone. */}
          <Button size="small" onClick={stopWork}>
            Leave it
          </Button>
        </Row>
      )}
    </Box>
  )
}
