import { type Affine, inverseOf, mapped } from '@neotaxis/core'
import type { StageSize } from './spaces.ts'
import type { StageView } from './stage-view.ts'

/** What a stage shows now: what is begun by a press begins where it is seen. */
interface InView {
  readonly standing: Affine
  readonly view: StageView
  readonly size: StageSize
}

let now: InView | undefined

/** @returns what forgets it again, as long as no other stage shows something */
export function showsNow(seen: InView): () => void {
  now = seen
  return () => {
    if (now === seen) now = undefined
  }
}

/** The part of a unit square that is in view, in shares of its sides. @param space its map to the bed @returns undefined where none is */
export function unitInView(
  space: Affine,
): { readonly x: number; readonly y: number; readonly width: number; readonly height: number } | undefined {
  if (!now) return undefined
  const { standing, view, size } = now
  const back = inverseOf(space)
  const corners = [0, 1, 2, 3].map((k) => {
    const [bx, by] = mapped(
      standing,
      view.x + (k & 1 ? size.width : 0) / view.scale,
      view.y + (k & 2 ? size.height : 0) / view.scale,
    )
    return mapped(back, bx, by)
  })
  const span = (axis: 0 | 1): readonly [number, number] => [
    Math.max(0, Math.min(...corners.map((corner) => corner[axis]))),
    Math.min(1, Math.max(...corners.map((corner) => corner[axis]))),
  ]
  const [x0, x1] = span(0)
  const [y0, y1] = span(1)
  return x1 > x0 && y1 > y0 ? { x: x0, y: y0, width: x1 - x0, height: y1 - y0 } : undefined
}
