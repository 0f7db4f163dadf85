import { Button, MenuItem, TextField, Typography } from '@mui/material'
import type { MachineCamera, UnderCamera } from '@neotaxis/contract'
import { bedSize, type Machine } from '@neotaxis/core'
import { useState } from 'react'
import { cameraOrders } from '../../api/orders.ts'
import { useCameraQuery } from '../../api/shop.ts'
import { Card } from '../../parts/Card.tsx'
import { Column } from '../../parts/Column.tsx'
import { Row } from '../../parts/Row.tsx'
import { Quiet, Words, Wrong } from '../../parts/words.tsx'
import { useSelector } from '../../store/hooks.ts'
import { lengthIn, WORDS } from '../field/measures.ts'
import { SHOWS_EMPTY } from '../field/shows-empty.ts'
import { TypedField } from '../field/TypedField.tsx'
import { useDoing } from '../run/use-doing.ts'
import { Calibrate } from './Calibrate.tsx'
import { TrustMap } from './TrustMap.tsx'

/** The camera over a machine's bed: where it answers, how far it may be trusted, and its calibration, step by step. */
export function CameraCard({ machine }: { readonly machine: Machine }) {
  const { data: camera, error } = useCameraQuery(machine.id)
  const doing = useDoing()
  const [calibrates, setCalibrates] = useState(false)
  return (
    <Card gap="room" as="section" aria-label="Camera" data-testid="camera-card">
      <Typography variant="h3">Camera</Typography>
      {error && <Wrong>The camera cannot be asked for just now.</Wrong>}
      <Row wraps align="start" gap="room">
        <TypedField
          label="Photos at"
          value={camera && !camera.simulated ? camera.address : ''}
          as={WORDS}
          hint={camera?.simulated ? 'empty: the simulated camera beside the server' : 'http://HOST:PORT/photo.jpg; empty: none'}
          onTake={(address) => void doing(() => cameraOrders.save(machine.id, { address }))}
        />
        {camera && (
          <Column gap="tight">
            <Told camera={camera} />
            <Row>
              <Button
                variant={camera.calibration ? 'outlined' : 'contained'}
                onClick={() => setCalibrates(!calibrates)}
                data-testid="calibrate"
              >
                {camera.calibration ? 'Calibrate again…' : 'Calibrate…'}
              </Button>
              {camera.calibration && (
                <Button onClick={() => void doing(() => cameraOrders.takeEmpty(machine.id))} data-testid="take-empty">
                  The bed is empty: remember it
                </Button>
              )}
            </Row>
          </Column>
        )}
      </Row>
      {camera?.simulated && <Under machine={machine} />}
      {camera && calibrates && <Calibrate machine={machine} camera={camera} onDone={() => setCalibrates(false)} />}
      {camera?.calibration && !calibrates && <TrustMap calibration={camera.calibration} bed={bedSize(machine)} />}
    </Card>
  )
}

const dayOf = (at: string | null): string => (at ? new Date(at).toLocaleDateString(undefined, { dateStyle: 'medium' }) : '')

/** How a camera was calibrated, in words. */
function Told({ camera: { calibration, calibratedAt, emptyAt } }: { readonly camera: MachineCamera }) {
  const as = lengthIn(
    useSelector((state) => state.view.lengthUnit),
    3,
  )
  if (!calibration) return <Quiet>Not calibrated yet: a board of dots is photographed at two heights.</Quiet>
  const { p95Mm, worst, heights, fixed } = calibration
  return (
    <>
      <Words data-testid="camera-told">
        Calibrated {dayOf(calibratedAt)}: off by {as.show(p95Mm)} {as.unit} at most for 95 of 100 places, {as.show(worst.mm)}{' '}
        {as.unit} at worst, at {worst.x.toFixed(0)}, {worst.y.toFixed(0)}.
      </Words>
      <Quiet>
        At {heights.map((height) => `${height}`).join(', ')} mm over the bed.{' '}
        {emptyAt ? `The empty bed is known since ${dayOf(emptyAt)}.` : 'The empty bed is not known yet.'}{' '}
        {(fixed?.length ?? 0) >= 2
          ? `${fixed!.length} marks of the frame tell when it is knocked.`
          : 'No marks of the frame were seen: that it was knocked is not noticed.'}
      </Quiet>
    </>
  )
}

const LAYS: readonly (readonly [UnderCamera['lay'], string])[] = [
  ['nothing', 'nothing'],
  ['driftwood', 'a slab of driftwood, 12 mm'],
  ['coasters', 'five coasters of plywood, 3 mm'],
  ['pane', 'a pane of acrylic, 3 mm'],
  ['tag', 'an odd tag of card, 1 mm'],
  ['label', 'a sheet with a code on it'],
  ['sheet', 'a printed sheet with marks'],
  ['drawing', 'a drawing on paper'],
]

/** What lies under a simulated camera, and what happens to it: a real one needs hands for that. */
function Under({ machine }: { readonly machine: Machine }) {
  const doing = useDoing()
  const [lay, setLay] = useState<UnderCamera['lay']>('nothing')
  const [fault, setFault] = useState('')
  const put = (what: UnderCamera['lay'], how: string): void => {
    setLay(what)
    setFault(how)
    void doing(() =>
      cameraOrders.under(machine.id, { lay: what, fault: how === '' ? null : (how as NonNullable<UnderCamera['fault']>) }),
    )
  }
  return (
    <Row wraps>
      <TextField
        select
        size="small"
        label="Under it lies (simulated)"
        value={lay}
        onChange={(event) => put(event.target.value as UnderCamera['lay'], fault)}
        slotProps={{ htmlInput: { 'data-testid': 'under-camera' } }}
        sx={{ minWidth: 260 }}
      >
        {LAYS.map(([value, words]) => (
          <MenuItem key={value} value={value}>
            {words}
          </MenuItem>
        ))}
      </TextField>
      <TextField
        select
        size="small"
        label="And it is"
        value={fault}
        onChange={(event) => put(lay, event.target.value)}
        sx={{ minWidth: 160 }}
        slotProps={SHOWS_EMPTY}
      >
        <MenuItem value="">all right</MenuItem>
        <MenuItem value="dark">in the dark</MenuItem>
        <MenuItem value="covered">covered</MenuItem>
        <MenuItem value="moved">knocked</MenuItem>
        <MenuItem value="away">unplugged</MenuItem>
        <MenuItem value="page">wanting a sign-in</MenuItem>
      </TextField>
    </Row>
  )
}
