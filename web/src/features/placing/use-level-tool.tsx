import { useTheme } from '@mui/material'
import { type JobDocument, levelled, mapped } from '@neotaxis/core'
import { useEffect, useState } from 'react'
import type { Showing } from '../../stage/layer.ts'
import { faceSpace } from '../../stage/layers/face.ts'
import { Overlay } from '../../stage/Overlay.tsx'
import { StageHint, StageWord } from '../../stage/StageWords.tsx'
import type { Tool } from '../../stage/tool.ts'
import { onCommand } from '../bar/commands.ts'
import { useEdit } from '../use-edit.ts'

type Point = readonly [number, number]

/** A line is drawn along the artwork, from a place to a place, and lies level afterwards; asked for by a command, once. */
export function useLevelTool(job: JobDocument, node: string | undefined): Tool | undefined {
  const edit = useEdit()
  const [isOn, setOn] = useState(false)
  const [line, setLine] = useState<readonly [Point, Point]>()
  useEffect(() => onCommand(node ? { 'make-level': () => setOn(true) } : {}))
  if (!isOn || !node) return undefined
  const away = (): void => {
    setLine(undefined)
    setOn(false)
  }
  return {
    name: 'level',
    space: faceSpace(job),
    cursor: 'crosshair',
    press: (from) => ({
      move: ({ x, y }) =>
        setLine([
          [from.x, from.y],
          [x, y],
        ]),
      end: ({ x, y }, moved) => {
        const done = moved ? levelled(job, node, [from.x, from.y], [x, y]) : undefined
        if (done) edit('make a line level', (base) => levelled(base, node, [from.x, from.y], [x, y]) ?? base)
        away()
      },
      cancel: away,
    }),
    key: ({ key }) => {
      if (key === 'Escape') away()
      return key === 'Escape'
    },
    over: (at) => <LevelLine line={line} at={at} />,
  }
}

function LevelLine({ line, at }: { readonly line: readonly [Point, Point] | undefined; readonly at: Showing }) {
  const { palette } = useTheme()
  if (!line) return <StageHint at={at} text="Draw along what should lie level" />
  const [[x0, y0], [x1, y1]] = line.map(([x, y]) => mapped(at.map, x, y))
  const deg = (Math.atan2(y1 - y0, x1 - x0) * 180) / Math.PI
  const off = deg - 90 * Math.round(deg / 90)
  return (
    <Overlay>
      <line x1={x0} y1={y0} x2={x1} y2={y1} stroke={palette.shop.halo} strokeWidth={5} />
      <line x1={x0} y1={y0} x2={x1} y2={y1} stroke={palette.primary.main} strokeWidth={2} />
      {[
        [x0, y0],
        [x1, y1],
      ].map(([x, y]) => (
        <circle key={`${x} ${y}`} cx={x} cy={y} r={4} fill={palette.primary.main} stroke={palette.shop.halo} strokeWidth={2} />
      ))}
      <StageWord x={x1 + 12} y={y1 - 10} text={`${off.toFixed(1)}°`} />
    </Overlay>
  )
}
