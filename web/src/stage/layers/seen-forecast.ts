import { type Bounds, faceBox, type JobDocument, mainPiece, type View } from '@neotaxis/core'
import { onForecast, paintForecast } from '../../workers/engine.ts'
import type { PaintedForecast } from '../../workers/shared.ts'
import type { Upright } from '../spaces.ts'
import { ViewPicture } from './view-picture.ts'

/** While the view moves, this much more than it shows is painted, so that nothing empty comes into it, CSS px. */
const MORE_PX = 48

const keyOf = ({ x, y, pxPerMm, widthPx, heightPx }: View, version: number): string =>
  `${version} ${x} ${y} ${pxPerMm} ${widthPx} ${heightPx}`

/** All of a job's workpiece, job mm. */
export const wholeOf = (job: JobDocument): Bounds => faceBox(mainPiece(job))

/** The workpiece after the burn, as the view shows it. */
export class SeenForecast {
  private readonly picture: ViewPicture<PaintedForecast>
  private readonly only: readonly string[] | undefined
  private readonly piece: string | undefined
  private readonly stop: () => void
  private version = 0
  /** What is in view, without what is painted beside it. */
  private inView: View | undefined

  /** @param only operations that are burned, default all @param piece another workpiece than the one that is looked at */
  constructor(onPainted: () => void, only?: readonly string[], piece?: string) {
    this.piece = piece
    this.picture = new ViewPicture(onPainted)
    this.only = only
    this.stop = onForecast((version) => {
      this.version = version
      // What is looked at is painted at once, without waiting for the next frame.
      if (this.inView) this.ask(this.inView)
      else onPainted()
    })
  }

  end(): void {
    this.stop()
    this.picture.end()
  }

  /** True while nothing is painted yet. */
  get empty(): boolean {
    return this.picture.shown === undefined
  }

  /** True when everything in view is painted as it is now. */
  get settled(): boolean {
    return this.version > 0 && this.picture.settled
  }

  /** Draws what the view shows of a part of the workpiece. The context is in CSS pixels, upright. @param part job mm */
  draw(context: CanvasRenderingContext2D, { view, size: { width, height } }: Upright, ratio: number, part: Bounds): void {
    const pxPerMm = view.scale * ratio
    /** The pixels of the picture lie on those of the screen. */
    const within = (from: number, length: number, begin: number, end: number, more: number) => {
      const first = Math.max(-more, Math.floor((begin - from) * pxPerMm))
      const last = Math.min(Math.round(length * ratio) + more, Math.ceil((end - from) * pxPerMm))
      return { from: from + first / pxPerMm, px: Math.max(0, last - first) }
    }
    const around = (more: number): View => {
      const across = within(view.x, width, part.x0, part.x1, more)
      const down = within(view.y, height, part.y0, part.y1, more)
      return { x: across.from, y: down.from, pxPerMm, widthPx: across.px, heightPx: down.px }
    }
    const inView = around(0)
    const isEmpty = inView.widthPx === 0 || inView.heightPx === 0
    this.inView = isEmpty ? undefined : inView
    const key = this.picture.shown?.key
    if (isEmpty) this.picture.want(undefined)
    else if (key === keyOf(inView, this.version)) this.ask(inView)
    // A view that moves over what is painted already.
    else this.ask(this.picture.shown?.made.version === this.version ? around(Math.round(MORE_PX * ratio)) : inView)
    this.picture.draw(context, view)
  }

  private ask(view: View): void {
    if (this.version === 0) return
    const { only, piece } = this
    this.picture.want({
      key: keyOf(view, this.version),
      view,
      paint: async () => {
        const made = await paintForecast(view, only, piece)
        return made && { made, key: keyOf(view, made.version) }
      },
    })
  }
}
