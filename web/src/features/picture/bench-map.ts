import { type FrameSize, type FramingStep, frameMap, mapPoint, type Placement, undoing } from '@neotaxis/core'
import type { StageView } from '../stage/stage-view.ts'

/** Between places in the source picture, in its frame, and on the bench's stage (CSS pixels). */
export interface BenchMap {
  readonly frame: FrameSize
  /** CSS pixels on one pixel of the frame. */
  readonly scale: number
  readonly sourceToScreen: (x: number, y: number) => readonly [number, number]
  readonly screenToSource: (x: number, y: number) => readonly [number, number]
  readonly frameToScreen: (x: number, y: number) => readonly [number, number]
  readonly screenToFrame: (x: number, y: number) => readonly [number, number]
}

/** @param flipped the stage shows the piece from behind: left and right change places on the screen */
export function benchMap(
  size: FrameSize,
  framing: readonly FramingStep[],
  place: Placement,
  view: StageView,
  stageWidth: number,
  flipped: boolean,
): BenchMap {
  const { widthPx, heightPx, toFrame } = frameMap(size, framing)
  const back = undoing(toFrame)
  const sx = (place.widthMm / widthPx) * view.scale
  const sy = (place.heightMm / heightPx) * view.scale
  const x0 = (place.xMm - view.x) * view.scale
  const y0 = (place.yMm - view.y) * view.scale
  const turn = (x: number): number => (flipped ? stageWidth - x : x)
  const frameToScreen = (x: number, y: number) => [turn(x0 + x * sx), y0 + y * sy] as const
  const screenToFrame = (x: number, y: number) => [(turn(x) - x0) / sx, (y - y0) / sy] as const
  return {
    frame: { widthPx, heightPx },
    scale: Math.sqrt(sx * sy),
    frameToScreen,
    screenToFrame,
    sourceToScreen: (x, y) => frameToScreen(...mapPoint(toFrame, x, y)),
    screenToSource: (x, y) => mapPoint(back, ...screenToFrame(x, y)),
  }
}
