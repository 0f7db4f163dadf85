import { TextField } from '@mui/material'
import { askedBy, askedFor, type JobDocument, partsPrograms, type Step, stepsBefore } from '@neotaxis/core'
import { useEffect, useState } from 'react'
import { SwitchRow } from '../../parts/SwitchRow.tsx'
import { useEdit } from '../use-edit.ts'

/** The machine waits before this operation until somebody has done what is asked here. */
export function PauseDetails({ job, id }: { readonly job: JobDocument; readonly id: string }) {
  const edit = useEdit()
  const step = stepsBefore(job, id)
    .map((each) => job.steps[each])
    .at(-1)
  const asked = step && askedBy(step)
  const [text, setText] = useState(asked ?? '')
  useEffect(() => setText(asked ?? ''), [asked])
  const set = (name: string, next: Step | undefined): void => edit(name, (base) => askedFor(base, id, next))
  /** The same said by another kind of step. */
  const saying = (words: string, newSetUp: boolean): Step =>
    newSetUp ? { kind: 'set-up', name: words } : { kind: 'pause', text: words }
  const newSetUp = step !== undefined && partsPrograms(step)
  return (
    <>
      <SwitchRow
        label="Pause before it"
        on={step !== undefined}
        onSwitch={(on) => set(on ? 'pause before' : 'no pause before', on ? saying('Wipe the piece clean', false) : undefined)}
      />
      {step && asked !== undefined && (
        <>
          <TextField
            fullWidth
            size="small"
            label="What is to be done"
            value={text}
            onChange={(event) => setText(event.target.value.slice(0, 300))}
            onBlur={() => text !== asked && text !== '' && set('words of the pause', worded(step, text))}
            margin="dense"
          />
          <SwitchRow
            label="Another set-up: a program file of its own"
            on={newSetUp}
            onSwitch={(on) => set(on ? 'another set-up' : 'same set-up', saying(asked, on))}
          />
        </>
      )}
    </>
  )
}

/** A step that asks for something else. */
function worded(step: Step, text: string): Step {
  if (step.kind === 'burn') return step
  return step.kind === 'set-up' ? { ...step, name: text } : { ...step, text }
}
