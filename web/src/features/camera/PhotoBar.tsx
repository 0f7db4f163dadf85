import CameraAltOutlinedIcon from '@mui/icons-material/CameraAltOutlined'
import {
  Button,
  Checkbox,
  FormControlLabel,
  LinearProgress,
  styled,
  ToggleButton,
  ToggleButtonGroup,
  Tooltip,
} from '@mui/material'
import { burnOrder, FAINT, type JobDocument, mainPiece, mainPieceId, onBlanks, outlineSize, photoFindings } from '@neotaxis/core'
import { useSnackbar } from 'notistack'
import { useEffect, useState } from 'react'
import { useCameraQuery } from '../../api/shop.ts'
import { useLive } from '../../api/use-live.ts'
import { Column } from '../../parts/Column.tsx'
import { Floating } from '../../parts/Floating.tsx'
import { Row, Spread } from '../../parts/Row.tsx'
import { Quiet, Words, Wrong } from '../../parts/words.tsx'
import { useDispatch, useSelector } from '../../store/hooks.ts'
import { jobOnScreen } from '../../store/job-on-screen.ts'
import { pieceLookedAt } from '../../store/view-slice.ts'
import { fitted } from '../../workers/engine.ts'
import { onCommand, runCommand } from '../bar/commands.ts'
import { lengthIn } from '../field/measures.ts'
import { offerFiles } from '../job/offered-files.ts'
import { newId } from '../new-id.ts'
import { withPlaces } from '../placing/use-placing.ts'
import { useWaited } from '../placing/use-waited.tsx'
import { selectedNode } from '../selection.ts'
import { useEdit } from '../use-edit.ts'
import {
  atHead,
  type BedPhoto,
  type BlankHand,
  chooseBlanks,
  type FoundBlank,
  forgetBlanks,
  giveUpCamera,
  lookForBlanks,
  photographBed,
  putPhotoAway,
  scannedBlank,
  scannedFiner,
  takeHand,
  uncorrect,
  useBedPhoto,
  wantHeight,
} from './bed-photo.ts'
import { CodeFound } from './CodeFound.tsx'
import { heightsOf } from './photo-layers.ts'
import { agoOf, clockOf } from './photo-words.ts'

interface Props {
  readonly job: JobDocument
  /** It is only looked at: nothing is looked for in it, and nothing becomes of it. */
  readonly isLook?: boolean
}

/** The photo of the bed that the stage shows: how old it is and how far it is off, what was found in it, and what becomes of that. */
export function PhotoBar({ job, isLook = false }: Props) {
  const { photo, doing, trouble } = useBedPhoto(job.machine.id)
  const [, tick] = useState(0)
  useEffect(() =>
    onCommand({
      'bed-photo': () => void photographBed(job),
      ...(photo && { 'bed-photo-away': putPhotoAway }),
      ...(!isLook && {
        'bed-photo-find': () =>
          void photographBed(job).then((isThere) => (isThere ? lookForBlanks(mainPiece(job).thicknessMm) : undefined)),
      }),
      ...(photo && !isLook && { 'find-blanks': () => void lookForBlanks(mainPiece(job).thicknessMm) }),
    }),
  )
  const heights = photo ? heightsOf(job) : []
  useEffect(() => {
    if (photo) for (const height of heights) wantHeight(height)
  })
  const takenAt = photo?.takenAt
  useEffect(() => {
    if (takenAt === undefined) return
    const timer = setInterval(() => tick((n) => n + 1), 5000)
    return () => clearInterval(timer)
  }, [takenAt])
  if (!photo && !doing && !trouble) return null
  return (
    <Beside as="section" aria-label="The photo of the bed" data-testid="photo-bar">
      <Column gap="tight">
        <Row wraps>
          {photo && <PhotoFacts photo={photo} />}
          {doing && <Words size="small">{doing}…</Words>}
          <Spread />
          {doing ? (
            <Button size="small" onClick={giveUpCamera}>
              Give up
            </Button>
          ) : (
            <>
              {photo && !isLook && photo.blanks.length === 0 && (
                <Button size="small" variant="contained" onClick={() => runCommand('find-blanks')} data-testid="find-blanks">
                  Find what lies there
                </Button>
              )}
              <Button size="small" onClick={() => runCommand('bed-photo')} data-testid="photo-again">
                {photo ? 'Again (V)' : 'Try again'}
              </Button>
              <Button size="small" onClick={putPhotoAway} data-testid="photo-away">
                Put away
              </Button>
            </>
          )}
        </Row>
        {doing && <LinearProgress aria-label={doing} />}
        {trouble && <Wrong data-testid="photo-trouble">{trouble}</Wrong>}
        {photo && <Thoughts job={job} photo={photo} isLook={isLook} />}
        {photo && !isLook && photo.blanks.length > 0 && <Blanks job={job} photo={photo} />}
      </Column>
    </Beside>
  )
}

/** Along the upper edge, under what the stage is told: the work stays free. */
const Beside = styled(Floating)({
  position: 'absolute',
  left: 12,
  right: 12,
  top: 52,
  maxHeight: 'calc(100% - 220px)',
  overflow: 'auto',
  // Where the stage is narrow, its buttons have a second row, and others stand at its right.
  '@media (max-width: 1199px)': { top: 92, right: 64 },
})

function PhotoFacts({ photo }: { readonly photo: BedPhoto }) {
  const unit = useSelector((state) => state.view.lengthUnit)
  const as = lengthIn(unit, 2)
  const { calibration } = photo.camera
  return (
    <Row>
      <CameraAltOutlinedIcon fontSize="small" />
      <Words size="small" data-testid="photo-facts">
        {clockOf(photo.takenAt)}, {agoOf(Date.now() - photo.takenAt)} · off by {as.show(calibration!.p95Mm)} {as.unit} at most,
        for 95 of 100 places
      </Words>
    </Row>
  )
}

/** What is to be thought of before the photo is believed. */
function Thoughts({ job, photo, isLook }: Required<Props> & { readonly photo: BedPhoto }) {
  const { camera, bed, takenAt, fixed, laid, code } = photo
  const findings = photoFindings(job, {
    bed,
    calibration: camera.calibration!,
    calibratedAt: Date.parse(camera.calibratedAt ?? ''),
    takenAt,
    now: Date.now(),
    fixed,
    laid,
    ...useMoved(job.machine.id, takenAt),
  })
  return (
    <>
      {findings.map(({ kind, severity, message }) => (
        <Words key={`${kind} ${message}`} size="small" tone={severity === 'ask' ? 'ask' : 'quiet'} data-testid={`photo-${kind}`}>
          {message}
        </Words>
      ))}
      {code && !isLook && <CodeFound code={code} />}
    </>
  )
}

/** When the lid was seen open or the machine at work last, since a photo. */
function useMoved(machine: string, takenAt: number): { readonly movedAt?: number } {
  const desk = useLive(({ machines }) => machines.find((each) => each.machine === machine))
  const [moved, setMoved] = useState<{ readonly of: number; readonly at: number }>()
  const isMoving = (desk?.report?.lidOpen ?? false) || (desk !== undefined && MOVES.includes(desk.state))
  useEffect(() => {
    if (isMoving) setMoved({ of: takenAt, at: Date.now() })
  }, [isMoving, takenAt])
  return moved?.of === takenAt ? { movedAt: moved.at } : {}
}
/** While this is done, what lies on the bed may change. */
const MOVES: readonly string[] = ['running', 'homing']

const sizeWords = ({ piece }: FoundBlank, told: (mm: number) => string): string => {
  const { widthMm, heightMm } = outlineSize(piece.outline)
  const turned = piece.pose.deg ? `, turned ${piece.pose.deg.toFixed(1)}°` : ''
  const holes = Object.keys(piece.keepOuts).length
  const hole = holes === 0 ? '' : holes === 1 ? ', a hole' : `, ${holes} holes`
  return piece.outline.kind === 'circle' ? `Ø ${told(widthMm)}${hole}` : `${told(widthMm)} × ${told(heightMm)}${turned}${hole}`
}

/** What is to be known of a blank that was found, on a line. */
function wordsOf(blank: FoundBlank, i: number, told: (mm: number) => string): string {
  const { cutOff, faint } = blank.seen
  return [
    `${i + 1} · ${sizeWords(blank, told)}`,
    blank.like !== i && `like ${blank.like + 1}`,
    cutOff && 'reaches beyond what is seen',
    faint > FAINT && 'in places like what is beside it: look at its edge',
  ]
    .filter(Boolean)
    .join(', ')
}

const HANDS: Readonly<Record<BlankHand, string>> = {
  choose: 'Is its edge wrong somewhere? Pull its nodes, or paint.',
  nodes: 'Pull a node; Delete takes one away.',
  add: 'What you paint belongs to it; nearer to it the brush is finer.',
  take: 'What you paint is not part of it; in its middle it becomes a hole.',
}

function Blanks({ job, photo }: { readonly job: JobDocument; readonly photo: BedPhoto }) {
  const edit = useEdit()
  const unit = useSelector((state) => state.view.lengthUnit)
  const as = lengthIn(unit)
  const told = (mm: number): string => `${as.show(mm)} ${as.unit}`
  const { blanks, chosen } = photo
  const { thicknessMm } = mainPiece(job)
  const dispatch = useDispatch()
  const selection = useSelector((state) => state.view.selection)
  const marginMm = useSelector((state) => state.view.marginMm)
  const whileWaited = useWaited()
  const { data: near } = useCameraQuery(atHead(job.machine.id))
  const { enqueueSnackbar } = useSnackbar()
  const main = mainPieceId(job)
  // Of those that are alike, the first that is meant counts as the first.
  const some = chosen.map((i) => ({
    piece: blanks[i].piece,
    like: chosen.findIndex((k) => blanks[k].like === blanks[i].like),
  }))
  /** @param filled what lies on the first of them, as large as it goes; absent: as it was */
  const take = (filled: (on: JobDocument) => JobDocument = (on) => on): void => {
    const ids = some.slice(1).map(() => newId())
    const name = some.length === 1 ? 'blank seen on the bed' : `${some.length} blanks seen on the bed`
    edit(name, (base) => onBlanks(filled(onBlanks(base, some.slice(0, 1), thicknessMm, [])), some, thicknessMm, ids))
    // What was in hand stays in hand, however the new ones are called.
    if (some.length > 1) dispatch(pieceLookedAt(main))
    forgetBlanks(jobOnScreen() ?? undefined)
  }
  const fill = async (): Promise<void> => {
    const first = onBlanks(job, some.slice(0, 1), thicknessMm, [])
    const node = selectedNode(job, selection) ?? job.operations[burnOrder(job)[0]]?.of[0]
    if (node === undefined) return take()
    const found = await whileWaited('As large as it goes', fitted(first, node, { marginMm }))
    if (!found) return
    if ('not' in found) enqueueSnackbar(found.not, { variant: 'warning' })
    take((on) => ('not' in found ? on : withPlaces(on, first.placements, found.placements)))
  }
  return (
    <Column gap="none" data-testid="blanks-found">
      <Row wraps>
        {blanks.map((blank, i) => (
          <FormControlLabel
            // biome-ignore lint/suspicious/noArrayIndexKey: blanks have no other name than their number
            key={i}
            control={
              <Checkbox
                size="small"
                checked={chosen.includes(i)}
                onChange={(_, on) => chooseBlanks(on ? [...chosen, i].sort((a, b) => a - b) : chosen.filter((k) => k !== i))}
              />
            }
            label={<Words size="small">{wordsOf(blank, i, told)}</Words>}
          />
        ))}
      </Row>
      {chosen.length === 1 && (
        <Row wraps>
          <ToggleButtonGroup
            exclusive
            size="small"
            value={photo.hand}
            onChange={(_, hand: BlankHand | null) => takeHand(hand ?? 'choose')}
            aria-label="Its edge by hand"
          >
            <ToggleButton value="nodes" data-testid="blank-nodes">
              nodes
            </ToggleButton>
            <ToggleButton value="add" data-testid="blank-add">
              paint on
            </ToggleButton>
            <ToggleButton value="take" data-testid="blank-take">
              paint off
            </ToggleButton>
          </ToggleButtonGroup>
          {photo.before.length > 0 && (
            <Button size="small" onClick={uncorrect} data-testid="blank-back">
              Back
            </Button>
          )}
          <Quiet>{HANDS[photo.hand]}</Quiet>
        </Row>
      )}
      <Row>
        <Tooltip title="Its edge, where it lies and its holes are those of the job's workpiece; what was on that stays in the middle">
          <span>
            <Button
              size="small"
              variant="contained"
              disabled={chosen.length === 0}
              onClick={() => take()}
              data-testid="take-blanks"
            >
              {chosen.length === 1 ? 'This is the workpiece' : `These ${chosen.length} are the workpieces`}
            </Button>
          </span>
        </Tooltip>
        <Button
          size="small"
          disabled={chosen.length === 0}
          onClick={() => void fill().catch((cause: Error) => enqueueSnackbar(cause.message, { variant: 'error' }))}
          data-testid="fill-blank"
        >
          and fill it
        </Button>
        <Tooltip title="A drawing on paper, upright and at its true size, its paper evened: brought in as a picture">
          <span>
            <Button
              size="small"
              disabled={chosen.length !== 1}
              onClick={() =>
                void scannedBlank(blanks[chosen[0]], thicknessMm, 'from the bed').then((file) => file && offerFiles([file]))
              }
              data-testid="scan-blank"
            >
              as a picture
            </Button>
          </span>
        </Tooltip>
        {near?.calibration && (
          <Tooltip title="The head goes over it and looks from near, photo by photo: finer than the bed's camera sees">
            <span>
              <Button
                size="small"
                disabled={chosen.length !== 1}
                onClick={() => void scannedFiner(blanks[chosen[0]], job, thicknessMm).then((file) => file && offerFiles([file]))}
                data-testid="scan-finer"
              >
                finer, with the head
              </Button>
            </span>
          </Tooltip>
        )}
        <Button size="small" onClick={() => forgetBlanks()}>
          None
        </Button>
        <Quiet>Taken as {told(mainPiece(job).thicknessMm)} thick: at another thickness they lie elsewhere.</Quiet>
      </Row>
    </Column>
  )
}
