import { Box, Button, MenuItem, TextField } from '@mui/material'
import {
  burnsRows,
  type JobDocument,
  levelDepths,
  materialOf,
  measuredCurve,
  picturedRoot,
  RANGES,
  type RowSettings,
  turnOnPower,
  withOperation,
} from '@neotaxis/core'
import { useCallback } from 'react'
import { useAnswer } from '../../api/use-answer.ts'
import { Quiet } from '../../parts/words.tsx'
import { TYPE } from '../../theme/tokens.ts'
import { heightCues } from '../../workers/engine.ts'
import { PassPowers } from '../field/PassPowers.tsx'
import { CountField, PercentField } from '../field/quantities.tsx'
import { useEdit } from '../use-edit.ts'

export const reliefWords = ({ minPower, power, passes, evenIn }: RowSettings): string =>
  `${Math.round(minPower * 100)} to ${Math.round(power * 100)} % · ${passes} ${passes === 1 ? 'pass' : 'passes'}${evenIn === 'power' ? '' : ` · even in ${evenIn}`}`

/** Grey as power: from where the material starts to answer to the strongest, even in depth where depth was measured. */
export function ReliefControls({
  job,
  id,
  operation,
}: {
  readonly job: JobDocument
  readonly id: string
  readonly operation: RowSettings
}) {
  const edit = useEdit()
  // What is there decides, not what was drawn a moment ago.
  const set = (name: string, change: (now: RowSettings) => Partial<RowSettings>): void =>
    edit(name, (base) => {
      const now = base.operations[id]
      return burnsRows(now) ? withOperation(base, id, change(now)) : base
    })
  const { machine } = job
  const material = materialOf(job)
  const depths = levelDepths(material, machine, operation)
  const depthMeasured = measuredCurve(material, 'depth', machine.id) !== undefined
  const onset = turnOnPower(material, machine, operation)
  const asset = picturedRoot(job, operation.of[0])
  // biome-ignore lint/correctness/useExhaustiveDependencies: the picture decides, not its settings
  const question = useCallback(() => heightCues(job, operation.of[0]), [asset.asset])
  const told = useAnswer(asset.kind === 'source' ? question : undefined)
  const cues = told.isCurrent ? told.value : undefined
  return (
    <>
      {cues && (
        <Box sx={{ fontSize: TYPE.small, pb: 0.6, color: cues.likely ? 'text.secondary' : 'shop.ask' }} data-testid="height-cues">
          {cues.likely ? 'This looks like a height map' : 'This does not look like a height map'}: {cues.reasons.join('; ')}.
        </Box>
      )}
      <PercentField
        label="Weakest"
        value={operation.minPower}
        range={{ min: 0, max: operation.power }}
        hint="Power of the lightest grey that is burned: where the material just starts to answer."
        onCommit={(minPower) => set('weakest mark', () => ({ minPower }))}
      />
      {Math.abs(onset - operation.minPower) > 0.004 && (
        <Button size="small" onClick={() => set('weakest mark from the material', () => ({ minPower: onset }))}>
          It starts at {Math.round(onset * 1000) / 10} %: take that
        </Button>
      )}
      <PercentField
        label="Strongest"
        value={operation.power}
        range={RANGES.power}
        onCommit={(power) => set('strongest mark', (now) => ({ power, minPower: Math.min(power, now.minPower) }))}
      />
      <TextField
        select
        size="small"
        fullWidth
        label="Even from grey to grey is"
        value={operation.evenIn}
        onChange={(event) => set('what is even', () => ({ evenIn: event.target.value as RowSettings['evenIn'] }))}
        margin="dense"
      >
        <MenuItem value="power">the power</MenuItem>
        <MenuItem value="depth" disabled={!depthMeasured}>
          the depth{depthMeasured ? ', as measured' : ': not measured here'}
        </MenuItem>
        <MenuItem value="tone">the tone</MenuItem>
      </TextField>
      <CountField
        label="Passes"
        value={operation.passes}
        range={RANGES.passes}
        onCommit={(passes) => set(`${passes} passes`, (now) => ({ passes, passPowers: now.passPowers.slice(0, passes) }))}
      />
      <PassPowers
        passes={operation.passes}
        powers={operation.passPowers}
        onChange={(name, passPowers) => set(name, () => ({ passPowers }))}
      />
      <Quiet top="tight">
        {depths
          ? `Forecast: ${depths[1].toFixed(2)} mm at the lightest grey, ${depths[255].toFixed(2)} mm at the darkest.`
          : 'How deep it goes was not measured on this material.'}
      </Quiet>
    </>
  )
}
