import { useTheme } from '@mui/material'
import { addedPart, type MaskPart, mapped } from '@neotaxis/core'
import { useEffect, useState } from 'react'
import type { Showing } from '../../stage/layer.ts'
import { Overlay } from '../../stage/Overlay.tsx'
import type { Hold, Spot, StageKey, Tool } from '../../stage/tool.ts'
import { newId } from '../new-id.ts'
import { useEdit } from '../use-edit.ts'
import type { BenchSpaces } from './bench-spaces.ts'
import { curvePoints, type MaskTool, sketch, tenths } from './mask-sketch.ts'

export interface MaskHand {
  readonly tool: MaskTool
  readonly add: boolean
  /** Of the brush, CSS pixels. */
  readonly radius: number
  /** Of connected tones, 0–1. */
  readonly tolerance: number
}

const NAMES: Record<MaskTool, string> = {
  rectangle: 'rectangle',
  polygon: 'polygon',
  bezier: 'curve',
  brush: 'stroke',
  tone: 'connected tone',
  edges: 'line along edges',
}

/** A press this near to the first point closes the line, CSS px. */
const CLOSE = 9
/** The brush sets a point after so far, CSS px. */
const BRUSH_STEP = 1.5

/**
 * Draws one part of a mask: pressed and dragged, or point by point until Enter, a double click or the first point again. Its space
 * is the frame, in px; what it draws is kept in px of the source.
 */
export function useMaskTool(
  spaces: BenchSpaces,
  open: { readonly node: string; readonly mask: string; readonly hand: MaskHand } | undefined,
): Tool | undefined {
  const edit = useEdit()
  /** Source pixels, x and y in turn; of a curve: an anchor and its leading handle. */
  const [points, setPoints] = useState<readonly number[]>([])
  const tool = open?.hand.tool
  const mask = open?.mask
  // biome-ignore lint/correctness/useExhaustiveDependencies: another tool begins anew
  useEffect(() => setPoints([]), [tool, mask])
  if (!open || !tool) return undefined
  const { node, hand } = open
  const { add } = hand
  const keep = (part: MaskPart): void => {
    edit(`${add ? 'mask' : 'unmask'}: ${NAMES[tool]}`, (job) => addedPart(job, node, open.mask, newId(), part))
    setPoints([])
  }
  const close = (): void => {
    const n = tool === 'bezier' ? points.length / 4 : points.length / 2
    if (n < 3) setPoints([])
    else if (tool === 'bezier') keep({ kind: 'bezier', add, points: curvePoints(points) })
    else if (tool === 'polygon' || tool === 'edges') keep({ kind: tool, add, points: [...points] })
  }
  const source = ({ x, y }: Spot): [number, number] => {
    const [sx, sy] = spaces.toSource(x, y)
    return [tenths(sx), tenths(sy)]
  }
  /** Px of the source on a CSS pixel, at a spot. */
  const perPx = (spot: Spot): number => {
    const [ax, ay] = spaces.toSource(spot.x, spot.y)
    const [bx, by] = spaces.toSource(spot.x + 10 / spot.scale, spot.y)
    return Math.hypot(bx - ax, by - ay) / 10
  }
  const give = { cancel: () => setPoints([]) }

  const boxed = (x: number, y: number): Hold => ({
    ...give,
    slack: 0,
    move: (spot) => setPoints([x, y, ...source(spot)]),
    end: (spot) => {
      const [bx, by] = source(spot)
      const [width, height] = [Math.abs(bx - x), Math.abs(by - y)]
      if (width < 1 || height < 1) setPoints([])
      else keep({ kind: 'rectangle', add, x: Math.min(x, bx), y: Math.min(y, by), width, height })
    },
  })

  const brushed = (x: number, y: number, pressed: Spot): Hold => {
    const line = [x, y]
    const step = BRUSH_STEP * perPx(pressed)
    return {
      ...give,
      slack: 0,
      move: (spot) => {
        const [nx, ny] = source(spot)
        if (Math.hypot(line[line.length - 2] - nx, line[line.length - 1] - ny) <= step) return
        line.push(nx, ny)
        setPoints([...line])
      },
      end: () => keep({ kind: 'brush', add, radius: tenths(Math.max(0.5, hand.radius * perPx(pressed))), points: [...line] }),
    }
  }

  const press = (spot: Spot): Hold => {
    const [x, y] = source(spot)
    if (tool === 'tone') {
      keep({ kind: 'tone', add, x, y, tolerance: hand.tolerance })
      return {}
    }
    if (tool === 'rectangle' || tool === 'brush') {
      setPoints([x, y])
      return tool === 'brush' ? brushed(x, y, spot) : boxed(x, y)
    }
    const [fx, fy] = points
    if (points.length > 4 && Math.hypot(fx - x, fy - y) < CLOSE * perPx(spot)) {
      close()
      return {}
    }
    const anchors = tool === 'bezier' ? [...points, x, y, x, y] : [...points, x, y]
    setPoints(anchors)
    return tool === 'bezier' ? { slack: 0, move: (to) => setPoints([...anchors.slice(0, -2), ...source(to)]) } : {}
  }

  const key = ({ key }: StageKey): boolean => {
    if (points.length === 0) return false
    if (key === 'Enter') close()
    else if (key === 'Escape') setPoints([])
    else if (key === 'Backspace') setPoints(points.slice(0, tool === 'bezier' ? -4 : -2))
    else return false
    return true
  }

  return {
    name: 'mask',
    space: spaces.space,
    cursor: 'crosshair',
    press,
    key,
    twice: () => {
      close()
      return true
    },
    over: (at) => points.length > 0 && <Sketch points={points} hand={hand} spaces={spaces} at={at} />,
  }
}

/** What is being drawn. */
function Sketch({
  points,
  hand,
  spaces,
  at,
}: {
  readonly points: readonly number[]
  readonly hand: MaskHand
  readonly spaces: BenchSpaces
  readonly at: Showing
}) {
  const { palette } = useTheme()
  const { tool } = hand
  const to = (x: number, y: number): string =>
    mapped(at.map, ...spaces.fromSource(x, y))
      .map((v) => v.toFixed(1))
      .join(' ')
  return (
    <Overlay>
      <path
        d={sketch(tool, points, to)}
        fill={tool === 'rectangle' ? palette.primary.main : 'none'}
        fillOpacity={0.2}
        stroke={palette.primary.main}
        strokeOpacity={tool === 'brush' ? 0.45 : 1}
        strokeWidth={tool === 'brush' ? 2 * hand.radius : 2}
        strokeLinecap="round"
        strokeLinejoin="round"
      />
    </Overlay>
  )
}
