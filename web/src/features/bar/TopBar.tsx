import RedoIcon from '@mui/icons-material/Redo'
import UndoIcon from '@mui/icons-material/Undo'
import { ButtonBase, IconButton, InputBase, styled, type Theme, Tooltip, useTheme } from '@mui/material'
import {
  faceSize,
  formatLengthNumber,
  JIG,
  type JobDocument,
  mainPiece,
  materialOf,
  narrowestMm,
  type Round,
  widestMm,
} from '@neotaxis/core'
import { useSnackbar } from 'notistack'
import { memo, useEffect, useState } from 'react'
import { useNavigate } from 'react-router'
import { useDesk } from '../../api/use-live.ts'
import { Chip } from '../../parts/Chip.tsx'
import { Row, Spread } from '../../parts/Row.tsx'
import { Strip } from '../../parts/Strip.tsx'
import { useDispatch, useSelector } from '../../store/hooks.ts'
import { redone, undone } from '../../store/job-slice.ts'
import { lengthUnitChosen, speedUnitChosen, themeChosen } from '../../store/view-slice.ts'
import { EDGE, SPACE, TYPE, WEIGHT } from '../../theme/tokens.ts'
import { deskSays } from '../live/desk-words.ts'
import { keepStopPlace } from '../live/stop-place.ts'
import { useEdit } from '../use-edit.ts'
import { onCommand, runCommand } from './commands.ts'
import { JobTabs } from './JobTabs.tsx'
import { MachineSheet } from './MachineSheet.tsx'
import { Operator } from './Operator.tsx'
import { SaveState } from './SaveState.tsx'
import { useJig } from './use-jig.ts'
import { useTurning } from './use-turning.ts'
import { Wordmark } from './Wordmark.tsx'
import { WorkpieceSheet } from './WorkpieceSheet.tsx'

const SPEED_UNITS = ['mm/s', 'mm/min', 'in/s', 'in/min'] as const

/** Name and state of the job, the workpiece, the machine, undo, units. */
export const TopBar = memo(function TopBar({ job, id }: { readonly job: JobDocument; readonly id: string }) {
  const dispatch = useDispatch()
  const navigate = useNavigate()
  const edit = useEdit()
  const mode = useTheme().palette.mode
  const { history } = useSelector((state) => state.job)
  const { lengthUnit, speedUnit } = useSelector((state) => state.view)
  const [sheet, setSheet] = useState<'workpiece' | 'machine' | null>(null)
  const [workpieceChip, setWorkpieceChip] = useState<HTMLButtonElement | null>(null)
  const [machineChip, setMachineChip] = useState<HTMLButtonElement | null>(null)
  const { make } = useJig(job, id)
  const { canTurn, turning } = useTurning(job)
  const { enqueueSnackbar } = useSnackbar()
  const says = deskSays(useDesk(job.machine.id))
  const last = history.done.at(-1)
  const next = history.undone.at(-1)
  useEffect(() =>
    onCommand({
      undo: () => dispatch(undone()),
      redo: () => dispatch(redone()),
      units: () => dispatch(lengthUnitChosen(lengthUnit === 'mm' ? 'in' : 'mm')),
      'speed-units': () => dispatch(speedUnitChosen(SPEED_UNITS[(SPEED_UNITS.indexOf(speedUnit) + 1) % 4])),
      theme: () => dispatch(themeChosen(mode === 'light' ? 'dark' : 'light')),
      workpiece: () => setSheet('workpiece'),
      'make-jig': () => void make(JIG, 'run'),
      ...(canTurn &&
        mainPiece(job).surface.kind === 'flat' && {
          'turn-around': () => {
            const trouble = turning()
            if (trouble) enqueueSnackbar(trouble, { variant: 'error' })
            // How thick it is, is asked next.
            else setSheet('workpiece')
          },
        }),
      machine: () => setSheet('machine'),
      board: () => void navigate('/jobs'),
    }),
  )
  const length = (mm: number): string => String(Number(formatLengthNumber(mm, lengthUnit, lengthUnit === 'mm' ? 1 : 2)))
  return (
    // Where it has no room for all, what it holds is reached by moving it.
    <Strip along="top" tone="bar" gap="snug" high={52} as="header" style={{ overflowX: 'auto', scrollbarWidth: 'none' }}>
      <Wordmark shortens />
      <JobName name={job.name} onRename={(name) => edit('rename the job', (base) => ({ ...base, name }))} />
      <SaveState />
      <JobTabs id={id} isTrial={job.trial !== undefined} />
      <Row align="stretch" gap="none">
        <Tooltip title={last ? `Undo: ${last.name}  (Ctrl Z)` : 'Nothing to undo'}>
          <span>
            <IconButton
              disabled={!last}
              onClick={() => dispatch(undone())}
              aria-label={last ? `Undo: ${last.name}` : 'Undo'}
              data-testid="undo"
            >
              <UndoIcon fontSize="small" />
            </IconButton>
          </span>
        </Tooltip>
        <Tooltip title={next ? `Redo: ${next.name}  (Ctrl Shift Z)` : 'Nothing to redo'}>
          <span>
            <IconButton
              disabled={!next}
              onClick={() => dispatch(redone())}
              aria-label={next ? `Redo: ${next.name}` : 'Redo'}
              data-testid="redo"
            >
              <RedoIcon fontSize="small" />
            </IconButton>
          </span>
        </Tooltip>
      </Row>
      <Spread />
      <Row ref={keepStopPlace} align="stretch" />
      <Tooltip title="Material, thickness and size of the workpiece  (P)">
        <Chip
          ref={setWorkpieceChip}
          onClick={() => setSheet('workpiece')}
          style={{ flexShrink: 1, minWidth: 118, justifyContent: 'flex-start' }}
          data-testid="workpiece-chip"
        >
          <Swatch style={{ backgroundColor: `rgb(${materialOf(job).look.surface.join(' ')})` }} />
          <Short> {materialOf(job).name}</Short> <b>{length(mainPiece(job).thicknessMm)}</b>
          {/* Its unit stands beside the machine. */}
          <Size>· {sizeTold(job, length)}</Size>
        </Chip>
      </Tooltip>
      <Tooltip title="The machine this job is planned for">
        <Chip
          ref={setMachineChip}
          mark={says.hot ? 'hot' : 'plain'}
          onClick={() => setSheet('machine')}
          data-testid="machine-chip"
        >
          {says.hot && <Lit />}
          <Short> {job.machine.name}</Short>· <b>{says.text}</b>
        </Chip>
      </Tooltip>
      <Tooltip title="Millimetres or inches  (U)">
        <WideChip onClick={() => runCommand('units')} data-testid="units">
          {lengthUnit}
        </WideChip>
      </Tooltip>
      <Operator />
      <Tooltip title="Find a command  (Ctrl K)">
        <Find onClick={() => runCommand('search')}>Find</Find>
      </Tooltip>
      <WorkpieceSheet job={job} id={id} anchor={sheet === 'workpiece' ? workpieceChip : null} onClose={() => setSheet(null)} />
      <MachineSheet job={job} anchor={sheet === 'machine' ? machineChip : null} onClose={() => setSheet(null)} />
    </Strip>
  )
})

const Short = styled('span')(({ theme }) => ({
  overflow: 'hidden',
  // A name gives way before a size does: its first letters tell it.
  flexShrink: 50,
  minWidth: 34,
  textOverflow: 'ellipsis',
  maxWidth: 60,
  [theme.breakpoints.up('lg')]: { maxWidth: 84 },
  [theme.breakpoints.up('xl')]: { maxWidth: 200 },
}))

// On a narrow screen what can be had elsewhere makes room for who is there, and what the machine does.
const wideOnly = ({ theme }: { readonly theme: Theme }) => ({ [theme.breakpoints.down('lg')]: { display: 'none' } })
/** What is left of it where there is little room is enough to know it by. */
const Size = styled('span')({ overflow: 'hidden', textOverflow: 'ellipsis', minWidth: 0 }, wideOnly)
const WideChip = styled(Chip)(wideOnly)
const Find = styled(ButtonBase)(
  ({ theme: { palette } }) => ({ color: palette.text.secondary, fontWeight: WEIGHT.firm, padding: `0 ${SPACE.tight}px` }),
  wideOnly,
)

/** How the material looks. */
const Swatch = styled('span')(({ theme: { palette } }) => ({
  flex: 'none',
  width: 15,
  height: 12,
  border: `1px solid ${palette.divider}`,
  borderRadius: EDGE.sharp,
}))

/** The laser is or may be on. */
const Lit = styled('span')(({ theme: { palette } }) => ({
  width: 10,
  height: 10,
  borderRadius: '50%',
  backgroundColor: palette.shop.hot,
}))

function JobName({ name, onRename }: { readonly name: string; readonly onRename: (name: string) => void }) {
  const [text, setText] = useState<string | null>(null)
  const take = (): void => {
    const next = text?.trim()
    if (next && next !== name) onRename(next.slice(0, 200))
    setText(null)
  }
  return (
    <Tooltip title="Name of the job: click to change it">
      <InputBase
        value={text ?? name}
        onChange={(event) => setText(event.target.value)}
        onBlur={take}
        onKeyDown={(event) => {
          if (event.key === 'Enter') (event.target as HTMLElement).blur()
          if (event.key === 'Escape') setText(null)
        }}
        inputProps={{ 'aria-label': 'Name of the job', maxLength: 200, size: Math.max(8, Math.min(22, (text ?? name).length)) }}
        sx={{
          fontWeight: WEIGHT.strong,
          fontSize: TYPE.name,
          minWidth: 104,
          flexShrink: 40,
          '& input': { py: 0.5, textOverflow: 'ellipsis' },
        }}
      />
    </Tooltip>
  )
}

/** How large the workpiece is: of what turns, how thick and how long. */
function sizeTold(job: JobDocument, length: (mm: number) => string): string {
  const { surface, ...piece } = mainPiece(job)
  const { widthMm, heightMm } = faceSize(piece)
  return surface.kind === 'flat'
    ? `${length(widthMm)} × ${length(heightMm)}`
    : `Ø ${thickWords(surface, length)} × ${length(widthMm)}`
}

/** How thick something round is, from its thinnest to its widest place. */
function thickWords(surface: Round, length: (mm: number) => string): string {
  if (surface.kind === 'cylinder') return length(surface.diameterMm)
  if (surface.kind === 'cone') return `${length(surface.leftMm)} to ${length(surface.rightMm)}`
  return `${length(narrowestMm(surface))} to ${length(widestMm(surface))}`
}
