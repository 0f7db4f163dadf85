import EastIcon from '@mui/icons-material/East'
import HomeIcon from '@mui/icons-material/HomeOutlined'
import NorthIcon from '@mui/icons-material/North'
import SouthIcon from '@mui/icons-material/South'
import WestIcon from '@mui/icons-material/West'
import { Box, Button, IconButton, ToggleButton, ToggleButtonGroup, Tooltip } from '@mui/material'
import type { DeskLive } from '@neotaxis/contract'
import {
  type Bounds,
  bedToAxes,
  burnOrder,
  faceBox,
  faceSize,
  formatLengthNumber,
  inverseOf,
  isEmptyBounds,
  type JobDocument,
  mainPiece,
  mapped,
  micro,
  poseMap,
  unite,
  withPiece,
} from '@neotaxis/core'
import { useState } from 'react'
import { machineOrders } from '../../api/orders.ts'
import { Column } from '../../parts/Column.tsx'
import { Row, Spread } from '../../parts/Row.tsx'
import { Title } from '../../parts/Title.tsx'
import { Name, Words } from '../../parts/words.tsx'
import { useSelector } from '../../store/hooks.ts'
import { EDGE, TYPE } from '../../theme/tokens.ts'
import { useEvaluation } from '../../workers/use-evaluation.ts'
import { NINE, NinePlaces, type NinthId } from '../placing/NinePlaces.tsx'
import { useEdit } from '../use-edit.ts'
import { FindPiece } from './FindPiece.tsx'
import { PieceByHead } from './PieceByHead.tsx'
import { ProbeFace } from './ProbeFace.tsx'
import { ProbeThickness } from './ProbeThickness.tsx'
import { useDoing } from './use-doing.ts'

const STEPS = ['0.1', '1', '10', '100', 'hold'] as const
const SPEED_MM_S = 80
const Z_SPEED_MM_S = 8
/** Held down, the head goes until it is let go: no bed is wider. */
const FAR_MM = 5000

/** The box around all that the job burns, mm of the face; undefined while nothing of it is known. */
function burnedBox(job: JobDocument, bounds: Readonly<Record<string, Bounds>> | undefined): Bounds | undefined {
  const boxes = burnOrder(job)
    .flatMap((id) => job.operations[id].of)
    .flatMap((node) => (bounds?.[node] && !isEmptyBounds(bounds[node]) ? [bounds[node]] : []))
  return boxes.length > 0 ? boxes.reduce(unite) : undefined
}

/** Moving the head by hand, homing, and telling where the workpiece lies. */
export function HeadControls({ job, desk }: { readonly job: JobDocument; readonly desk: DeskLive }) {
  const doing = useDoing()
  const edit = useEdit()
  const unit = useSelector((state) => state.view.lengthUnit)
  const [step, setStep] = useState<(typeof STEPS)[number]>('10')
  const [of, setOf] = useState<'workpiece' | 'artwork'>('workpiece')
  const { machine } = job
  const { report } = desk
  const can = report !== null && ((desk.state === 'idle' && report.state === 'idle') || desk.state === 'jogging')
  const rear = machine.zero === 'front-left' ? 1 : -1
  const by = (dx: number, dy: number, dz = 0, distance = step === 'hold' ? FAR_MM : Number(step)): void =>
    void doing(() =>
      machineOrders.jog(machine.id, {
        dx: dx * distance,
        dy: dy * distance,
        dz: dz * distance,
        speedMmS: dz === 0 ? SPEED_MM_S : Z_SPEED_MM_S,
      }),
    )
  const held = step === 'hold'
  const end = (): void => {
    if (held) void doing(() => machineOrders.jogEnd(machine.id))
  }
  const press = (dx: number, dy: number) => ({
    onPointerDown: () => held && by(dx, dy),
    onPointerUp: end,
    onPointerLeave: (event: React.PointerEvent) => {
      if (event.buttons & 1) end()
    },
    onClick: () => !held && by(dx, dy),
    disabled: !can,
    sx: {
      border: 1,
      borderColor: 'divider',
      borderRadius: `${EDGE.card}px`,
      width: 52,
      height: 46,
      color: 'text.primary',
      touchAction: 'none',
    },
  })
  const mm = (value: number): string => formatLengthNumber(value, unit)
  const { surface } = mainPiece(job)
  const uneven = surface.kind === 'flat' ? surface.heights : undefined
  const onBed = report && mapped(inverseOf(bedToAxes(machine)), report.x, report.y)
  const artwork = useEvaluation(({ drawing }) => drawing?.bounds)
  const box = of === 'workpiece' ? faceBox(mainPiece(job)) : burnedBox(job, artwork)
  const here = (id: NinthId): void => {
    const place = NINE.find((each) => each.id === id)!
    if (!onBed || !box) return
    const [fx, fy] = [box.x0 + place.u * (box.x1 - box.x0), box.y0 + place.v * (box.y1 - box.y0)]
    // Where the head stands on the bed becomes that place of the workpiece as it lies, turned or not.
    edit(`${place.at} under the head`, (base) => {
      const piece = mainPiece(base)
      const [px, py] = mapped(poseMap(piece.pose, faceSize(piece)), fx, fy)
      return withPiece(base, {
        pose: { ...piece.pose, xMm: micro(piece.pose.xMm + onBed[0] - px), yMm: micro(piece.pose.yMm + onBed[1] - py) },
      })
    })
  }
  return (
    <Column as="section" aria-label="The head">
      <Row align="baseline" gap="none">
        <Title variant="h3" grow>
          Head
        </Title>
        <Name data-testid="head-place">{report ? `X ${mm(report.x)} · Y ${mm(report.y)} · Z ${mm(report.z)} ${unit}` : '–'}</Name>
      </Row>
      <Box sx={{ fontSize: TYPE.small, color: 'text.secondary', mb: -0.6 }}>mm a press, or as long as it is held</Box>
      <ToggleButtonGroup
        exclusive
        value={step}
        onChange={(_, value) => value && setStep(value)}
        aria-label="Step of a move by hand"
        size="large"
      >
        {STEPS.map((value) => (
          <ToggleButton key={value} value={value}>
            {value === 'hold' ? 'held' : value}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
      <Row align="stretch" pack="space-between">
        <Box sx={{ display: 'grid', gridTemplateColumns: 'repeat(3, 52px)', gap: 0.6 }}>
          <span />
          <IconButton {...press(0, rear)} aria-label="Head to the rear" data-testid="jog-rear">
            <NorthIcon />
          </IconButton>
          <span />
          <IconButton {...press(-1, 0)} aria-label="Head to the left">
            <WestIcon />
          </IconButton>
          <Tooltip title="Home: the head finds its corner">
            <span>
              <IconButton
                aria-label="Home"
                data-testid="home"
                disabled={desk.state !== 'idle'}
                onClick={() => void doing(() => machineOrders.home(machine.id))}
                sx={{ border: 1, borderColor: 'divider', borderRadius: `${EDGE.card}px`, width: 52, height: 46 }}
              >
                <HomeIcon />
              </IconButton>
            </span>
          </Tooltip>
          <IconButton {...press(1, 0)} aria-label="Head to the right" data-testid="jog-right">
            <EastIcon />
          </IconButton>
          <span />
          <IconButton {...press(0, -rear)} aria-label="Head to the front">
            <SouthIcon />
          </IconButton>
          <span />
        </Box>
        {machine.axes.z && (
          <Column gap="tight" grow>
            <Button
              variant="outlined"
              color="secondary"
              disabled={!can}
              size="large"
              onClick={() => by(0, 0, 1, held ? 1 : Math.min(10, Number(step)))}
            >
              lens up
            </Button>
            <Button
              variant="outlined"
              color="secondary"
              disabled={!can}
              size="large"
              onClick={() => by(0, 0, -1, held ? 1 : Math.min(10, Number(step)))}
            >
              lens down
            </Button>
          </Column>
        )}
      </Row>
      <Row align="start" gap="room">
        <NinePlaces
          ratio={box ? (box.y1 - box.y0) / (box.x1 - box.x0) : 1}
          label={`Under the head is this place of the ${of}`}
          tell={(id) => `The ${NINE.find((each) => each.id === id)!.at} of the ${of} is under the head: the job is placed there`}
          prefix="origin"
          disabled={!can || !box}
          onPress={here}
        />
        <Spread>
          <Words size="small" tone="quiet" bottom="tight">
            Under the head is this place of
          </Words>
          <ToggleButtonGroup
            orientation="vertical"
            fullWidth
            exclusive
            size="small"
            value={of}
            onChange={(_, value) => value && setOf(value)}
            aria-label="Place of what"
          >
            <ToggleButton value="workpiece">workpiece</ToggleButton>
            <ToggleButton value="artwork" data-testid="origin-of-artwork">
              artwork
            </ToggleButton>
          </ToggleButtonGroup>
        </Spread>
      </Row>
      {machine.axes.z && <ProbeThickness job={job} canMove={can} />}
      {machine.axes.z && uneven && <ProbeFace job={job} heights={uneven} canMove={can} />}
      <PieceByHead job={job} onBed={can && onBed ? onBed : undefined} />
      <FindPiece job={job} onBed={can && onBed ? onBed : undefined} />
    </Column>
  )
}
