import { followsFace, riseOf } from '../curved/in-focus.ts'
import { type JobDocument, mainPieceId } from '../job/document/document.ts'
import { chartOf } from '../job/document/pieces.ts'
import { fittedLens } from '../machine/machine.ts'
import { axesToPoint } from '../space/chart.ts'
import { type MoveBlock, MoveWriter, type PlanSink } from '../toolpath/moves.ts'

/** Within a move the lens leaves the face by no more than this share of its depth of focus. */
const SHARE = 0.1

/** Burning ways are looked at this often for how the face rises and falls, mm. */
const LOOK_MM = 2

/**
 * Moves whose lens follows a face that is curved or uneven: each burning way in parts in which it stays in focus, dark ones with the lens at the
 * height of their end. The controller makes a way as slow as the lens can follow; the beam goes down with it.
 * @returns the sink itself where the lens does not follow
 */
export function followingLens(job: JobDocument, sink: PlanSink): PlanSink {
  const id = mainPieceId(job)
  const piece = job.workpieces[id]
  const rise = followsFace(job, piece) ? riseOf(piece) : undefined
  if (!rise) return sink
  let chart = chartOf(job, id)
  const low = -Math.round(1000 * piece.thicknessMm)
  /** How high the lens stands over where it is in focus, µm. @param deeper that much further down, as passes go */
  const height = (x: number, y: number, deeper: number): number =>
    // On the way back it goes to where it was set.
    !burns ? deeper : Math.max(low, Math.round(1000 * rise(...axesToPoint(chart, x, y))) + deeper)
  const off = 1000 * SHARE * fittedLens(job.machine).depthOfFocusMm
  const writer = new MoveWriter(sink)
  let last = { x: 0, y: 0, deeper: 0 }
  let burns = false
  const move = (block: MoveBlock, i: number): void => {
    const [x, y, s, v] = [block.x[i], block.y[i], block.s[i], block.speed[i]]
    const deeper = block.z ? block.z[i] : last.deeper
    const a = block.a?.[i] ?? writer.a
    if (s > 0) {
      // Nearly straight from end to end: in parts as long as it may be looked at.
      const count = Math.max(1, Math.ceil(Math.hypot(x - last.x, y - last.y) / (1000 * LOOK_MM)))
      const at = (k: number): readonly [number, number] => [
        last.x + ((x - last.x) * k) / count,
        last.y + ((y - last.y) * k) / count,
      ]
      for (let k = 1, from = 0; k < count; k++) {
        const [bx, by] = at(k + 1)
        const [ax, ay] = at(k)
        const [sx, sy] = at(from)
        // The next part would leave the face: this one ends here.
        const share = (k - from) / (k + 1 - from)
        const straight = height(sx, sy, deeper) + (height(bx, by, deeper) - height(sx, sy, deeper)) * share
        if (Math.abs(straight - height(ax, ay, deeper)) <= off) continue
        writer.moveAxes(Math.round(ax), Math.round(ay), height(ax, ay, deeper), a, s, v)
        from = k
      }
    }
    writer.moveAxes(x, y, height(x, y, deeper), a, s, v)
    last = { x, y, deeper }
  }
  return {
    operation: (operation, asked, driven) => {
      burns = job.operations[operation] !== undefined
      if (burns) chart = chartOf(job, id, operation)
      writer.operation(operation, asked, driven)
    },
    event: (event) => writer.event(event),
    moves: (block) => {
      for (let i = 0; i < block.count; i++) move(block, i)
      writer.flush()
    },
  }
}
