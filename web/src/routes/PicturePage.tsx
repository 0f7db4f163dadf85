import { Box, LinearProgress } from '@mui/material'
import { type JobDocument, type LineageNode, pictureNode } from '@neotaxis/core'
import { useDeferredValue } from 'react'
import { Navigate, useParams } from 'react-router'
import { CommandSearch } from '../features/bar/CommandSearch.tsx'
import { TopBar } from '../features/bar/TopBar.tsx'
import { JobTrouble } from '../features/job/JobTrouble.tsx'
import { useOpenJob } from '../features/job/use-open-job.ts'
import { PictureBench } from '../features/picture/PictureBench.tsx'

const isPicture = (node: LineageNode | undefined): boolean => node?.kind === 'picture'

/** The prepared picture that an address means; the first one where it names none. */
const meant = (job: JobDocument, node: string): string | undefined =>
  isPicture(job.nodes[node]) ? node : Object.keys(job.nodes).find((id) => isPicture(job.nodes[id]))

/** The picture bench: from a photo to what the head will do, dot by dot. */
export default function PicturePage() {
  const { id = '', node = '' } = useParams()
  const { job, trouble, again } = useOpenJob(id, `picture/${node}`)
  const calm = useDeferredValue(job)
  if (trouble) return <JobTrouble trouble={trouble} onAgain={again} />
  if (!job || !calm) return <LinearProgress aria-label="Opening the job" />
  const shown = meant(job, node)
  if (!shown) return <Navigate to={`/jobs/${id}/compose`} replace />
  return (
    <Box
      component="main"
      sx={{
        display: 'grid',
        height: '100vh',
        gridTemplateRows: '52px minmax(0, 1fr) 92px',
        gridTemplateColumns: '300px minmax(0, 1fr)',
        gridTemplateAreas: '"bar bar" "stack stage" "stack facts"',
      }}
    >
      <Box sx={{ gridArea: 'bar' }}>
        <TopBar job={calm} id={id} />
      </Box>
      <PictureBench key={shown} job={job} node={shown} name={pictureNode(job, shown).name} />
      <CommandSearch />
    </Box>
  )
}
