import { type Affine, gripAt, inverseOf, mapped } from '@neotaxis/core'
import { useGesture } from '@use-gesture/react'
import { type RefObject, useEffect, useRef } from 'react'
import { showing } from './layer.ts'
import { toScreen } from './spaces.ts'
import { type StageView, zoomed } from './stage-view.ts'
import type { Grip, Hold, Spot, Tool } from './tool.ts'
import type { StageHandle } from './use-stage.ts'

/** A hand that trembles less than this has not moved, CSS px. */
const SLACK = 4
/** Steps of the wheel: how much one pixel of it zooms. */
const WHEEL = 0.0016
const WHEEL_PINCHED = 0.01
/** Round a small grip a press still means it, CSS px. */
const GRIP_REACH = 16

/** What is pressed for itself, though it lies over the stage. */
const OWN = 'button, input, textarea, select, a, label, .MuiSlider-root, [role=dialog], [data-own-press]'

interface Held {
  readonly hold: Hold
  /** Undefined: the view itself is held. */
  readonly tool: Tool | undefined
  readonly px: number
  readonly py: number
  /** Where it was taken, in the tool's space. */
  readonly at: readonly [number, number]
  moved: boolean
}

interface Keys {
  readonly shiftKey?: boolean
  readonly altKey?: boolean
  readonly ctrlKey?: boolean
  readonly metaKey?: boolean
  readonly pointerType?: string
}

/** What of a tool a place means: the nearest of its points in reach, else the last of its areas that holds it. */
export function gripUnder(grips: readonly Grip[], map: Affine, spot: Spot): Grip | undefined {
  const points = grips.flatMap((grip) => {
    if (!isPoint(grip.at)) return []
    const [x, y] = mapped(map, grip.at[0], grip.at[1])
    return [{ grip, x, y, reach: Math.max(spot.touch ? 22 : GRIP_REACH, grip.radius ?? 0) }]
  })
  const found = gripAt(points, spot.px, spot.py)
  if (found >= 0) return points[found].grip
  return grips.findLast(({ at }) => !isPoint(at) && spot.x >= at.x0 && spot.x <= at.x1 && spot.y >= at.y0 && spot.y <= at.y1)
}

export const isPoint = (at: Grip['at']): at is readonly [number, number] => Array.isArray(at)

/**
 * The one listener of the stage: pointer, fingers and wheel go to the tools in their order, and what none takes moves the view.
 * @returns gives up what is held; whether something was
 */
export function useStageHand(stage: StageHandle, tools: readonly Tool[], followed: boolean): RefObject<() => boolean> {
  const { frame, size, standing, view, setView, pointer, repaint } = stage
  const held = useRef<Held>(undefined)
  const now = useRef({ tools, view, standing })
  useEffect(() => {
    now.current = { tools, view, standing }
  })

  const spotIn = (space: Affine, px: number, py: number, event: Keys): Spot => {
    const map = toScreen(space, now.current.standing, now.current.view!)
    const [x, y] = mapped(inverseOf(map), px, py)
    return {
      x,
      y,
      px,
      py,
      scale: Math.sqrt(Math.abs(map[0] * map[3] - map[1] * map[2])),
      shift: event.shiftKey === true,
      alt: event.altKey === true,
      ctrl: event.ctrlKey === true || event.metaKey === true,
      touch: event.pointerType === 'touch',
    }
  }
  const on = ([clientX, clientY]: readonly [number, number]): readonly [number, number] => {
    const box = frame.current!.getBoundingClientRect()
    return [clientX - box.left, clientY - box.top]
  }
  const isOwn = ({ target }: Event): boolean => target instanceof Element && target.closest(OWN) !== null

  /** Moves the view with the hand, from a press at a place. */
  const pan = (px: number, py: number): Hold['move'] => {
    const from: StageView = now.current.view!
    return (spot) => setView((v) => ({ ...v, x: from.x - (spot.px - px) / v.scale, y: from.y - (spot.py - py) / v.scale }))
  }

  const take = (px: number, py: number, event: Keys, onlyView: boolean): Held => {
    for (const tool of onlyView ? [] : now.current.tools) {
      const spot = spotIn(tool.space, px, py, event)
      const at = showing(tool.space, { standing: now.current.standing, view: now.current.view!, size, ratio: 1 })
      const hold = gripUnder(tool.grips ?? [], at.map, spot)?.hold(spot) ?? tool.press?.(spot, at)
      if (hold)
        return { hold: hold.pans ? { ...hold, move: pan(px, py) } : hold, tool, px, py, at: [spot.x, spot.y], moved: false }
    }
    return { hold: { slack: 0, move: pan(px, py) }, tool: undefined, px, py, at: [0, 0], moved: false }
  }
  const giveUp = useRef<() => boolean>(() => false)
  giveUp.current = () => {
    const was = held.current
    held.current = undefined
    was?.hold.cancel?.()
    return was !== undefined
  }

  useGesture(
    {
      onDrag: ({ event, first, last, canceled, pinching, xy, cancel }) => {
        // What is cancelled is told later, when the stage may be gone.
        if (!now.current.view || !frame.current) return
        const [px, py] = on(xy)
        const keys = event as Keys
        if (first) {
          if (pinching || isOwn(event)) {
            cancel()
            return
          }
          const { button } = event as PointerEvent
          held.current = take(px, py, keys, button === 1)
        }
        const h = held.current
        if (!h) return
        if (canceled || pinching) {
          giveUp.current()
          return
        }
        const spot = spotIn(h.tool?.space ?? standing, px, py, keys)
        if (!h.moved && Math.hypot(px - h.px, py - h.py) >= Math.max(1, h.hold.slack ?? SLACK)) h.moved = true
        if (h.moved && !last) h.hold.move?.(spot, { dx: spot.x - h.at[0], dy: spot.y - h.at[1] })
        if (!last) return
        held.current = undefined
        h.hold.end?.(spot, h.moved)
      },
      onPinch: ({ first, origin, da: [apart], memo, last }) => {
        if (!now.current.view) return undefined
        const [px, py] = on(origin)
        if (first) giveUp.current()
        else if (memo && !last) {
          const before = memo as { px: number; py: number; apart: number }
          setView((v) =>
            zoomed(
              { ...v, x: v.x - (px - before.px) / v.scale, y: v.y - (py - before.py) / v.scale },
              apart / Math.max(1, before.apart),
              px,
              py,
            ),
          )
        }
        return { px, py, apart }
      },
      onWheel: ({ event }) => {
        if (!now.current.view || isOwn(event)) return
        event.preventDefault()
        const [px, py] = on([event.clientX, event.clientY])
        const { deltaX, deltaY, shiftKey, ctrlKey } = event
        const steps = -deltaY * (ctrlKey ? WHEEL_PINCHED : WHEEL)
        if (now.current.tools.some((tool) => tool.wheel?.(spotIn(tool.space, px, py, event), steps))) return
        if (shiftKey || (Math.abs(deltaX) > Math.abs(deltaY) && !ctrlKey))
          setView((v) => ({ ...v, x: v.x + (deltaX || deltaY) / v.scale, y: v.y + (deltaX ? deltaY / v.scale : 0) }))
        else setView((v) => zoomed(v, Math.exp(steps), px, py))
      },
      onMove: ({ event, xy, last }) => {
        if (!now.current.view) return
        const [px, py] = on(xy)
        const inside = !(last && event.type === 'pointerleave')
        pointer.current = inside ? { px, py } : undefined
        if (followed) repaint()
        if (held.current) return
        for (const tool of now.current.tools) tool.hover?.(inside ? spotIn(tool.space, px, py, event as Keys) : undefined)
      },
    },
    {
      target: frame,
      eventOptions: { passive: false },
      drag: { pointer: { buttons: [1, 4], capture: false, keys: false } },
      pinch: { pinchOnWheel: false },
      move: { mouseOnly: false },
    },
  )

  useEffect(() => {
    const element = frame.current!
    const leave = (): void => {
      pointer.current = undefined
      if (followed) repaint()
      for (const tool of now.current.tools) tool.hover?.(undefined)
    }
    const twice = (event: MouseEvent): void => {
      if (!now.current.view || isOwn(event)) return
      const [px, py] = on([event.clientX, event.clientY])
      now.current.tools.some((tool) => tool.twice?.(spotIn(tool.space, px, py, event)))
    }
    const menu = (event: MouseEvent): void => {
      if (!now.current.view || isOwn(event)) return
      const stageAt = element.getBoundingClientRect()
      const [px, py] = on([event.clientX, event.clientY])
      if (now.current.tools.some((tool) => tool.menu?.(spotIn(tool.space, px, py, event), stageAt))) event.preventDefault()
    }
    element.addEventListener('pointerleave', leave)
    element.addEventListener('dblclick', twice)
    element.addEventListener('contextmenu', menu)
    return () => {
      element.removeEventListener('pointerleave', leave)
      element.removeEventListener('dblclick', twice)
      element.removeEventListener('contextmenu', menu)
    }
  })
  return giveUp
}
