import { type JobDocument, type OutlineStep, RANGES, withStepChanged } from '@neotaxis/core'
import { SwitchRow } from '../../parts/SwitchRow.tsx'
import { Quiet } from '../../parts/words.tsx'
import { Choice } from '../field/Choice.tsx'
import { CountField, LengthField } from '../field/quantities.tsx'
import { useEdit } from '../use-edit.ts'
import { OUTLINE_STEP_NAMES, STRETCH_WORDS } from './outline-words.ts'

interface Props {
  readonly cleaner: string
  readonly id: string
  readonly step: OutlineStep
}

/** What can be changed of a clean-up step. */
export function OutlineStepFields({ cleaner, id, step }: Props) {
  const edit = useEdit()
  const name = OUTLINE_STEP_NAMES[step.kind].toLowerCase()
  const set = (change: Partial<OutlineStep>): void =>
    edit(name, (base: JobDocument) => withStepChanged(base, cleaner, id, change))
  switch (step.kind) {
    case 'specks':
    case 'fill':
      return (
        <CountField
          label={step.kind === 'specks' ? 'Smaller than' : 'Holes up to'}
          unit="mm²"
          digits={2}
          value={step.areaMm2}
          range={RANGES.minAreaMm2}
          onCommit={(areaMm2) => set({ areaMm2 })}
        />
      )
    case 'join':
      return (
        <LengthField
          label="Gaps up to"
          value={step.gapMm}
          range={RANGES.gapMm}
          digits={2}
          step={0.1}
          onCommit={(gapMm) => set({ gapMm })}
        />
      )
    case 'doubles':
      return (
        <LengthField
          label="Nearer than"
          value={step.withinMm}
          range={RANGES.doublesMm}
          digits={3}
          step={0.01}
          hint="What runs along something earlier, nearer than this, goes."
          onCommit={(withinMm) => set({ withinMm })}
        />
      )
    case 'simplify':
      return (
        <LengthField
          label="Off at most"
          value={step.toleranceMm}
          range={RANGES.simplifyMm}
          digits={3}
          step={0.01}
          onCommit={(toleranceMm) => set({ toleranceMm })}
        />
      )
    case 'erase':
      return <SwitchRow label="What it touches, too" on={step.touched} onSwitch={(touched) => set({ touched })} />
    case 'stretch':
      return <Choice label="The stretch becomes" value={step.as} options={STRETCH_WORDS} onChoose={(as) => set({ as })} />
    default:
      return <Quiet>Made by hand on the picture; switch it off to see it without.</Quiet>
  }
}
