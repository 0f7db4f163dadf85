import { type CutOperation, followedDose, givesLines, type Operation, operationMaterial, RANGES } from '@neotaxis/core'
import { DoseScale } from '../../features/details/DoseScale.tsx'
import { Choice } from '../../features/field/Choice.tsx'
import { LengthField } from '../../features/field/quantities.tsx'
import { FollowFields } from '../FollowFields.tsx'
import type { ProcessFieldsProps, ProcessPage } from '../process-page.ts'
import { PROCESS_WORDS } from '../process-words.ts'

const WANTED = { parts: 'the parts within the outlines', sheet: 'the sheet they open: a stencil' } as const

function Fields(props: ProcessFieldsProps) {
  const { job, operation, set } = props
  const { kerfMm, keeps, of, overcutMm, leadInMm = 0, leadOutMm = 0 } = operation as CutOperation
  return (
    <>
      <LengthField
        label="Kerf"
        value={kerfMm}
        range={RANGES.kerfMm}
        digits={2}
        step={0.01}
        hint="Width of the cut. Half of it is kept away from what is wanted."
        onCommit={(v) => set('kerf', { kerfMm: v })}
      />
      {!of.every((node) => givesLines(job, node)) && (
        <LengthField
          label="Overcut"
          value={overcutMm ?? 0}
          range={RANGES.overcutMm}
          digits={2}
          step={0.1}
          hint="How far a closed cut goes on beyond where it began."
          onCommit={(v) => set('overcut', { overcutMm: v === 0 ? undefined : v })}
        />
      )}
      {!of.every((node) => givesLines(job, node)) && (
        <LengthField
          label="Lead-in"
          value={leadInMm}
          range={RANGES.leadMm}
          digits={2}
          step={0.5}
          hint="A closed cut begins so far off in the waste. Shorter where there is no room."
          onCommit={(v) => set('lead-in', { leadInMm: v === 0 ? undefined : v })}
        />
      )}
      {!of.every((node) => givesLines(job, node)) && (
        <LengthField
          label="Lead-out"
          value={leadOutMm}
          range={RANGES.leadMm}
          digits={2}
          step={0.5}
          hint="It ends so far off in the waste, instead of an overcut."
          onCommit={(v) => set('lead-out', { leadOutMm: v === 0 ? undefined : v })}
        />
      )}
      {!of.every((node) => givesLines(job, node)) && (
        <Choice
          label="What is wanted"
          value={keeps ?? 'parts'}
          options={WANTED}
          onChoose={(to) =>
            set(to === 'sheet' ? 'the sheet is wanted' : 'the parts are wanted', { keeps: to === 'sheet' ? 'sheet' : undefined })
          }
          testId="keeps"
        />
      )}
      <FollowFields {...props} />
    </>
  )
}

/** J/mm against the window in which the material is cut. */
export function LineDose({ job, operation }: ProcessFieldsProps) {
  return (
    <DoseScale
      dose={followedDose(operation as CutOperation, job.machine)}
      unit="J/mm"
      window={operationMaterial(job, operation).cutDose}
      below="marks"
      within="cuts through"
      above="chars"
    />
  )
}

export const cut: ProcessPage = {
  ...PROCESS_WORDS.cut,
  texture: 'linear-gradient(to top, rgb(0 0 0 / 34%) 0 3px, transparent 3px 5px, rgb(0 0 0 / 34%) 5px 6px, transparent 6px)',
  textureSize: '100% 100%',
  question: 'through?',
  answers: [
    ['yes', 'through'],
    ['partly', 'in places'],
    ['no', 'not'],
  ],
  wellDone: 'through',
  // A cut once more as it is.
  again: ({ power, speedMmS }: Operation) => ({ passes: 1, power, speedMmS }),
  hasTone: false,
  Fields,
  Dose: LineDose,
}
