import { useTheme } from '@mui/material'
import { mapped } from '@neotaxis/core'
import type { KeyboardEvent } from 'react'
import type { Showing } from './layer.ts'
import { Overlay } from './Overlay.tsx'
import type { Grip } from './tool.ts'
import { isPoint } from './use-stage-hand.ts'

const ARROWS: Readonly<Record<string, readonly [-1 | 0 | 1, -1 | 0 | 1]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
}

/** What can be taken hold of, drawn, and reached by the keyboard; the stage's one hand takes the presses. */
export function Grips({ grips, at }: { readonly grips: readonly Grip[]; readonly at: Showing }) {
  const { palette } = useTheme()
  const areas = grips.filter((grip) => !isPoint(grip.at))
  const points = grips.filter((grip) => isPoint(grip.at))
  const common = (grip: Grip) => ({
    style: { pointerEvents: 'auto' as const, cursor: grip.cursor, outlineOffset: 2 },
    'data-testid': grip.testId,
    'data-handle': grip.id,
    ...(grip.label !== undefined && {
      role: 'button',
      tabIndex: 0,
      'aria-label': grip.label,
      onKeyDown: (event: KeyboardEvent) => {
        const way = ARROWS[event.key]
        if (way && grip.nudge) grip.nudge(way[0], way[1], event.shiftKey)
        else if ((event.key === 'Delete' || event.key === 'Backspace') && grip.remove) grip.remove()
        else return
        event.preventDefault()
        event.stopPropagation()
      },
    }),
  })
  return (
    <Overlay label="Handles">
      {areas.map((grip) => {
        const { at: box } = grip
        if (isPoint(box)) return null
        const corners = [
          [box.x0, box.y0],
          [box.x1, box.y0],
          [box.x1, box.y1],
          [box.x0, box.y1],
        ].map(([x, y]) => mapped(at.map, x, y).join(','))
        return (
          <polygon
            key={grip.id}
            points={corners.join(' ')}
            fill="transparent"
            stroke={grip.look === 'unseen' ? 'none' : palette.primary.main}
            strokeWidth={2}
            strokeDasharray={grip.look === 'area' ? '7 3' : undefined}
            {...common(grip)}
          />
        )
      })}
      {points.map((grip) => {
        const [x, y] = isPoint(grip.at) ? mapped(at.map, grip.at[0], grip.at[1]) : [0, 0]
        const r = grip.radius ?? (grip.chosen ? 6 : 4.5)
        const paint = {
          fill: grip.chosen ? palette.primary.main : grip.look === 'square' ? palette.shop.raised : palette.shop.halo,
          fillOpacity: grip.look === 'ring' ? 0.65 : 1,
          stroke: palette.primary.main,
          strokeWidth: grip.look === 'ring' ? 2.5 : grip.look === 'square' ? 2 : 1.6,
        }
        return (
          <g key={grip.id} {...common(grip)}>
            <circle cx={x} cy={y} r={Math.max(r, 14)} fill="transparent" />
            {grip.look === 'square' ? (
              <rect x={x - r} y={y - r} width={2 * r} height={2 * r} rx={3} {...paint} />
            ) : grip.look === 'unseen' ? null : (
              <circle cx={x} cy={y} r={r} {...paint} />
            )}
          </g>
        )
      })}
    </Overlay>
  )
}
