import { Button, MenuItem, styled, TextField } from '@mui/material'
import { formatDuration } from '@neotaxis/core/units/duration'
import { useEffect, useState } from 'react'
import { useSearchParams } from 'react-router'
import { useRunsQuery } from '../api/shop.ts'
import { useKept } from '../api/use-kept.ts'
import { ShopBar } from '../features/bar/ShopBar.tsx'
import { useCatalogue } from '../features/bar/use-catalogue.ts'
import { SHOWS_EMPTY } from '../features/field/shows-empty.ts'
import { tellMoment } from '../features/field/told.ts'
import { useRestedText } from '../features/field/use-rested-text.ts'
import DateRange, { momentsOf } from '../features/journal/DateRange.tsx'
import { EstimateChart } from '../features/journal/EstimateChart.tsx'
import { PHASE_NAMES } from '../features/journal/phases.ts'
import { RunEntry } from '../features/journal/RunEntry.tsx'
import { WriteDown } from '../features/journal/WriteDown.tsx'
import { AwayNote } from '../features/live/AwayNote.tsx'
import { EmptyPlace, PickCard } from '../parts/Card.tsx'
import { Column } from '../parts/Column.tsx'
import { LongList } from '../parts/LongList.tsx'
import { Page, PageMain } from '../parts/Page.tsx'
import { Row, Spread } from '../parts/Row.tsx'
import { SearchField } from '../parts/SearchField.tsx'
import { Title } from '../parts/Title.tsx'
import { Quiet, Words } from '../parts/words.tsx'
import { SPACE } from '../theme/tokens.ts'

/** A run in the list: what it was, how long it took, how it came out; the rest on a line of its own. */
const RunCard = styled(PickCard)({
  gridTemplateColumns: 'minmax(0, 1fr) auto auto',
  columnGap: SPACE.wide,
  alignItems: 'baseline',
})

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
    <Page>
      <ShopBar>
        <Spread />
        <WriteDown />
      </ShopBar>
      <PageMain width={1320} columns="minmax(0, 1fr) 460px">
        <AwayNote trouble={trouble} at={at} />
        <Column gap="room">
          <Row align="stretch" gap="room" wraps>
            <SearchField label="Find a run" hint="Find a run: job, note, name" text={search} onText={setSearch} width={300} />
            <TextField
              select
              size="small"
              label="Machine"
              value={machine}
              slotProps={SHOWS_EMPTY}
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
              slotProps={SHOWS_EMPTY}
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
          </Row>
          {runs?.length === 0 && (
            <EmptyPlace>
              <Title variant="h1" bottom="snug">
                {filtered ? 'No run is like that' : 'Nothing was run yet'}
              </Title>
              <Words tone="quiet">
                {filtered
                  ? 'Look for less.'
                  : 'Every run writes itself down here: settings, time against the estimate, and what came of it.'}
              </Words>
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
            </EmptyPlace>
          )}
          <LongList rows={runs ?? []} keyOf={({ id }) => id} height={62} gap={6} testId="journal">
            {(run) => (
              <RunCard
                chosen={open === run.id}
                onClick={() => set('run', run.id)}
                aria-current={open === run.id}
                data-testid={`run-${run.id}`}
              >
                <Words as="span" weight="strong" cut>
                  {run.parentId ? '↳ again: ' : ''}
                  {run.name}
                  {run.only ? ` (${run.only.length} ${run.only.length === 1 ? 'block' : 'blocks'})` : ''}
                </Words>
                <Words as="span" weight="strong">
                  {formatDuration(run.seconds)}{' '}
                  <Words as="span" weight="plain" tone="quiet">
                    of {formatDuration(run.estimateSeconds)}
                  </Words>
                </Words>
                <Words as="span" width={74} role="img" aria-label={run.rating ? `${run.rating} of 5` : 'not rated'}>
                  {run.rating ? '●'.repeat(run.rating) + '○'.repeat(5 - run.rating) : ''}
                </Words>
                <Quiet as="span" style={{ gridColumn: '1 / -1' }}>
                  {tellMoment(run.startedAt)} · {run.operator} · {run.material} {run.workpiece.thicknessMm} mm on {run.machine} ·{' '}
                  {PHASE_NAMES[run.phase] ?? run.phase}
                  {run.interruptions > 0 ? ` · ${run.interruptions} interruption${run.interruptions > 1 ? 's' : ''}` : ''}
                  {run.note ? ` · “${run.note.slice(0, 60)}”` : ''}
                </Quiet>
              </RunCard>
            )}
          </LongList>
        </Column>
        <Column gap="wide">
          {runs && runs.length > 0 && <EstimateChart runs={runs} onRun={(id) => set('run', id)} />}
          {open && <RunEntry key={open} id={open} />}
        </Column>
      </PageMain>
    </Page>
  )
}
