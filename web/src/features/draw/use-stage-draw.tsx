import { useTheme } from '@mui/material'
import { type Bounds, boxBetween, type Drawn, formatLength, type JobDocument, mapped, micro } from '@neotaxis/core'
import { useEffect, useState } from 'react'
import type { Showing } from '../../stage/layer.ts'
import { faceSpace } from '../../stage/layers/face.ts'
import { Overlay } from '../../stage/Overlay.tsx'
import { StageHint, StageWord } from '../../stage/StageWords.tsx'
import type { Spot, Tool } from '../../stage/tool.ts'
import { useSelector } from '../../store/hooks.ts'
import type { Drawing } from '../../workers/shared.ts'
import { onCommand } from '../bar/commands.ts'
import type { DrawnAt } from './drawn-into.ts'
import { FIRST } from './first-numbers.ts'
import { handData } from './hand-line.ts'
import { snap } from './snap.ts'
import { useMakeDrawn } from './use-make-drawn.ts'
import { usePen } from './use-pen.tsx'
import { useWriteTool } from './use-write-tool.tsx'

/** What is drawn where it goes: a text is typed there, a line set corner by corner, all else pulled out to its size, or pressed there. */
export const DRAWN_HERE = {
  text: 'Write a text here',
  rectangle: 'A rectangle',
  ellipse: 'A circle or an ellipse',
  polygon: 'A polygon',
  star: 'A star',
  line: 'A straight line',
  arc: 'An arc of a circle',
  path: 'A line by hand, straight and curved',
  code: 'A code for cameras',
} as const
export type DrawnHere = keyof typeof DRAWN_HERE

/** What a box that was pulled out becomes; undefined where it is too small for anything. */
export function pulledOut(kind: DrawnHere, from: readonly [number, number], to: readonly [number, number]): Drawn | undefined {
  const [widthMm, heightMm] = [Math.abs(to[0] - from[0]), Math.abs(to[1] - from[1])].map(micro)
  if (kind === 'line') {
    const lengthMm = micro(Math.hypot(widthMm, heightMm))
    const angleDeg = Number(((Math.atan2(to[1] - from[1], to[0] - from[0]) * 180) / Math.PI).toFixed(3))
    return lengthMm < 1 ? undefined : { kind, lengthMm, angleDeg }
  }
  const across = Math.min(widthMm, heightMm)
  if (across < 1) return undefined
  const first = FIRST[kind]
  switch (first.kind) {
    case 'rectangle':
      return { ...first, widthMm, heightMm, radiusMm: Math.min(first.radiusMm, across / 4) }
    case 'ellipse':
      return { ...first, widthMm, heightMm }
    case 'polygon':
    case 'star':
    case 'arc':
      return { ...first, diameterMm: across }
    case 'code':
      return { ...first, sizeMm: across }
    default:
      return undefined
  }
}

/** Draws on the stage itself: asked for by a command, once. */
export function useStageDraw(job: JobDocument, drawing: Drawing | undefined): Tool | undefined {
  const make = useMakeDrawn(job)
  const [kind, setKind] = useState<DrawnHere>()
  const [pull, setPull] = useState<readonly [readonly [number, number], readonly [number, number]]>()
  useEffect(() =>
    onCommand(
      Object.fromEntries(
        (Object.keys(DRAWN_HERE) as DrawnHere[]).map((each) => [
          `draw-here-${each}`,
          () => {
            setPull(undefined)
            setKind(each)
          },
        ]),
      ),
    ),
  )
  const away = (): void => {
    setKind(undefined)
    setPull(undefined)
  }
  const pen = usePen(job, {
    hint: 'Press for corners, pull for bends, or type: 40 is a side, 20 30 a place. The first corner closes it, Enter ends it',
    least: 2,
    onDone: (points, closed) => {
      away()
      void make({ kind: 'path', data: handData(points, closed) }, { xMm: 0, yMm: 0, by: 'origin' })
    },
    onLeave: away,
  })
  const write = useWriteTool(job, drawing, away)
  if (kind === 'path') return pen
  if (kind === 'text') return write
  if (!kind) return undefined
  return {
    name: 'draw here',
    space: faceSpace(job),
    cursor: 'crosshair',
    press: (spot) => {
      const from = [snap(spot.x, spot), snap(spot.y, spot)] as const
      const to = (next: Spot): readonly [number, number] => {
        const [x, y] = [snap(next.x, next), snap(next.y, next)]
        if (!next.shift || kind === 'line') return [x, y]
        // As high as wide.
        const side = Math.max(Math.abs(x - from[0]), Math.abs(y - from[1]))
        return [from[0] + Math.sign(x - from[0] || 1) * side, from[1] + Math.sign(y - from[1] || 1) * side]
      }
      return {
        move: (next) => setPull([from, to(next)]),
        end: (next, moved) => {
          const drawn = moved ? pulledOut(kind, from, to(next)) : FIRST[kind]
          if (!drawn) return setPull(undefined)
          const box = boxBetween({ x: from[0], y: from[1] }, { x: to(next)[0], y: to(next)[1] })
          away()
          void make(drawn, moved ? inTheMiddle(drawn, box) : { xMm: from[0], yMm: from[1], by: 'middle' })
        },
        cancel: () => setPull(undefined),
      }
    },
    key: ({ key }) => {
      if (key === 'Escape') away()
      return key === 'Escape'
    },
    over: (showing) =>
      pull ? (
        <Pulled pull={pull} isLine={kind === 'line'} at={showing} />
      ) : (
        <StageHint at={showing} text="Pull it out to its size, or press where it goes" />
      ),
  }
}

/** Shapes lie around the middle of what was pulled out. */
function inTheMiddle(drawn: Drawn, { x0, y0, x1, y1 }: Bounds): DrawnAt {
  const by = drawn.kind === 'arc' ? 'middle' : 'origin'
  return { xMm: micro((x0 + x1) / 2), yMm: micro((y0 + y1) / 2), by }
}

function Pulled({
  pull: [a, b],
  isLine,
  at,
}: {
  readonly pull: readonly [readonly [number, number], readonly [number, number]]
  readonly isLine: boolean
  readonly at: Showing
}) {
  const { palette } = useTheme()
  const unit = useSelector((state) => state.view.lengthUnit)
  const corners = isLine ? [a, b] : [a, [b[0], a[1]] as const, b, [a[0], b[1]] as const]
  const onScreen = corners.map(([x, y]) => mapped(at.map, x, y).join(','))
  const [tx, ty] = mapped(at.map, b[0], b[1])
  const words = isLine
    ? formatLength(Math.hypot(b[0] - a[0], b[1] - a[1]), unit)
    : `${formatLength(Math.abs(b[0] - a[0]), unit)} × ${formatLength(Math.abs(b[1] - a[1]), unit)}`
  return (
    <Overlay>
      <polygon points={onScreen.join(' ')} fill="none" stroke={palette.shop.halo} strokeWidth={4} />
      <polygon points={onScreen.join(' ')} fill="none" stroke={palette.primary.main} strokeWidth={1.8} />
      <StageWord x={tx + 12} y={ty + 22} text={words} />
    </Overlay>
  )
}
