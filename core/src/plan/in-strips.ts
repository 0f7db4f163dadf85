import { type FaceFocus, fociOf } from '../curved/foci.ts'
import { focusMm } from '../curved/in-focus.ts'
import type { JobDocument } from '../job/document/document.ts'
import { chartOf } from '../job/document/pieces.ts'
import { faceSize } from '../job/document/workpiece.ts'
import { bedSize, fittedLens } from '../machine/machine.ts'
import { pointsToAxes } from '../space/chart.ts'
import { MoveWriter } from '../toolpath/moves.ts'
import { WithinZone } from './within-zone.ts'

/** Writes what of an operation lies on one workpiece; without one, all of it. */
type Write = (writer: MoveWriter, workpiece?: string) => void

/** Nearer than this it is the same focus, mm. */
const SAME_MM = 0.01

const mm = (value: number): string => String(Number(value.toFixed(2)))

/**
 * Operations on faces that are burned in strips, with a pause in which somebody sets the lens for each. The focus stays as it is from
 * one operation to the next: every other one goes back from the deepest strips to the crown.
 */
export class FocusInStrips {
  private readonly job: JobDocument
  private readonly writer: MoveWriter
  private readonly foci: ReadonlyMap<string, readonly FaceFocus[]>
  /** How high the focus is set now, mm over the bed; and how manieth from the crown that is. */
  private heightMm: number
  private at = 0

  constructor(job: JobDocument, writer: MoveWriter) {
    this.job = job
    this.writer = writer
    this.heightMm = focusMm(job)
    this.foci = new Map(Object.entries(job.workpieces).map(([id, piece]) => [id, fociOf(job, piece)]))
  }

  /** The piece was laid anew: the focus is on its crown again, as the list before a start says. */
  anew(): void {
    this.at = 0
    this.heightMm = focusMm(this.job)
  }

  write(operation: string, write: Write): void {
    const most = Math.max(...[...this.foci.values()].map(({ length }) => length))
    if (most < 2) {
      write(this.writer)
      return
    }
    const order = Array.from({ length: most }, (_, k) => k)
    if (this.at > 0) order.reverse()
    for (const k of order) for (const workpiece of this.foci.keys()) this.writeFocus(operation, write, workpiece, k)
  }

  /** What of one workpiece is burned in one focus. One that has a single focus is burned together with the crowns of the others. */
  private writeFocus(operation: string, write: Write, workpiece: string, k: number): void {
    const foci = this.foci.get(workpiece) ?? []
    if (k > 0 && k >= foci.length) return
    for (const corners of foci.length > 0 ? this.zones(operation, workpiece, foci[k]) : [this.everywhere(operation, workpiece)]) {
      const within = new WithinZone(
        this.writer,
        () => corners,
        this.job.machine,
        () => this.focusOn(workpiece, k),
      )
      const writer = new MoveWriter(within)
      write(writer, workpiece)
      writer.flush()
      within.end()
    }
  }

  /** Away from the piece, and wait, where another focus is set. */
  private focusOn(workpiece: string, k: number): void {
    this.at = k
    const { thicknessMm } = this.job.workpieces[workpiece]
    const focus = this.foci.get(workpiece)?.[k]
    // No deeper than the bed.
    const heightMm = Math.max(0, thicknessMm - (focus?.underMm ?? 0))
    // A level piece is sharp within the depth of its focus.
    const near = focus ? SAME_MM : fittedLens(this.job.machine).depthOfFocusMm
    if (Math.abs(heightMm - this.heightMm) <= near) return
    this.heightMm = heightMm
    this.writer.move(0, 0, 0, 0)
    const under = focus ? `, ${mm(focus.underMm)} mm under the crown` : ''
    this.writer.event({ kind: 'refocus', text: `Set the focus ${mm(heightMm)} mm over the bed${under}` })
  }

  /** Strips of a face as far as the bed reaches, axes µm. */
  private zones(operation: string, workpiece: string, { across, spans }: FaceFocus): Float64Array[] {
    const [low, high] = this.reach(workpiece)
    const within = (value: number): number => Math.max(low, Math.min(high, value))
    return spans.map(([from, to]) => {
      const [a, b] = [within(from), within(to)]
      return this.onAxes(operation, workpiece, across === 'x' ? [a, low, b, high] : [low, a, high, b])
    })
  }

  private everywhere(operation: string, workpiece: string): Float64Array {
    const [low, high] = this.reach(workpiece)
    return this.onAxes(operation, workpiece, [low, low, high, high])
  }

  /** So far around a face lies all that the machine can reach, face mm. */
  private reach(workpiece: string): readonly [number, number] {
    const face = faceSize(this.job.workpieces[workpiece])
    const bed = bedSize(this.job.machine)
    const far = 2 * (bed.widthMm + bed.heightMm) + face.widthMm + face.heightMm
    return [-far, far]
  }

  private onAxes(operation: string, workpiece: string, [x0, y0, x1, y1]: readonly number[]): Float64Array {
    return pointsToAxes(chartOf(this.job, workpiece, operation), Float64Array.of(x0, y0, x1, y0, x1, y1, x0, y1))
  }
}
