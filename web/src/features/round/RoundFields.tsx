import { MenuItem, TextField } from '@mui/material'
import {
  axisMm,
  circumferenceMm,
  coneByHeight,
  coneOf,
  diameterByTape,
  type FaceEnd,
  type JobDocument,
  levellingDeg,
  mainPiece,
  RANGES,
  ROTARIES,
  type RotaryDevice,
  stepsPerMm,
  type Thick,
  type Turning,
  withEnds,
} from '@neotaxis/core'
import { Quiet } from '../../parts/words.tsx'
import { Choice } from '../field/Choice.tsx'
import { LengthField } from '../field/quantities.tsx'
import { useEdit } from '../use-edit.ts'
import { ProfileFields } from './ProfileFields.tsx'

interface Props {
  readonly job: JobDocument
  readonly turns: Turning
  readonly lengthMm: number
  readonly onChange: (name: string, device: RotaryDevice, thick: Thick, lengthMm: number) => void
}

/** A cup, until somebody says how much it tapers. */
const FIRST_TAPER = 0.75
const SIDES = { cylinder: 'straight', cone: 'tapered', profile: 'stepped or bellied' } as const

/** How thick something is taken to be first, of a kind that was something else. */
function firstOf(kind: keyof typeof SIDES, diameterMm: number, lengthMm: number): Thick {
  if (kind === 'cylinder') return diameterMm
  if (kind === 'cone') return { leftMm: diameterMm, rightMm: FIRST_TAPER * diameterMm }
  return {
    places: [
      { alongMm: 0, diameterMm },
      { alongMm: lengthMm, diameterMm: FIRST_TAPER * diameterMm },
    ],
  }
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
  const thick: Thick = surface.kind === 'flat' || surface.kind === 'cylinder' ? diameterMm : surface
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
          if (next) onChange(`turning in “${next.name}”`, next, thick, lengthMm)
        }}
        data-testid="rotary-device"
      >
        {devices.map(({ name, smallestMm, largestMm }) => (
          <MenuItem key={name} value={name}>
            {name}, Ø {smallestMm}–{largestMm} mm
          </MenuItem>
        ))}
      </TextField>
      <Choice
        label="Its side"
        value={surface.kind === 'flat' ? 'cylinder' : surface.kind}
        options={SIDES}
        testId="side"
        onChoose={(kind) => onChange(`a side that is ${SIDES[kind]}`, device, firstOf(kind, diameterMm, lengthMm), lengthMm)}
      />
      {surface.kind === 'profile' && (
        <ProfileFields
          places={surface.places}
          lengthMm={lengthMm}
          onChange={(name, places) => onChange(name, device, { places }, lengthMm)}
        />
      )}
      {surface.kind === 'cone' ? (
        <>
          <LengthField
            label="Diameter at the left"
            value={surface.leftMm}
            range={RANGES.roundMm}
            onCommit={(leftMm) => onChange('diameter of the left end', device, { leftMm, rightMm: surface.rightMm }, lengthMm)}
          />
          <LengthField
            label="Diameter at the right"
            value={surface.rightMm}
            range={RANGES.roundMm}
            onCommit={(rightMm) => onChange('diameter of the right end', device, { leftMm: surface.leftMm, rightMm }, lengthMm)}
          />
          <LengthField
            label="Height"
            value={axisMm(surface, lengthMm)}
            range={{ min: 1, max: device.longestMm }}
            hint="Along its axis; its side is longer."
            onCommit={(mm) =>
              onChange('height of the workpiece', device, surface, coneByHeight(surface.leftMm, surface.rightMm, mm).slantMm)
            }
          />
        </>
      ) : (
        surface.kind !== 'profile' && (
          <>
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
          </>
        )
      )}
      <LengthField
        label={surface.kind === 'cone' ? 'Length of its side' : 'Length of its face'}
        value={lengthMm}
        range={{ min: 1, max: device.longestMm }}
        onCommit={(mm) => onChange('length of the workpiece', device, thick, mm)}
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
        {surface.kind === 'profile' &&
          ` Counted around its widest place, ${circumferenceMm(diameterMm).toFixed(1)} mm: every mm² gets as much, and what lies out of focus is told.`}
        {surface.kind === 'cone' &&
          ` Counted around its widest place, ${circumferenceMm(diameterMm).toFixed(1)} mm: artwork follows the taper. Tilt it by ${levellingDeg(coneOf(surface, lengthMm)).toFixed(1)}°, and its upper side is level.`}
      </Quiet>
    </>
  )
}
