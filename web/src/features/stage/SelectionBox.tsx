import { useTheme } from '@mui/material'
import type { Bounds } from '@neotaxis/core'
import type { PointerEvent } from 'react'
import { useSelector } from '../../store/hooks.ts'
import type { StageView } from './stage-view.ts'

const SPOTS = [
  [-1, -1],
  [0, -1],
  [1, -1],
  [1, 0],
  [1, 1],
  [0, 1],
  [-1, 1],
  [-1, 0],
] as const

const CURSORS: Record<string, string> = {
  '-1,-1': 'nwse-resize',
  '1,1': 'nwse-resize',
  '1,-1': 'nesw-resize',
  '-1,1': 'nesw-resize',
  '0,-1': 'ns-resize',
  '0,1': 'ns-resize',
  '1,0': 'ew-resize',
  '-1,0': 'ew-resize',
}

interface Props {
  readonly box: Bounds
  readonly view: StageView
  readonly onHandle: (h: number, v: number) => (event: PointerEvent) => void
  readonly onTurn: (event: PointerEvent) => void
}

/** How far outside the corner the arc runs, and half its length, px. */
const BESIDE = 22
const HALF_ARC = 20

/** An arc around a middle, beside a corner. */
function arcBeside(cx: number, cy: number, x: number, y: number): string {
  const radius = Math.hypot(x - cx, y - cy) + BESIDE
  const middle = Math.atan2(y - cy, x - cx)
  const half = Math.min(0.6, HALF_ARC / radius)
  const at = (a: number): string => `${cx + radius * Math.cos(a)} ${cy + radius * Math.sin(a)}`
  return `M${at(middle - half)}A${radius} ${radius} 0 0 1 ${at(middle + half)}`
}

/** The box of the selection and its handles. A handle that is clicked becomes the point that stays; the box is sized by dragging them. */
export function SelectionBox({ box, view, onHandle, onTurn }: Props) {
  const { palette } = useTheme()
  const anchor = useSelector((state) => state.view.anchor)
  const x = (box.x0 - view.x) * view.scale
  const y = (box.y0 - view.y) * view.scale
  const w = (box.x1 - box.x0) * view.scale
  const h = (box.y1 - box.y0) * view.scale
  return (
    <svg style={{ position: 'absolute', inset: 0, width: '100%', height: '100%', pointerEvents: 'none' }} aria-hidden>
      <rect x={x} y={y} width={w} height={h} fill="none" stroke={palette.shop.halo} strokeWidth={3} opacity={0.6} />
      <rect
        x={x}
        y={y}
        width={w}
        height={h}
        fill="none"
        stroke={palette.primary.main}
        strokeWidth={1.4}
        strokeDasharray="1 5"
        strokeLinecap="round"
      />
      <circle
        cx={x + w / 2}
        cy={y + h / 2}
        r={3}
        fill={anchor.h === 0 && anchor.v === 0 ? palette.primary.main : palette.shop.halo}
        stroke={palette.primary.main}
      />
      {/* Outside a corner an arc around the middle: it turns what is selected. */}
      <g style={{ pointerEvents: 'auto', cursor: 'grab' }} onPointerDown={onTurn} data-handle="turn">
        <path d={arcBeside(x + w / 2, y + h / 2, x + w, y)} fill="none" stroke="transparent" strokeWidth={22} />
        <path
          d={arcBeside(x + w / 2, y + h / 2, x + w, y)}
          fill="none"
          stroke={palette.shop.halo}
          strokeWidth={6.5}
          strokeLinecap="round"
        />
        <path
          d={arcBeside(x + w / 2, y + h / 2, x + w, y)}
          fill="none"
          stroke={palette.primary.main}
          strokeWidth={3}
          strokeLinecap="round"
        />
      </g>
      {SPOTS.map(([i, j]) => {
        const held = anchor.h === i && anchor.v === j
        return (
          <g
            key={`${i},${j}`}
            style={{ pointerEvents: 'auto', cursor: CURSORS[`${i},${j}`] }}
            onPointerDown={onHandle(i, j)}
            data-handle={`${i},${j}`}
          >
            <circle cx={x + (w * (i + 1)) / 2} cy={y + (h * (j + 1)) / 2} r={16} fill="transparent" />
            <circle
              cx={x + (w * (i + 1)) / 2}
              cy={y + (h * (j + 1)) / 2}
              r={held ? 6 : 4.5}
              fill={held ? palette.primary.main : palette.shop.halo}
              stroke={palette.primary.main}
              strokeWidth={1.6}
            />
          </g>
        )
      })}
    </svg>
  )
}
