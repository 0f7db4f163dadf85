import type { PointerEvent as ReactPointerEvent } from 'react'

/** Where a pointer is in the drawing it points at, CSS pixels. */
export function pointIn(event: ReactPointerEvent<SVGElement>): readonly [number, number] {
  const svg = event.currentTarget.ownerSVGElement ?? (event.currentTarget as unknown as SVGSVGElement)
  const box = svg.getBoundingClientRect()
  return [event.clientX - box.left, event.clientY - box.top]
}

/** Takes a press for its own, so that the stage does not pan. */
export function hold(event: ReactPointerEvent<SVGElement>): void {
  event.stopPropagation()
  event.currentTarget.setPointerCapture(event.pointerId)
}
