interface Made {
  readonly bitmap: ImageBitmap
}

/** So many views are painted again as soon as what they show changes. */
const AHEAD = 2

/**
 * Paints what was looked at last as soon as it changes: when a busy page gets round to asking for it, it is there. What nobody
 * asked for until it changes once more is not looked at any more.
 */
export class PaintAhead<R, M extends Made> {
  private recent: R[] = []
  private ahead: { readonly request: R; readonly made: Promise<M> }[] = []
  private readonly same: (a: R, b: R) => boolean

  constructor(same: (a: R, b: R) => boolean) {
    this.same = same
  }

  /** @param isTouched whether what a request shows changed */
  changed(isTouched: (request: R) => boolean, paint: (request: R) => Promise<M>): void {
    const unasked = this.ahead.filter(({ request }) => isTouched(request))
    for (const { made } of unasked)
      void made.then(
        ({ bitmap }) => bitmap.close(),
        () => {},
      )
    this.ahead = this.ahead.filter((each) => !unasked.includes(each))
    this.recent = this.recent.filter((request) => !unasked.some((each) => each.request === request))
    for (const request of this.recent.filter(isTouched)) this.ahead.push({ request, made: paint(request) })
  }

  /** What was painted ahead for a request, if anything was; from now on it is looked at. */
  asked(request: R): Promise<M> | undefined {
    this.recent = [request, ...this.recent.filter((each) => !this.same(each, request))].slice(0, AHEAD)
    const found = this.ahead.findIndex((each) => this.same(each.request, request))
    return found < 0 ? undefined : this.ahead.splice(found, 1)[0].made
  }
}
