/** Which part of the job plane the stage shows: the job point at its top-left corner, and the scale. */
export interface StageView {
  readonly x: number
  readonly y: number
  /** CSS pixels on one mm. */
  readonly scale: number
}

export const MIN_SCALE = 0.05
export const MAX_SCALE = 400

/** On a small stage what floats over it may cover this share of its height, and of its width on either side. */
const MOST_MARGIN = 0.24

/** The view that shows a box in the middle of the stage, as large as fits. @param margin what is left free, where there is room, px */
export function fitView(
  box: { x0: number; y0: number; x1: number; y1: number },
  width: number,
  height: number,
  { x, top, bottom }: { x: number; top: number; bottom: number },
): StageView {
  const least = (MOST_MARGIN * height) / Math.max(1, top + bottom)
  const margin = {
    x: Math.min(x, MOST_MARGIN * width),
    top: top * Math.min(1, 1.6 * least),
    bottom: bottom * Math.min(1, 1.6 * least),
  }
  const scale = Math.max(
    MIN_SCALE,
    Math.min((width - 2 * margin.x) / (box.x1 - box.x0), (height - margin.top - margin.bottom) / (box.y1 - box.y0)),
  )
  return {
    scale,
    x: (box.x0 + box.x1) / 2 - width / 2 / scale,
    y: (box.y0 + box.y1) / 2 - (margin.top + (height - margin.top - margin.bottom) / 2) / scale,
  }
}

/** The view after zooming by `factor` around a stage point (CSS pixels). */
export function zoomed(view: StageView, factor: number, px: number, py: number): StageView {
  const scale = Math.min(MAX_SCALE, Math.max(MIN_SCALE, view.scale * factor))
  return { scale, x: view.x + px / view.scale - px / scale, y: view.y + py / view.scale - py / scale }
}
