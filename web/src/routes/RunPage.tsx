import { LinearProgress, styled, Typography } from '@mui/material'
import { useParams } from 'react-router'
import { useDesk, useLive } from '../api/use-live.ts'
import { CommandSearch } from '../features/bar/CommandSearch.tsx'
import { TopBar } from '../features/bar/TopBar.tsx'
import { JobTrouble } from '../features/job/JobTrouble.tsx'
import { useOpenJob } from '../features/job/use-open-job.ts'
import { RunMain } from '../features/run/RunMain.tsx'
import { Area, Frame } from '../parts/Frame.tsx'
import { SPACE } from '../theme/tokens.ts'

/** At the machine: list, frame, start, countdown, look before lifting. */
export default function RunPage() {
  const { id = '' } = useParams()
  const { job, trouble, again } = useOpenJob(id, 'run')
  const desk = useDesk(job?.machine.id ?? '')
  const fresh = useLive((live) => live.fresh)
  if (trouble) return <JobTrouble trouble={trouble} onAgain={again} />
  if (!job) return <LinearProgress aria-label="Opening the job" />
  return (
    <Frame
      rows="52px minmax(0, 1fr) 130px"
      columns="304px minmax(0, 1fr) 304px"
      areas={'"bar bar bar" "list stage side" "strip strip strip"'}
      narrow={{ rows: '52px minmax(260px, 52vh) auto auto 130px', areas: '"bar" "stage" "list" "side" "strip"' }}
    >
      <Area name="bar">
        <TopBar job={job} id={id} />
      </Area>
      {!fresh && (
        <OldNote role="status">
          The server is not answering: what is shown of the machine is old. Its own stop works always.
        </OldNote>
      )}
      {desk ? (
        <RunMain key={job.machine.id} id={id} job={job} desk={desk} />
      ) : (
        <Area name="stage" style={{ display: 'grid', placeItems: 'center', textAlign: 'center' }}>
          <Typography variant="h2">
            {fresh
              ? `${job.machine.name} is not among the shop's machines any more. Choose another one at the top.`
              : 'Asking how the machine is …'}
          </Typography>
        </Area>
      )}
      <CommandSearch />
    </Frame>
  )
}

/** Lies under the bar, over everything. */
const OldNote = styled('div')(({ theme: { palette } }) => ({
  position: 'fixed',
  top: 52,
  left: 0,
  right: 0,
  zIndex: 5,
  padding: `${SPACE.tight}px ${SPACE.wide}px`,
  color: palette.background.paper,
  backgroundColor: palette.error.main,
}))
