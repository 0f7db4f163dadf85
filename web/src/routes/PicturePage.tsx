import { LinearProgress } from '@mui/material'
import { given, type JobDocument, type LineageNode, pictureNode, traceable } from '@neotaxis/core'
import { useDeferredValue, useLayoutEffect } from 'react'
import { useParams } from 'react-router'
import { BenchFrame } from '../features/bar/BenchFrame.tsx'
import { EmptyBench } from '../features/bar/EmptyBench.tsx'
import { JobTrouble } from '../features/job/JobTrouble.tsx'
import { useOpenJob } from '../features/job/use-open-job.ts'
import { PictureBench } from '../features/picture/PictureBench.tsx'
import { useSelector } from '../store/hooks.ts'
import { uprightJob } from '../workers/upright-job.ts'
import { workUpright } from '../workers/use-evaluation.ts'

const isPicture = (node: LineageNode | undefined): boolean => node?.kind === 'picture'

/** The prepared picture that an address means; the first one where it names none. */
const meant = (job: JobDocument, node: string): string | undefined =>
  isPicture(job.nodes[node]) ? node : Object.keys(job.nodes).find((id) => isPicture(job.nodes[id]))

/** The picture bench: from a photo to what the head will do, dot by dot. */
export default function PicturePage() {
  const { id = '', node = '' } = useParams()
  const { job, trouble, again } = useOpenJob(id, `picture/${node}`)
  const rested = useDeferredValue(useSelector((state) => state.job.base))
  // Turned artwork is prepared as it stands upright.
  useLayoutEffect(() => {
    workUpright(true)
    return () => workUpright(false)
  }, [])
  if (trouble) return <JobTrouble trouble={trouble} onAgain={again} />
  if (!job || !rested) return <LinearProgress aria-label="Opening the job" />
  const shown = meant(job, node)
  if (!shown)
    return (
      <BenchFrame job={rested} id={id} facts="92px">
        <EmptyBench
          job={rested}
          title="No picture is engraved in this job yet"
          words="What is to be burned as dots or in greys is treated here."
          from={traceable(rested).map((root) => ({
            name: rested.nodes[root].name,
            ways: [{ label: 'Engrave it', testId: 'engrave-it', make: (base) => given(base, [root], 'picture').job }],
          }))}
        />
      </BenchFrame>
    )
  return (
    <BenchFrame job={rested} id={id} facts="92px">
      <PictureBench key={shown} job={uprightJob(job)} node={shown} name={pictureNode(job, shown).name} />
    </BenchFrame>
  )
}
