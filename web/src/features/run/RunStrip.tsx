import { Tooltip } from '@mui/material'
import { burnOrder, formatDuration, formatSpeed, type JobDocument, tellBurned } from '@neotaxis/core'
import { useLayoutEffect, useRef, useState } from 'react'
import { AtEnd, BLOCK_GAP, BlockButton, BlockFoot, BlockHead, BlockTrack, TotalTime } from '../../parts/Block.tsx'
import { Spread } from '../../parts/Row.tsx'
import { Strip } from '../../parts/Strip.tsx'
import { Quiet } from '../../parts/words.tsx'
import { pageOf } from '../../processes/table.ts'
import { useSelector } from '../../store/hooks.ts'
import { runColour } from '../../theme/run-ramp.ts'
import { blockWidths } from '../run-line/line-items.ts'
import { Playhead } from '../run-line/Playhead.tsx'
import { Ticks } from '../run-line/RunLine.tsx'
import { timeScale } from '../run-line/time-scale.ts'

interface Props {
  readonly job: JobDocument
  readonly seconds: Readonly<Record<string, number>>
  /** Operations that run; the others stay pale. */
  readonly chosen: readonly string[]
  readonly live: boolean
  readonly onChosen?: (ids: readonly string[]) => void
  readonly right: { readonly title: string; readonly detail: string }
  readonly foot: string
}

/** The run line at the machine: which blocks run, and how far they are. */
export function RunStrip({ job, seconds, chosen, live, onChosen, right, foot }: Props) {
  const speedUnit = useSelector((state) => state.view.speedUnit)
  const track = useRef<HTMLDivElement>(null)
  const [room, setRoom] = useState(900)
  useLayoutEffect(() => {
    const observer = new ResizeObserver(([entry]) => setRoom(entry.contentRect.width))
    observer.observe(track.current!)
    return () => observer.disconnect()
  }, [])
  const shown = live ? chosen : burnOrder(job)
  const times = shown.map((id) => seconds[id] ?? 0)
  const widths = blockWidths(times, room)
  const starts = widths.map((_, i) => widths.slice(0, i).reduce((sum, w) => sum + w + BLOCK_GAP, 0))
  const scale = timeScale(times, starts, widths)
  const toggle = (id: string): void =>
    onChosen?.(burnOrder(job).filter((other) => (other === id ? !chosen.includes(id) : chosen.includes(other))))
  return (
    <Strip along="bottom" as="section" aria-label="Run line: the blocks that run, and how far they are">
      <Spread ref={track} style={{ position: 'relative' }}>
        <Ticks scale={scale} />
        {live && <Playhead scale={scale} live />}
        <BlockTrack>
          {shown.map((id, i) => {
            const op = job.operations[id]
            const index = burnOrder(job).indexOf(id)
            const { fill, ink } = runColour(index, burnOrder(job).length)
            const runs = chosen.includes(id)
            const settings = `${formatSpeed(op.speedMmS, speedUnit)} · ${Number((op.power * 100).toFixed(1))} %${op.passes > 1 ? ` · ${op.passes} passes` : ''}`
            return (
              <Tooltip
                key={id}
                title={
                  onChosen ? `${runs ? 'Runs' : 'Does not run'}. Press to change it; Shift and press: from here on` : settings
                }
              >
                <BlockButton
                  fill={fill}
                  ink={ink}
                  texture={pageOf(op).texture}
                  textureSize={pageOf(op).textureSize}
                  runs={runs}
                  disabled={!onChosen}
                  role={onChosen ? 'checkbox' : undefined}
                  aria-checked={onChosen ? runs : undefined}
                  aria-label={`${index + 1}, ${pageOf(op).name} of ${tellBurned(job, op)}, ${settings}, ${formatDuration(times[i])}`}
                  data-testid={`strip-${id}`}
                  onClick={(event) => (event.shiftKey ? onChosen?.(burnOrder(job).slice(index)) : toggle(id))}
                  style={{ width: widths[i] }}
                >
                  <BlockHead>
                    <span>
                      {index + 1} {pageOf(op).name}
                    </span>
                    <span>{runs ? formatDuration(times[i]) : 'left out'}</span>
                  </BlockHead>
                  <BlockFoot>{settings}</BlockFoot>
                </BlockButton>
              </Tooltip>
            )
          })}
        </BlockTrack>
        <Quiet top="tight">{foot}</Quiet>
      </Spread>
      <AtEnd>
        <TotalTime>{right.title}</TotalTime>
        <Quiet>{right.detail}</Quiet>
      </AtEnd>
    </Strip>
  )
}
