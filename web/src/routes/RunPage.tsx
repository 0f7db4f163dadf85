import { Box, LinearProgress, Typography } from '@mui/material'
import { useParams } from 'react-router'
import { useDesk, useLive } from '../api/use-live.ts'
import { CommandSearch } from '../features/bar/CommandSearch.tsx'
import { TopBar } from '../features/bar/TopBar.tsx'
import { JobTrouble } from '../features/job/JobTrouble.tsx'
import { useOpenJob } from '../features/job/use-open-job.ts'
import { RunMain } from '../features/run/RunMain.tsx'

/** At the machine: list, frame, start, countdown, look before lifting. */
export default function RunPage() {
  const { id = '' } = useParams()
  const { job, trouble, again } = useOpenJob(id, 'run')
  const desk = useDesk(job?.machine.id ?? '')
  const fresh = useLive((live) => live.fresh)
  if (trouble) return <JobTrouble trouble={trouble} onAgain={again} />
  if (!job) return <LinearProgress aria-label="Opening the job" />
  return (
    <Box
      component="main"
      sx={{
        display: 'grid',
        height: '100vh',
        gridTemplateRows: '52px minmax(0, 1fr) 130px',
        gridTemplateColumns: '304px minmax(0, 1fr) 304px',
        gridTemplateAreas: '"bar bar bar" "list stage side" "strip strip strip"',
      }}
    >
      <Box sx={{ gridArea: 'bar' }}>
        <TopBar job={job} id={id} />
      </Box>
      {!fresh && (
        <Box
          role="status"
          sx={{
            position: 'fixed',
            top: 52,
            left: 0,
            right: 0,
            zIndex: 5,
            bgcolor: 'error.main',
            color: 'background.paper',
            px: 2,
            py: 0.7,
          }}
        >
          The server is not answering: what is shown of the machine is old. Its own stop works always.
        </Box>
      )}
      {desk ? (
        <RunMain key={job.machine.id} id={id} job={job} desk={desk} />
      ) : (
        <Box sx={{ gridArea: 'stage', display: 'grid', placeItems: 'center', textAlign: 'center' }}>
          <Typography variant="h2">
            {fresh
              ? `${job.machine.name} is not among the shop's machines any more. Choose another one at the top.`
              : 'Asking how the machine is …'}
          </Typography>
        </Box>
      )}
      <CommandSearch />
    </Box>
  )
}
