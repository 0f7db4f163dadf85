import { Box } from '@mui/material'
import { Fragment, type ReactNode, useLayoutEffect } from 'react'
import { Grips } from './Grips.tsx'
import { type Layer, type Showing, showing } from './layer.ts'
import type { Tool } from './tool.ts'
import type { StageHandle } from './use-stage.ts'
import { useStageHand } from './use-stage-hand.ts'

interface Props {
  readonly stage: StageHandle
  /** The first lies lowest. */
  readonly layers: readonly Layer[]
  /** The first is asked first. */
  readonly tools: readonly Tool[]
  readonly label: string
  readonly testId: string
  /** Whether everything is worked out that the layers show. */
  readonly settled: boolean
  /** What floats over it and keeps its place: buttons, what is under way. */
  readonly children?: ReactNode
}

/**
 * The stage: shows layers and hands what the hand does to tools. It knows neither: what they are is theirs. Everything is in spaces
 * of the bed; the view says which part of it is on the screen.
 */
export function Stage({ stage, layers, tools, label, testId, settled, children }: Props) {
  const { frame, size, view, standing, pointer, paintWith } = stage
  const giveUp = useStageHand(
    stage,
    tools,
    layers.some(({ followsPointer }) => followsPointer),
  )
  const ratio = window.devicePixelRatio || 1
  const seen = (space: Layer['space'], at?: Showing['pointer']) =>
    showing(space, { standing, view: view!, size, ratio, pointer: at })

  useLayoutEffect(() =>
    paintWith(() => {
      const canvas = frame.current?.querySelector('canvas')
      if (!canvas || !view || size.width === 0) return
      const [wide, high] = [Math.round(size.width * ratio), Math.round(size.height * ratio)]
      if (canvas.width !== wide) canvas.width = wide
      if (canvas.height !== high) canvas.height = high
      const context = canvas.getContext('2d')!
      context.setTransform(ratio, 0, 0, ratio, 0, 0)
      context.clearRect(0, 0, size.width, size.height)
      for (const layer of layers) {
        context.save()
        layer.paint?.(context, seen(layer.space, pointer.current))
        context.restore()
      }
      frame.current!.dataset.settled = String(settled && layers.every((layer) => layer.settled?.() ?? true))
    }),
  )

  const cursor = tools.find((tool) => tool.cursor)?.cursor ?? 'default'
  return (
    <Box
      ref={frame}
      tabIndex={0}
      role="application"
      aria-label={label}
      data-testid={testId}
      onKeyDown={(event) => {
        // What is typed into something over the stage is its own; a handle leaves what it does not know.
        const { target, currentTarget } = event
        if (target !== currentTarget && !(target as Element).closest('[data-handle]')) return
        const key = { key: event.key, shift: event.shiftKey, alt: event.altKey, ctrl: event.ctrlKey || event.metaKey }
        if (!(event.key === 'Escape' && giveUp.current()) && !tools.some((tool) => tool.key?.(key))) return
        event.preventDefault()
        event.stopPropagation()
      }}
      style={{ cursor }}
      sx={{
        position: 'relative',
        overflow: 'hidden',
        height: '100%',
        touchAction: 'none',
        userSelect: 'none',
        bgcolor: 'shop.surround',
        '&:focus-visible': { outlineOffset: -3 },
      }}
    >
      <canvas style={{ position: 'absolute', inset: 0, width: '100%', height: '100%' }} aria-hidden />
      {view && layers.map((layer) => layer.over && <Fragment key={layer.name}>{layer.over(seen(layer.space))}</Fragment>)}
      {view &&
        [...tools].reverse().map((tool) => (
          <Fragment key={tool.name}>
            {tool.over?.(seen(tool.space))}
            {tool.grips && tool.grips.length > 0 && <Grips grips={tool.grips} at={seen(tool.space)} />}
          </Fragment>
        ))}
      {children}
    </Box>
  )
}
