import {
  type Affine,
  composed,
  type FrameSize,
  type FramingStep,
  frameMap,
  mapPoint,
  moving,
  type Placement,
  scaling,
  undoing,
} from '@neotaxis/core'

/** The picture in its frame as it lies on the bench, and the ways to the picture as it came. */
export interface BenchSpaces {
  readonly frame: FrameSize
  /** The map from px of the frame to the bed, mm. */
  readonly space: Affine
  /** Between px of the frame and px of the source. */
  readonly toSource: (x: number, y: number) => readonly [number, number]
  readonly fromSource: (x: number, y: number) => readonly [number, number]
}

/** @param place where the frame lies on its ground, mm; @param ground the map from there to the bed */
export function benchSpaces(size: FrameSize, framing: readonly FramingStep[], place: Placement, ground: Affine): BenchSpaces {
  const { widthPx, heightPx, toFrame } = frameMap(size, framing)
  const back = undoing(toFrame)
  const lies = composed(scaling(place.widthMm / widthPx, place.heightMm / heightPx), moving(place.xMm, place.yMm))
  return {
    frame: { widthPx, heightPx },
    space: composed(lies, ground),
    toSource: (x, y) => mapPoint(back, x, y),
    fromSource: (x, y) => mapPoint(toFrame, x, y),
  }
}
