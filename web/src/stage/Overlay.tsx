import type { ReactNode } from 'react'

/** Shapes over the whole stage, CSS px. Presses go through it, to the stage's one hand. @param label where it holds what can be reached */
export function Overlay({ label, children }: { readonly label?: string; readonly children: ReactNode }) {
  return (
    // biome-ignore lint/a11y/noSvgWithoutTitle: its parts are named, or it is hidden
    <svg
      style={{ position: 'absolute', inset: 0, width: '100%', height: '100%', pointerEvents: 'none' }}
      {...(label === undefined ? { 'aria-hidden': true } : { role: 'group', 'aria-label': label })}
    >
      {children}
    </svg>
  )
}
