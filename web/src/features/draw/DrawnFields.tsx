import type { Drawn, JobDocument } from '@neotaxis/core'
import { SwitchRow } from '../../parts/SwitchRow.tsx'
import { WORDS } from '../field/measures.ts'
import { CountField, LengthField, PercentField } from '../field/quantities.tsx'
import { TypedField } from '../field/TypedField.tsx'
import { RepeatFields } from './RepeatFields.tsx'
import { TextFields } from './TextFields.tsx'

const LENGTH = { min: 0.1, max: 10_000 }
const ANGLE = { min: -360, max: 360 }

interface Props {
  readonly drawn: Drawn
  /** The job whose outlines a text can stand on. */
  readonly job: JobDocument | undefined
  readonly onChange: (drawn: Drawn) => void
}

/** The numbers of what is drawn or written. */
export function DrawnFields({ drawn, job, onChange }: Props) {
  const set = (values: object): void => onChange({ ...drawn, ...values } as Drawn)
  const length = (label: string, key: string, value: number, min = LENGTH.min) => (
    <LengthField label={label} value={value} range={{ ...LENGTH, min }} digits={2} onCommit={(v) => set({ [key]: v })} />
  )
  const angle = (label: string, key: string, value: number, min = ANGLE.min) => (
    <CountField label={label} unit="°" value={value} range={{ ...ANGLE, min }} onCommit={(v) => set({ [key]: v })} />
  )
  return (
    <>
      {drawn.kind === 'text' && <TextFields text={drawn} job={job} onChange={onChange} />}
      {(drawn.kind === 'rectangle' || drawn.kind === 'ellipse') && (
        <>
          {length('Shape width', 'widthMm', drawn.widthMm)}
          {length('Shape height', 'heightMm', drawn.heightMm)}
        </>
      )}
      {drawn.kind === 'rectangle' && length('Corner radius', 'radiusMm', drawn.radiusMm, 0)}
      {drawn.kind === 'polygon' && (
        <CountField label="Sides" value={drawn.sides} range={{ min: 3, max: 200 }} onCommit={(sides) => set({ sides })} />
      )}
      {drawn.kind === 'star' && (
        <>
          <CountField label="Points" value={drawn.points} range={{ min: 2, max: 200 }} onCommit={(points) => set({ points })} />
          <PercentField
            label="Inner corners at"
            value={drawn.innerShare}
            range={{ min: 0.05, max: 1 }}
            onCommit={(innerShare) => set({ innerShare })}
          />
        </>
      )}
      {(drawn.kind === 'polygon' || drawn.kind === 'star') && length('Across its corners', 'diameterMm', drawn.diameterMm)}
      {drawn.kind === 'line' && (
        <>
          {length('Length', 'lengthMm', drawn.lengthMm)}
          {angle('Angle', 'angleDeg', drawn.angleDeg)}
        </>
      )}
      {drawn.kind === 'arc' && (
        <>
          {length('Circle of', 'diameterMm', drawn.diameterMm)}
          {angle('Begins at', 'fromDeg', drawn.fromDeg)}
          {angle('Goes round by', 'sweepDeg', drawn.sweepDeg, 1)}
        </>
      )}
      {drawn.kind === 'code' && (
        <>
          <TypedField as={WORDS} label="It says" value={drawn.text} onTake={(text) => text && set({ text })} testId="code-text" />
          {length('Size', 'sizeMm', drawn.sizeMm, 3)}
          <SwitchRow label="Burning makes it lighter, as on slate" on={drawn.onDark} onSwitch={(onDark) => set({ onDark })} />
        </>
      )}
      <RepeatFields repeat={drawn.repeat} onChange={(repeat) => set({ repeat })} />
    </>
  )
}
