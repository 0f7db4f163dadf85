import { Box, Button, Tooltip, useTheme } from '@mui/material'
import { formatLength, SAME, type Size } from '@neotaxis/core'
import { useState } from 'react'
import { Quiet, Words } from '../../parts/words.tsx'
import type { Layer } from '../../stage/layer.ts'
import { Stage } from '../../stage/Stage.tsx'
import { useStage } from '../../stage/use-stage.ts'
import { useSelector } from '../../store/hooks.ts'
import { EDGE } from '../../theme/tokens.ts'
import { LengthField } from '../field/quantities.tsx'
import { type HandPoint, handData } from './hand-line.ts'
import { useDrawTool } from './use-draw-tool.tsx'

interface Props {
  readonly workpiece: Size
  /** SVG path data in mm of the workpiece; empty while there is no line yet. */
  readonly onDrawn: (data: string) => void
}

const ROOM = { x: 14, top: 14, bottom: 14 }

/** A line drawn by hand on the workpiece: a press sets a corner, a pull bends the line through it; by numbers too. */
export function HandDrawing({ workpiece, onDrawn }: Props) {
  const { palette } = useTheme()
  const unit = useSelector((state) => state.view.lengthUnit)
  const [points, setPoints] = useState<readonly HandPoint[]>([])
  const [closed, setClosed] = useState(false)
  const [hover, setHover] = useState<HandPoint>()
  const [next, setNext] = useState({ x: 10, y: 10 })
  const { widthMm, heightMm } = workpiece
  const take = (to: readonly HandPoint[], close: boolean): void => {
    setPoints(to)
    setClosed(close)
    onDrawn(handData(to, close))
  }
  const stage = useStage({ standing: SAME, home: { x0: 0, y0: 0, x1: widthMm, y1: heightMm }, room: ROOM })
  const sheet: Layer = {
    name: 'sheet',
    space: SAME,
    paint: (context, { map, scale }) => {
      context.transform(...map)
      context.fillStyle = '#fbf9f4'
      context.fillRect(0, 0, widthMm, heightMm)
      const line = new Path2D(handData(points, closed))
      context.fillStyle = `${palette.primary.main}22`
      if (closed) context.fill(line)
      context.strokeStyle = palette.primary.main
      context.lineWidth = 2 / scale
      context.stroke(line)
    },
  }
  const tool = useDrawTool({ points, closed, hover, onHover: setHover, onTake: take })
  const last = points.at(-1)
  const segment =
    last && hover && !closed
      ? { length: Math.hypot(hover.x - last.x, hover.y - last.y), angle: Math.atan2(hover.y - last.y, hover.x - last.x) }
      : undefined
  const back = (): void => take(closed ? points : points.slice(0, -1), false)
  return (
    <>
      <Box sx={{ flex: 1, minHeight: 300, display: 'grid', borderRadius: `${EDGE.card}px`, overflow: 'hidden' }}>
        <Stage
          stage={stage}
          layers={[sheet]}
          tools={[tool]}
          label="The workpiece to draw on. Corners can be set by numbers below."
          testId="hand-drawing"
          settled
        />
      </Box>
      <Quiet>
        {segment && hover
          ? `${formatLength(segment.length, unit)} at ${Math.round((segment.angle * 180) / Math.PI)}°, to ${formatLength(hover.x, unit)}, ${formatLength(hover.y, unit)}`
          : closed
            ? 'The line is closed.'
            : 'Press for a corner, pull for a bend; the first corner closes the line. Whole millimetres, any place with Alt.'}
      </Quiet>
      <Box sx={{ display: 'flex', columnGap: 2, alignItems: 'center', flexWrap: 'wrap' }}>
        <Words width={190}>
          <LengthField
            label="Across"
            value={next.x}
            range={{ min: -10_000, max: 10_000 }}
            digits={2}
            onCommit={(x) => setNext({ ...next, x })}
          />
        </Words>
        <Words width={190}>
          <LengthField
            label="Down"
            value={next.y}
            range={{ min: -10_000, max: 10_000 }}
            digits={2}
            onCommit={(y) => setNext({ ...next, y })}
          />
        </Words>
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
