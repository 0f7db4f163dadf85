import type { Ring } from '@neotaxis/core'
import { ringsOf } from './packed-rings.ts'
import type { OutlineNews, OutlineRequest, PaintedOutlines } from './shared.ts'

type Paint = (request: OutlineRequest, outlines: ReadonlyMap<string, readonly Ring[]>) => Promise<ImageBitmap>

/** So many views are painted again as soon as their outlines change. */
const AHEAD = 2

const sameView = (a: OutlineRequest, b: OutlineRequest): boolean =>
  JSON.stringify({ ...a, version: 0 }) === JSON.stringify({ ...b, version: 0 })

/**
 * The outlines of the newest drawing, and pictures of them. What was looked at last is painted again as soon as its outlines
 * change: when the page gets round to asking for it, it is there.
 */
export class OutlinePainter {
  private readonly outlines = new Map<string, readonly Ring[]>()
  private readonly versions = new Map<string, number>()
  private places: OutlineNews['places'] = {}
  private drawn = 0
  /** Requests for drawings that are not here yet. */
  private waiting: { readonly version: number; readonly go: () => void }[] = []
  private recent: OutlineRequest[] = []
  private ahead: { readonly request: OutlineRequest; readonly made: Promise<PaintedOutlines> }[] = []
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
    const isTouched = ({ strokes }: OutlineRequest): boolean => strokes.some(({ node }) => node in fresh)
    // What nobody asked for the last time is not looked at any more.
    const unasked = this.ahead.filter(({ request }) => isTouched(request))
    for (const { made } of unasked) void made.then(({ bitmap }) => bitmap.close())
    this.ahead = this.ahead.filter((each) => !unasked.includes(each))
    this.recent = this.recent.filter((request) => !unasked.some((each) => each.request === request))
    for (const request of this.recent.filter(isTouched)) this.ahead.push({ request, made: this.made(request) })
  }

  /** Outlines as lines on a clear ground; waits for a drawing that is still on its way. */
  async picture(request: OutlineRequest): Promise<PaintedOutlines> {
    const { version } = request
    this.recent = [request, ...this.recent.filter((each) => !sameView(each, request))].slice(0, AHEAD)
    if (this.drawn < version) await new Promise<void>((go) => this.waiting.push({ version, go }))
    const found = this.ahead.findIndex((each) => sameView(each.request, request))
    if (found < 0) return this.made(request)
    const [{ made }] = this.ahead.splice(found, 1)
    return made
  }

  private async made(request: OutlineRequest): Promise<PaintedOutlines> {
    const { strokes } = request
    const version = strokes.reduce((newest, { node }) => Math.max(newest, this.versions.get(node) ?? 0), 0)
    const place = this.places[strokes[0]?.node] ?? { x: 0, y: 0 }
    return { bitmap: await this.paint(request, this.outlines), version, place }
  }
}
