import { askedFor, type JobDocument, stepsBefore } from '@neotaxis/core'
import { SwitchRow } from '../../parts/SwitchRow.tsx'
import { STOP_WORDS } from '../run-line/step-words.ts'
import { useEdit } from '../use-edit.ts'
import { StopFields } from './StepDetails.tsx'

/** The machine waits before this operation until somebody has done what is asked here. */
export function PauseDetails({ job, id }: { readonly job: JobDocument; readonly id: string }) {
  const edit = useEdit()
  const step = stepsBefore(job, id).at(-1)
  return (
    <>
      <SwitchRow
        label="Pause before it"
        on={step !== undefined}
        onSwitch={(on) =>
          edit(on ? 'pause before' : 'no pause before', (base) => askedFor(base, id, on ? STOP_WORDS.pause.first : undefined))
        }
      />
      {step !== undefined && <StopFields job={job} id={step} />}
    </>
  )
}
