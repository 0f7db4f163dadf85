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
import { burnOrder, formatDuration, type JobDocument, materialSteps, stepsMoved } from '@neotaxis/core'
import { memo, useLayoutEffect, useRef, useState } from 'react'
import { AtEnd, BlockTrack, TotalTime } from '../../parts/Block.tsx'
import { Spread } from '../../parts/Row.tsx'
import { Strip } from '../../parts/Strip.tsx'
import { Quiet } from '../../parts/words.tsx'
import { useDispatch, useSelector } from '../../store/hooks.ts'
import { blocksSelected, groupFolded, selected } from '../../store/view-slice.ts'
import { runColour } from '../../theme/run-ramp.ts'
import { SPACE, TYPE } from '../../theme/tokens.ts'
import { useEvaluation } from '../../workers/use-evaluation.ts'
import { openMenu } from '../compose/StageMenu.tsx'
import { Rehearsal } from '../rehearsal/Rehearsal.tsx'
import { selectedSteps } from '../selection.ts'
import { JobCost } from '../stock/JobCost.tsx'
import { useEdit } from '../use-edit.ts'
import { Block } from './Block.tsx'
import { GroupBlock } from './GroupBlock.tsx'
import { GroupBrackets } from './GroupBrackets.tsx'
import { ALONE, type Keys } from './keys.ts'
import { LineTools } from './LineTools.tsx'
import { burnedIn, itemWidths, type LineItem, lineItems, placeAmong, stepsOfItem } from './line-items.ts'
import { niceStep } from './nice-step.ts'
import { Playhead } from './Playhead.tsx'
import { RealTime } from './RealTime.tsx'
import { StopBlock } from './StopBlock.tsx'
import { type TimeScale, timeScale } from './time-scale.ts'
import { useLineCommands } from './use-line-commands.tsx'
import { useZoom } from './use-zoom.ts'

/** What its material wants done by hand and is not in the line yet, in words. */
function wantedBy(job: JobDocument): string {
  const { before, after } = materialSteps(job)
  return [...before, ...after].map(({ text }) => text.toLowerCase()).join(' · ')
}

/** Time from the first move to the last: blocks for operations, for what the machine waits for, and for folded groups, in run order. */
export const RunLine = memo(function RunLine({ job }: { readonly job: JobDocument }) {
  const edit = useEdit()
  const dispatch = useDispatch()
  const measure = useEvaluation((state) => state.measure)
  const stale = useEvaluation((state) => state.measured !== job)
  const { selection, blocks, hidden, foldedGroups } = useSelector((state) => state.view)
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
  const zoom = useZoom(track)
  const items = lineItems(job, foldedGroups)
  const timeOf = (id: string): number => measure?.report.operations.find((op) => op.id === id)?.seconds ?? 0
  const wide = room * zoom.factor
  const { seconds, widths, starts } = itemWidths(job, items, timeOf, wide)
  const scale = timeScale(seconds, starts, widths)
  const total = measure?.report.seconds
  const chosen = selectedSteps(job, selection, blocks)
  useLineCommands(job, items)

  const dropped = ({ active, over }: DragEndEvent): void => {
    const moved = items.find(({ id }) => id === active.id)
    const target = items.find(({ id }) => id === over?.id)
    if (!moved || !target || moved === target) return
    const to = placeAmong(items, moved, target)
    edit('change the run order', (base) => stepsMoved(base, stepsOfItem(moved), to))
  }
  /** Ctrl: one more or one less; Shift: all from the selection to here. */
  const pick = (item: LineItem, { shiftKey, ctrlKey, metaKey }: Keys): void => {
    const own = stepsOfItem(item)
    if (ctrlKey || metaKey) {
      const rest = chosen.filter((id) => !own.includes(id))
      dispatch(blocksSelected(rest.length < chosen.length ? rest : [...chosen, ...own]))
    } else if (shiftKey && chosen.length > 0) {
      const at = [...chosen, ...own].map((id) => job.order.indexOf(id))
      dispatch(blocksSelected(job.order.slice(Math.min(...at), Math.max(...at) + 1)))
    } else if (item.kind === 'burn') dispatch(selected({ kind: 'operation', id: item.operation }))
    else if (item.kind === 'stop') dispatch(selected({ kind: 'step', id: item.id }))
    else {
      const [first] = burnedIn(job, item)
      dispatch(selected(first === undefined ? { kind: 'step', id: own[0] } : { kind: 'operation', id: first }))
      dispatch(blocksSelected(own))
    }
  }
  const menu = (item: LineItem, left: number, top: number): void => {
    if (!stepsOfItem(item).every((id) => chosen.includes(id))) pick(item, ALONE)
    // Once what is selected now says what can be done with it.
    setTimeout(() => openMenu(left, top, 'block'))
  }
  const order = burnOrder(job)
  const open = measure?.findings.filter(({ meant }) => !meant) ?? []
  const burning = measure?.report.operations.reduce((sum, op) => sum + op.burnMm, 0) ?? 0
  const travelling = measure?.report.travelMm ?? 0
  const byHand = job.order.reduce((sum, id) => {
    const step = job.steps[id]
    return sum + (step.kind === 'by-hand' ? step.minutes : 0)
  }, 0)
  return (
    <Strip along="bottom" as="section" aria-label="Run line: operations in the order and time in which they run" data-run-line>
      <Rehearsal job={job} />
      <Spread>
        <Scrolled ref={track} data-testid="line-track">
          <div style={{ position: 'relative', display: 'flow-root', width: zoom.factor > 1 ? wide : '100%' }}>
            <Ticks scale={scale} width={wide} />
            {measure && <Playhead scale={scale} />}
            <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={dropped}>
              <SortableContext items={items.map(({ id }) => id)} strategy={horizontalListSortingStrategy}>
                <BlockTrack role="list">
                  {items.map((item, i) => {
                    const isChosen = stepsOfItem(item).every((id) => chosen.includes(id))
                    const common = {
                      id: item.id,
                      width: widths[i],
                      selected: isChosen,
                      onMenu: (left: number, top: number) => menu(item, left, top),
                    }
                    if (item.kind === 'stop')
                      return <StopBlock key={item.id} {...common} step={item.step} onPick={(keys) => pick(item, keys)} />
                    if (item.kind === 'group')
                      return (
                        <GroupBlock
                          key={item.id}
                          {...common}
                          name={item.name}
                          steps={item.steps.length}
                          fills={burnedIn(job, item).map((id) => runColour(order.indexOf(id), order.length).fill)}
                          seconds={measure ? seconds[i] : undefined}
                          stale={stale}
                          onPick={() => pick(item, ALONE)}
                          onUnfold={() => dispatch(groupFolded({ name: item.name, isFolded: false }))}
                        />
                      )
                    return (
                      <Block
                        key={item.id}
                        {...common}
                        operation={item.operation}
                        off={item.off}
                        hidden={hidden.includes(item.operation)}
                        job={job}
                        seconds={measure ? seconds[i] : undefined}
                        stale={stale}
                        findings={open.filter((finding) => finding.operation === item.operation)}
                        all={open}
                        onPick={(keys) => pick(item, keys)}
                      />
                    )
                  })}
                </BlockTrack>
              </SortableContext>
            </DndContext>
            <GroupBrackets items={items} starts={starts} widths={widths} />
          </div>
        </Scrolled>
        <Quiet style={{ display: 'flex', justifyContent: 'space-between', alignItems: 'center' }}>
          <span>
            {measure
              ? `burning ${(burning / 1000).toFixed(1)} m · travel ${(travelling / 1000).toFixed(1)} m · back to zero ${measure.report.returnSeconds.toFixed(1)} s`
              : ''}
          </span>
          <LineTools zoom={zoom} hidden={hidden.length} wants={wantedBy(job)} several={order.length > 1} />
        </Quiet>
      </Spread>
      <AtEnd>
        <TotalTime stale={stale} data-testid="total-time" data-seconds={total}>
          {total === undefined ? '…' : formatDuration(total)}
        </TotalTime>
        <Quiet>whole job</Quiet>
        <RealTime job={job} report={measure?.report} />
        {byHand > 0 && <Quiet>and {formatDuration(60 * byHand)} by hand</Quiet>}
        {total !== undefined && <JobCost job={job} machineSeconds={total} handMinutes={byHand} />}
      </AtEnd>
    </Strip>
  )
})

/** Time that is looked at closely is wider than its room. */
const Scrolled = styled('div')({
  overflowX: 'auto',
  // Two fingers look closer at time; one moves along it.
  touchAction: 'pan-x',
  overflowY: 'hidden',
  scrollbarWidth: 'thin',
  // Room for what is drawn around a block.
  margin: -SPACE.tight,
  padding: SPACE.tight,
})

/** Room that the name of a mark takes. */
const NAMED_PX = 38

/** The clock over the blocks. Where a short block is drawn wider than its time, the marks follow the block. */
export function Ticks({ scale: { total, toX }, width }: { readonly scale: TimeScale; readonly width?: number }) {
  if (total <= 0) return null
  const step = niceStep(total, Math.max(8, Math.min(400, (width ?? 0) / 90)))
  const marks: { t: number; x: number }[] = []
  for (let t = 0; t <= total; t += step) {
    const x = toX(t)
    if (marks.length === 0 || x - marks[marks.length - 1].x > 44) marks.push({ t, x })
  }
  return (
    <Clock aria-hidden>
      {marks.map(({ t, x }) => (
        <Tick key={t} style={{ left: x }}>
          {/* One right before the end would run out of the line. */}
          {toX(total) - x > NAMED_PX && formatDuration(t)}
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
