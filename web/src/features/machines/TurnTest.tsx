import { Button, Dialog, DialogActions, DialogContent, DialogTitle } from '@mui/material'
import type { DeskLive } from '@neotaxis/contract'
import { afterTurnTest, circumferenceMm, type Machine, type RotaryDevice, stepsPerMm } from '@neotaxis/core'
import { useState } from 'react'
import { machineOrders } from '../../api/orders.ts'
import { Column } from '../../parts/Column.tsx'
import { Quiet, Words, Wrong } from '../../parts/words.tsx'
import { LengthField } from '../field/quantities.tsx'
import { isLinked } from '../live/desk-words.ts'
import { useDoing } from '../run/use-doing.ts'

/** The object turns so slowly that an eye follows, mm/s of its surface. */
const SLOW_MM_S = 15
/** As far as a mark is believed to lie beside the first, share of a turn. */
const MOST_SHARE = 0.5

interface Props {
  readonly machine: Machine
  readonly desk: DeskLive | undefined
  readonly device: RotaryDevice
  readonly onClose: () => void
  /** The steps are corrected. */
  readonly onTake: (drive: RotaryDevice['drive']) => void
}

/** Marked, turned once, marked again: what lies between the marks corrects the number of steps. */
export function TurnTest({ machine, desk, device, onClose, onTake }: Props) {
  const doing = useDoing()
  const [diameterMm, setDiameter] = useState(Math.min(device.largestMm, Math.max(device.smallestMm, 73)))
  const [beyondMm, setBeyond] = useState(0)
  const around = circumferenceMm(diameterMm)
  let after: RotaryDevice['drive'] | undefined
  let wrong: string | undefined
  try {
    after = afterTurnTest(device.drive, diameterMm, beyondMm)
  } catch (cause) {
    wrong = cause instanceof Error ? cause.message : 'That is no turn.'
  }
  const can = desk !== undefined && isLinked(desk) && desk.state === 'idle'
  return (
    <Dialog open onClose={onClose} maxWidth="sm" fullWidth aria-label="Test one turn">
      <DialogTitle>One turn of {device.name}</DialogTitle>
      <DialogContent>
        <Column gap="snug">
          <Words>
            1 · Machine off, plug it in, machine on, the limits of Y off: else the turn ends at the edge of the bed. Lay something
            round in, as thick as you can measure well.
          </Words>
          <LengthField
            label="Its diameter"
            value={diameterMm}
            range={{ min: device.smallestMm, max: device.largestMm }}
            onCommit={setDiameter}
          />
          <Quiet>
            The controller is set to {stepsPerMm(device.drive, diameterMm).toFixed(3)} steps/mm on {device.axis.toUpperCase()}.
          </Quiet>
          <Words>2 · Make a thin mark on it under the head. Then turn it once: {around.toFixed(2)} mm of its surface.</Words>
          <Button
            variant="outlined"
            disabled={!can}
            onClick={() =>
              void doing(() =>
                machineOrders.jog(machine.id, { dx: 0, dy: device.direction * around, dz: 0, speedMmS: SLOW_MM_S }),
              )
            }
            data-testid="turn-once"
          >
            Turn it once, slowly
          </Button>
          {!can && <Quiet>The machine is not connected, or busy: turn it once by its own panel.</Quiet>}
          <Words>3 · Make a second mark under the head. How far does it lie beyond the first, the way it turned?</Words>
          <LengthField
            label="Beyond the first mark"
            value={beyondMm}
            range={{ min: -MOST_SHARE * around, max: MOST_SHARE * around }}
            digits={2}
            hint="Less than 0: it did not come round as far."
            onCommit={setBeyond}
          />
          {wrong && <Wrong role="alert">{wrong}</Wrong>}
          {after && (
            <Words weight="strong" data-testid="turn-result">
              {beyondMm === 0
                ? 'Nothing to correct: one turn is one turn.'
                : `${((100 * beyondMm) / around).toFixed(2)} % off: ${Number(device.drive.stepsPerTurn.toFixed(3))} steps become ${Number(after.stepsPerTurn.toFixed(3))}, ${stepsPerMm(after, diameterMm).toFixed(3)} steps/mm.`}
            </Words>
          )}
        </Column>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Leave it as it is</Button>
        <Button
          variant="contained"
          disabled={!after || beyondMm === 0}
          onClick={() => after && onTake({ ...after, stepsPerTurn: Math.round(1000 * after.stepsPerTurn) / 1000 })}
          data-testid="take-steps"
        >
          Correct the steps
        </Button>
      </DialogActions>
    </Dialog>
  )
}
