import { painter } from '../../workers/engine.ts'
import type { Drawing, OutlineRequest, PaintedOutlines, Stroke } from '../../workers/shared.ts'
import type { StageView } from './stage-view.ts'

interface Shown extends PaintedOutlines {
  /** All that the picture depends on. */
  readonly key: string
  /** Which outlines are on it. */
  readonly nodes: string
  readonly request: OutlineRequest
}

const nodesOf = (strokes: readonly Stroke[]): string => strokes.map(({ node }) => node).join(' ')

/**
 * Outlines over the stage, painted by the worker: thousands of them never hold the page up. The last picture stands in, moved
 * and scaled, until the next one is there.
 */
export class OutlineLayer {
  private shown: Shown | undefined
  private wanted: { readonly key: string; readonly request: OutlineRequest } | undefined
  private underway = false
  private ended = false
  private inUse = false
  private readonly onPainted: () => void

  constructor(onPainted: () => void) {
    this.onPainted = onPainted
  }

  end(): void {
    this.ended = true
    this.shown?.bitmap.close()
    this.shown = undefined
  }

  /** True when what was drawn last is painted as it is now. */
  get settled(): boolean {
    return this.wanted === undefined
  }

  /**
   * Draws outlines as the view shows them. The context is in CSS pixels. @param place where their artwork stands by now, job
   * mm: a picture of it somewhere else goes along
   */
  draw(
    context: CanvasRenderingContext2D,
    view: StageView,
    size: { readonly width: number; readonly height: number },
    ratio: number,
    drawing: Drawing | undefined,
    strokes: readonly Stroke[],
    place?: { readonly x: number; readonly y: number },
  ): void {
    this.inUse = drawing !== undefined && strokes.length > 0
    if (!drawing || strokes.length === 0) {
      this.wanted = undefined
      return
    }
    const request: OutlineRequest = {
      version: drawing.version,
      strokes,
      x: view.x,
      y: view.y,
      pxPerMm: view.scale * ratio,
      widthPx: Math.round(size.width * ratio),
      heightPx: Math.round(size.height * ratio),
      ratio,
    }
    const key = JSON.stringify(request)
    const { shown } = this
    this.wanted = shown?.key === key && shown.version === drawing.version ? undefined : { key, request }
    this.ask()
    if (!shown || shown.nodes !== nodesOf(strokes)) return
    const { x, y, pxPerMm, widthPx, heightPx } = shown.request
    const by = place ? { x: place.x - shown.place.x, y: place.y - shown.place.y } : { x: 0, y: 0 }
    context.drawImage(
      shown.bitmap,
      (x + by.x - view.x) * view.scale,
      (y + by.y - view.y) * view.scale,
      (widthPx / pxPerMm) * view.scale,
      (heightPx / pxPerMm) * view.scale,
    )
  }

  /** Asks for newer outlines of what is shown at once, without waiting for the next frame. */
  renew(drawing: Drawing | undefined): void {
    const last = this.wanted?.request ?? this.shown?.request
    if (!drawing || !last || last.version === drawing.version || !this.inUse) return
    const request = { ...last, version: drawing.version }
    this.wanted = { key: JSON.stringify(request), request }
    this.ask()
  }

  private ask(): void {
    if (this.underway || !this.wanted) return
    const { key, request } = this.wanted
    this.underway = true
    void painter()
      .outlines(request)
      .then((made) => {
        if (this.ended) {
          made.bitmap.close()
          return
        }
        this.shown?.bitmap.close()
        this.shown = { ...made, key, nodes: nodesOf(request.strokes), request }
      })
      .finally(() => {
        this.underway = false
        if (!this.ended) this.onPainted()
      })
  }
}
