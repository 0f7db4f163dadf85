import { Button, useTheme } from '@mui/material'
import {
  asked,
  type Bounds,
  faceSize,
  isEmptyBounds,
  type JobDocument,
  LEAST_POINTS,
  mainPiece,
  mainPieceId,
  mapped,
  micro,
  outlineOfFace,
  pieceFromPoints,
  poseMap,
  type TouchedAs,
  unite,
  withPiece,
} from '@neotaxis/core'
import { useState } from 'react'
import { Column } from '../../parts/Column.tsx'
import { inView } from '../../parts/in-view.ts'
import { Row } from '../../parts/Row.tsx'
import { Words, Wrong } from '../../parts/words.tsx'
import { useSelector } from '../../store/hooks.ts'
import { useEvaluation } from '../../workers/use-evaluation.ts'
import { Choice } from '../field/Choice.tsx'
import { lengthIn } from '../field/measures.ts'
import { useEdit } from '../use-edit.ts'
import { HomeFirst } from './HomeFirst.tsx'

type Point = readonly [number, number]

const KINDS: Readonly<Record<TouchedAs, string>> = {
  rectangle: 'a rectangle, by two corners',
  'rectangle askew': 'a rectangle that lies askew, by three places',
  circle: 'round, by three places of its edge or more',
  corners: 'any outline, corner by corner',
}
/** What is shown of the bed, px. */
const WIDE = 250

/** All artwork of the workpiece that is looked at moved together, until its box lies in the middle. @param box of what is burned, mm */
function inTheMiddle(job: JobDocument, { x0, y0, x1, y1 }: Bounds): JobDocument {
  const { widthMm, heightMm } = faceSize(mainPiece(job))
  const [dx, dy] = [(widthMm - x0 - x1) / 2, (heightMm - y0 - y1) / 2]
  const main = mainPieceId(job)
  const placements = Object.fromEntries(
    Object.entries(job.placements).map(([id, place]) => [
      id,
      (place.on ?? main) === main ? { ...place, xMm: micro(place.xMm + dx), yMm: micro(place.yMm + dy) } : place,
    ]),
  )
  return { ...job, placements }
}

/** The workpiece as its edge is touched with the head: place by place, until it is what lies there. @param onBed where the head stands, mm of the bed */
export function PieceByHead({ job, onBed }: { readonly job: JobDocument; readonly onBed: Point | undefined }) {
  const edit = useEdit()
  const unit = useSelector((state) => state.view.lengthUnit)
  const bounds = useEvaluation(({ drawing }) => drawing?.bounds)
  const seen = Object.values(bounds ?? {}).filter((each) => !isEmptyBounds(each))
  const box = seen.length > 0 ? seen.reduce(unite) : undefined
  const [kind, setKind] = useState<TouchedAs>()
  const [points, setPoints] = useState<readonly Point[]>([])
  const away = (): void => {
    setKind(undefined)
    setPoints([])
  }
  if (!kind)
    return (
      <>
        <Button fullWidth size="small" onClick={() => setKind('rectangle')} data-testid="touch-piece">
          Size the workpiece with the head…
        </Button>
        {onBed && (
          <Button
            fullWidth
            size="small"
            onClick={() => {
              setKind('rectangle')
              setPoints([onBed])
            }}
            data-testid="touch-first"
          >
            One of its corners is under the head
          </Button>
        )}
      </>
    )
  const made = pieceFromPoints(kind, points)
  const as = lengthIn(unit)
  const told = (mm: number): string => `${as.show(mm)} ${as.unit}`
  const isEnough = points.length >= LEAST_POINTS[kind]
  // Corners go on without end; the others are complete.
  const isDone = (kind === 'rectangle' && points.length === 2) || (kind === 'rectangle askew' && points.length === 3)
  const take = (): void => {
    if (onBed) setPoints([...points, onBed])
  }
  const apply = (inMiddle: boolean): void => {
    if ('not' in made) return
    edit(inMiddle ? 'workpiece as it was touched, artwork in its middle' : 'workpiece as it was touched', (base) => {
      const touched = withPiece(base, { outline: made.outline, pose: made.pose })
      return inMiddle && box ? inTheMiddle(touched, box) : touched
    })
    away()
  }
  return (
    <Column as="section" aria-label="The workpiece by the head" gap="tight" ref={inView} data-testid="touching">
      <Choice
        label="It is"
        value={kind}
        options={KINDS}
        testId="touch-kind"
        onChoose={(to) => {
          setKind(to)
          setPoints([])
        }}
      />
      <Touching job={job} points={points} made={made} onBed={onBed} />
      {'not' in made ? (
        isEnough ? (
          <Wrong role="alert">{made.not}</Wrong>
        ) : (
          <Words size="small">Go to {asked(kind, points.length)} and take it.</Words>
        )
      ) : (
        <Words size="small" data-testid="touched">
          {made.outline.kind === 'circle'
            ? `Ø ${told(made.outline.diameterMm)}`
            : `${as.show(faceSize(made).widthMm)} × ${told(faceSize(made).heightMm)}`}
          {made.pose.deg ? `, turned by ${made.pose.deg.toFixed(2)}°` : ''}, at {as.show(made.pose.xMm)}, {told(made.pose.yMm)} of
          the bed
          {made.offMm > 0.05 ? `; places lie up to ${told(made.offMm)} off` : ''}.
        </Words>
      )}
      <Row wraps>
        <Button variant="outlined" disabled={!onBed || isDone} onClick={take} data-testid="touch-take">
          Take this place
        </Button>
        <Button disabled={points.length === 0} onClick={() => setPoints(points.slice(0, -1))}>
          Back
        </Button>
        <Button variant="contained" disabled={'not' in made} onClick={() => apply(false)} data-testid="touch-apply">
          That is it
        </Button>
        <Button variant="outlined" disabled={'not' in made || !box} onClick={() => apply(true)} data-testid="touch-apply-middle">
          That is it, artwork in its middle
        </Button>
        <Button onClick={away}>Leave it</Button>
      </Row>
      {!onBed && <HomeFirst />}
    </Column>
  )
}

/** The bed with the places that were taken, what they give, and where the head stands. */
function Touching({
  job,
  points,
  made,
  onBed,
}: {
  readonly job: JobDocument
  readonly points: readonly Point[]
  readonly made: ReturnType<typeof pieceFromPoints>
  readonly onBed: Point | undefined
}) {
  const { palette } = useTheme()
  const { x, y } = job.machine.axes
  const [wide, deep] = [x.travelMm, y.travelMm]
  const dot = wide / 90
  const edge =
    'not' in made
      ? points.map((point) => point.join(' ')).join('L')
      : outlineOfFace(made.outline)
          .map((ring) => {
            const map = poseMap(made.pose, faceSize(made))
            return `${Array.from({ length: ring.length / 2 }, (_, i) => mapped(map, ring[2 * i], ring[2 * i + 1]).join(' ')).join('L')}Z`
          })
          .join('M')
  return (
    <svg
      viewBox={`${-dot} ${-dot} ${wide + 2 * dot} ${deep + 2 * dot}`}
      width={WIDE}
      height={(WIDE * deep) / wide}
      role="img"
      aria-label={`The bed with ${points.length} places taken`}
      style={{ background: palette.shop.bed, border: `1px solid ${palette.divider}`, maxWidth: '100%' }}
    >
      {edge !== '' && (
        <path
          d={`M${edge}`}
          fill={'not' in made ? 'none' : palette.shop.panel}
          stroke={palette.primary.main}
          strokeWidth={dot / 2}
          strokeDasharray={'not' in made ? `${dot} ${dot}` : undefined}
        />
      )}
      {points.map(([px, py], i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: the same place may be taken twice
        <circle key={i} cx={px} cy={py} r={dot} fill={palette.primary.main} />
      ))}
      {onBed && (
        <g stroke={palette.secondary.main} strokeWidth={dot / 2}>
          <line x1={onBed[0] - 2 * dot} y1={onBed[1]} x2={onBed[0] + 2 * dot} y2={onBed[1]} />
          <line x1={onBed[0]} y1={onBed[1] - 2 * dot} x2={onBed[0]} y2={onBed[1] + 2 * dot} />
        </g>
      )}
    </svg>
  )
}
