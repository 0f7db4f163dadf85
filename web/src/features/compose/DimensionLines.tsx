import { Box, ButtonBase, useTheme } from '@mui/material'
import {
  type Bounds,
  faceSize,
  type JobDocument,
  mainPiece,
  mapped,
  moved,
  RANGES,
  resized,
  turnedTo,
  turnOfPlace,
} from '@neotaxis/core'
import { useState } from 'react'
import type { Showing } from '../../stage/layer.ts'
import { Overlay } from '../../stage/Overlay.tsx'
import { useSelector } from '../../store/hooks.ts'
import { EDGE, TYPE, WEIGHT } from '../../theme/tokens.ts'
import { DEGREES, lengthIn } from '../field/measures.ts'
import { useEdit } from '../use-edit.ts'
import { MeasureInput } from './MeasureInput.tsx'

interface Props {
  readonly job: JobDocument
  readonly node: string
  readonly box: Bounds
  readonly at: Showing
}

/** Where the buttons along the top of the stage end, px. */
const BELOW_TOOLS = 64

/** How wide the row of sizes is, and how much wider with the angle, px. */
const SIZES = 186
const TURNED = 88

/** Live distances from the selection to the workpiece's edges, and its own width and height. Each number can be clicked and typed. */
export function DimensionLines({ job, node, box, at }: Props) {
  const { palette } = useTheme()
  const edit = useEdit()
  const anchor = useSelector((state) => state.view.anchor)
  const { width, height } = at.size
  const px = (x: number): number => mapped(at.map, x, 0)[0]
  const py = (y: number): number => mapped(at.map, 0, y)[1]
  const clampX = (x: number): number => Math.min(width - 54, Math.max(54, x))
  const clampY = (y: number): number => Math.min(height - 24, Math.max(22, y))
  const deg = turnOfPlace(job, node)
  // Over the box, but never under what floats along the top of the stage.
  const above = Math.max(BELOW_TOOLS, clampY(py(box.y0) - 19))
  /** Where a chip beside the row of sizes has room, px. */
  // Over a narrow box the row ends before the arc by which it is turned.
  const sizesFrom = Math.min(px(box.x0), px(box.x1) - SIZES - (deg === 0 ? 0 : TURNED))
  const sizesEnd = sizesFrom + (deg === 0 ? 228 : 310)
  const { widthMm, heightMm } = faceSize(mainPiece(job))
  const cx = px((box.x0 + box.x1) / 2)
  const cy = py((box.y0 + box.y1) / 2)
  const anchorAt = { anchorX: (anchor.h + 1) / 2, anchorY: (anchor.v + 1) / 2, keepRatio: true }
  const w = box.x1 - box.x0
  const h = box.y1 - box.y0
  const margins = [
    {
      key: 'left',
      value: box.x0,
      x1: px(0),
      y1: cy,
      x2: px(box.x0),
      y2: cy,
      set: (base: JobDocument, v: number) => moved(base, node, v - box.x0, 0),
    },
    {
      key: 'right',
      value: widthMm - box.x1,
      x1: px(box.x1),
      y1: cy,
      x2: px(widthMm),
      y2: cy,
      set: (base: JobDocument, v: number) => moved(base, node, widthMm - box.x1 - v, 0),
    },
    {
      key: 'top',
      value: box.y0,
      x1: cx,
      y1: py(0),
      x2: cx,
      y2: py(box.y0),
      set: (base: JobDocument, v: number) => moved(base, node, 0, v - box.y0),
    },
    {
      key: 'bottom',
      value: heightMm - box.y1,
      x1: cx,
      y1: py(box.y1),
      x2: cx,
      y2: py(heightMm),
      set: (base: JobDocument, v: number) => moved(base, node, 0, heightMm - box.y1 - v),
    },
  ]
  return (
    <>
      <Overlay>
        {margins.map(({ key, x1, y1, x2, y2 }) => (
          <g key={key} stroke={palette.primary.main} strokeWidth={1.2}>
            <line x1={x1} y1={y1} x2={x2} y2={y2} stroke={palette.shop.halo} strokeWidth={3.5} opacity={0.6} />
            <line x1={x1} y1={y1} x2={x2} y2={y2} />
            {key === 'left' || key === 'right' ? (
              <>
                <line x1={x1} y1={y1 - 5} x2={x1} y2={y1 + 5} />
                <line x1={x2} y1={y2 - 5} x2={x2} y2={y2 + 5} />
              </>
            ) : (
              <>
                <line x1={x1 - 5} y1={y1} x2={x1 + 5} y2={y1} />
                <line x1={x2 - 5} y1={y2} x2={x2 + 5} y2={y2} />
              </>
            )}
          </g>
        ))}
      </Overlay>
      {margins.map(({ key, value, x1, y1, x2, y2, set }) => {
        const short = key === 'top' || key === 'bottom' ? Math.abs(y2 - y1) < 96 : Math.abs(x2 - x1) < 60
        const beside = key === 'top' || key === 'bottom'
        const x = (x1 + x2) / 2 + (beside && short ? 56 : 0)
        // Under the tools along the top, too, nothing could be read or pressed.
        const y = Math.max(BELOW_TOOLS, clampY((y1 + y2) / 2 + (!beside ? -15 : short ? (key === 'top' ? -4 : 6) : 0)))
        return (
          <Measure
            key={key}
            label={`Margin ${key}`}
            value={value}
            x={clampX(beside && Math.abs(y - above) < 26 ? Math.max(x, sizesEnd) : x)}
            y={y}
            min={RANGES.positionMm.min}
            onCommit={(v) => edit(`margin ${key} ${v.toFixed(1)} mm`, (base) => set(base, v))}
          />
        )
      })}
      <Measure
        label="Width"
        value={w}
        x={clampX(sizesFrom + 46)}
        y={above}
        min={RANGES.sizeMm.min}
        onCommit={(v) => edit(`width ${v.toFixed(1)} mm`, (base) => resized(base, node, box, { widthMm: v }, anchorAt))}
        prefix="↔"
      />
      <Measure
        label="Height"
        value={h}
        x={clampX(sizesFrom + 138)}
        y={above}
        min={RANGES.sizeMm.min}
        onCommit={(v) => edit(`height ${v.toFixed(1)} mm`, (base) => resized(base, node, box, { heightMm: v }, anchorAt))}
        prefix="↕"
      />
      {deg !== 0 && (
        <Measure
          label="Turned"
          value={deg}
          angle
          x={clampX(sizesFrom + 228)}
          y={above}
          min={RANGES.degrees.min}
          onCommit={(v) => edit(`turn to ${Number(v.toFixed(2))}°`, (base) => turnedTo(base, node, v))}
          prefix="∠"
        />
      )}
    </>
  )
}

const FINE_DEGREES = { ...DEGREES, show: (deg: number) => String(Number(deg.toFixed(2))) }

interface MeasureProps {
  readonly label: string
  readonly value: number
  readonly x: number
  readonly y: number
  readonly min: number
  readonly prefix?: string
  /** Degrees, not a length. */
  readonly angle?: boolean
  readonly onCommit: (mm: number) => void
}

function Measure({ label, value, x, y, min, prefix, angle = false, onCommit }: MeasureProps) {
  const lengthUnit = useSelector((state) => state.view.lengthUnit)
  const as = angle ? FINE_DEGREES : lengthIn(lengthUnit)
  const max = angle ? RANGES.degrees.max : RANGES.sizeMm.max
  const [typing, setTyping] = useState(false)
  const shown = as.show(value)
  const place = { position: 'absolute' as const, left: x, top: y, transform: 'translate(-50%, -50%)' }
  if (typing)
    return (
      <Box data-own-press style={{ ...place, zIndex: 3 }}>
        <MeasureInput label={label} value={value} as={as} range={{ min, max }} onTake={onCommit} onEnd={() => setTyping(false)} />
      </Box>
    )
  return (
    <ButtonBase
      onClick={() => setTyping(true)}
      aria-label={`${label} ${shown} ${as.unit}. Press to type.`}
      data-testid={`dim-${label.toLowerCase().replace(' ', '-')}`}
      style={place}
      sx={{
        px: 0.8,
        py: 0.2,
        minHeight: 26,
        borderRadius: `${EDGE.small}px`,
        color: 'primary.main',
        fontWeight: WEIGHT.strong,
        fontSize: TYPE.body,
        bgcolor: 'shop.halo',
        opacity: 0.94,
        '&:hover': { opacity: 1, boxShadow: 1 },
        whiteSpace: 'nowrap',
      }}
    >
      {prefix && (
        <Box component="span" sx={{ opacity: 0.7, mr: 0.4 }}>
          {prefix}
        </Box>
      )}
      {shown}
      <Box component="span" sx={{ fontSize: TYPE.tiny, fontWeight: WEIGHT.plain, whiteSpace: 'pre' }}>
        {` ${as.unit}`}
      </Box>
    </ButtonBase>
  )
}
