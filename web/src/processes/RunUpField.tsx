import { type JobDocument, type Operation, RANGES, runUp } from '@neotaxis/core'
import { LengthField } from '../features/field/quantities.tsx'
import { SwitchRow } from '../parts/SwitchRow.tsx'

interface Props {
  readonly job: JobDocument
  readonly operation: { readonly speedMmS: number; readonly runUpMm?: number }
  readonly set: (name: string, change: Partial<Operation>) => void
}

/** How far rows and sweeps begin before their first mark: worked out, or by hand where there is no room. */
export function RunUpField({ job, operation: { speedMmS, runUpMm }, set }: Props) {
  if (job.machine.head.kind === 'mirrors') return null
  const needed = Math.ceil(10 * runUp(job.machine, Math.min(speedMmS, job.machine.axes.x.speedMmS))) / 10
  const put = (name: string, to: number | undefined): void => set(name, { runUpMm: to } as Partial<Operation>)
  return (
    <>
      <SwitchRow
        label="Run-up by hand"
        on={runUpMm !== undefined}
        onSwitch={(on) => put(on ? 'run-up by hand' : 'run-up as needed', on ? needed : undefined)}
      />
      {runUpMm !== undefined && (
        <LengthField
          label="Run-up"
          value={runUpMm}
          range={RANGES.runUpMm}
          step={0.5}
          hint={`${needed} mm are needed to be at full speed; with less, power follows the speed.`}
          onCommit={(v) => put('run-up', v)}
        />
      )}
    </>
  )
}
