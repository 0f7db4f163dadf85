import { type RefObject, useCallback, useRef } from 'react'

/**
 * Painting at most once a frame, without rendering the page again.
 * @returns asks for a painting in the next frame, and what paints, to be set by the newest rendering
 */
export function useRepaint(): readonly [() => void, RefObject<() => void>] {
  const paint = useRef(() => {})
  const asked = useRef(0)
  const repaint = useCallback(() => {
    asked.current ||= requestAnimationFrame(() => {
      asked.current = 0
      paint.current()
    })
  }, [])
  return [repaint, paint]
}
