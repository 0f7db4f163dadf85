import { useRef } from 'react'

/** Told when something gets the focus by a key or a tool: what is pressed says by itself what the press means. */
export function useTabbed(onTab: () => void): {
  readonly onPointerDownCapture: () => void
  readonly onFocus: () => void
} {
  const pressed = useRef(false)
  return {
    onPointerDownCapture: () => {
      pressed.current = true
      // The focus that comes of it comes at once.
      requestAnimationFrame(() => {
        pressed.current = false
      })
    },
    onFocus: () => {
      if (!pressed.current) onTab()
    },
  }
}
