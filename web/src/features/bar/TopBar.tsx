import RedoIcon from '@mui/icons-material/Redo'
import UndoIcon from '@mui/icons-material/Undo'
import { Box, ButtonBase, IconButton, InputBase, Tooltip, useTheme } from '@mui/material'
import { faceSize, formatLengthNumber, type JobDocument, mainPiece, materialOf } from '@neotaxis/core'
import { memo, useEffect, useState } from 'react'
import { useNavigate } from 'react-router'
import { useDesk } from '../../api/use-live.ts'
import { useDispatch, useSelector } from '../../store/hooks.ts'
import { redone, undone } from '../../store/job-slice.ts'
import { lengthUnitChosen, speedUnitChosen, themeChosen } from '../../store/view-slice.ts'
import { deskSays } from '../live/desk-words.ts'
import { keepStopPlace } from '../live/stop-place.ts'
import { useEdit } from '../use-edit.ts'
import { onCommand, runCommand } from './commands.ts'
import { JobTabs } from './JobTabs.tsx'
import { MachineSheet } from './MachineSheet.tsx'
import { Operator } from './Operator.tsx'
import { SaveState } from './SaveState.tsx'
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
      machine: () => setSheet('machine'),
      board: () => void navigate('/jobs'),
    }),
  )
  const chip = {
    border: 1,
    borderColor: 'divider',
    borderRadius: 5,
    bgcolor: 'background.paper',
    px: 1.3,
    minHeight: 34,
    fontSize: 14,
    gap: 1,
    whiteSpace: 'nowrap',
    flexShrink: 0,
  } as const
  // On a narrow screen what can be had elsewhere makes room for who is there, and what the machine does.
  const wideOnly = { display: { xs: 'none', lg: 'inline' } } as const
  const length = (mm: number): string => String(Number(formatLengthNumber(mm, lengthUnit, lengthUnit === 'mm' ? 1 : 2)))
  return (
    <Box
      component="header"
      sx={{
        display: 'flex',
        alignItems: 'center',
        gap: 1,
        px: 2,
        height: 52,
        bgcolor: 'shop.bar',
        borderBottom: 1,
        borderColor: 'divider',
        // Where it has no room for all, what it holds is reached by moving it.
        overflowX: 'auto',
        scrollbarWidth: 'none',
      }}
    >
      <Wordmark />
      <JobName name={job.name} onRename={(name) => edit('rename the job', (base) => ({ ...base, name }))} />
      <SaveState />
      <JobTabs id={id} />
      <Box sx={{ display: 'flex' }}>
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
      </Box>
      <Box sx={{ flex: 1 }} />
      <Box ref={keepStopPlace} sx={{ display: 'flex', gap: 0.8 }} />
      <Tooltip title="Material, thickness and size of the workpiece  (P)">
        <ButtonBase ref={setWorkpieceChip} sx={chip} onClick={() => setSheet('workpiece')} data-testid="workpiece-chip">
          <Box
            sx={{
              width: 15,
              height: 12,
              borderRadius: 0.5,
              bgcolor: `rgb(${materialOf(job).look.surface.join(' ')})`,
              border: 1,
              borderColor: 'divider',
            }}
          />
          <Box component="span" sx={{ overflow: 'hidden', textOverflow: 'ellipsis', maxWidth: { xs: 60, lg: 76, xl: 160 } }}>
            {materialOf(job).name}
          </Box>{' '}
          <b>{length(mainPiece(job).thicknessMm)}</b>
          <Box component="span" sx={wideOnly}>
            · {length(faceSize(mainPiece(job)).widthMm)} × {length(faceSize(mainPiece(job)).heightMm)} {lengthUnit}
          </Box>
        </ButtonBase>
      </Tooltip>
      <Tooltip title="The machine this job is planned for">
        <ButtonBase
          ref={setMachineChip}
          sx={{ ...chip, ...(says.hot && { borderColor: 'shop.hot', color: 'shop.hot' }) }}
          onClick={() => setSheet('machine')}
          data-testid="machine-chip"
        >
          {says.hot && <Box sx={{ width: 10, height: 10, borderRadius: 5, bgcolor: 'shop.hot' }} />}
          <Box component="span" sx={{ overflow: 'hidden', textOverflow: 'ellipsis', maxWidth: { xs: 60, lg: 96, xl: 200 } }}>
            {job.machine.name}
          </Box>
          · <b>{says.text}</b>
        </ButtonBase>
      </Tooltip>
      <Tooltip title="Millimetres or inches  (U)">
        <ButtonBase
          sx={{ ...chip, px: 1.2, display: { xs: 'none', lg: 'inline-flex' } }}
          onClick={() => runCommand('units')}
          data-testid="units"
        >
          {lengthUnit}
        </ButtonBase>
      </Tooltip>
      <Operator />
      <Tooltip title="Find a command  (Ctrl K)">
        <ButtonBase
          sx={{ color: 'text.secondary', fontWeight: 600, minHeight: 34, px: 0.5, ...wideOnly }}
          onClick={() => runCommand('search')}
        >
          Find
        </ButtonBase>
      </Tooltip>
      <WorkpieceSheet job={job} anchor={sheet === 'workpiece' ? workpieceChip : null} onClose={() => setSheet(null)} />
      <MachineSheet job={job} anchor={sheet === 'machine' ? machineChip : null} onClose={() => setSheet(null)} />
    </Box>
  )
})

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
        sx={{ fontWeight: 700, fontSize: 16, minWidth: 104, '& input': { py: 0.5, textOverflow: 'ellipsis' } }}
      />
    </Tooltip>
  )
}
