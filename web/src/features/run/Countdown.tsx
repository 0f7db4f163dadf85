import { Box } from '@mui/material'
import type { DeskLive, RunLive } from '@neotaxis/contract'
import { formatDuration, formatLengthNumber, formatSpeed, type JobDocument, tellBurned } from '@neotaxis/core'
import { Card } from '../../parts/Card.tsx'
import { Row } from '../../parts/Row.tsx'
import { Quiet, Words } from '../../parts/words.tsx'
import { pageOf } from '../../processes/table.ts'
import { useSelector } from '../../store/hooks.ts'
import { TYPE, WEIGHT } from '../../theme/tokens.ts'
import { tellCount } from '../field/told.ts'
import { isLinked } from '../live/desk-words.ts'

/** What is left, large; how it goes against the estimate; where the head is. */
export function Countdown({ job, desk, run }: { readonly job: JobDocument; readonly desk: DeskLive; readonly run: RunLive }) {
  const { lengthUnit, speedUnit } = useSelector((state) => state.view)
  const over = ['done', 'stopped', 'refused', 'lost'].includes(run.phase)
  // What is done took so much more or less than estimated: what is left will too.
  const pace = run.doneSeconds > 20 ? Math.min(1.5, Math.max(0.7, run.seconds / run.doneSeconds)) : 1
  const left = (run.estimateSeconds - run.doneSeconds) * pace
  const off = run.doneSeconds > 5 ? (run.seconds / run.doneSeconds - 1) * 100 : 0
  const { report } = desk
  const rows: [string, string][] = report
    ? [
        ['head', `X ${formatLengthNumber(report.x, lengthUnit, 1)}  Y ${formatLengthNumber(report.y, lengthUnit, 1)}`],
        ['beam', report.beam > 0 ? `${report.beam} %` : 'off'],
        ['speed', formatSpeed(report.speedMmS, speedUnit)],
        ['air', report.air ? 'on' : 'off'],
        ['lid', report.lidOpen ? 'open' : 'closed'],
        [
          'link',
          isLinked(desk) ? (desk.silent ? 'no answer' : desk.noisy ? 'sends nonsense' : 'steady') : 'lost, looking for it',
        ],
      ]
    : []
  const line = run.place ? run.place.driven : 0
  return (
    <Box component="section" aria-label="How far it is" sx={{ display: 'grid', gap: 1, textAlign: 'right' }}>
      <Words size="name" tone="quiet">
        {over ? 'took' : 'left'}
      </Words>
      <Box
        data-testid="countdown"
        data-phase={run.phase}
        sx={{ fontSize: TYPE.clock, fontWeight: WEIGHT.heavy, lineHeight: 0.95, letterSpacing: '-0.03em', color: 'text.primary' }}
      >
        {formatDuration(over ? run.seconds : left)}
      </Box>
      <Words tone="quiet">
        estimate {formatDuration(run.estimateSeconds)}
        {run.doneSeconds > 5
          ? `, ${Math.abs(off) < 0.05 ? 'on time' : `${Math.abs(off).toFixed(1)} % ${off > 0 ? 'slower' : 'quicker'}`}`
          : ''}
      </Words>
      <Card gap="hair">
        {rows.map(([name, value]) => (
          <Row key={name} align="stretch" gap="none" pack="space-between">
            <span>{name}</span>
            <b>{value}</b>
          </Row>
        ))}
      </Card>
      <Quiet>
        line {tellCount(line)} of {tellCount(run.lines)}
        {run.operation && job.operations[run.operation]
          ? ` · ${pageOf(job.operations[run.operation]).name.toLowerCase()} of “${tellBurned(job, job.operations[run.operation])}”`
          : ''}
      </Quiet>
    </Box>
  )
}
