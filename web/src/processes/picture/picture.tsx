import { operationMaterial, processOf, RANGES, type RowSettings, spotMm, topLayer } from '@neotaxis/core'
import { DoseScale } from '../../features/details/DoseScale.tsx'
import { IntervalField } from '../../features/field/quantities.tsx'
import { SwitchRow } from '../../parts/SwitchRow.tsx'
import { ASKED_BY_TONE, type ProcessFieldsProps, type ProcessPage } from '../process-page.ts'
import { PROCESS_WORDS } from '../process-words.ts'
import { RunUpField } from '../RunUpField.tsx'

/** What all processes that burn rows of dots are set by. */
export function RowFields({ job, operation, set }: ProcessFieldsProps) {
  const { intervalMm, bothWays } = operation as unknown as RowSettings
  return (
    <>
      <IntervalField
        label="Interval"
        value={intervalMm}
        range={RANGES.intervalMm}
        hint={`Distance of lines and dots, or “254 dpi”. ${Math.round(25.4 / intervalMm)} dpi; the spot is ${spotMm(job.machine)} mm.`}
        onCommit={(v) => set('interval', { intervalMm: v })}
      />
      <SwitchRow
        label="Rows there and back"
        on={bothWays}
        onSwitch={(on) => set(on ? 'rows both ways' : 'rows one way', { bothWays: on })}
      />
      <RunUpField job={job} operation={operation as unknown as RowSettings} set={set} />
    </>
  )
}

/** J/mm² against the window in which the material marks. */
export function AreaDose({ job, operation }: ProcessFieldsProps) {
  return (
    <DoseScale
      dose={processOf(operation).dose(operation, job.machine).doseJPerMm2 ?? 0}
      unit="J/mm²"
      window={topLayer(operationMaterial(job, operation)).markDose}
      below="no mark"
      within="darker"
      above="deep"
    />
  )
}

export const picture: ProcessPage = {
  ...PROCESS_WORDS.picture,
  texture: 'radial-gradient(circle, rgb(255 255 255 / 20%) 1.1px, transparent 1.3px)',
  textureSize: '7px 7px',
  ...ASKED_BY_TONE,
  Fields: RowFields,
  Dose: AreaDose,
}
