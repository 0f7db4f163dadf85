import { useTheme } from '@mui/material'
import { type Bounds, mapped } from '@neotaxis/core'
import type { Showing } from '../../stage/layer.ts'
import { Overlay } from '../../stage/Overlay.tsx'
import { arcPath, turnArc } from './turn-arc.ts'

/** The box on the screen, CSS px. */
export function onScreen(box: Bounds, { map }: Showing): { x: number; y: number; w: number; h: number } {
  const [x, y] = mapped(map, box.x0, box.y0)
  const [x1, y1] = mapped(map, box.x1, box.y1)
  return { x, y, w: x1 - x, h: y1 - y }
}

/** The box of the selection, its middle, and the arc that turns it. */
export function SelectionBox({
  box,
  at,
  middle,
}: {
  readonly box: Bounds
  readonly at: Showing
  /** Whether sizes are counted from the middle. */
  readonly middle: boolean
}) {
  const { palette } = useTheme()
  const { x, y, w, h } = onScreen(box, at)
  const arc = arcPath(turnArc({ x, y, w, h }, at.size))
  return (
    <Overlay>
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
        fill={middle ? palette.primary.main : palette.shop.halo}
        stroke={palette.primary.main}
      />
      <g style={{ pointerEvents: 'auto', cursor: 'grab' }} data-handle="turn">
        <path d={arc} fill="none" stroke="transparent" strokeWidth={22} />
        <path d={arc} fill="none" stroke={palette.shop.halo} strokeWidth={6.5} strokeLinecap="round" />
        <path d={arc} fill="none" stroke={palette.primary.main} strokeWidth={3} strokeLinecap="round" />
      </g>
    </Overlay>
  )
}

/** Boxes of several pieces of artwork, and one that is being drawn around some. */
export function Boxes({ boxes, at }: { readonly boxes: readonly Bounds[]; readonly at: Showing }) {
  const { palette } = useTheme()
  return (
    <Overlay>
      {boxes.map((box) => {
        const { x, y, w, h } = onScreen(box, at)
        return (
          <g key={`${box.x0} ${box.y0} ${box.x1} ${box.y1}`} fill="none">
            <rect x={x} y={y} width={w} height={h} stroke={palette.shop.halo} strokeWidth={3} opacity={0.6} />
            <rect
              x={x}
              y={y}
              width={w}
              height={h}
              stroke={palette.primary.main}
              strokeWidth={1.4}
              strokeDasharray="1 5"
              strokeLinecap="round"
            />
          </g>
        )
      })}
    </Overlay>
  )
}
