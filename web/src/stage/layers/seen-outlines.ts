import { paintOutlines } from '../../workers/engine.ts'
import type { Drawing, OutlineRequest, PaintedOutlines, Stroke } from '../../workers/shared.ts'
import type { Showing } from '../layer.ts'
import { ViewPicture } from './view-picture.ts'

const keyOf = (request: OutlineRequest, version: number): string => JSON.stringify({ ...request, version })
const newest = ({ versions }: Drawing, strokes: readonly Stroke[]): number =>
  strokes.reduce((most, { node }) => Math.max(most, versions[node] ?? 0), 0)
const nodesOf = (strokes: readonly Stroke[]): string => strokes.map(({ node }) => node).join(' ')

/** Outlines over the stage, however many there are. */
export class SeenOutlines {
  private readonly picture: ViewPicture<PaintedOutlines & { readonly nodes: string }>
  private last: OutlineRequest | undefined

  constructor(onPainted: () => void) {
    this.picture = new ViewPicture(onPainted)
  }

  end(): void {
    this.picture.end()
  }

  /** True when what was drawn last is painted as it is now. */
  get settled(): boolean {
    return this.picture.settled
  }

  /**
   * Draws outlines as the view shows them. The context is in CSS pixels, upright. @param place where their artwork stands by now, job
   * mm: a picture of it somewhere else goes along
   */
  draw(
    context: CanvasRenderingContext2D,
    { upright: { view, size }, ratio }: Pick<Showing, 'upright' | 'ratio'>,
    drawing: Drawing | undefined,
    strokes: readonly Stroke[],
    place?: { readonly x: number; readonly y: number },
  ): void {
    if (!drawing || strokes.length === 0) {
      this.last = undefined
      this.picture.want(undefined)
      return
    }
    this.ask({
      version: newest(drawing, strokes),
      strokes,
      x: view.x,
      y: view.y,
      pxPerMm: view.scale * ratio,
      widthPx: Math.round(size.width * ratio),
      heightPx: Math.round(size.height * ratio),
      ratio,
    })
    const { shown } = this.picture
    if (shown?.made.nodes !== nodesOf(strokes)) return
    const was = shown.made.place
    this.picture.draw(context, view, place && { x: place.x - was.x, y: place.y - was.y })
  }

  /** Asks for newer outlines of what is shown at once, without waiting for the next frame. */
  renew(drawing: Drawing | undefined): void {
    if (drawing && this.last) this.ask({ ...this.last, version: newest(drawing, this.last.strokes) })
  }

  private ask(request: OutlineRequest): void {
    this.last = request
    this.picture.want({
      key: keyOf(request, request.version),
      view: request,
      paint: async () => {
        const made = await paintOutlines(request)
        return { made: { ...made, nodes: nodesOf(request.strokes) }, key: keyOf(request, made.version) }
      },
    })
  }
}
