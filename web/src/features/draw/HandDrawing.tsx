import { Box, Button, Tooltip, useTheme } from '@mui/material'
import { formatLength, type Size } from '@neotaxis/core'
import { type PointerEvent, useRef, useState } from 'react'
import { useSelector } from '../../store/hooks.ts'
import { LengthField } from '../field/quantities.tsx'
import { type HandPoint, handData } from './hand-line.ts'

interface Props {
  readonly workpiece: Size
  /** SVG path data in mm of the workpiece; empty while there is no line yet. */
  readonly onDrawn: (data: string) => void
}

/** Places are taken to the next whole step, unless Alt is held, mm. */
const STEP = 1
/** A press this close to the first corner closes the line, px. */
const CLOSE_PX = 12
/** Pulled farther than this, a corner becomes a bend, mm. */
const PULL_MM = 1.5

/** A line drawn by hand on the workpiece: a press sets a corner, a pull bends the line through it; by numbers too. */
export function HandDrawing({ workpiece, onDrawn }: Props) {
  const theme = useTheme()
  const unit = useSelector((state) => state.view.lengthUnit)
  const svg = useRef<SVGSVGElement>(null)
  const [points, setPoints] = useState<readonly HandPoint[]>([])
  const [closed, setClosed] = useState(false)
  const [hover, setHover] = useState<HandPoint>()
  const [next, setNext] = useState({ x: 10, y: 10 })
  const pulled = useRef<number | undefined>(undefined)
  const { widthMm, heightMm } = workpiece
  const take = (to: readonly HandPoint[], close: boolean): void => {
    setPoints(to)
    setClosed(close)
    onDrawn(handData(to, close))
  }
  const at = (event: PointerEvent): { x: number; y: number; mmPerPx: number } => {
    const matrix = svg.current!.getScreenCTM()!.inverse()
    const { x, y } = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix)
    const snap = (v: number): number => (event.altKey ? v : Math.round(v / STEP) * STEP)
    return { x: snap(x), y: snap(y), mmPerPx: matrix.a }
  }
  const down = (event: PointerEvent<SVGSVGElement>): void => {
    const { x, y, mmPerPx } = at(event)
    event.currentTarget.setPointerCapture(event.pointerId)
    if (closed) return
    const [first] = points
    if (points.length > 2 && Math.hypot(first.x - x, first.y - y) < CLOSE_PX * mmPerPx) {
      take(points, true)
      return
    }
    const last = points.at(-1)
    if (last && last.x === x && last.y === y) return
    pulled.current = points.length
    take([...points, { x, y }], false)
  }
  const move = (event: PointerEvent<SVGSVGElement>): void => {
    const { x, y } = at(event)
    const index = pulled.current
    if (index === undefined) {
      setHover({ x, y })
      return
    }
    const corner = points[index]
    const [dx, dy] = [x - corner.x, y - corner.y]
    const out = Math.hypot(dx, dy) > PULL_MM ? { dx, dy } : undefined
    take(
      points.map((point, i) => (i === index ? { x: corner.x, y: corner.y, ...(out ? { out } : {}) } : point)),
      false,
    )
  }
  const last = points.at(-1)
  const segment =
    last && hover && !closed
      ? { length: Math.hypot(hover.x - last.x, hover.y - last.y), angle: Math.atan2(hover.y - last.y, hover.x - last.x) }
      : undefined
  const dot = Math.max(widthMm, heightMm) / 140
  const ink = theme.palette.primary.main
  const back = (): void => take(closed ? points : points.slice(0, -1), false)
  return (
    <>
      <Box
        component="svg"
        ref={svg}
        viewBox={`${-widthMm * 0.02} ${-heightMm * 0.02} ${widthMm * 1.04} ${heightMm * 1.04}`}
        tabIndex={0}
        role="application"
        aria-label="The workpiece to draw on. Corners can be set by numbers below."
        data-testid="hand-drawing"
        onPointerDown={down}
        onPointerMove={move}
        onPointerUp={() => {
          pulled.current = undefined
        }}
        onPointerLeave={() => setHover(undefined)}
        onKeyDown={(event) => {
          if (event.key !== 'Backspace' && event.key !== 'Delete') return
          event.preventDefault()
          back()
        }}
        sx={{
          flex: 1,
          minHeight: 300,
          width: '100%',
          bgcolor: 'shop.surround',
          borderRadius: 2,
          cursor: 'crosshair',
          touchAction: 'none',
        }}
      >
        <rect width={widthMm} height={heightMm} fill="#fbf9f4" />
        <path d={handData(points, closed)} fill={closed ? `${ink}22` : 'none'} stroke={ink} strokeWidth={dot / 2.5} />
        {segment && last && hover && (
          <path d={`M${last.x} ${last.y}L${hover.x} ${hover.y}`} stroke={ink} strokeWidth={dot / 5} strokeDasharray={dot} />
        )}
        {points.map(({ x, y, out }, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: corners are told apart by their order
          <g key={i}>
            {out && <path d={`M${x - out.dx} ${y - out.dy}L${x + out.dx} ${y + out.dy}`} stroke={ink} strokeWidth={dot / 6} />}
            <circle cx={x} cy={y} r={i === 0 ? dot * 1.4 : dot} fill="#fff" stroke={ink} strokeWidth={dot / 3} />
          </g>
        ))}
      </Box>
      <Box sx={{ fontSize: 13, color: 'text.secondary' }}>
        {segment && hover
          ? `${formatLength(segment.length, unit)} at ${Math.round((segment.angle * 180) / Math.PI)}°, to ${formatLength(hover.x, unit)}, ${formatLength(hover.y, unit)}`
          : closed
            ? 'The line is closed.'
            : 'Press for a corner, pull for a bend; the first corner closes the line. Whole millimetres, any place with Alt.'}
      </Box>
      <Box sx={{ display: 'flex', columnGap: 2, alignItems: 'center', flexWrap: 'wrap' }}>
        <Box sx={{ width: 190 }}>
          <LengthField
            label="Across"
            value={next.x}
            range={{ min: -10_000, max: 10_000 }}
            digits={2}
            onCommit={(x) => setNext({ ...next, x })}
          />
        </Box>
        <Box sx={{ width: 190 }}>
          <LengthField
            label="Down"
            value={next.y}
            range={{ min: -10_000, max: 10_000 }}
            digits={2}
            onCommit={(y) => setNext({ ...next, y })}
          />
        </Box>
        <Button
          size="small"
          variant="outlined"
          color="secondary"
          disabled={closed}
          onClick={() => take([...points, next], false)}
          data-testid="hand-add"
        >
          Set a corner there
        </Button>
        <Tooltip title="Backspace">
          <span>
            <Button size="small" color="secondary" disabled={points.length === 0} onClick={back}>
              Take back
            </Button>
          </span>
        </Tooltip>
        <Button size="small" color="secondary" disabled={closed || points.length < 3} onClick={() => take(points, true)}>
          Close it
        </Button>
      </Box>
    </>
  )
}
