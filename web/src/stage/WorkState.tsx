import { Box, Button, LinearProgress, Typography } from '@mui/material'
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
        borderRadius: 2,
        px: 2,
        py: 1,
        minWidth: 260,
      }}
      role="status"
    >
      {error ? (
        <Typography color="error">{error}</Typography>
      ) : cancelled ? (
        <Box sx={{ display: 'flex', alignItems: 'center', gap: 2 }}>
          Left. What you see is from before.{' '}
          <Button size="small" onClick={resumeWork}>
            Work it out
          </Button>
        </Box>
      ) : (
        <Box sx={{ display: 'flex', alignItems: 'center', gap: 2 }}>
          Working it out
          <LinearProgress variant="determinate" value={100 * (progress ?? 0)} sx={{ flex: 1 }} aria-label="Progress" />
          {/* “Stop” is the machine's word alone. */}
          <Button size="small" onClick={stopWork}>
            Leave it
          </Button>
        </Box>
      )}
    </Box>
  )
}
