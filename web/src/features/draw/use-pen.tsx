import { formatLength, type JobDocument, mapped } from '@neotaxis/core'
import { useState } from 'react'
import { faceSpace } from '../../stage/layers/face.ts'
import { Overlay } from '../../stage/Overlay.tsx'
import { StageHint, StageWord } from '../../stage/StageWords.tsx'
import type { Tool } from '../../stage/tool.ts'
import { useSelector } from '../../store/hooks.ts'
import type { HandPoint } from './hand-line.ts'
import { useDrawTool } from './use-draw-tool.tsx'

interface Options {
  readonly hint: string
  /** Corners that Enter needs, to end the line. */
  readonly least: number
  /** Told of a line that was closed at its first corner, or ended. */
  readonly onDone: (points: readonly HandPoint[], closed: boolean) => void
  readonly onLeave: () => void
}

/** A line set corner by corner on the workpiece, with the length of the side that comes next. */
export function usePen(job: JobDocument, { hint, least, onDone, onLeave }: Options): Tool {
  const unit = useSelector((state) => state.view.lengthUnit)
  const [points, setPoints] = useState<readonly HandPoint[]>([])
  const [hover, setHover] = useState<HandPoint>()
  const done = (taken: readonly HandPoint[], closed: boolean): void => {
    setPoints([])
    onDone(taken, closed)
  }
  const tool = useDrawTool({
    points,
    closed: false,
    hover,
    onHover: setHover,
    onTake: (taken, closed) => (closed ? done(taken, true) : setPoints(taken)),
    space: faceSpace(job),
  })
  const last = points.at(-1)
  return {
    ...tool,
    key: (event) => {
      if (event.key === 'Enter' && points.length >= least) {
        done(points, false)
        return true
      }
      if (event.key === 'Escape') {
        setPoints([])
        onLeave()
        return true
      }
      return tool.key?.(event) ?? false
    },
    over: (showing) => {
      const [x, y] = hover ? mapped(showing.map, hover.x, hover.y) : [0, 0]
      return (
        <>
          {tool.over?.(showing)}
          {last && hover && (
            <Overlay>
              <StageWord x={x + 14} y={y + 22} text={formatLength(Math.hypot(hover.x - last.x, hover.y - last.y), unit)} />
            </Overlay>
          )}
          <StageHint at={showing} text={hint} />
        </>
      )
    },
  }
}
