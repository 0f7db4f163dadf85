import { Button, ButtonBase, MenuItem, styled, TextField, useTheme } from '@mui/material'
import {
  asPrinted,
  type FoundMark,
  faceSize,
  inOrder,
  type JobDocument,
  mainPieceId,
  outlineOfFace,
  type PieceSeen,
  type PrintSize,
  placesToFind,
  poseFound,
  printSize,
  type Workpiece,
  withPiece,
} from '@neotaxis/core'
import { useState } from 'react'
import { useCameraQuery } from '../../api/shop.ts'
import { Column } from '../../parts/Column.tsx'
import { inView } from '../../parts/in-view.ts'
import { Row } from '../../parts/Row.tsx'
import { Words, Wrong } from '../../parts/words.tsx'
import { useSelector } from '../../store/hooks.ts'
import { TYPE, WEIGHT } from '../../theme/tokens.ts'
import { atHead, bedPhotoTrouble, lookForPiece, photographBed } from '../camera/bed-photo.ts'
import { lookedFor } from '../camera/looked-for.ts'
import { lengthIn } from '../field/measures.ts'
import { useEdit } from '../use-edit.ts'
import { HomeFirst } from './HomeFirst.tsx'

type Point = readonly [number, number]

const WIDE = 222
const HIGHEST = 190
/** Farther off than this, something is wrong with a mark or the piece, mm. */
const MUCH_MM = 0.5
/** Prints that are less off than this are as large as they should be. */
const PRINT_SCALE = 0.0003
/** A print that is more askew is told of, degrees. */
const ASKEW_DEG = 0.03

/** “0.40 % larger”; “0.40 % wider and 0.10 % lower”. */
function printWords({ x, y }: PrintSize): string {
  const share = (by: number): string => `${Math.abs(100 * (by - 1)).toFixed(2)} %`
  if (Math.abs(x - y) < PRINT_SCALE) return `${share(Math.sqrt(x * y))} ${x > 1 ? 'larger' : 'smaller'}`
  return `${share(x)} ${x > 1 ? 'wider' : 'narrower'} and ${share(y)} ${y > 1 ? 'higher' : 'lower'}`
}

/** A workpiece that was put back, or lies anyhow: corners or marks of it are found with the head, and the job lies on it again. @param onBed where the head stands, mm of the bed */
export function FindPiece({ job, onBed }: { readonly job: JobDocument; readonly onBed: Point | undefined }) {
  const edit = useEdit()
  const unit = useSelector((state) => state.view.lengthUnit)
  const [isOpen, setOpen] = useState(false)
  const [chosen, setChosen] = useState<number>()
  const [found, setFound] = useState<Readonly<Record<number, Point>>>({})
  const [which, setWhich] = useState(mainPieceId(job))
  const id = job.workpieces[which] ? which : mainPieceId(job)
  const piece = job.workpieces[id]
  const places = placesToFind(piece)
  const away = (): void => {
    setOpen(false)
    setChosen(undefined)
    setFound({})
  }
  if (places.length === 0) return null
  if (!isOpen)
    return (
      <Button fullWidth size="small" onClick={() => setOpen(true)} data-testid="find-piece">
        Find the workpiece by its corners…
      </Button>
    )
  const taken = Object.keys(found).map(Number)
  const marks = taken.map((i): FoundMark => ({ known: places[i], found: found[i] }))
  const made = marks.length === 0 ? undefined : poseFound(piece, marks)
  // Marks that were printed: how much larger the print came out is seen from three of them.
  const printed = marks.filter((_, k) => taken[k] < Object.keys(piece.marks).length)
  const size = printSize(printed)
  const print = size && Math.max(Math.abs(size.x - 1), Math.abs(size.y - 1)) > PRINT_SCALE ? size : undefined
  const as = lengthIn(unit, 2)
  const fine = (mm: number): string => `${as.show(mm)} ${as.unit}`
  const take = (): void => {
    if (!onBed || chosen === undefined) return
    setFound({ ...found, [chosen]: onBed })
    setChosen(undefined)
  }
  const apply = (): void => {
    if (!made || 'not' in made) return
    edit('workpiece found on the bed', (base) => withPiece(base, { pose: made.pose }, id))
    away()
  }
  return (
    <Column as="section" aria-label="Find the workpiece" gap="tight" ref={inView} data-testid="finding-piece">
      <Words size="small">
        {chosen === undefined
          ? 'Press a corner that you can reach with the head.'
          : 'Bring the head exactly over it, and say so.'}
      </Words>
      {Object.keys(job.workpieces).length > 1 && (
        <TextField
          select
          size="small"
          label="Which"
          value={id}
          onChange={({ target }) => {
            setWhich(target.value)
            setChosen(undefined)
            setFound({})
          }}
          data-testid="find-which"
        >
          {inOrder(job).map((each) => (
            <MenuItem key={each} value={each}>
              {job.workpieces[each].name}
            </MenuItem>
          ))}
        </TextField>
      )}
      <PieceWithPlaces piece={piece} places={places} taken={taken} chosen={chosen} onChoose={setChosen} />
      <ByHeadCamera job={job} piece={piece} places={places} canMove={onBed !== undefined} onFound={setFound} />
      <ByCamera
        job={job}
        piece={piece}
        onSeen={(pose) => {
          edit('workpiece found by the camera', (base) => withPiece(base, { pose }, id))
          away()
        }}
      />
      {made && 'not' in made && <Wrong role="alert">{made.not}</Wrong>}
      {made && !('not' in made) && (
        <Words size="small" data-testid="found-piece">
          {marks.length === 1
            ? 'One place moves it, turned as it was. A second one tells its angle.'
            : `It lies turned by ${(made.pose.deg ?? 0).toFixed(2)}°; places lie ${fine(made.registration.rmsMm)} off on the average${
                marks.length > 2
                  ? `, place ${taken[made.registration.worst] + 1} most, ${fine(made.registration.offMm[made.registration.worst])}`
                  : ''
              }.`}
          {made.registration.rmsMm > MUCH_MM && ' That is much: touch that place again, or look whether this is the piece.'}
        </Words>
      )}
      {print && (
        <Row wraps>
          <Words size="small" data-testid="print-larger">
            What is printed on it is {printWords(print)} than in the job.
            {Math.abs(print.askewDeg) > ASKEW_DEG &&
              ` Its right angles are off by ${Math.abs(print.askewDeg).toFixed(2)}°: that stays.`}
          </Words>
          <Button
            size="small"
            onClick={() => edit('artwork as large as it is printed', (base) => asPrinted(base, print, id))}
            data-testid="as-printed"
          >
            Make the artwork as large
          </Button>
        </Row>
      )}
      <Row wraps>
        <Button variant="outlined" disabled={!onBed || chosen === undefined} onClick={take} data-testid="find-take">
          The head is on it
        </Button>
        <Button variant="contained" disabled={!made || 'not' in made} onClick={apply} data-testid="find-apply">
          It lies so
        </Button>
        <Button onClick={away}>Leave it</Button>
      </Row>
      {!onBed && <HomeFirst />}
    </Column>
  )
}

interface ByHeadProps {
  readonly job: JobDocument
  readonly piece: Workpiece
  readonly places: readonly Point[]
  readonly canMove: boolean
  readonly onFound: (found: Readonly<Record<number, Point>>) => void
}

/** The same by the camera at the head, to hundredths of a mm: it goes to each mark, or to corners where there are no marks. */
function ByHeadCamera({ job, piece, places, canMove, onFound }: ByHeadProps) {
  const { data: camera } = useCameraQuery(atHead(job.machine.id))
  const [doing, setDoing] = useState('')
  const [trouble, setTrouble] = useState('')
  if (!camera?.calibration) return null
  const own = camera.calibration.camera
  const go = async (): Promise<void> => {
    setTrouble('')
    try {
      const told = await lookedFor(job.machine, own, piece, places, (n, of) => setDoing(`Place ${n} of ${of}`), onFound)
      setTrouble(told)
    } catch (cause) {
      setTrouble(cause instanceof Error ? cause.message : 'It cannot be done.')
    } finally {
      setDoing('')
    }
  }
  return (
    <Column gap="tight">
      <Button variant="outlined" disabled={!canMove || doing !== ''} onClick={() => void go()} data-testid="find-near">
        {doing || 'Look from near, with the head'}
      </Button>
      {trouble && <Wrong role="alert">{trouble}</Wrong>}
    </Column>
  )
}

interface ByCameraProps {
  readonly job: JobDocument
  readonly piece: Workpiece
  readonly onSeen: (pose: Workpiece['pose']) => void
}

/** The same by a photo of the bed: by the marks of the workpiece, or its edge. */
function ByCamera({ job, piece, onSeen }: ByCameraProps) {
  const unit = useSelector((state) => state.view.lengthUnit)
  const { data: camera } = useCameraQuery(job.machine.id)
  const [seen, setSeen] = useState<PieceSeen>()
  const [trouble, setTrouble] = useState('')
  const [busy, setBusy] = useState(false)
  if (!camera?.calibration) return null
  const fine = lengthIn(unit, 2)
  const as = lengthIn(unit)
  const look = async (): Promise<void> => {
    setBusy(true)
    setTrouble('')
    const isThere = await photographBed(job)
    const found = isThere ? await lookForPiece(piece) : bedPhotoTrouble()
    setSeen(typeof found === 'string' ? undefined : found)
    setTrouble(typeof found === 'string' ? found : '')
    setBusy(false)
  }
  const [dx, dy] = seen ? [seen.pose.xMm - piece.pose.xMm, seen.pose.yMm - piece.pose.yMm] : [0, 0]
  return (
    <Column gap="tight">
      <Button variant="outlined" disabled={busy} onClick={() => void look()} data-testid="find-by-camera">
        {busy ? 'Looking …' : 'Look with the camera'}
      </Button>
      {trouble && <Wrong role="alert">{trouble}</Wrong>}
      {seen && (
        <>
          <Words size="small" data-testid="seen-piece">
            It is seen {as.show(Math.hypot(dx, dy))} {as.unit} from where the job has it, turned by{' '}
            {(seen.pose.deg ?? 0).toFixed(2)}
            °; it fits what is seen within {fine.show(seen.offMm)} {fine.unit}.
          </Words>
          <Button variant="contained" onClick={() => onSeen(seen.pose)} data-testid="seen-apply">
            It lies so
          </Button>
        </>
      )}
    </Column>
  )
}

interface PiecePlaces {
  readonly piece: Workpiece
  readonly places: readonly Point[]
  readonly taken: readonly number[]
  readonly chosen: number | undefined
  readonly onChoose: (place: number) => void
}

/** The workpiece in small, with the places of it that can be found; those that were are filled. */
function PieceWithPlaces({ piece, places, taken, chosen, onChoose }: PiecePlaces) {
  const { palette } = useTheme()
  const { widthMm, heightMm } = faceSize(piece)
  const pxPerMm = Math.min(WIDE / widthMm, HIGHEST / heightMm)
  const path = outlineOfFace(piece.outline)
    .map((ring) => `M${Array.from({ length: ring.length / 2 }, (_, i) => `${ring[2 * i]} ${ring[2 * i + 1]}`).join('L')}Z`)
    .join('')
  return (
    <div style={{ position: 'relative', width: widthMm * pxPerMm, height: heightMm * pxPerMm, margin: DOT }}>
      <svg viewBox={`0 0 ${widthMm} ${heightMm}`} width="100%" height="100%" aria-hidden style={{ overflow: 'visible' }}>
        <path d={path} fillRule="evenodd" fill={palette.shop.panel} stroke={palette.text.secondary} strokeWidth={1.5 / pxPerMm} />
      </svg>
      {places.map(([x, y], i) => (
        <Dot
          key={`${x} ${y}`}
          style={{ left: x * pxPerMm - DOT, top: y * pxPerMm - DOT }}
          data-found={taken.includes(i)}
          aria-label={`Place ${i + 1}${taken.includes(i) ? ', found' : ''}`}
          aria-pressed={chosen === i}
          data-testid={`find-place-${i}`}
          onClick={() => onChoose(i)}
        >
          {i + 1}
        </Dot>
      ))}
    </div>
  )
}

/** Half of what a finger needs, px. */
const DOT = 15

const Dot = styled(ButtonBase)(({ theme }) => ({
  position: 'absolute',
  width: 2 * DOT,
  height: 2 * DOT,
  borderRadius: DOT,
  border: `2px solid ${theme.palette.primary.main}`,
  background: theme.palette.background.paper,
  fontSize: TYPE.small,
  fontWeight: WEIGHT.strong,
  '&[data-found=true]': { background: theme.palette.primary.main, color: theme.palette.primary.contrastText },
  '&[aria-pressed=true]': { outline: `3px solid ${theme.palette.secondary.main}` },
}))
