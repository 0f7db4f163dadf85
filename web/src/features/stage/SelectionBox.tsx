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
  /** Of the stage, CSS px. */
  readonly width: number
  readonly height: number
}

/** How far outside the corner the arc runs, and half its length, px. */
const BESIDE = 22
const HALF_ARC = 20

/** Room that the tools at the top of the stage take, and findings at its bottom, px. */
const TOOLS_PX = 110
const FINDINGS_PX = 40

/** The corner beside which the arc is in reach: the upper right one where nothing hides it. */
function turnCorner(
  { x, y, w, h }: { readonly x: number; readonly y: number; readonly w: number; readonly h: number },
  width: number,
  height: number,
): readonly [number, number] {
  const corners = [
    [x + w, y, 1, -1],
    [x + w, y + h, 1, 1],
    [x, y + h, -1, 1],
    [x, y, -1, -1],
  ] as const
  const seen = corners.find(([cx, cy, h, v]) => {
    const [ax, ay] = [cx + h * BESIDE, cy + v * BESIDE]
    return ax > 12 && ax < width - 12 && ay > TOOLS_PX && ay < height - FINDINGS_PX
  })
  return seen ? [seen[0], seen[1]] : [x + w, y]
}

/** An arc around a middle, beside a corner. */
function arcBeside(cx: number, cy: number, x: number, y: number): string {
  const radius = Math.hypot(x - cx, y - cy) + BESIDE
  const middle = Math.atan2(y - cy, x - cx)
  const half = Math.min(0.6, HALF_ARC / radius)
  const at = (a: number): string => `${cx + radius * Math.cos(a)} ${cy + radius * Math.sin(a)}`
  return `M${at(middle - half)}A${radius} ${radius} 0 0 1 ${at(middle + half)}`
}

/** The box of the selection and its handles. A handle that is clicked becomes the point that stays; the box is sized by dragging them. */
export function SelectionBox({ box, view, onHandle, onTurn, width, height }: Props) {
  const { palette } = useTheme()
  const anchor = useSelector((state) => state.view.anchor)
  const x = (box.x0 - view.x) * view.scale
  const y = (box.y0 - view.y) * view.scale
  const w = (box.x1 - box.x0) * view.scale
  const h = (box.y1 - box.y0) * view.scale
  const [tx, ty] = turnCorner({ x, y, w, h }, width, height)
  const arc = arcBeside(x + w / 2, y + h / 2, tx, ty)
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
        <path d={arc} fill="none" stroke="transparent" strokeWidth={22} />
        <path d={arc} fill="none" stroke={palette.shop.halo} strokeWidth={6.5} strokeLinecap="round" />
        <path d={arc} fill="none" stroke={palette.primary.main} strokeWidth={3} strokeLinecap="round" />
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
