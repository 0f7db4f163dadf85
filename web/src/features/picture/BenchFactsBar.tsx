import { Tooltip } from '@mui/material'
import {
  areaDose,
  formatDuration,
  type JobDocument,
  materialOf,
  NETWORK_BYTES_S,
  type RowSettings,
  secondsToSend,
  topLayer,
  wattsAt,
} from '@neotaxis/core'
import { type ComponentProps, memo } from 'react'
import { Figure } from '../../parts/Fact.tsx'
import { Strip } from '../../parts/Strip.tsx'
import type { BenchFacts } from '../../workers/shared.ts'
import { useEvaluation } from '../../workers/use-evaluation.ts'
import { tellCount } from '../field/told.ts'

interface Props {
  readonly job: JobDocument
  readonly operationId: string
  readonly operation: RowSettings
  readonly facts: BenchFacts | undefined
}

const size = (bytes: number): string => (bytes > 1e6 ? `${(bytes / 1e6).toFixed(1)} MB` : `${Math.round(bytes / 1e3)} kB`)

/** What the treatment comes to: burned area, haze, dose, time, depth, the program's size. */
export const BenchFactsBar = memo(function BenchFactsBar({ job, operationId, operation, facts }: Props) {
  const seconds = useEvaluation(({ measure }) => measure?.report.operations.find(({ id }) => id === operationId)?.seconds)
  const dose = areaDose(wattsAt(job.machine, operation.power), operation.speedMmS, operation.intervalMm) * operation.passes
  const { from, to } = topLayer(materialOf(job)).markDose
  const node = job.nodes[operation.of[0]]
  const grey = node.kind === 'picture' && node.dots.kernel === 'none'
  const area = facts ? facts.columns * facts.rows * operation.intervalMm ** 2 : 0
  const secondBytes = job.machine.lineBytesS ?? NETWORK_BYTES_S
  const sending = facts && secondsToSend(job.machine, facts.program.bytes)
  const slow = sending !== undefined && seconds !== undefined && sending > seconds
  const share = (v: number): string => `${(100 * v).toFixed(1)} %`
  return (
    <Strip along="bottom" gap="open" as="section" aria-label="What it comes to" style={{ overflow: 'hidden' }}>
      <Figure
        name="burned"
        value={facts ? share(facts.coverage) : '…'}
        more={facts ? `of ${(area / 100).toFixed(area < 1000 ? 1 : 0)} cm²` : ''}
        testId="fact-burned"
      />
      {!grey && (
        <Told
          name="haze"
          value={facts ? share(facts.haze) : '…'}
          more={facts && facts.haze > 0.002 ? 'hardly burns: clean it' : 'nearly unburned'}
          hint="Area whose mark is under 4 %: lone dots in what should stay clear. The step “Clean” takes it away."
          testId="fact-haze"
        />
      )}
      <Figure name="dose" value={`${dose.toFixed(2)} J/mm²`} more={`marks ${from} to ${to}`} testId="fact-dose" />
      <Figure
        name="time"
        value={seconds === undefined ? '…' : formatDuration(seconds)}
        more={`${operation.speedMmS} mm/s, ${operation.passes} ${operation.passes === 1 ? 'pass' : 'passes'}`}
        testId="fact-time"
      />
      {facts?.depthMm != null && operation.evenIn !== 'power' ? (
        <Figure name="depth" value={`${facts.depthMm.toFixed(2)} mm`} more="deepest, as measured" testId="fact-depth" />
      ) : null}
      <Figure
        name="dots"
        value={facts ? `${facts.columns} × ${facts.rows}` : '…'}
        more={`${operation.intervalMm} mm apart`}
        testId="fact-dots"
      />
      <Told
        name="program"
        value={facts ? size(facts.program.bytes) : '…'}
        more={sending === undefined ? '' : `${formatDuration(sending)} to send${slow ? ': burns faster' : ''}`}
        hint={`${facts ? tellCount(facts.program.lines) : '…'} lines; ${
          job.machine.lineBytesS ? 'the line' : 'a network line'
        } takes ${Math.round(secondBytes / 100) / 10} kB/s. ${slow ? 'It would wait for lines: slower, or wider apart, burns evenly.' : ''}`}
        testId="fact-program"
      />
    </Strip>
  )
})

function Told({ hint, ...told }: ComponentProps<typeof Figure> & { readonly hint: string }) {
  return (
    <Tooltip title={hint}>
      <div>
        <Figure {...told} />
      </div>
    </Tooltip>
  )
}
