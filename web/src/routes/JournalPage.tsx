import SearchIcon from '@mui/icons-material/Search'
import { Box, Button, InputBase, MenuItem, TextField, Typography } from '@mui/material'
import { formatDuration } from '@neotaxis/core/units/duration'
import { useEffect, useState } from 'react'
import { useSearchParams } from 'react-router'
import { useRunsQuery } from '../api/shop.ts'
import { useKept } from '../api/use-kept.ts'
import { ShopBar } from '../features/bar/ShopBar.tsx'
import { useCatalogue } from '../features/bar/use-catalogue.ts'
import { LongList } from '../features/field/LongList.tsx'
import { tellMoment } from '../features/field/told.ts'
import { useRestedText } from '../features/field/use-rested-text.ts'
import DateRange, { momentsOf } from '../features/journal/DateRange.tsx'
import { EstimateChart } from '../features/journal/EstimateChart.tsx'
import { PHASE_NAMES } from '../features/journal/phases.ts'
import { RunEntry } from '../features/journal/RunEntry.tsx'
import { AwayNote } from '../features/live/AwayNote.tsx'

/** Runs that are under way change by themselves: the list is looked at so often, ms. */
const OFTEN_MS = 5000

/** Every run: what, when, on what, how long against the estimate, and what came of it. */
export default function JournalPage() {
  const [params, setParams] = useSearchParams()
  const machines = useCatalogue()?.machines ?? []
  const [search, setSearch] = useState(params.get('search') ?? '')
  const machine = params.get('machine') ?? ''
  const phase = params.get('phase') ?? ''
  const open = params.get('run')
  const rested = useRestedText(search)
  const days = { from: params.get('from') ?? '', until: params.get('until') ?? '' }
  const asked = { ...(rested && { search: rested }), ...(machine && { machine }), ...(phase && { phase }), ...momentsOf(days) }
  const { data: runs, trouble, at } = useKept(useRunsQuery, asked, OFTEN_MS)
  useEffect(() => {
    document.title = 'Journal · Neotaxis'
  }, [])
  const set = (name: string, value: string | null): void => {
    const next = new URLSearchParams(params)
    if (value) next.set(name, value)
    else next.delete(name)
    setParams(next, { replace: true })
  }
  const filtered = search !== '' || machine !== '' || phase !== '' || days.from !== '' || days.until !== ''
  return (
    <Box sx={{ minHeight: '100vh', bgcolor: 'shop.surround' }}>
      <ShopBar>
        <Box sx={{ flex: 1 }} />
      </ShopBar>
      <Box
        component="main"
        sx={{ maxWidth: 1320, mx: 'auto', p: 3, display: 'grid', gap: 2.5, gridTemplateColumns: 'minmax(0, 1fr) 460px' }}
      >
        <AwayNote trouble={trouble} at={at} />
        <Box sx={{ display: 'grid', gap: 1.5, alignContent: 'start', minWidth: 0 }}>
          <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap' }}>
            <Box
              sx={{
                display: 'flex',
                alignItems: 'center',
                bgcolor: 'background.paper',
                border: 1,
                borderColor: 'divider',
                borderRadius: 5,
                px: 1.8,
                flex: '1 1 300px',
                gap: 1,
              }}
            >
              <SearchIcon fontSize="small" sx={{ color: 'text.secondary' }} />
              <InputBase
                fullWidth
                placeholder="Find a run: job, note, name"
                value={search}
                onChange={(event) => setSearch(event.target.value)}
                inputProps={{ 'aria-label': 'Find a run' }}
                sx={{ height: 40 }}
              />
            </Box>
            <TextField
              select
              size="small"
              label="Machine"
              value={machine}
              onChange={(event) => set('machine', event.target.value)}
              sx={{ width: 170 }}
            >
              <MenuItem value="">all</MenuItem>
              {machines.map(({ id, name }) => (
                <MenuItem key={id} value={id}>
                  {name}
                </MenuItem>
              ))}
            </TextField>
            <TextField
              select
              size="small"
              label="Ended"
              value={phase}
              onChange={(event) => set('phase', event.target.value)}
              sx={{ width: 150 }}
            >
              <MenuItem value="">all</MenuItem>
              {['open', 'done', 'stopped', 'refused', 'lost', 'carried'].map((value) => (
                <MenuItem key={value} value={value}>
                  {PHASE_NAMES[value] ?? value}
                </MenuItem>
              ))}
            </TextField>
            <DateRange
              days={days}
              onDays={({ from, until }) => {
                const next = new URLSearchParams(params)
                for (const [name, day] of Object.entries({ from, until })) {
                  if (day) next.set(name, day)
                  else next.delete(name)
                }
                setParams(next, { replace: true })
              }}
            />
          </Box>
          {runs?.length === 0 && (
            <Box
              sx={{
                textAlign: 'center',
                py: 8,
                border: '2px dashed',
                borderColor: 'divider',
                borderRadius: 4,
                bgcolor: 'shop.panel',
              }}
            >
              <Typography variant="h1" sx={{ mb: 1 }}>
                {filtered ? 'No run is like that' : 'Nothing was run yet'}
              </Typography>
              <Typography sx={{ color: 'text.secondary' }}>
                {filtered
                  ? 'Look for less.'
                  : 'Every run writes itself down here: settings, time against the estimate, and what came of it.'}
              </Typography>
              {filtered && (
                <Button
                  onClick={() => {
                    setSearch('')
                    setParams({}, { replace: true })
                  }}
                >
                  Show all
                </Button>
              )}
            </Box>
          )}
          <LongList rows={runs ?? []} keyOf={({ id }) => id} height={62} gap={6} testId="journal">
            {(run) => (
              <Box
                component="button"
                onClick={() => set('run', run.id)}
                aria-current={open === run.id}
                data-testid={`run-${run.id}`}
                sx={{
                  font: 'inherit',
                  color: 'inherit',
                  textAlign: 'left',
                  width: '100%',
                  cursor: 'pointer',
                  border: 1,
                  borderColor: open === run.id ? 'primary.main' : 'divider',
                  bgcolor: open === run.id ? 'shop.selected' : 'background.paper',
                  borderRadius: 2,
                  px: 1.8,
                  py: 1,
                  display: 'grid',
                  gridTemplateColumns: 'minmax(0, 1fr) auto auto',
                  columnGap: 2,
                  alignItems: 'baseline',
                }}
              >
                <Box
                  component="span"
                  sx={{ fontWeight: 700, overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}
                >
                  {run.parentId ? '↳ again: ' : ''}
                  {run.name}
                  {run.only ? ` (${run.only.length} ${run.only.length === 1 ? 'block' : 'blocks'})` : ''}
                </Box>
                <Box component="span" sx={{ fontWeight: 700 }}>
                  {formatDuration(run.seconds)}{' '}
                  <Box component="span" sx={{ fontWeight: 400, color: 'text.secondary' }}>
                    of {formatDuration(run.estimateSeconds)}
                  </Box>
                </Box>
                <Box
                  component="span"
                  sx={{ width: 74, textAlign: 'right' }}
                  role="img"
                  aria-label={run.rating ? `${run.rating} of 5` : 'not rated'}
                >
                  {run.rating ? '●'.repeat(run.rating) + '○'.repeat(5 - run.rating) : ''}
                </Box>
                <Box component="span" sx={{ fontSize: 13, color: 'text.secondary', gridColumn: '1 / -1' }}>
                  {tellMoment(run.startedAt)} · {run.operator} · {run.material} {run.workpiece.thicknessMm} mm on {run.machine} ·{' '}
                  {PHASE_NAMES[run.phase] ?? run.phase}
                  {run.interruptions > 0 ? ` · ${run.interruptions} interruption${run.interruptions > 1 ? 's' : ''}` : ''}
                  {run.note ? ` · “${run.note.slice(0, 60)}”` : ''}
                </Box>
              </Box>
            )}
          </LongList>
        </Box>
        <Box sx={{ display: 'grid', gap: 2, alignContent: 'start' }}>
          {runs && runs.length > 0 && <EstimateChart runs={runs} onRun={(id) => set('run', id)} />}
          {open && <RunEntry key={open} id={open} />}
        </Box>
      </Box>
    </Box>
  )
}
