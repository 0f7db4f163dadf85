import type { Ring } from '@neotaxis/core'
import { ringsOf } from './packed-rings.ts'
import { PaintAhead } from './paint-ahead.ts'
import type { OutlineNews, OutlineRequest, PaintedOutlines } from './shared.ts'

type Paint = (request: OutlineRequest, outlines: ReadonlyMap<string, readonly Ring[]>) => Promise<ImageBitmap>

const sameView = (a: OutlineRequest, b: OutlineRequest): boolean =>
  JSON.stringify({ ...a, version: 0 }) === JSON.stringify({ ...b, version: 0 })

/** The outlines of the newest drawing, and pictures of them. */
export class OutlinePainter {
  private readonly outlines = new Map<string, readonly Ring[]>()
  private readonly versions = new Map<string, number>()
  private places: OutlineNews['places'] = {}
  private drawn = 0
  /** Requests for drawings that are not here yet. */
  private waiting: { readonly version: number; readonly go: () => void }[] = []
  private readonly ahead = new PaintAhead<OutlineRequest, PaintedOutlines>(sameView)
  private readonly paint: Paint

  constructor(paint: Paint) {
    this.paint = paint
  }

  take({ fresh, version, places }: OutlineNews): void {
    for (const [id, packed] of Object.entries(fresh)) {
      this.outlines.set(id, ringsOf(packed))
      this.versions.set(id, version)
    }
    for (const id of this.outlines.keys()) if (!(id in places)) this.outlines.delete(id)
    this.drawn = version
    this.places = places
    const ready = this.waiting.filter((each) => each.version <= version)
    this.waiting = this.waiting.filter((each) => each.version > version)
    for (const { go } of ready) go()
    this.ahead.changed(
      ({ strokes }) => strokes.some(({ node }) => node in fresh),
      (request) => this.made(request),
    )
  }

  /** Outlines as lines on a clear ground; waits for a drawing that is still on its way. */
  async picture(request: OutlineRequest): Promise<PaintedOutlines> {
    const { version } = request
    if (this.drawn < version) await new Promise<void>((go) => this.waiting.push({ version, go }))
    return this.ahead.asked(request) ?? this.made(request)
  }

  private async made(request: OutlineRequest): Promise<PaintedOutlines> {
    const { strokes } = request
    const version = strokes.reduce((newest, { node }) => Math.max(newest, this.versions.get(node) ?? 0), 0)
    const place = this.places[strokes[0]?.node] ?? { x: 0, y: 0 }
    return { bitmap: await this.paint(request, this.outlines), version, place }
  }
}
