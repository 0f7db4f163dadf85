import type { Machine } from '../machine/machine.ts'
import type { PathEvent } from '../toolpath/events.ts'
import type { Driven, MoveBlock, MoveWriter, PlanSink } from '../toolpath/moves.ts'

/** Dark moves beyond which the way between two burns is made anew: a rapid move and its run-up are left as they are. */
const AS_PLANNED = 2

type Refocus = Extract<PathEvent, { readonly kind: 'refocus' }>

/** Burns only within a convex zone; ways outside are made shorter where nothing is burned on them. Axes µm. */
export class WithinZone implements PlanSink {
  private readonly writer: MoveWriter
  private readonly cornersFor: (operation?: string) => Float64Array
  private corners: Float64Array
  private readonly machine: Machine
  private before: (() => void) | undefined
  /** A focus that is asked for where something is burned in it. */
  private focus: Refocus | undefined
  private focusNow: Refocus | undefined
  private last = { x: 0, y: 0, z: 0, a: 0 }
  /** Dark moves that were not made yet. */
  private pending: { x: number; y: number; z: number; a: number; speed: number; planned: boolean }[] = []

  /**
   * @param writer to whom it goes, wherever the head is by then
   * @param before what is to be done before the first burn, and only where there is one
   */
  constructor(writer: MoveWriter, cornersFor: (operation?: string) => Float64Array, machine: Machine, before?: () => void) {
    this.writer = writer
    this.before = before
    this.cornersFor = cornersFor
    this.corners = cornersFor()
    this.machine = machine
  }

  operation(id: string, asked: readonly string[], driven?: Driven): void {
    this.corners = this.cornersFor(id)
    this.writer.operation(id, asked, driven)
  }

  moves(block: MoveBlock): void {
    for (let i = 0; i < block.count; i++) {
      const { last } = this
      const to = { x: block.x[i], y: block.y[i], z: block.z?.[i] ?? last.z, a: block.a?.[i] ?? last.a }
      const [s, speed] = [block.s[i], block.speed[i]]
      const span = s === 0 ? undefined : insideOf(this.corners, last.x, last.y, to.x, to.y)
      if (!span) this.pending.push({ ...to, speed, planned: s === 0 })
      else {
        const at = (share: number) => ({
          ...to,
          x: Math.round(last.x + (to.x - last.x) * share),
          y: Math.round(last.y + (to.y - last.y) * share),
        })
        const [from, end] = [at(span[0]), at(span[1])]
        this.before?.()
        this.before = undefined
        this.askFocus()
        this.goTo(from, to, last, speed)
        this.writer.moveAxes(end.x, end.y, end.z, end.a, s, speed)
        if (span[1] < 1) this.pending.push({ ...to, speed, planned: false })
      }
      this.last = to
    }
  }

  event(event: PathEvent): void {
    // Of a zone in which nothing was burned yet, nothing is told.
    if (this.before) return
    if (event.kind === 'refocus') {
      this.focus = event
      return
    }
    // The lens is set on the crown again: what was asked before does not count.
    if (event.kind === 'set-up') this.focus = this.focusNow = undefined
    this.settle()
    this.writer.event(event)
  }

  /** Dark to where the beam is lit next: as planned where that is near, else straight, with as much of a run-up as there is. */
  private goTo(
    from: { readonly x: number; readonly y: number; readonly z: number; readonly a: number },
    to: { readonly x: number; readonly y: number },
    start: { readonly x: number; readonly y: number },
    speed: number,
  ): void {
    const { pending, writer } = this
    if (pending.length <= AS_PLANNED && pending.every(({ planned }) => planned)) {
      for (const move of pending) writer.moveAxes(move.x, move.y, move.z, move.a, 0, move.speed)
    } else {
      const long = Math.hypot(to.x - start.x, to.y - start.y) || 1
      const { x, y } = this.machine.axes
      const runUp = (1000 * speed ** 2) / (2 * Math.min(x.accelerationMmS2, y.accelerationMmS2))
      const back = Math.min(runUp, Math.hypot(from.x - start.x, from.y - start.y))
      const [bx, by] = [from.x - ((to.x - start.x) / long) * back, from.y - ((to.y - start.y) / long) * back]
      writer.moveAxes(Math.round(bx), Math.round(by), from.z, from.a, 0, 0)
    }
    this.pending = []
    if (writer.x !== from.x || writer.y !== from.y) writer.moveAxes(from.x, from.y, from.z, from.a, 0, speed)
  }

  private askFocus(): void {
    if (!this.focus || this.focus.text === this.focusNow?.text) return
    this.focusNow = this.focus
    this.writer.move(0, 0, 0, 0)
    this.writer.event(this.focus)
  }

  /** The head goes where it is meant to be, straight. */
  private settle(): void {
    // Nothing was burned: the head stays.
    if (this.before) this.pending = []
    const last = this.pending.at(-1)
    if (last) this.writer.moveAxes(last.x, last.y, last.z, last.a, 0, 0)
    this.pending = []
  }

  end(): void {
    this.settle()
    this.writer.flush()
  }
}

/** The share of a line within a convex polygon: from, to; undefined where it stays outside (after M. Cyrus, J. Beck, 1978). */
function insideOf(corners: Float64Array, x0: number, y0: number, x1: number, y1: number): readonly [number, number] | undefined {
  const n = corners.length
  let area = 0
  for (let i = 0, j = n - 2; i < n; j = i, i += 2) area += corners[j] * corners[i + 1] - corners[i] * corners[j + 1]
  const way = area > 0 ? 1 : -1
  let [from, to] = [0, 1]
  for (let i = 0, j = n - 2; i < n; j = i, i += 2) {
    const [nx, ny] = [-(corners[i + 1] - corners[j + 1]) * way, (corners[i] - corners[j]) * way]
    const start = (x0 - corners[j]) * nx + (y0 - corners[j + 1]) * ny
    const end = (x1 - corners[j]) * nx + (y1 - corners[j + 1]) * ny
    if (start < 0 && end < 0) return undefined
    if (start < 0) from = Math.max(from, start / (start - end))
    else if (end < 0) to = Math.min(to, start / (start - end))
  }
  return from < to ? [from, to] : undefined
}
