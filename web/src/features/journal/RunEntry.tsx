import CircleIcon from '@mui/icons-material/Circle'
import CircleOutlinedIcon from '@mui/icons-material/CircleOutlined'
import { Box, Button, Rating, TextField, Typography } from '@mui/material'
import type { Look, RunFull } from '@neotaxis/contract'
import { burnOrder, formatSpeed, tellBurned } from '@neotaxis/core'
import { useState } from 'react'
import { Link as RouterLink } from 'react-router'
import { bringIn, runOrders } from '../../api/orders.ts'
import { useRunQuery } from '../../api/shop.ts'
import { useKept } from '../../api/use-kept.ts'
import { Card } from '../../parts/Card.tsx'
import { Row } from '../../parts/Row.tsx'
import { Title } from '../../parts/Title.tsx'
import { Words } from '../../parts/words.tsx'
import { pageOf } from '../../processes/table.ts'
import { useSelector } from '../../store/hooks.ts'
import { EDGE, TYPE } from '../../theme/tokens.ts'
import { PhotoAfter } from '../camera/PhotoAfter.tsx'
import { CLOCK, numberOf, orNothing, type Written } from '../field/measures.ts'
import { TypedField } from '../field/TypedField.tsx'
import { tellCount } from '../field/told.ts'
import { BurnCard } from '../run/BurnCard.tsx'
import { useDoing } from '../run/use-doing.ts'
import { RunCost } from '../stock/RunCost.tsx'
import { Happened } from './Happened.tsx'
import { PHASE_NAMES } from './phases.ts'

const ANSWERS: Record<Look['answer'], string> = {
  yes: 'as it should be',
  partly: 'in places',
  no: 'not',
  light: 'too light',
  dark: 'too dark',
}

const DEPTH = orNothing(numberOf('mm', 4))
const TONE = orNothing(numberOf('', 4))
/** The real time of a program that was carried to its machine; nothing stands there until somebody says it. */
const CARRIED: Written<number> = { ...CLOCK, show: (seconds) => (seconds > 0 ? CLOCK.show(seconds) : '') }

/** One run: its settings, what happened, what came of it; rated, with a note and a photo; started again from here. */
export function RunEntry({ id, onChanged }: { readonly id: string; readonly onChanged?: () => void }) {
  const doing = useDoing()
  const speedUnit = useSelector((state) => state.view.speedUnit)
  const { current: run, trouble } = useKept(useRunQuery, id)
  if (!run) return trouble ? <Typography color="error">{trouble.message}</Typography> : null
  const write = (work: () => Promise<unknown>): void => {
    void doing(work).then((done) => done && onChanged?.())
  }
  const change = (values: Partial<Pick<RunFull, 'rating' | 'note' | 'seconds'>>): void =>
    write(() => runOrders.change(id, values))
  const photo = (file: File | undefined): void => {
    if (file) write(async () => runOrders.change(id, { photo: (await bringIn(file)).asset }))
  }
  // Only what was measured goes to the server: what others saw of the same block stays.
  const look = (op: string, values: Partial<Look>): void =>
    write(() => runOrders.change(id, { looks: { [op]: run.looks[op] ? values : { answer: 'yes', ...values } } }))
  const ids = burnOrder(run.document).filter((op) => run.scope.only?.includes(op) ?? true)
  return (
    <Card gap="room" as="section" aria-label={`Run of ${run.name}`} data-testid="run-entry">
      <Row align="baseline">
        <Title variant="h2" grow>
          {run.name}
        </Title>
        {run.jobId && (
          <Button component={RouterLink} to={`/jobs/${run.jobId}/run`} variant="contained" size="small" data-testid="start-again">
            Start it again
          </Button>
        )}
      </Row>
      <Words size="plain">
        {PHASE_NAMES[run.phase] ?? run.phase}
        {run.reason ? `: ${run.reason}` : ''} · job version {run.jobRevision} · {run.workpiece.widthMm} × {run.workpiece.heightMm}{' '}
        mm {run.material} · {tellCount(run.lines)} lines
      </Words>
      {run.phase === 'carried' && (
        <TypedField
          label="It really took"
          as={CARRIED}
          value={run.seconds}
          onTake={(seconds) => change({ seconds })}
          hint="as the clock at the machine said"
          testId="carried-time"
        />
      )}
      <RunCost run={run} />
      {ids.map((op) => {
        const operation = { ...run.document.operations[op], ...run.scope.changes?.[op] }
        const seen = run.looks[op]
        return (
          <Box key={op} sx={{ borderTop: 1, borderColor: 'divider', pt: 0.8, fontSize: TYPE.plain }}>
            <b>
              {pageOf(operation).name} of “{tellBurned(run.document, operation)}”
            </b>{' '}
            {Number((operation.power * 100).toFixed(1))} % · {formatSpeed(operation.speedMmS, speedUnit)} · {operation.passes}{' '}
            pass{operation.passes > 1 ? 'es' : ''}
            {run.scope.changes?.[op] ? ' (for this run only)' : ''}
            {seen ? ` · ${seen.answer === 'yes' ? pageOf(operation).wellDone : ANSWERS[seen.answer]}` : ''}
            <Row align="stretch" top="snug">
              <TypedField label="depth" as={DEPTH} value={seen?.depthMm ?? null} onTake={(depthMm) => look(op, { depthMm })} />
              {pageOf(operation).hasTone && (
                <TypedField label="tone (0–1)" as={TONE} value={seen?.tone ?? null} onTake={(tone) => look(op, { tone })} />
              )}
              <TypedField label="warp" as={DEPTH} value={seen?.warpMm ?? null} onTake={(warpMm) => look(op, { warpMm })} />
            </Row>
          </Box>
        )
      })}
      <Row>
        <Rating
          icon={<CircleIcon fontSize="inherit" sx={{ color: 'primary.main' }} />}
          emptyIcon={<CircleOutlinedIcon fontSize="inherit" />}
          getLabelText={(value) => `${value} of 5`}
          value={run.rating}
          onChange={(_, rating) => change({ rating })}
          aria-label="How well it came out"
          data-testid="rating"
        />
        <Button component="label" size="small">
          {run.photo ? 'Another photo' : 'Add a photo'}
          <input
            type="file"
            accept="image/*"
            hidden
            onChange={(event) => photo(event.target.files?.[0])}
            aria-label="Photo of the piece"
          />
        </Button>
      </Row>
      <Note text={run.note} onText={(note) => change({ note })} />
      {run.photo && (
        <img src={`/api/assets/${run.photo}`} alt="The piece after the run" style={{ width: '100%', borderRadius: EDGE.card }} />
      )}
      <BurnCard run={run} />
      <PhotoAfter run={run} onTone={(op, tone) => look(op, { tone })} />
      {run.events.length > 0 && <Happened events={run.events} />}
    </Card>
  )
}

function Note({ text, onText }: { readonly text: string; readonly onText: (text: string) => void }) {
  const [now, setNow] = useState(text)
  return (
    <TextField
      label="Note"
      multiline
      minRows={2}
      size="small"
      value={now}
      onChange={(event) => setNow(event.target.value)}
      onBlur={() => now !== text && onText(now)}
      slotProps={{ htmlInput: { 'data-testid': 'run-note' } }}
    />
  )
}
