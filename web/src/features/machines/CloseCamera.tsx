import { Button, LinearProgress, Typography } from '@mui/material'
import {
  beamMarkSvg,
  bedSize,
  type Calibration,
  fieldOf,
  type HeadSight,
  type Machine,
  middleOf,
  NUDGE_MM,
  stopsFor,
} from '@neotaxis/core'
import { useRef, useState } from 'react'
import { useNavigate } from 'react-router'
import { cameraOrders } from '../../api/orders.ts'
import { useCameraQuery } from '../../api/shop.ts'
import { useDesk } from '../../api/use-live.ts'
import { Card } from '../../parts/Card.tsx'
import { Column } from '../../parts/Column.tsx'
import { Row } from '../../parts/Row.tsx'
import { Quiet, Words, Wrong } from '../../parts/words.tsx'
import { useSelector } from '../../store/hooks.ts'
import { atHead } from '../camera/bed-photo.ts'
import { cameraWork } from '../camera/camera-work.ts'
import { nearPhoto } from '../camera/near-photo.ts'
import { lengthIn, WORDS } from '../field/measures.ts'
import { LengthField } from '../field/quantities.tsx'
import { TypedField } from '../field/TypedField.tsx'
import { useDoing } from '../run/use-doing.ts'
import { marksJob } from './marks-job.ts'

type Point = readonly [number, number]

const BESIDE = { min: -400, max: 400 }
const ON_BED = { min: 0, max: 5000 }
/** A piece of card that one dot is burned on, mm. */
const SCRAP = { widthMm: 80, heightMm: 60 }
/** Most that a camera at the head may be off, mm. */
const TRUSTED_MM = 0.03

/** The small camera at the head: how far it hangs beside the beam, and what it sees, are measured by one dot that the beam burned. */
export function CloseCamera({ machine }: { readonly machine: Machine }) {
  const key = atHead(machine.id)
  const { data: camera, error } = useCameraQuery(key)
  const doing = useDoing()
  const [measures, setMeasures] = useState(false)
  return (
    <Card gap="room" as="section" aria-label="Camera at the head" data-testid="close-camera">
      <Typography variant="h3">Camera at the head</Typography>
      {error && <Wrong>The camera cannot be asked for just now.</Wrong>}
      <Row wraps align="start" gap="room">
        <TypedField
          label="Photos at"
          value={camera && !camera.simulated ? camera.address : ''}
          as={WORDS}
          hint={camera?.simulated ? 'empty: the simulated camera at the head' : 'http://HOST:PORT/photo.jpg; empty: none'}
          onTake={(address) => void doing(() => cameraOrders.save(key, { address }))}
        />
        {camera && (
          <Column gap="tight">
            {camera.calibration ? <Told calibration={camera.calibration} /> : <Quiet>Where it hangs is not known yet.</Quiet>}
            <Row>
              <Button
                variant={camera.calibration ? 'outlined' : 'contained'}
                onClick={() => setMeasures(!measures)}
                data-testid="measure-close"
              >
                {camera.calibration ? 'Measure it again…' : 'Measure where it hangs…'}
              </Button>
            </Row>
          </Column>
        )}
      </Row>
      {camera && measures && <Measure machine={machine} onDone={() => setMeasures(false)} />}
    </Card>
  )
}

/** What is known of it, in words. */
function Told({ calibration, testId = 'close-told' }: { readonly calibration: Calibration; readonly testId?: string }) {
  const unit = useSelector((state) => state.view.lengthUnit)
  const [as, fine] = [lengthIn(unit), lengthIn(unit, 3)]
  const [x, y] = middleOf(calibration.camera)
  const { widthMm, heightMm } = fieldOf(calibration.camera)
  return (
    <Words data-testid={testId}>
      It sees {as.show(widthMm)} × {as.show(heightMm)} {as.unit}, {as.show(Math.abs(x))} {as.unit} {x < 0 ? 'left' : 'right'} of
      the beam and {as.show(Math.abs(y))} {as.unit} {y < 0 ? 'behind' : 'before'} it; off by {fine.show(calibration.p95Mm)}{' '}
      {fine.unit} at most for 95 of 100 places.
    </Words>
  )
}

/** One dot is burned, then seen from many places: the head goes there by itself, dark. */
function Measure({ machine, onDone }: { readonly machine: Machine; readonly onDone: () => void }) {
  const desk = useDesk(machine.id)
  const navigate = useNavigate()
  const key = atHead(machine.id)
  const bed = bedSize(machine)
  const [mark, setMark] = useState<Point>([bed.widthMm / 2, bed.heightMm / 2])
  const [beside, setBeside] = useState<Point>([40, 0])
  const [done, setDone] = useState<readonly [number, number]>()
  const [trouble, setTrouble] = useState('')
  const [found, setFound] = useState<Calibration>()
  const given = useRef(false)
  const can = desk?.report?.state === 'idle' && desk.state === 'idle'

  const measure = async (): Promise<void> => {
    given.current = false
    setTrouble('')
    setFound(undefined)
    setDone([0, 1])
    try {
      let size = { widthPx: 0, heightPx: 0 }
      const sight = async (place: Point): Promise<HeadSight> => {
        if (given.current) throw new Error('Given up: what was known before stays.')
        const photo = await nearPhoto(machine, place)
        size = photo.size
        return { head: photo.head, ...(await cameraWork().loneMark()) }
      }
      // Rear is up on the bed.
      const [x, y]: Point = [mark[0] - beside[0], mark[1] + beside[1]]
      const first = [await sight([x, y]), await sight([x + NUDGE_MM, y]), await sight([x, y + NUDGE_MM])] as const
      const stops = stopsFor(size, first)
      const sights: HeadSight[] = [...first]
      for (const stop of stops) {
        setDone([sights.length, stops.length + 3])
        sights.push(await sight(stop))
      }
      setFound(await cameraWork().closeCamera(size, sights, mark))
    } catch (cause) {
      setTrouble(cause instanceof Error ? cause.message : 'It cannot be done.')
    } finally {
      setDone(undefined)
    }
  }
  const burnOne = async (): Promise<void> => {
    try {
      navigate(`/jobs/${await marksJob(machine, 'a dot for the camera at the head', beamMarkSvg(), SCRAP)}/run`)
    } catch (cause) {
      setTrouble(cause instanceof Error ? cause.message : 'It cannot be done.')
    }
  }
  return (
    <Column gap="snug" data-testid="measuring-close">
      <Row wraps>
        <Words>
          <b>1</b> Burn one dot on a piece of card that lies in focus, and leave the card where it is.
        </Words>
        <Button size="small" onClick={() => void burnOne()} data-testid="burn-mark">
          Make the job that burns it
        </Button>
      </Row>
      <Row wraps align="start">
        <LengthField label="Burned at, from the left" value={mark[0]} range={ON_BED} onCommit={(x) => setMark([x, mark[1]])} />
        <LengthField label="from the rear" value={mark[1]} range={ON_BED} onCommit={(y) => setMark([mark[0], y])} />
      </Row>
      <Words>
        <b>2</b> How far the camera hangs beside the beam, within a few mm.
      </Words>
      <Row wraps align="start">
        <LengthField label="To the right" value={beside[0]} range={BESIDE} onCommit={(x) => setBeside([x, beside[1]])} />
        <LengthField label="To the rear" value={beside[1]} range={BESIDE} onCommit={(y) => setBeside([beside[0], y])} />
      </Row>
      <Row wraps>
        <Words>
          <b>3</b>
        </Words>
        <Button variant="contained" disabled={!can || done !== undefined} onClick={() => void measure()} data-testid="look-close">
          Look at it from 38 places
        </Button>
        {done && <Button onClick={() => (given.current = true)}>Give up</Button>}
        <Quiet>
          {can ? 'The head goes there by itself, without the beam.' : 'The machine is not ready: connect it and home it first.'}
        </Quiet>
      </Row>
      {done && <LinearProgress variant="determinate" value={(100 * done[0]) / done[1]} aria-label="Looking" />}
      {trouble && <Wrong data-testid="close-trouble">{trouble}</Wrong>}
      {found && (
        <>
          <Told calibration={found} testId="close-found" />
          {found.p95Mm > TRUSTED_MM && <Quiet>That is much: is the dot round and dark, and the card flat?</Quiet>}
          <Row>
            <Button
              variant="contained"
              onClick={() => void cameraOrders.save(key, { calibration: found }).then(onDone)}
              data-testid="keep-close"
            >
              Keep it
            </Button>
            <Button onClick={onDone}>Leave it as it was</Button>
          </Row>
        </>
      )}
    </Column>
  )
}
