import type { View } from '@neotaxis/core'
import type { StageView } from '../stage-view.ts'

/** What the worker painted of a view. */
interface Made {
  readonly bitmap: ImageBitmap
}

interface Wanted<T extends Made> {
  /** All that the picture depends on, what of it is painted and at which place. */
  readonly key: string
  readonly view: View
  /** @returns undefined where there is nothing to paint yet, and the key of what was painted */
  readonly paint: () => Promise<{ readonly made: T; readonly key: string } | undefined>
}

/**
 * A picture of what is in view that the worker paints, so that no amount of work holds the page up. The last one stands in,
 * moved and scaled, until the next one is there; while several are wanted only the newest is painted.
 */
export class ViewPicture<T extends Made> {
  shown: { readonly made: T; readonly key: string; readonly view: View } | undefined
  private wanted: Wanted<T> | undefined
  private underway = false
  private ended = false
  private readonly onPainted: () => void

  constructor(onPainted: () => void) {
    this.onPainted = onPainted
  }

  end(): void {
    this.ended = true
    this.wanted = undefined
    this.shown?.made.bitmap.close()
    this.shown = undefined
  }

  /** True when what was wanted last is there. */
  get settled(): boolean {
    return this.wanted === undefined
  }

  /** Wants a picture, if it is not the one that is there; undefined: none. */
  want(wanted: Wanted<T> | undefined): void {
    if (this.ended) return
    this.wanted = wanted?.key === this.shown?.key ? undefined : wanted
    this.ask()
  }

  /** Draws what is there. The context is in CSS pixels. @param by how far the artwork moved since, mm */
  draw(context: CanvasRenderingContext2D, { x, y, scale }: StageView, by = { x: 0, y: 0 }): void {
    if (!this.shown) return
    const { made, view } = this.shown
    const { pxPerMm, widthPx, heightPx } = view
    const left = (view.x + by.x - x) * scale
    const top = (view.y + by.y - y) * scale
    context.drawImage(made.bitmap, left, top, (widthPx / pxPerMm) * scale, (heightPx / pxPerMm) * scale)
  }

  private ask(): void {
    if (this.underway || !this.wanted) return
    const { key, view, paint } = this.wanted
    this.underway = true
    let painted = false
    paint()
      .then((found) => {
        if (!found) return
        painted = true
        if (this.ended) {
          found.made.bitmap.close()
          return
        }
        this.shown?.made.bitmap.close()
        this.shown = { ...found, view }
        if (this.wanted?.key === found.key || this.wanted?.key === key) this.wanted = undefined
      })
      .catch((cause: unknown) => console.error(cause))
      .finally(() => {
        this.underway = false
        // The newest wish that came up meanwhile; where nothing could be painted, the next one asks again.
        if (painted) this.ask()
        if (!this.ended) this.onPainted()
      })
  }
}
