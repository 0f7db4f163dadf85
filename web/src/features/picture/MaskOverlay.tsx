import { useTheme } from '@mui/material'
import { addedPart, type MaskPart } from '@neotaxis/core'
import { type PointerEvent as ReactPointerEvent, useEffect, useState } from 'react'
import { useEdit } from '../use-edit.ts'
import type { BenchMap } from './bench-map.ts'
import { hold, newId, pointIn } from './pointer.ts'

export type MaskTool = MaskPart['kind']

export interface MaskHand {
  readonly tool: MaskTool
  readonly add: boolean
  /** Of the brush, CSS pixels. */
  readonly radius: number
  /** Of connected tones, 0–1. */
  readonly tolerance: number
}

interface Props {
  readonly map: BenchMap
  readonly node: string
  readonly mask: string
  readonly hand: MaskHand
}

const NAMES: Record<MaskTool, string> = {
  rectangle: 'rectangle',
  polygon: 'polygon',
  bezier: 'curve',
  brush: 'stroke',
  tone: 'connected tone',
  edges: 'line along edges',
}

const round = (v: number): number => Math.round(v * 10) / 10

/** Draws one part of a mask: pressed and dragged, or point by point until Enter, a double click or the first point again. */
export function MaskOverlay({ map, node, mask, hand }: Props) {
  const { palette } = useTheme()
  const edit = useEdit()
  /** Source pixels, x and y in turn; of a curve: an anchor and its leading handle. */
  const [points, setPoints] = useState<readonly number[]>([])
  const [down, setDown] = useState(false)
  const { tool, add } = hand
  const byPoints = tool === 'polygon' || tool === 'edges' || tool === 'bezier'
  const scale = (() => {
    const [ax, ay] = map.screenToSource(0, 0)
    const [bx, by] = map.screenToSource(10, 0)
    return Math.hypot(bx - ax, by - ay) / 10
  })()
  const keep = (part: MaskPart): void => {
    edit(`${add ? 'mask' : 'unmask'}: ${NAMES[tool]}`, (job) => addedPart(job, node, mask, newId(), part))
    setPoints([])
  }
  const close = (): void => {
    const n = tool === 'bezier' ? points.length / 4 : points.length / 2
    if (n < 3) setPoints([])
    else if (tool === 'bezier') keep({ kind: 'bezier', add, points: curvePoints(points) })
    else if (tool === 'polygon' || tool === 'edges') keep({ kind: tool, add, points: [...points] })
  }
  // biome-ignore lint/correctness/useExhaustiveDependencies: another tool begins anew
  useEffect(() => setPoints([]), [tool, mask])
  useEffect(() => {
    const key = (event: KeyboardEvent): void => {
      if (event.key === 'Enter' && points.length > 0) close()
      if (event.key === 'Escape' && points.length > 0) {
        event.stopPropagation()
        setPoints([])
      }
      if (event.key === 'Backspace' && points.length > 0) setPoints(points.slice(0, tool === 'bezier' ? -4 : -2))
    }
    window.addEventListener('keydown', key, true)
    return () => window.removeEventListener('keydown', key, true)
  })
  const source = (event: ReactPointerEvent<SVGElement>): [number, number] => {
    const [x, y] = map.screenToSource(...pointIn(event))
    return [round(x), round(y)]
  }
  const press = (event: ReactPointerEvent<SVGElement>): void => {
    if (event.button !== 0) return
    hold(event)
    const [x, y] = source(event)
    if (tool === 'tone') {
      keep({ kind: 'tone', add, x, y, tolerance: hand.tolerance })
      return
    }
    setDown(true)
    const [fx, fy] = points
    if (!byPoints) setPoints([x, y])
    else if (points.length > 4 && Math.hypot(fx - x, fy - y) < 9 * scale) close()
    else setPoints(tool === 'bezier' ? [...points, x, y, x, y] : [...points, x, y])
  }
  const move = (event: ReactPointerEvent<SVGElement>): void => {
    if (!down) return
    event.stopPropagation()
    const [x, y] = source(event)
    if (tool === 'rectangle') setPoints([points[0], points[1], x, y])
    else if (tool === 'bezier') setPoints([...points.slice(0, -2), x, y])
    else if (tool === 'brush' && Math.hypot(points[points.length - 2] - x, points[points.length - 1] - y) > 1.5 * scale)
      setPoints([...points, x, y])
  }
  const lift = (): void => {
    if (!down) return
    setDown(false)
    if (tool === 'brush') keep({ kind: 'brush', add, radius: round(Math.max(0.5, hand.radius * scale)), points: [...points] })
    else if (tool === 'rectangle' && points.length === 4) {
      const [ax, ay, bx, by] = points
      if (Math.abs(bx - ax) < 1 || Math.abs(by - ay) < 1) setPoints([])
      else
        keep({
          kind: 'rectangle',
          add,
          x: Math.min(ax, bx),
          y: Math.min(ay, by),
          width: Math.abs(bx - ax),
          height: Math.abs(by - ay),
        })
    }
  }
  const to = (x: number, y: number): string =>
    map
      .sourceToScreen(x, y)
      .map((v) => v.toFixed(1))
      .join(' ')
  return (
    <g>
      {/* biome-ignore lint/a11y/noStaticElementInteractions: drawing is done with a pointer; masks by tone or box need one press */}
      <rect
        data-testid="mask-here"
        width="100%"
        height="100%"
        fill="transparent"
        style={{ cursor: 'crosshair' }}
        onPointerDown={press}
        onPointerMove={move}
        onPointerUp={lift}
        onDoubleClick={close}
      />
      {points.length > 0 && (
        <path
          d={sketch(tool, points, to)}
          fill={tool === 'rectangle' ? palette.primary.main : 'none'}
          fillOpacity={0.2}
          stroke={palette.primary.main}
          strokeOpacity={tool === 'brush' ? 0.45 : 1}
          strokeWidth={tool === 'brush' ? 2 * hand.radius : 2}
          strokeLinecap="round"
          strokeLinejoin="round"
          pointerEvents="none"
        />
      )}
    </g>
  )
}

/** What is being drawn, as a path on the screen. */
function sketch(tool: MaskTool, points: readonly number[], to: (x: number, y: number) => string): string {
  if (tool === 'rectangle') {
    const [ax, ay, bx = ax, by = ay] = points
    return `M${to(ax, ay)}L${to(bx, ay)}L${to(bx, by)}L${to(ax, by)}Z`
  }
  if (tool === 'bezier') {
    const all = curvePoints(points)
    let d = `M${to(all[0], all[1])}`
    for (let i = 2; i + 5 < all.length; i += 6)
      d += `C${to(all[i], all[i + 1])} ${to(all[i + 2], all[i + 3])} ${to(all[i + 4], all[i + 5])}`
    return d
  }
  let d = `M${to(points[0], points[1])}`
  for (let i = 2; i + 1 < points.length; i += 2) d += `L${to(points[i], points[i + 1])}`
  return points.length === 2 ? `${d}l0.1 0` : d
}

/** Anchors with leading handles → a closed chain of cubics; the handle behind an anchor mirrors the one ahead. */
export function curvePoints(anchors: readonly number[]): number[] {
  const n = Math.floor(anchors.length / 4)
  const at = (k: number): readonly number[] => anchors.slice(4 * (k % n), 4 * (k % n) + 4)
  const [x, y] = at(0)
  const out = [x, y]
  for (let k = 0; k < n; k++) {
    const [, , hx, hy] = at(k)
    const [ex, ey, nx, ny] = at(k + 1)
    out.push(hx, hy, 2 * ex - nx, 2 * ey - ny, ex, ey)
  }
  return out.map(round)
}
