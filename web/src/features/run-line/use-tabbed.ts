import { type FocusEvent, useRef } from 'react'

/** Told when the Tab key comes to something: what is pressed says by itself what the press means. */
export function useTabbed(onTab: () => void): {
  readonly onPointerDownCapture: () => void
  readonly onFocus: (event: FocusEvent) => void
} {
  const pressed = useRef(false)
  return {
    onPointerDownCapture: () => {
      pressed.current = true
    },
    onFocus: ({ target }) => {
      if (!pressed.current && target.matches(':focus-visible')) onTab()
      pressed.current = false
    },
  }
}
