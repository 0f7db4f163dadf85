import { combine } from '../geometry/clip.ts'
import { nest } from '../geometry/nesting.ts'
import { ringBounds, ringContains } from '../geometry/ring.ts'
import { burnOrder, type JobDocument, mainPieceId } from '../job/document/document.ts'
import { outlineOfFace } from '../job/document/workpiece.ts'
import { keyOf, type Supply } from '../lineage/supply.ts'
import { type Piece, piecesOfSheet } from '../outline/hold/pieces.ts'
import type { Cutting } from '../process/process.ts'
import { burningsOf, processOf } from '../process/table.ts'

/** What becomes of a piece when it is cut: it stays, it is what is wanted, it falls as it shall, or it falls and should not. */
export type Fate = 'stays' | 'part' | 'waste' | 'lost'

export interface JobPiece extends Piece {
  readonly fate: Fate
  /** The cut that frees it; absent for what stays. */
  readonly operation?: string
}

/** Walls thinner than this break or burn through, mm: what the job says, else half the thickness, at least a millimetre. */
export const thinnestMm = (job: JobDocument, workpiece = mainPieceId(job)): number =>
  job.thinMm ?? Math.max(1, Math.min(6, job.workpieces[workpiece].thicknessMm / 2))

/** Outlines with more corners than this are not looked at: grain, no parts. */
const MOST_CORNERS = 200_000

/** The cuts of a workpiece that go through it, each piece of each operation, in the order in which they are made. */
export const throughCuts = (job: JobDocument, supply: Supply, workpiece = mainPieceId(job)): (readonly [string, Cutting])[] =>
  burnOrder(job).flatMap((id) => {
    const { cutting } = processOf(job.operations[id])
    if (!cutting) return []
    return burningsOf(job, id, supply, workpiece).flatMap((context) => {
      const made = cutting(context)
      return made.through ? [[id, made] as const] : []
    })
  })

/**
 * What a workpiece falls into after all its cuts, and what becomes of each piece. Around a part the sheet stays, what is in
 * the part's holes falls, and what stands in those falls with it; in a stencil the sheet is what is wanted.
 */
export function jobPieces(job: JobDocument, supply: Supply, workpiece = mainPieceId(job)): readonly JobPiece[] {
  const cuts = throughCuts(job, supply, workpiece)
  if (cuts.length === 0) return []
  const { outline } = job.workpieces[workpiece]
  return supply.cache.get(
    keyOf(
      'pieces',
      outline,
      cuts.map(([id, { key }]) => [id, key]),
    ),
    () => {
      const corners = cuts.reduce((sum, [, { outlines }]) => outlines().reduce((all, ring) => all + ring.length / 2, sum), 0)
      if (corners > MOST_CORNERS) return []
      // Between steps that cannot be broken off: a newer request may end it here.
      supply.progress?.(0.1)
      const bands = cuts.map(([, { band }]) => band())
      supply.progress?.(0.4)
      const all = bands.reduce((sum, band) => combine('union', sum, band))
      const outer = cuts.map(([, { around }]) => {
        const rings = around()
        const { depth } = nest(rings)
        return rings.filter((_, i) => depth[i] === 0)
      })
      supply.progress?.(0.7)
      return piecesOfSheet(outlineOfFace(outline), all).map((piece): JobPiece => {
        const [x, y] = insideOf(piece)
        // The last cut that goes around it frees it.
        const at = outer.findLastIndex((rings) => rings.some((ring) => ringContains(ring, x, y)))
        if (piece.depth === 0 || at < 0) return { ...piece, fate: 'stays' }
        const [operation, { keepsSheet }] = cuts[at]
        const level = piece.depth - (keepsSheet ? 0 : 1)
        const fate: Fate = level === 0 ? 'part' : level % 2 === 1 ? 'waste' : 'lost'
        return { ...piece, fate, operation }
      })
    },
    (pieces) =>
      pieces.reduce((sum, { outer, holes }) => holes.reduce((all, hole) => all + hole.byteLength, sum + outer.byteLength), 0),
  )
}

/** A place within a piece, near its outer edge. */
export function insideOf({ outer, holes }: Piece): readonly [number, number] {
  const n = outer.length / 2
  for (let i = 0; i < n; i++) {
    const j = (i + 1) % n
    const [x0, y0, x1, y1] = [outer[2 * i], outer[2 * i + 1], outer[2 * j], outer[2 * j + 1]]
    const long = Math.hypot(x1 - x0, y1 - y0)
    if (long < 1e-6) continue
    for (const side of [1, -1]) {
      const by = Math.min(0.05, long / 4) * side
      const [x, y] = [(x0 + x1) / 2 - ((y1 - y0) / long) * by, (y0 + y1) / 2 + ((x1 - x0) / long) * by]
      if (ringContains(outer, x, y) && !holes.some((hole) => ringContains(hole, x, y))) return [x, y]
    }
  }
  const { x0, y0, x1, y1 } = ringBounds(outer)
  return [(x0 + x1) / 2, (y0 + y1) / 2]
}
