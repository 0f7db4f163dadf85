import { Box, ButtonBase, Tooltip, useTheme } from '@mui/material'
import { burnOrder, formatDuration, formatSpeed, type JobDocument } from '@neotaxis/core'
import { useLayoutEffect, useRef, useState } from 'react'
import { pageOf } from '../../processes/table.ts'
import { useSelector } from '../../store/hooks.ts'
import { runColour } from '../../theme/run-ramp.ts'
import { Playhead } from '../run-line/Playhead.tsx'
import { blockWidths, Ticks } from '../run-line/RunLine.tsx'
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

const GAP = 5

/** The run line at the machine: which blocks run, and how far they are. */
export function RunStrip({ job, seconds, chosen, live, onChosen, right, foot }: Props) {
  const { palette } = useTheme()
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
  const starts = widths.map((_, i) => widths.slice(0, i).reduce((sum, w) => sum + w + GAP, 0))
  const scale = timeScale(times, starts, widths)
  const toggle = (id: string): void =>
    onChosen?.(burnOrder(job).filter((other) => (other === id ? !chosen.includes(id) : chosen.includes(other))))
  return (
    <Box
      component="section"
      aria-label="Run line: the blocks that run, and how far they are"
      sx={{
        display: 'flex',
        gap: 2.5,
        px: 2.2,
        py: 1,
        height: '100%',
        bgcolor: 'background.paper',
        borderTop: 1,
        borderColor: 'divider',
      }}
    >
      <Box ref={track} sx={{ flex: 1, minWidth: 0, position: 'relative' }}>
        <Ticks scale={scale} />
        {live && <Playhead scale={scale} live />}
        <Box sx={{ display: 'flex', gap: `${GAP}px`, height: 62, mt: '26px' }}>
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
                <ButtonBase
                  disabled={!onChosen}
                  role={onChosen ? 'checkbox' : undefined}
                  aria-checked={onChosen ? runs : undefined}
                  aria-label={`${index + 1}, ${pageOf(op).name} of ${job.nodes[op.of[0]].name}, ${settings}, ${formatDuration(times[i])}`}
                  data-testid={`strip-${id}`}
                  onClick={(event) => (event.shiftKey ? onChosen?.(burnOrder(job).slice(index)) : toggle(id))}
                  style={{ width: widths[i] }}
                  sx={{
                    flex: 'none',
                    display: 'block',
                    textAlign: 'left',
                    borderRadius: 2,
                    px: 1.3,
                    py: 0.9,
                    bgcolor: runs ? fill : 'transparent',
                    color: runs ? ink : 'text.secondary',
                    border: runs ? 'none' : `2px dashed ${palette.divider}`,
                    backgroundImage: runs ? pageOf(op).texture : 'none',
                    backgroundSize: pageOf(op).textureSize,
                    overflow: 'hidden',
                    whiteSpace: 'nowrap',
                    fontSize: 12.5,
                  }}
                >
                  <Box component="span" sx={{ display: 'flex', gap: 1, fontWeight: 700, fontSize: 14.5 }}>
                    <span>
                      {index + 1} {pageOf(op).name}
                    </span>
                    <Box component="span" sx={{ ml: 'auto' }}>
                      {runs ? formatDuration(times[i]) : 'left out'}
                    </Box>
                  </Box>
                  <Box component="span" sx={{ display: 'block', overflow: 'hidden', textOverflow: 'ellipsis' }}>
                    {settings}
                  </Box>
                </ButtonBase>
              </Tooltip>
            )
          })}
        </Box>
        <Box sx={{ color: 'text.secondary', fontSize: 12.5, mt: 0.7 }}>{foot}</Box>
      </Box>
      <Box sx={{ minWidth: 112, textAlign: 'right', alignSelf: 'center' }}>
        <Box sx={{ fontSize: 28, fontWeight: 750, lineHeight: 1.1 }}>{right.title}</Box>
        <Box sx={{ color: 'text.secondary', fontSize: 12.5 }}>{right.detail}</Box>
      </Box>
    </Box>
  )
}
