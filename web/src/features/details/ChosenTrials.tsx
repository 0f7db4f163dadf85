import { Button, Dialog, DialogActions, DialogContent, DialogTitle } from '@mui/material'
import {
  type JobDocument,
  operationMaterial,
  settingsToTry,
  TRIAL_UNITS,
  TRIAL_WORDS,
  type TrialAxes,
  type TrialAxis,
  type TrialSetting,
  trialValue,
  typedNumber,
  valuesAround,
} from '@neotaxis/core'
import { useState } from 'react'
import { Words } from '../../parts/words.tsx'
import { cardOfTrials, stripOfTrials } from '../../workers/engine.ts'
import type { TrialMade } from '../../workers/trials-made.ts'
import { useCatalogue } from '../bar/use-catalogue.ts'
import { Choice } from '../field/Choice.tsx'
import type { Written } from '../field/measures.ts'
import { TypedField } from '../field/TypedField.tsx'

interface Props {
  readonly job: JobDocument
  readonly id: string
  /** Materials of which an offcut lies in the shop. */
  readonly scraps: readonly string[]
  readonly onBegin: (trial: () => Promise<TrialMade>) => void
  readonly onClose: () => void
}

const BURNS = { patch: 'this artwork’s hardest patch', square: 'a square' } as const
const WAYS = ['Across', 'Down', 'In further grids'] as const
const NONE = 'none'

/** Values as they are typed, parted by spaces, strokes or semicolons. @throws Error with a sentence */
const listOf = (setting: TrialSetting): Written<readonly number[]> => ({
  unit: TRIAL_UNITS[setting],
  show: (values) => values.map((v) => trialValue(setting, v)).join('; '),
  read: (typed) => {
    const parts = typed.split(/[;\s/]+/).filter(Boolean)
    const values = parts.map((part) => typedNumber(part, part.includes(',')))
    const wrong = values.indexOf(undefined)
    if (wrong >= 0) throw new Error(`“${parts[wrong]}” is no number: write like 20; 30; 40.`)
    if (values.length < 2) throw new Error('At least two values, like 20; 30.')
    if (values.length > 12) throw new Error('At most twelve values.')
    return values.map((v) => (setting === 'power' ? v! / 100 : v!))
  },
})

/** Up to three settings against each other, each with the values that are typed, on scrap of this material or of another. */
export function ChosenTrials({ job, id, scraps, onBegin, onClose }: Props) {
  const catalogue = useCatalogue()
  const own = operationMaterial(job, job.operations[id])
  const possible = settingsToTry(job, id)
  const begun = (setting: TrialSetting): TrialAxis => ({ setting, values: valuesAround(job, id, setting) })
  const [axes, setAxes] = useState<readonly TrialAxis[]>(() => [begun('power'), begun('speedMmS')])
  const [burns, setBurns] = useState<keyof typeof BURNS>('patch')
  const [on, setOn] = useState(own.id)
  const put = (i: number, axis: TrialAxis | undefined): void => setAxes((now) => (axis ? now.with(i, axis) : now.slice(0, i)))
  const others = (catalogue?.materials ?? []).filter((each) => each.id !== own.id && scraps.includes(each.id))
  const materials = Object.fromEntries([[own.id, own.name], ...others.map((each) => [each.id, each.name])])
  const begin = (): void => {
    const [across, down, again] = axes
    const chosen: TrialAxes = { across, ...(down && { down }), ...(again && { again }) }
    const material = others.find((each) => each.id === on)
    onBegin(() =>
      burns === 'patch'
        ? stripOfTrials(job, id, chosen, material)
        : cardOfTrials(job, id, 'power-speed', { axes: chosen, ...(material && { material }) }),
    )
  }
  const cells = axes.reduce((count, { values }) => count * values.length, 1)
  return (
    <Dialog open onClose={onClose} maxWidth="xs" fullWidth data-testid="chosen-trials">
      <DialogTitle>Try chosen settings</DialogTitle>
      <DialogContent>
        <Choice label="Each cell burns" value={burns} options={BURNS} onChoose={setBurns} testId="cell-burns" />
        {WAYS.slice(0, Math.min(axes.length + 1, possible.length, WAYS.length)).map((way, i) => {
          const axis = axes[i]
          const left = possible.filter((each) => !axes.some(({ setting }, k) => k !== i && setting === each))
          const named = Object.fromEntries(left.map((each) => [each, TRIAL_WORDS[each]]))
          return (
            <div key={way}>
              <Choice<string>
                label={way}
                value={axis?.setting ?? NONE}
                options={i > 0 && i >= axes.length - 1 ? { [NONE]: NONE, ...named } : named}
                testId={`trial-axis-${i + 1}`}
                onChoose={(to) => {
                  if (to === NONE) put(i, undefined)
                  else if (axis) put(i, begun(to as TrialSetting))
                  else setAxes((now) => [...now, begun(to as TrialSetting)])
                }}
              />
              {axis && (
                <TypedField
                  as={listOf(axis.setting)}
                  label={`Values, ${way.toLowerCase()}`}
                  value={axis.values}
                  onTake={(values) => put(i, { ...axis, values })}
                  testId={`trial-values-${i + 1}`}
                  wide
                />
              )}
            </div>
          )
        })}
        <Choice label="On scrap of" value={on} options={materials} onChoose={setOn} testId="scrap-of" />
        <Words size="small" tone="quiet" top="snug">
          {cells} cells. The job stays as it is; the card is a job of its own.
        </Words>
      </DialogContent>
      <DialogActions>
        <Button color="inherit" onClick={onClose}>
          Leave it
        </Button>
        <Button variant="contained" onClick={begin} data-testid="begin-trial">
          Make the card
        </Button>
      </DialogActions>
    </Dialog>
  )
}
