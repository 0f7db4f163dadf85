import { LinearProgress } from '@mui/material'
import { cleanerOf, isOutline, type JobDocument, type TracedAs, traceable, tracedFrom } from '@neotaxis/core'
import { useDeferredValue, useLayoutEffect } from 'react'
import { useParams } from 'react-router'
import { BenchFrame } from '../features/bar/BenchFrame.tsx'
import { EmptyBench } from '../features/bar/EmptyBench.tsx'
import { JobTrouble } from '../features/job/JobTrouble.tsx'
import { useOpenJob } from '../features/job/use-open-job.ts'
import { thereOrBefore } from '../features/outline/made-from.ts'
import { OutlineBench } from '../features/outline/OutlineBench.tsx'
import { useSelector } from '../store/hooks.ts'
import { uprightJob } from '../workers/upright-job.ts'
import { workUpright } from '../workers/use-evaluation.ts'

/** The outline that an address means, cleaned up where it is; the first one where it names none. */
function meant(job: JobDocument, node: string): string | undefined {
  const there = thereOrBefore(node, (id) => isOutline(job.nodes[id]))
  const found = isOutline(job.nodes[there]) ? there : Object.keys(job.nodes).find((id) => isOutline(job.nodes[id]))
  return found && (cleanerOf(job, found) ?? found)
}

const WAYS: readonly (readonly [as: TracedAs, label: string])[] = [
  ['edge', 'Cut its edge'],
  ['strokes', 'Score its strokes'],
  ['shapes', 'Fill its shapes'],
]

/** The outline bench: traced, cleaned and combined outlines over what they come from. */
export default function OutlinePage() {
  const { id = '', node = '' } = useParams()
  const { job, trouble, again } = useOpenJob(id, `outline/${node}`)
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
      <BenchFrame job={rested} id={id} facts="auto">
        <EmptyBench
          job={rested}
          title="No outline in this job yet"
          words="A picture becomes one by a press; drawings bring theirs along."
          from={traceable(rested).map((root) => ({
            name: rested.nodes[root].name,
            ways: WAYS.map(([as, label]) => ({
              label,
              testId: `trace-as-${as}`,
              make: (base) => tracedFrom(base, root, as).job,
            })),
          }))}
        />
      </BenchFrame>
    )
  return (
    <BenchFrame job={rested} id={id} facts="auto">
      <OutlineBench job={uprightJob(job)} node={shown} />
    </BenchFrame>
  )
}
