import { type RefObject, useCallback, useEffect, useLayoutEffect, useState } from 'react'
import { fitView, type StageView, zoomed } from './stage-view.ts'

/**
 * Which part of the workpiece is in view: all of it at first and whenever its size or the window's changes; the wheel zooms,
 * with Shift it pans. @param room around it for what stands over it, CSS px; the same object every time
 */
export function useStageView(
  frame: RefObject<HTMLElement | null>,
  widthMm: number,
  heightMm: number,
  room: { readonly x: number; readonly top: number; readonly bottom: number },
) {
  const [size, setSize] = useState({ width: 0, height: 0 })
  const [view, setView] = useState<StageView>()
  useLayoutEffect(() => {
    const observer = new ResizeObserver(([entry]) =>
      setSize({ width: entry.contentRect.width, height: entry.contentRect.height }),
    )
    observer.observe(frame.current!)
    return () => observer.disconnect()
  }, [frame])
  const whole = useCallback(() => {
    if (size.width > 0) setView(fitView({ x0: 0, y0: 0, x1: widthMm, y1: heightMm }, size.width, size.height, room))
  }, [size, widthMm, heightMm, room])
  useEffect(whole, [whole])
  /** Where a pointer is on the stage, CSS px. */
  const at = useCallback(
    (event: { readonly clientX: number; readonly clientY: number }) => {
      const rect = frame.current!.getBoundingClientRect()
      return { x: event.clientX - rect.left, y: event.clientY - rect.top }
    },
    [frame],
  )
  // React listens passively; a wheel that zooms must not scroll the page.
  useEffect(() => {
    const element = frame.current!
    const wheel = (event: WheelEvent): void => {
      event.preventDefault()
      const { x, y } = at(event)
      if (event.shiftKey || (Math.abs(event.deltaX) > Math.abs(event.deltaY) && !event.ctrlKey)) {
        setView(
          (v) =>
            v && {
              ...v,
              x: v.x + (event.deltaX || event.deltaY) / v.scale,
              y: v.y + (event.deltaX ? event.deltaY / v.scale : 0),
            },
        )
      } else setView((v) => v && zoomed(v, Math.exp(-event.deltaY * (event.ctrlKey ? 0.01 : 0.0016)), x, y))
    }
    element.addEventListener('wheel', wheel, { passive: false })
    return () => element.removeEventListener('wheel', wheel)
  }, [frame, at])
  return { size, view, setView, whole, at }
}
