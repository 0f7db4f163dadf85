import type { Affine, Bounds } from '@neotaxis/core'
import { type RefObject, useCallback, useEffect, useLayoutEffect, useMemo, useRef, useState } from 'react'
import { showsNow } from './in-view.ts'
import type { Showing } from './layer.ts'
import type { StageSize } from './spaces.ts'
import { fitView, type StageView, zoomed } from './stage-view.ts'
import { useRepaint } from './use-repaint.ts'

/** Room around what is shown for what floats over it, CSS px. */
export interface StageRoom {
  readonly x: number
  readonly top: number
  readonly bottom: number
}

/** The stage as the screens, layers and tools hold it: what is in view, and the ways to change that. */
export interface StageHandle {
  readonly frame: RefObject<HTMLDivElement | null>
  readonly size: StageSize
  readonly standing: Affine
  readonly view: StageView | undefined
  readonly setView: (change: (view: StageView) => StageView) => void
  /** All of it. */
  readonly whole: () => void
  /** A part of it as large as fits, in units of the standing space. */
  readonly show: (box: Bounds, room?: StageRoom) => void
  /** Around the middle. */
  readonly zoom: (factor: number) => void
  /** Where the pointer is, CSS px. */
  readonly pointer: RefObject<Showing['pointer']>
  /** Paints in the next frame, without rendering. */
  readonly repaint: () => void
  readonly paintWith: (paint: () => void) => void
}

interface StageOptions {
  /** The map to the bed of the space whose axes are the screen's; the same value until it changes. */
  readonly standing: Affine
  /** What is in view at first, and again whenever its size, the window's or `key` changes, in units of the standing space. */
  readonly home: Bounds
  readonly room: StageRoom
  readonly key?: string
}

const CLOSE: StageRoom = { x: 90, top: 70, bottom: 130 }

export function useStage({ standing, home, room, key = '' }: StageOptions): StageHandle {
  const frame = useRef<HTMLDivElement>(null)
  const pointer = useRef<Showing['pointer']>(undefined)
  const [size, setSize] = useState<StageSize>({ width: 0, height: 0 })
  const [view, setViewNow] = useState<StageView>()
  const [repaint, paintWith] = useRepaint()
  useLayoutEffect(() => {
    const observer = new ResizeObserver(([entry]) =>
      setSize({ width: entry.contentRect.width, height: entry.contentRect.height }),
    )
    observer.observe(frame.current!)
    return () => observer.disconnect()
  }, [])
  const newest = useRef({ home, room })
  newest.current = { home, room }
  const setView = useCallback((change: (view: StageView) => StageView) => setViewNow((now) => now && change(now)), [])
  const show = useCallback(
    (box: Bounds, room: StageRoom = CLOSE) => {
      if (size.width > 10 && box.x1 > box.x0) setViewNow(fitView(box, size.width, size.height, room))
    },
    [size],
  )
  const whole = useCallback(() => show(newest.current.home, newest.current.room), [show])
  const zoom = useCallback(
    (factor: number) => setView((v) => zoomed(v, factor, size.width / 2, size.height / 2)),
    [setView, size],
  )
  useEffect(() => (view && size.width > 10 ? showsNow({ standing, view, size }) : undefined), [standing, view, size])
  const shape = `${key} ${(home.x1 - home.x0).toFixed(2)} ${(home.y1 - home.y0).toFixed(2)}`
  // biome-ignore lint/correctness/useExhaustiveDependencies: another shape is shown whole again
  useEffect(whole, [whole, shape])
  return useMemo(
    () => ({ frame, size, standing, view, setView, whole, show, zoom, pointer, repaint, paintWith }),
    [size, standing, view, setView, whole, show, zoom, repaint, paintWith],
  )
}
