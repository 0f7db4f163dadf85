import { usePinch } from '@use-gesture/react'
import { type RefObject, useLayoutEffect, useRef, useState } from 'react'

/** The closest that time is looked at: one screen is so small a part of it all. */
const MOST = 200
const STEP = 1.6

export interface Zoom {
  /** How many times wider than its room the line is. */
  readonly factor: number
  readonly canGoOut: boolean
  by(steps: number): void
  whole(): void
}

/** How closely time is looked at: two fingers, Ctrl and the wheel over it, or by steps; the place under the pointer stays. @param box that scrolls */
export function useZoom(box: RefObject<HTMLElement | null>): Zoom {
  const [factor, setFactor] = useState(1)
  const kept = useRef({ share: 0.5, at: 0 })
  const go = (next: number, at: number): void => {
    const element = box.current
    if (!element) return
    kept.current = { share: (element.scrollLeft + at) / Math.max(1, element.scrollWidth), at }
    setFactor(Math.min(MOST, Math.max(1, next)))
  }
  const latest = useRef({ go, factor })
  useLayoutEffect(() => {
    latest.current = { go, factor }
  })
  // biome-ignore lint/correctness/useExhaustiveDependencies: once the line has its new width
  useLayoutEffect(() => {
    const element = box.current
    if (element) element.scrollLeft = kept.current.share * element.scrollWidth - kept.current.at
  }, [factor])
  usePinch(
    ({ first, movement: [scale], origin: [x], memo, event }) => {
      if (event.cancelable) event.preventDefault()
      const from = first ? latest.current.factor : (memo as number)
      latest.current.go(from * scale, x - (box.current?.getBoundingClientRect().left ?? 0))
      return from
    },
    {
      target: box as RefObject<HTMLElement>,
      eventOptions: { passive: false },
      pointer: { touch: true },
      modifierKey: ['ctrlKey', 'metaKey'],
    },
  )
  return {
    factor,
    canGoOut: factor > 1,
    by: (steps) => go(factor * STEP ** steps, (box.current?.clientWidth ?? 0) / 2),
    whole: () => go(1, 0),
  }
}
