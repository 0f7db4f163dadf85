import type { Showing } from '../../stage/layer.ts'

/** How much of a mask is seen over the burn that it is for. */
const MASK_OVER_BURN = 0.28

/** Lets something be painted between two shares of the stage's width only. */
export function betweenShares(
  context: CanvasRenderingContext2D,
  { size }: Pick<Showing, 'size'>,
  [from, to]: readonly [number, number],
  paint: () => void,
): void {
  context.save()
  context.beginPath()
  context.rect(from * size.width, 0, (to - from) * size.width, size.height)
  context.clip()
  paint()
  context.restore()
}

/** A mask over the source as it is, and pale over the burn. @param split share of the stage's width where the burn begins */
export function paintMask(context: CanvasRenderingContext2D, at: Pick<Showing, 'size'>, split: number, paint: () => void): void {
  betweenShares(context, at, [0, split], paint)
  betweenShares(context, at, [split, 1], () => {
    context.globalAlpha = MASK_OVER_BURN
    paint()
  })
}
