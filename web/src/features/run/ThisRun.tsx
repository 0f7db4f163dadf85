import { Button, Link, MenuItem, Slider, TextField, Typography } from '@mui/material'
import { burnOrder, formatDuration, isWhole, type JobDocument, type RunScope, tellArtwork, tellBurned } from '@neotaxis/core'
import { useState } from 'react'
import { Column } from '../../parts/Column.tsx'
import { Row } from '../../parts/Row.tsx'
import { Quiet, Words } from '../../parts/words.tsx'
import { pageOf } from '../../processes/table.ts'
import { leaveMoment, setMoment } from '../rehearsal/moment.ts'
import { ChangeFields } from './ChangeFields.tsx'
import type { RunPart } from './run-screen.ts'

interface Props {
  readonly job: JobDocument
  /** Blocks that run. */
  readonly chosen: readonly string[]
  readonly part: RunPart
  /** What the whole job takes. */
  readonly seconds: number | undefined
  readonly onPart: (part: RunPart) => void
  /** Whether a box is being drawn on the stage. */
  readonly drawing: boolean
  readonly onDraw: () => void
}

const mm = (value: number): string => String(Number(value.toFixed(1)))

/** A part without what is not said of it. */
const said = (part: RunPart): RunPart =>
  Object.fromEntries(Object.entries(part).filter(([, value]) => value !== undefined)) as RunPart

/** What of the job this run burns, and how: the job stays as it is. */
export function ThisRun({ job, chosen, part, seconds = 0, onPart, drawing, onDraw }: Props) {
  const [open, setOpen] = useState(false)
  const [shown, setShown] = useState(false)
  const { zone, fromSeconds = 0, pieces, changes = {} } = part
  const set = (change: Partial<RunScope>): void => onPart(said({ ...part, ...change }))
  const nodes = [...new Set(chosen.flatMap((id) => job.operations[id]?.of ?? []))]
  return (
    <Column as="section" aria-label="What this run burns" data-testid="this-run">
      <Row>
        <Typography variant="h3" component="h2" style={{ flex: 1 }}>
          {isWhole(part) && !shown ? 'Burns all of the job' : 'This run only'}
        </Typography>
        {isWhole(part) && (
          <Link component="button" onClick={() => setShown(!shown)} data-testid="part-of-run">
            {shown ? 'Never mind' : 'Only a part…'}
          </Link>
        )}
        {!isWhole(part) && (
          <Link
            component="button"
            onClick={() => {
              onPart({})
              leaveMoment()
            }}
            data-testid="whole-run"
          >
            All as it is
          </Link>
        )}
      </Row>
      {(shown || !isWhole(part)) && (
        <>
          <Row gap="room">
            <Words grow>{zone ? `within ${mm(zone.x1 - zone.x0)} × ${mm(zone.y1 - zone.y0)} mm` : 'all of the face'}</Words>
            {zone && (
              <Link component="button" onClick={() => set({ zone: undefined })}>
                All
              </Link>
            )}
            <Button variant={drawing ? 'contained' : 'outlined'} color="secondary" onClick={onDraw} data-testid="draw-zone">
              {drawing ? 'Draw it…' : 'Zone…'}
            </Button>
          </Row>
          <Row gap="room">
            <Words style={{ width: 112, whiteSpace: 'nowrap' }}>
              {fromSeconds > 0 ? `from ${formatDuration(fromSeconds)}` : 'from the start'}
            </Words>
            <Slider
              size="small"
              aria-label="Runs from this moment on"
              min={0}
              max={Math.max(1, Math.floor(seconds))}
              value={fromSeconds}
              valueLabelDisplay="auto"
              valueLabelFormat={(value) => formatDuration(value)}
              onChange={(_, value) => {
                set({ fromSeconds: value === 0 ? undefined : (value as number) })
                setMoment({ seconds: value as number, playing: false })
              }}
              data-testid="from-moment"
            />
          </Row>
          {nodes.length > 1 && (
            <TextField
              select
              size="small"
              label="Pieces"
              value={pieces ? [...pieces] : nodes}
              onChange={(event) => {
                const some = event.target.value as unknown as string[]
                set({ pieces: some.length === 0 || some.length === nodes.length ? undefined : some })
              }}
              slotProps={{
                select: { multiple: true, renderValue: () => (pieces ? `${pieces.length} of ${nodes.length}` : 'all') },
              }}
              data-testid="run-pieces"
            >
              {nodes.map((node) => (
                <MenuItem key={node} value={node} dense>
                  {tellArtwork(job, node)}
                </MenuItem>
              ))}
            </TextField>
          )}
          <Link component="button" onClick={() => setOpen(!open)} style={{ textAlign: 'left' }} data-testid="other-settings">
            {open ? 'Fewer settings' : 'Other power, speed, passes…'}
          </Link>
          {open &&
            chosen.map((id) => (
              <div key={id} data-testid={`this-run-${id}`}>
                <Quiet top="tight">
                  {burnOrder(job).indexOf(id) + 1} {pageOf(job.operations[id]).name} of “{tellBurned(job, job.operations[id])}”
                  {changes[id] ? ', for this run only' : ''}
                </Quiet>
                <ChangeFields
                  operation={job.operations[id]}
                  change={changes[id] ?? {}}
                  onChange={(change) => set({ changes: { ...changes, [id]: change } })}
                />
              </div>
            ))}
        </>
      )}
    </Column>
  )
}
