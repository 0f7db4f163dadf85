import { Box, Tooltip } from '@mui/material'
import { useEffect, useState } from 'react'
import { useSelector } from '../../store/hooks.ts'

const ago = (at: number | null, now: number): string => {
  if (at === null) return 'saved'
  const seconds = Math.round((now - at) / 1000)
  if (seconds < 10) return 'saved'
  return seconds < 60 ? `saved ${seconds} s ago` : `saved ${Math.round(seconds / 60)} min ago`
}

/** Whether the server has everything. */
export function SaveState() {
  const { save, savedAt, pending, refusal } = useSelector((state) => state.job)
  const [now, setNow] = useState(Date.now)
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), 5000)
    return () => clearInterval(timer)
  }, [])
  const text =
    save === 'saved'
      ? ago(savedAt, now)
      : save === 'saving'
        ? 'saving …'
        : save === 'away'
          ? `server away · ${pending.length} ${pending.length === 1 ? 'change' : 'changes'} kept here`
          : 'not saved'
  const hint =
    save === 'away'
      ? 'Go on working: changes are kept in this browser and sent when the server answers again.'
      : save === 'refused'
        ? `${refusal} Undo the last change, or save the job as a file.`
        : 'Every change is saved as it is made.'
  const worry = save === 'away' || save === 'refused'
  return (
    <Tooltip title={hint}>
      <Box
        role="status"
        data-testid="save-state"
        data-state={pending.length > 0 && save === 'saved' ? 'saving' : save}
        sx={{ color: worry ? 'error.main' : 'text.secondary', fontWeight: worry ? 700 : 400, whiteSpace: 'nowrap', fontSize: 13 }}
      >
        {text}
      </Box>
    </Tooltip>
  )
}
