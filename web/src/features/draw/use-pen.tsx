import { formatLength, type JobDocument, mapped, micro } from '@neotaxis/core'
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

/**
 * The corner that is typed: two numbers are its place on the face, one is how far it lies from the last corner, the way the hand points.
 * @returns undefined where that is no corner; mm
 */
export function typedCorner(typed: string, last: HandPoint | undefined, hover: HandPoint | undefined): HandPoint | undefined {
  const numbers = typed
    .trim()
    .split(/[\s;]+/)
    .map((each) => Number(each.replace(',', '.')))
  if (numbers.some((each) => !Number.isFinite(each)) || typed.trim() === '') return undefined
  const [a, b] = numbers
  if (numbers.length === 2) return { x: a, y: b }
  if (numbers.length > 2 || !last || !hover) return undefined
  const far = Math.hypot(hover.x - last.x, hover.y - last.y)
  if (far === 0) return undefined
  return { x: micro(last.x + ((hover.x - last.x) * a) / far), y: micro(last.y + ((hover.y - last.y) * a) / far) }
}

/** A line set corner by corner on the workpiece, with the length of the side that comes next. */
export function usePen(job: JobDocument, { hint, least, onDone, onLeave }: Options): Tool {
  const unit = useSelector((state) => state.view.lengthUnit)
  const [points, setPoints] = useState<readonly HandPoint[]>([])
  const [hover, setHover] = useState<HandPoint>()
  const [typed, setTyped] = useState('')
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
  /** What was typed makes the next corner: a length the way the hand points, or a place. */
  const take = (): void => {
    const next = typedCorner(typed, last, hover)
    if (next) setPoints([...points, next])
    setTyped('')
  }
  return {
    ...tool,
    key: (event) => {
      if (/^[\d., ;-]$/.test(event.key) && !event.ctrl && !event.alt) {
        if (event.key !== ' ' || typed !== '') setTyped(typed + event.key)
        return true
      }
      if (typed !== '' && (event.key === 'Backspace' || event.key === 'Escape')) {
        setTyped(event.key === 'Escape' ? '' : typed.slice(0, -1))
        return true
      }
      if (typed !== '' && event.key === 'Enter') {
        take()
        return true
      }
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
          {(typed !== '' || (last && hover)) && (
            <Overlay>
              <StageWord
                x={x + 14}
                y={y + 22}
                text={typed !== '' ? `${typed}▏` : formatLength(Math.hypot(hover!.x - last!.x, hover!.y - last!.y), unit)}
              />
            </Overlay>
          )}
          <StageHint at={showing} text={hint} />
        </>
      )
    },
  }
}
