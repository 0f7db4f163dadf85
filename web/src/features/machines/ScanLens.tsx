import { Button, Typography } from '@mui/material'
import { FIELD_WISH, type FieldBend, fieldBend, fieldMarks, fieldMarksSvg, fieldTable, type Machine } from '@neotaxis/core'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { machineOrders } from '../../api/orders.ts'
import { useCameraQuery } from '../../api/shop.ts'
import { useDesk } from '../../api/use-live.ts'
import { Card } from '../../parts/Card.tsx'
import { Row } from '../../parts/Row.tsx'
import { Quiet, Words, Wrong } from '../../parts/words.tsx'
import { useSelector } from '../../store/hooks.ts'
import { jpegOf } from '../camera/bed-photo.ts'
import { cameraWork } from '../camera/camera-work.ts'
import { lengthIn } from '../field/measures.ts'
import { useDoing } from '../run/use-doing.ts'
import { CARD_MM, marksJob } from './marks-job.ts'

/** A field that is off by less needs no correction, mm. */
const STRAIGHT_MM = 0.08

/** The lens of a scan head bends its field: marks are burned and photographed, and the head is told to aim beside each place. */
export function ScanLens({ machine }: { readonly machine: Machine }) {
  const { data: camera } = useCameraQuery(machine.id)
  const desk = useDesk(machine.id)
  const navigate = useNavigate()
  const doing = useDoing()
  const fine = lengthIn(
    useSelector((state) => state.view.lengthUnit),
    2,
  )
  const [busy, setBusy] = useState(false)
  const [trouble, setTrouble] = useState('')
  const [found, setFound] = useState<FieldBend>()
  /** It was burned with a correction: what is seen is what that leaves. */
  const [isCorrected, setCorrected] = useState(false)
  const [told, setTold] = useState('')
  const can = desk?.report?.state === 'idle' && desk.state === 'idle' && !busy

  const working = async (work: () => Promise<void>): Promise<void> => {
    setBusy(true)
    setTrouble('')
    setTold('')
    try {
      await work()
    } catch (cause) {
      setTrouble(cause instanceof Error ? cause.message : 'It cannot be done.')
    } finally {
      setBusy(false)
    }
  }
  const burn = (): Promise<void> =>
    working(async () => {
      navigate(`/jobs/${await marksJob(machine, 'marks for the scan head', fieldMarksSvg(machine))}/run`)
    })
  const look = (): Promise<void> =>
    working(async () => {
      setFound(undefined)
      await cameraWork().take(await jpegOf(machine.id))
      const marks = await cameraWork().marks(camera!.calibration!.camera, fieldMarks(machine), CARD_MM, FIELD_WISH)
      const bend = fieldBend(marks, machine)
      const { settings } = await machineOrders.settings(machine.id)
      setCorrected((settings.field ?? 0) > 0)
      setFound(bend)
    })
  const give = (): Promise<void> =>
    working(async () => {
      await machineOrders.giveField(machine.id, fieldTable(found!, machine))
      setFound(undefined)
      setTold('The scan head has it. Burn the marks on a fresh card and look again, to see what is left.')
    })
  return (
    <Card gap="room" as="section" aria-label="Lens of the scan head" data-testid="scan-lens">
      <Typography variant="h3">Lens of the scan head</Typography>
      {camera?.calibration ? (
        <>
          <Words>
            A lens bends the field: squares become pillows or barrels. {fieldMarks(machine).length} marks are burned on a card as
            large as the field, the camera looks at them, and the head aims as far beside each place as the lens is off.
          </Words>
          <Row wraps>
            <Button disabled={!can} onClick={() => void burn()} data-testid="burn-field">
              Make the job that burns the marks
            </Button>
            <Button variant="contained" disabled={busy} onClick={() => void look()} data-testid="look-field">
              Look at the marks
            </Button>
            <Button
              disabled={!can}
              onClick={() => {
                // What was seen with it says nothing of the bare lens.
                setFound(undefined)
                void doing(() => machineOrders.giveField(machine.id, null))
              }}
              data-testid="field-out"
            >
              Take its correction out
            </Button>
          </Row>
          {!can && !busy && <Quiet>The machine is not ready: connect it and home it first.</Quiet>}
        </>
      ) : (
        <Quiet>The camera over the field tells how the lens bends it: calibrate that first.</Quiet>
      )}
      {trouble && <Wrong data-testid="field-trouble">{trouble}</Wrong>}
      {told && <Words data-testid="field-told">{told}</Words>}
      {found && (
        <>
          <Words data-testid="field-found" data-off={found.largestMm.toFixed(3)}>
            {found.seen} of {found.of} marks seen; the beam lands up to {fine.show(found.largestMm)} {fine.unit} beside its place
            {isCorrected ? ', with the correction that the head has' : ''}
            {found.largestMm < STRAIGHT_MM ? ': the field is straight.' : '.'}
          </Words>
          <Bent bend={found} machine={machine} />
          <Row>
            {isCorrected ? (
              <Quiet>To measure the lens anew, take its correction out first, and burn a fresh card.</Quiet>
            ) : (
              <Button variant="contained" disabled={!can} onClick={() => void give()} data-testid="give-field">
                Correct the scan head by it
              </Button>
            )}
            <Button onClick={() => setFound(undefined)}>Leave it as it is</Button>
          </Row>
        </>
      )}
    </Card>
  )
}

/** How a square grid comes out, its bend made plain. */
function Bent({ bend, machine }: { readonly bend: FieldBend; readonly machine: Machine }) {
  const [wide, high] = [machine.axes.x.travelMm, machine.axes.y.travelMm]
  // As much as is seen, but never so much that lines cross.
  const times = Math.min(40, (0.05 * wide) / Math.max(0.02, bend.largestMm))
  const line = (at: (t: number) => readonly [number, number]): string =>
    `M${Array.from({ length: 25 }, (_, k) => {
      const [x, y] = at(k / 24)
      const [dx, dy] = bend.offAt(x, y)
      return `${(x + times * dx).toFixed(2)} ${(y + times * dy).toFixed(2)}`
    }).join('L')}`
  const lines = Array.from({ length: 9 }, (_, i) => i / 8).flatMap((s) => [
    line((t) => [t * wide, s * high]),
    line((t) => [s * wide, t * high]),
  ])
  const room = 0.08 * wide
  return (
    <svg
      viewBox={`${-room} ${-room} ${wide + 2 * room} ${high + 2 * room}`}
      width={260}
      height={(260 * high) / wide}
      role="img"
      aria-label={`How the lens bends a square grid, ${times.toFixed(0)} times as much as it is`}
    >
      <rect width={wide} height={high} fill="none" stroke="currentColor" strokeOpacity={0.35} strokeWidth={wide / 300} />
      <path d={lines.join('')} fill="none" stroke="currentColor" strokeWidth={wide / 250} />
    </svg>
  )
}
