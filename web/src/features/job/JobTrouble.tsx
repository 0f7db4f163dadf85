import { Box, Button, Typography } from '@mui/material'
import { useNavigate } from 'react-router'
import { Row } from '../../parts/Row.tsx'
import type { Trouble } from './use-open-job.ts'

/** A job that cannot be opened: why, and what to do. */
export function JobTrouble({ trouble, onAgain }: { readonly trouble: Trouble; readonly onAgain: () => void }) {
  const navigate = useNavigate()
  return (
    <Box
      component="main"
      sx={{ display: 'grid', placeItems: 'center', height: '100vh', textAlign: 'center', gap: 2, alignContent: 'center' }}
    >
      <Typography variant="h1">{trouble.gone ? 'This job is not here' : 'The job cannot be opened just now'}</Typography>
      <Typography>{trouble.message}</Typography>
      <Row align="stretch" gap="wide">
        {!trouble.gone && (
          <Button variant="contained" onClick={onAgain}>
            Try again
          </Button>
        )}
        <Button variant="outlined" onClick={() => void navigate('/jobs')}>
          To the job board
        </Button>
      </Row>
    </Box>
  )
}
