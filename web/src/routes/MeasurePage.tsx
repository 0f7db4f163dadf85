import { LinearProgress } from '@mui/material'
import { useParams } from 'react-router'
import { BenchFrame } from '../features/bar/BenchFrame.tsx'
import { NothingYet } from '../features/bar/NothingYet.tsx'
import { JobTrouble } from '../features/job/JobTrouble.tsx'
import { useOpenJob } from '../features/job/use-open-job.ts'
import { MeasureBench } from '../features/measure/MeasureBench.tsx'
import { useSelector } from '../store/hooks.ts'

/** The bench of a card of trials: what came out on it, and what is learned from that. */
export default function MeasurePage() {
  const { id = '' } = useParams()
  const { job, trouble, again } = useOpenJob(id, 'measure')
  const rested = useSelector((state) => state.job.base)
  if (trouble) return <JobTrouble trouble={trouble} onAgain={again} />
  if (!job || !rested) return <LinearProgress aria-label="Opening the job" />
  return (
    <BenchFrame job={rested} id={id}>
      {job.trial ? (
        <MeasureBench job={job} />
      ) : (
        <NothingYet title="This job tries nothing">
          Select an operation of a job and try it on a card of scrap: what came out is measured here.
        </NothingYet>
      )}
    </BenchFrame>
  )
}
