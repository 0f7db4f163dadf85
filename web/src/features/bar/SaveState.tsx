import { Box, Tooltip } from '@mui/material'
import { useEffect, useState } from 'react'
import { useSelector } from '../../store/hooks.ts'
import { TYPE, WEIGHT } from '../../theme/tokens.ts'

const ago = (at: number | null, now: number): string => {
  if (at === null) return ''
  const seconds = Math.round((now - at) / 1000)
  if (seconds < 10) return ' Just now.'
  return seconds < 60 ? ` Last ${seconds} s ago.` : ` Last ${Math.round(seconds / 60)} min ago.`
}

/** Whether the server has everything. */
export function SaveState() {
  const { save, savedAt, pending, refusal, unsafe, forks } = useSelector((state) => state.job)
  const [now, setNow] = useState(Date.now)
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), 5000)
    return () => clearInterval(timer)
  }, [])
  const changes = `${pending.length} ${pending.length === 1 ? 'change' : 'changes'}`
  const unkept = unsafe && pending.length > 0
  const text = unkept
    ? `${changes} in this page only`
    : {
        saved: 'saved',
        saving: forks ? 'saving as a branch …' : 'saving',
        away: `server away · ${changes} kept here`,
        refused: 'not saved',
      }[save]
  const hint = unkept
    ? 'The browser has no room to keep changes: leave this page open until the server has them.'
    : {
        saved: `Every change is saved as it is made.${ago(savedAt, now)}`,
        saving: forks
          ? 'Somebody changed the same things: your version becomes a job of its own.'
          : 'Every change is saved as it is made.',
        away: `${refusal ?? ''} Go on working: changes are kept in this browser and sent when the server answers again.`.trim(),
        refused: `${refusal} Undo the last change, or save the job as a file.`,
      }[save]
  const worry = save === 'away' || save === 'refused' || unkept
  return (
    <Tooltip title={hint}>
      <Box
        role="status"
        data-testid="save-state"
        data-state={pending.length > 0 && save === 'saved' ? 'saving' : save}
        sx={{
          color: worry ? 'error.main' : 'text.secondary',
          fontWeight: worry ? WEIGHT.strong : WEIGHT.plain,
          whiteSpace: 'nowrap',
          fontSize: TYPE.small,
          // As wide as what it says day by day: nothing beside it moves.
          minWidth: 52,
          overflow: 'hidden',
          textOverflow: 'ellipsis',
        }}
      >
        {text}
      </Box>
    </Tooltip>
  )
}
