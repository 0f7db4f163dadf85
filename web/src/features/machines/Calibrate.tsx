import { Button, Checkbox, FormControlLabel, LinearProgress, Tooltip } from '@mui/material'
import type { MachineCamera } from '@neotaxis/contract'
import {
  bedSize,
  boardFor,
  boardSvg,
  type Calibration,
  firstDot,
  framePlaces,
  type Machine,
  type MarksView,
  TRUSTED_MM,
} from '@neotaxis/core'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { cameraOrders } from '../../api/orders.ts'
import { BareList, Column } from '../../parts/Column.tsx'
import { Row } from '../../parts/Row.tsx'
import { Quiet, Words, Wrong } from '../../parts/words.tsx'
import { useSelector } from '../../store/hooks.ts'
import { jpegOf } from '../camera/bed-photo.ts'
import { cameraWork } from '../camera/camera-work.ts'
import { lengthIn } from '../field/measures.ts'
import { LengthField } from '../field/quantities.tsx'
import { marksJob } from './marks-job.ts'
import { TrustMap } from './TrustMap.tsx'

interface Props {
  readonly machine: Machine
  readonly camera: MachineCamera
  readonly onDone: () => void
}

/** The first heights that are proposed: flat, and as high as most of what is burned. */
const HEIGHTS = [0.3, 15, 25]
const HEIGHT_RANGE = { min: 0, max: 150 }

/** A camera is calibrated step by step: the board is photographed flat, then higher, and what comes out is looked at before it is kept. */
export function Calibrate({ machine, camera, onDone }: Props) {
  const unit = useSelector((state) => state.view.lengthUnit)
  const as = lengthIn(unit)
  const [views, setViews] = useState<readonly MarksView[]>([])
  const [size, setSize] = useState<{ readonly widthPx: number; readonly heightPx: number }>()
  const [height, setHeight] = useState(HEIGHTS[0])
  const [found, setFound] = useState<Calibration>()
  const [burned, setBurned] = useState(false)
  const navigate = useNavigate()
  const [doing, setDoing] = useState('')
  const [trouble, setTrouble] = useState('')
  const bed = bedSize(machine)
  const board = boardFor(bed)
  const [x, y] = firstDot(bed, board)
  const told = (mm: number): string => `${as.show(mm)} ${as.unit}`

  const fine = (mm: number): string => `${lengthIn(unit, 2).show(mm)} ${as.unit}`

  const step = async (what: string, work: () => Promise<void>): Promise<void> => {
    setDoing(what)
    setTrouble('')
    try {
      await work()
    } catch (cause) {
      setTrouble(cause instanceof Error ? cause.message : 'It cannot be done.')
    } finally {
      setDoing('')
    }
  }
  const photograph = (): Promise<void> =>
    step('Looking for the dots', async () => {
      if (camera.simulated && !burned) await cameraOrders.under(machine.id, { lay: 'board', heightMm: height })
      const taken = await cameraWork().take(await jpegOf(machine.id))
      if (size && (size.widthPx !== taken.widthPx || size.heightPx !== taken.heightPx))
        throw new Error('This photo has another size than those before: begin anew.')
      const view = await cameraWork().board(board, [x, y], height)
      setSize(taken)
      const all = [...views.filter(({ heightMm }) => heightMm !== height), view]
      setViews(all)
      setHeight(HEIGHTS[Math.min(all.length, HEIGHTS.length - 1)])
    })
  const work = (): Promise<void> =>
    step('Fitting the lens', async () => {
      const made = await cameraWork().calibrate(size!, views)
      const frame = await cameraWork().marks(made.camera, framePlaces(bed), 0)
      const fixed = frame.flatMap(({ found: at }) => (at ? [at] : []))
      setFound({ ...made, ...(fixed.length > 0 && { fixed }) })
    })
  const keep = (): Promise<void> =>
    step('Keeping it', async () => {
      await cameraOrders.save(machine.id, { calibration: found! })
      if (camera.simulated) await cameraOrders.under(machine.id, { lay: 'nothing' })
      onDone()
    })
  const burn = (): Promise<void> =>
    step('Making the job', async () => {
      navigate(`/jobs/${await marksJob(machine, 'a board of dots for the camera', boardSvg(board))}/run`)
    })
  const print = (): void => {
    const link = document.createElement('a')
    link.href = URL.createObjectURL(new Blob([boardSvg(board)], { type: 'image/svg+xml' }))
    link.download = 'board-of-dots.svg'
    link.click()
  }
  return (
    <Column gap="snug" data-testid="calibrating">
      <Row wraps>
        <Words>
          <b>1</b> The board: {board.columns} × {board.rows} dots, {told(board.pitchMm)} apart.
        </Words>
        <Button size="small" onClick={print}>
          Save it to print
        </Button>
        <Tooltip title="A job on card as large as the bed: the dots lie then where the machine itself puts them">
          <span>
            <Button size="small" disabled={doing !== ''} onClick={() => void burn()} data-testid="burn-board">
              Make the job that burns it
            </Button>
          </span>
        </Tooltip>
      </Row>
      <Words>
        <b>2</b> Lay it flat, its first dot at {told(x)} from the left and {told(y)} from the rear, and photograph it: flat on the
        bed first, then on something {told(HEIGHTS[1])} high or so.
      </Words>
      {camera.simulated && (
        <FormControlLabel
          control={<Checkbox size="small" checked={burned} onChange={(_, on) => setBurned(on)} data-testid="board-burned" />}
          label="The machine burned it, and it lies there still (simulated: else one is laid there)"
        />
      )}
      <Row wraps align="start">
        <LengthField label="Its dots lie this high" value={height} range={HEIGHT_RANGE} onCommit={setHeight} />
        <Button variant="contained" disabled={doing !== ''} onClick={() => void photograph()} data-testid="photograph-board">
          Photograph the board
        </Button>
      </Row>
      <BareList gap="none">
        {views.map(({ heightMm, spots }) => (
          <li key={heightMm}>
            <Quiet>
              at {told(heightMm)}: {spots.length} of {board.columns * board.rows} dots seen
            </Quiet>
          </li>
        ))}
      </BareList>
      <Row>
        <Words>
          <b>3</b>
        </Words>
        <Button
          variant={found ? 'outlined' : 'contained'}
          disabled={doing !== '' || views.length === 0}
          onClick={() => void work()}
          data-testid="work-out-lens"
        >
          Work out the lens
        </Button>
        {views.length === 1 && <Quiet>With a second height it is known better where thick things lie.</Quiet>}
      </Row>
      {doing && <LinearProgress aria-label={doing} />}
      {trouble && <Wrong>{trouble}</Wrong>}
      {found && (
        <>
          <Words data-testid="calibration-found">
            {found.camera.lens.kind === 'brown' ? 'A moderate lens' : 'A wide lens'}, off by {fine(found.p95Mm)} at most for 95 of
            100 dots;{' '}
            {found.p95Mm <= TRUSTED_MM
              ? 'it may be trusted where dots were seen.'
              : 'that is much: photograph the board again, flat and well lit.'}
          </Words>
          <TrustMap calibration={found} bed={bed} />
          <Row>
            <Button variant="contained" disabled={doing !== ''} onClick={() => void keep()} data-testid="keep-calibration">
              Keep it
            </Button>
            <Button onClick={onDone}>Leave it as it was</Button>
          </Row>
        </>
      )}
    </Column>
  )
}
