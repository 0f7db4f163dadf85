import { Tooltip } from '@mui/material'
import { expectedTime, formatDuration, type JobDocument, type PlanReport } from '@neotaxis/core'
import { useMachineTimesQuery } from '../../api/shop.ts'
import { Quiet } from '../../parts/words.tsx'

/** How long a job really takes on its machine, by what the journal says of it: a range, because no run is like another. */
export function RealTime({ job, report }: { readonly job: JobDocument; readonly report: PlanReport | undefined }) {
  const { data: learned } = useMachineTimesQuery(job.machine.id)
  if (!learned || !report || report.operations.length === 0) return null
  const { from, to } = expectedTime(
    learned,
    report.operations.map(({ kind, seconds }) => ({ process: kind, seconds })),
  )
  return (
    <Tooltip title={`Learned from ${learned.runs} runs of this machine: nine of ten take so long.`}>
      <Quiet data-testid="real-time">
        really {formatDuration(from)}–{formatDuration(to)}
      </Quiet>
    </Tooltip>
  )
}
