import { useTheme } from '@mui/material'
import { mapped, type Placement, turning, withNode, type Zone } from '@neotaxis/core'
import { type KeyboardEvent, type PointerEvent, useRef } from 'react'
import { useChange } from '../use-edit.ts'
import type { StageView } from './stage-view.ts'

/** The smallest side of a zone, share of the picture. */
const LEAST = 0.01

/** A zone with one of its corners (−1, 1) or all of it (0, 0) moved, within the picture. */
export function movedZone(zone: Zone, h: number, v: number, dx: number, dy: number): Zone {
  const within = (value: number, low: number, high: number): number => Math.min(high, Math.max(low, value))
  const right = zone.x + zone.width
  const bottom = zone.y + zone.height
  if (h === 0 && v === 0)
    return { ...zone, x: within(zone.x + dx, 0, 1 - zone.width), y: within(zone.y + dy, 0, 1 - zone.height) }
  const x0 = h < 0 ? within(zone.x + dx, 0, right - LEAST) : zone.x
  const y0 = v < 0 ? within(zone.y + dy, 0, bottom - LEAST) : zone.y
  const x1 = h > 0 ? within(right + dx, zone.x + LEAST, 1) : right
  const y1 = v > 0 ? within(bottom + dy, zone.y + LEAST, 1) : bottom
  return { x: x0, y: y0, width: x1 - x0, height: y1 - y0 }
}

interface Props {
  readonly id: string
  readonly zone: Zone
  readonly place: Placement
  readonly view: StageView
}

/** The part of a picture that is traced: drawn over it, moved and sized by hand. What lies outside is shaded. */
export function ZoneBox({ id, zone, place, view }: Props) {
  const { palette } = useTheme()
  const { show, finish } = useChange()
  const from = useRef<{ readonly x: number; readonly y: number; readonly zone: Zone } | undefined>(undefined)
  const { deg = 0 } = place
  const wide = place.widthMm * view.scale
  const high = place.heightMm * view.scale
  const left = (place.xMm - view.x) * view.scale
  const top = (place.yMm - view.y) * view.scale
  const x = left + zone.x * wide
  const y = top + zone.y * high
  const w = zone.width * wide
  const h = zone.height * high
  const change = (next: Zone): void => show((job) => withNode(job, id, { zone: next }))
  const hand = (i: number, j: number) => ({
    onPointerDown: (event: PointerEvent<SVGElement>) => {
      event.stopPropagation()
      event.currentTarget.setPointerCapture(event.pointerId)
      from.current = { x: event.clientX, y: event.clientY, zone }
    },
    onPointerMove: (event: PointerEvent<SVGElement>) => {
      const began = from.current
      if (!began) return
      event.stopPropagation()
      const [dx, dy] = mapped(turning(-deg), event.clientX - began.x, event.clientY - began.y)
      change(movedZone(began.zone, i, j, dx / wide, dy / high))
    },
    onPointerUp: () => {
      if (from.current) finish('zone of the trace')
      from.current = undefined
    },
    onKeyDown: (event: KeyboardEvent) => {
      const by = event.shiftKey ? 0.05 : 0.005
      const dx = event.key === 'ArrowLeft' ? -by : event.key === 'ArrowRight' ? by : 0
      const dy = event.key === 'ArrowUp' ? -by : event.key === 'ArrowDown' ? by : 0
      if (dx === 0 && dy === 0) return
      event.preventDefault()
      event.stopPropagation()
      change(movedZone(zone, i, j, dx, dy))
      finish('zone of the trace')
    },
  })
  const shade = `M${left} ${top}h${wide}v${high}h${-wide}Z M${x} ${y}v${h}h${w}v${-h}Z`
  return (
    // biome-ignore lint/a11y/useSemanticElements: shapes on the stage
    <svg
      role="group"
      aria-label="Zone of the trace"
      style={{ position: 'absolute', inset: 0, width: '100%', height: '100%', pointerEvents: 'none' }}
      data-testid="zone-box"
    >
      <g transform={`rotate(${deg} ${left + wide / 2} ${top + high / 2})`}>
        <path d={shade} fill={palette.shop.surround} fillOpacity={0.55} fillRule="evenodd" />
        {/* biome-ignore lint/a11y/useSemanticElements: a shape on the stage */}
        <rect
          role="button"
          tabIndex={0}
          aria-label="Zone of the trace: arrows move it"
          x={x}
          y={y}
          width={w}
          height={h}
          fill="transparent"
          stroke={palette.primary.main}
          strokeWidth={2}
          strokeDasharray="7 3"
          style={{ pointerEvents: 'auto', cursor: 'move' }}
          {...hand(0, 0)}
        />
        {(
          [
            [-1, -1, 'upper left'],
            [1, -1, 'upper right'],
            [1, 1, 'lower right'],
            [-1, 1, 'lower left'],
          ] as const
        ).map(([i, j, name]) => (
          // biome-ignore lint/a11y/useSemanticElements: a shape on the stage
          <rect
            key={name}
            role="button"
            tabIndex={0}
            aria-label={`Zone, ${name} corner: arrows move it`}
            data-testid={`zone-${name.replace(' ', '-')}`}
            x={x + (w * (i + 1)) / 2 - 6}
            y={y + (h * (j + 1)) / 2 - 6}
            width={12}
            height={12}
            fill={palette.shop.halo}
            stroke={palette.primary.main}
            strokeWidth={2}
            style={{ pointerEvents: 'auto', cursor: i === j ? 'nwse-resize' : 'nesw-resize' }}
            {...hand(i, j)}
          />
        ))}
      </g>
    </svg>
  )
}
