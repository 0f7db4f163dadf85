import { useCallback, useRef } from 'react'

/**
 * Painting at most once a frame, without rendering the page again.
 * @returns asks for a painting in the next frame; sets what paints, and asks
 */
export function useRepaint(): readonly [() => void, (paint: () => void) => void] {
  const paint = useRef(() => {})
  const asked = useRef(0)
  const repaint = useCallback(() => {
    if (asked.current !== 0) return
    asked.current = requestAnimationFrame(() => {
      asked.current = 0
      paint.current()
    })
  }, [])
  const paintWith = useCallback(
    (next: () => void) => {
      paint.current = next
      repaint()
    },
    [repaint],
  )
  return [repaint, paintWith]
}
