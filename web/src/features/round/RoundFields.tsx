import { MenuItem, TextField } from '@mui/material'
import {
  circumferenceMm,
  diameterByTape,
  type FaceEnd,
  type JobDocument,
  mainPiece,
  RANGES,
  ROTARIES,
  type RotaryDevice,
  stepsPerMm,
  type Turning,
  withEnds,
} from '@neotaxis/core'
import { Quiet } from '../../parts/words.tsx'
import { Choice } from '../field/Choice.tsx'
import { LengthField } from '../field/quantities.tsx'
import { useEdit } from '../use-edit.ts'

interface Props {
  readonly job: JobDocument
  readonly turns: Turning
  readonly lengthMm: number
  readonly onChange: (name: string, device: RotaryDevice, diameterMm: number, lengthMm: number) => void
}

const NOWHERE = 'none'
const ENDS = { none: 'not said', left: 'at the left', right: 'at the right' } as const
const endOf = (end: keyof typeof ENDS): FaceEnd | undefined => (end === NOWHERE ? undefined : end)

/** What turns: in which device, how thick by calliper or by tape, how long; its face is laid flat on the stage. */
export function RoundFields({ job, turns, lengthMm, onChange }: Props) {
  const edit = useEdit()
  const { device, diameterMm } = turns
  const { surface } = mainPiece(job)
  const devices = Object.values({ ...ROTARIES, ...job.machine.rotaries })
  const { min, max } = RANGES.roundMm
  return (
    <>
      <TextField
        select
        fullWidth
        size="small"
        margin="dense"
        label="Turns in"
        value={device.name}
        onChange={({ target }) => {
          const next = devices.find(({ name }) => name === target.value)
          if (next) onChange(`turning in “${next.name}”`, next, diameterMm, lengthMm)
        }}
        data-testid="rotary-device"
      >
        {devices.map(({ name, smallestMm, largestMm }) => (
          <MenuItem key={name} value={name}>
            {name}, Ø {smallestMm}–{largestMm} mm
          </MenuItem>
        ))}
      </TextField>
      <LengthField
        label="Diameter"
        value={diameterMm}
        range={RANGES.roundMm}
        onCommit={(mm) => onChange('diameter of the workpiece', device, mm, lengthMm)}
      />
      <LengthField
        label="Once around"
        value={circumferenceMm(diameterMm)}
        range={{ min: circumferenceMm(min), max: circumferenceMm(max) }}
        onCommit={(mm) => onChange('circumference of the workpiece', device, diameterByTape(mm), lengthMm)}
      />
      <LengthField
        label="Length of its face"
        value={lengthMm}
        range={{ min: 1, max: device.longestMm }}
        onCommit={(mm) => onChange('length of the workpiece', device, diameterMm, mm)}
      />
      {surface.kind !== 'flat' && (
        <>
          <Choice
            label="Its lip"
            value={surface.lip ?? NOWHERE}
            options={ENDS}
            testId="lip"
            onChoose={(end) => edit('where its lip is', (base) => withEnds(base, { lip: endOf(end) }))}
          />
          <Choice
            label="Held"
            value={surface.held ?? NOWHERE}
            options={ENDS}
            testId="held"
            onChoose={(end) => edit('which end is held', (base) => withEnds(base, { held: endOf(end) }))}
          />
        </>
      )}
      <Quiet>
        Its axis lies along x, its face is laid flat: rear and front edge meet. {stepsPerMm(device.drive, diameterMm).toFixed(3)}{' '}
        steps a mm.
      </Quiet>
    </>
  )
}
