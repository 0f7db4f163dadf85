import { useTheme } from '@mui/material'
import { type Affine, mapped, SAME } from '@neotaxis/core'
import type { Showing } from '../../stage/layer.ts'
import { Overlay } from '../../stage/Overlay.tsx'
import type { Hold, Spot, Tool } from '../../stage/tool.ts'
import type { HandPoint } from './hand-line.ts'
import { snap } from './snap.ts'

/** A press this close to the first corner closes the line, px. */
const CLOSE_PX = 12
/** Pulled farther than this, a corner becomes a bend, mm. */
const PULL_MM = 1.5

interface Options {
  readonly points: readonly HandPoint[]
  readonly closed: boolean
  /** Where the next corner would be. */
  readonly hover: HandPoint | undefined
  readonly onHover: (at: HandPoint | undefined) => void
  readonly onTake: (points: readonly HandPoint[], closed: boolean) => void
  /** The map from what it is drawn on to the bed; default: it is drawn on the stage’s own mm. */
  readonly space?: Affine
}

/** Draws a line: a press sets a corner, a pull bends the line through it, the first corner closes it, Backspace takes one back. */
export function useDrawTool({ points, closed, hover, onHover, onTake, space = SAME }: Options): Tool {
  const placeOf = (spot: Spot): HandPoint => ({ x: snap(spot.x, spot), y: snap(spot.y, spot) })
  const press = (spot: Spot): Hold => {
    if (closed) return { pans: true }
    const corner = placeOf(spot)
    const [first] = points
    if (points.length > 2 && Math.hypot(first.x - corner.x, first.y - corner.y) * spot.scale < CLOSE_PX) {
      onTake(points, true)
      return {}
    }
    const last = points.at(-1)
    if (last && last.x === corner.x && last.y === corner.y) return {}
    onTake([...points, corner], false)
    return {
      move: (to) => {
        const { x, y } = placeOf(to)
        const [dx, dy] = [x - corner.x, y - corner.y]
        onTake([...points, Math.hypot(dx, dy) > PULL_MM ? { ...corner, out: { dx, dy } } : corner], false)
      },
      cancel: () => onTake(points, false),
    }
  }
  return {
    name: 'draw',
    space,
    cursor: 'crosshair',
    press,
    hover: (spot) => onHover(spot && placeOf(spot)),
    key: ({ key }) => {
      if (key !== 'Backspace' && key !== 'Delete') return false
      onTake(closed ? points : points.slice(0, -1), false)
      return true
    },
    over: (at) => <Corners points={points} next={closed ? undefined : hover} at={at} />,
  }
}

/** Corners with their handles, and the way to where the next one would be. */
function Corners({
  points,
  next,
  at,
}: {
  readonly points: readonly HandPoint[]
  readonly next: HandPoint | undefined
  readonly at: Showing
}) {
  const ink = useTheme().palette.primary.main
  const to = (x: number, y: number): string => mapped(at.map, x, y).join(' ')
  const last = points.at(-1)
  return (
    <Overlay>
      {last && next && (
        <path d={`M${to(last.x, last.y)}L${to(next.x, next.y)}`} stroke={ink} strokeWidth={1.2} strokeDasharray="5 5" />
      )}
      {points.map(({ x, y, out }, i) => {
        const [cx, cy] = mapped(at.map, x, y)
        return (
          // biome-ignore lint/suspicious/noArrayIndexKey: corners are told apart by their order
          <g key={i}>
            {out && <path d={`M${to(x - out.dx, y - out.dy)}L${to(x + out.dx, y + out.dy)}`} stroke={ink} strokeWidth={1} />}
            <circle cx={cx} cy={cy} r={i === 0 ? 6.5 : 4.5} fill="#fff" stroke={ink} strokeWidth={1.8} />
          </g>
        )
      })}
    </Overlay>
  )
}
