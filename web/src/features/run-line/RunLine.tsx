import {
  closestCenter,
  DndContext,
  type DragEndEvent,
  KeyboardSensor,
  PointerSensor,
  TouchSensor,
  useSensor,
  useSensors,
} from '@dnd-kit/core'
import { horizontalListSortingStrategy, SortableContext, sortableKeyboardCoordinates } from '@dnd-kit/sortable'
import { styled } from '@mui/material'
import { burnOrder, formatDuration, type JobDocument, reordered } from '@neotaxis/core'
import { memo, useEffect, useLayoutEffect, useRef, useState } from 'react'
import { AtEnd, BLOCK_GAP, BlockTrack, TotalTime } from '../../parts/Block.tsx'
import { Spread } from '../../parts/Row.tsx'
import { Strip } from '../../parts/Strip.tsx'
import { Quiet } from '../../parts/words.tsx'
import { useSelector } from '../../store/hooks.ts'
import { SPACE, TYPE } from '../../theme/tokens.ts'
import { useEvaluation } from '../../workers/use-evaluation.ts'
import { onCommand } from '../bar/commands.ts'
import { Rehearsal } from '../rehearsal/Rehearsal.tsx'
import { selectedOperation } from '../selection.ts'
import { useEdit } from '../use-edit.ts'
import { Block } from './Block.tsx'
import { niceStep } from './nice-step.ts'
import { Playhead } from './Playhead.tsx'
import { type TimeScale, timeScale } from './time-scale.ts'

const SMALLEST = 96

/** Widths of blocks in proportion to their times, none smaller than can be read and grasped. */
export function blockWidths(seconds: readonly number[], room: number, smallest = SMALLEST): number[] {
  const width = room - BLOCK_GAP * Math.max(0, seconds.length - 1)
  const least = Math.min(smallest, width / Math.max(1, seconds.length))
  let fixed = new Set<number>()
  for (;;) {
    const free = seconds.reduce((sum, s, i) => (fixed.has(i) ? sum : sum + s), 0)
    const left = width - fixed.size * least
    const small = seconds.flatMap((s, i) => (!fixed.has(i) && (free > 0 ? (s / free) * left : 0) < least ? [i] : []))
    if (small.length === 0) return seconds.map((s, i) => (fixed.has(i) ? least : (s / free) * left))
    fixed = new Set([...fixed, ...small])
    if (fixed.size === seconds.length) return seconds.map(() => width / seconds.length)
  }
}

/** Time from the first move to the last: a block for every operation, in run order. Dragging blocks orders the job. */
export const RunLine = memo(function RunLine({ job }: { readonly job: JobDocument }) {
  const edit = useEdit()
  const measure = useEvaluation((state) => state.measure)
  const stale = useEvaluation((state) => state.measured !== job)
  const selection = useSelector((state) => state.view.selection)
  const track = useRef<HTMLDivElement>(null)
  const [room, setRoom] = useState(900)
  useLayoutEffect(() => {
    const observer = new ResizeObserver(([entry]) => setRoom(entry.contentRect.width))
    observer.observe(track.current!)
    return () => observer.disconnect()
  }, [])
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 6 } }),
    useSensor(TouchSensor, { activationConstraint: { delay: 150, tolerance: 8 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  )
  const seconds = burnOrder(job).map((id) => measure?.report.operations.find((op) => op.id === id)?.seconds ?? 0)
  const widths = blockWidths(seconds, room)
  const total = measure?.report.seconds
  const current = selectedOperation(job, selection)
  const shift = (by: number): void => {
    if (!current) return
    const to = burnOrder(job).indexOf(current) + by
    if (to < 0 || to >= burnOrder(job).length) return
    edit(by < 0 ? 'run earlier' : 'run later', (base) => reordered(base, current, to))
  }
  useEffect(() => onCommand({ earlier: () => shift(-1), later: () => shift(1) }))
  const dropped = ({ active, over }: DragEndEvent): void => {
    if (!over || active.id === over.id) return
    const to = burnOrder(job).indexOf(String(over.id))
    edit('change the run order', (base) => reordered(base, String(active.id), to))
  }
  const starts = widths.map((_, i) => widths.slice(0, i).reduce((sum, w) => sum + w + BLOCK_GAP, 0))
  const scale = timeScale(seconds, starts, widths)
  const burning = measure?.report.operations.reduce((sum, op) => sum + op.burnMm, 0) ?? 0
  const travelling = measure?.report.travelMm ?? 0
  return (
    <Strip along="bottom" as="section" aria-label="Run line: operations in the order and time in which they run" data-run-line>
      <Rehearsal job={job} />
      <Spread ref={track} style={{ position: 'relative' }}>
        <Ticks scale={scale} />
        {measure && <Playhead scale={scale} />}
        <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={dropped}>
          <SortableContext items={[...burnOrder(job)]} strategy={horizontalListSortingStrategy}>
            <BlockTrack role="list">
              {burnOrder(job).map((id, index) => (
                <Block
                  key={id}
                  id={id}
                  job={job}
                  index={index}
                  width={widths[index]}
                  seconds={measure ? seconds[index] : undefined}
                  stale={stale}
                  selected={id === current}
                  findings={measure?.findings.filter((finding) => finding.operation === id && !finding.meant) ?? []}
                  all={measure?.findings.filter(({ meant }) => !meant) ?? []}
                />
              ))}
            </BlockTrack>
          </SortableContext>
        </DndContext>
        <Quiet top="tight" style={{ display: 'flex', justifyContent: 'space-between' }}>
          <span>
            {measure
              ? `burning ${(burning / 1000).toFixed(1)} m · travel ${(travelling / 1000).toFixed(1)} m · back to zero ${measure.report.returnSeconds.toFixed(1)} s`
              : ''}
          </span>
          <span>{burnOrder(job).length > 1 ? 'drag a block to change the order · Alt ← →' : ''}</span>
        </Quiet>
      </Spread>
      <AtEnd>
        <TotalTime stale={stale} data-testid="total-time" data-seconds={total}>
          {total === undefined ? '…' : formatDuration(total)}
        </TotalTime>
        <Quiet>whole job</Quiet>
      </AtEnd>
    </Strip>
  )
})

/** The clock over the blocks. Where a short block is drawn wider than its time, the marks follow the block. */
export function Ticks({ scale: { total, toX } }: { readonly scale: TimeScale }) {
  if (total <= 0) return null
  const step = niceStep(total, 8)
  const marks: { t: number; x: number }[] = []
  for (let t = 0; t <= total; t += step) {
    const x = toX(t)
    if (marks.length === 0 || x - marks[marks.length - 1].x > 44) marks.push({ t, x })
  }
  return (
    <Clock aria-hidden>
      {marks.map(({ t, x }) => (
        <Tick key={t} style={{ left: x }}>
          {formatDuration(t)}
        </Tick>
      ))}
    </Clock>
  )
}

const Clock = styled('div')({ position: 'absolute', left: 0, right: 0, top: 0, height: 24 })
const Tick = styled('div')(({ theme: { palette } }) => ({
  position: 'absolute',
  height: 22,
  paddingLeft: SPACE.tight,
  fontSize: TYPE.tiny,
  lineHeight: '14px',
  color: palette.text.secondary,
  borderLeft: `1px solid ${palette.divider}`,
}))
