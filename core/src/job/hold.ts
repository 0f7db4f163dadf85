import { combine } from '../geometry/clip.ts'
import { nest } from '../geometry/nesting.ts'
import { type Ring, ringBounds, ringContains } from '../geometry/ring.ts'
import { wattsAt } from '../machine/machine.ts'
import { lineDose } from '../material/material.ts'
import { type Piece, piecesOfSheet } from '../outline/hold/pieces.ts'
import { type Bench, keyOf } from './bench.ts'
import { type CutOperation, givesLines, type JobDocument } from './document.ts'
import { bandRings, grownRings, outlineKey, outlineRings } from './evaluate.ts'

/** What becomes of a piece when it is cut: it stays, it is what is wanted, it falls as it shall, or it falls and should not. */
export type Fate = 'stays' | 'part' | 'waste' | 'lost'

export interface JobPiece extends Piece {
  readonly fate: Fate
  /** The cut that frees it; absent for what stays. */
  readonly operation?: string
}

/** Walls thinner than this break or burn through, mm: what the job says, else half the thickness, at least a millimetre. */
export const thinnestMm = ({ workpiece, thinMm }: JobDocument): number =>
  thinMm ?? Math.max(1, Math.min(6, workpiece.thicknessMm / 2))

/** Outlines with more corners than this are not looked at: grain, no parts. */
const MOST_CORNERS = 200_000

/** Which side of its outlines a cut keeps its kerf on: outside of parts, inside of what a stencil opens. */
export const kerfSide = ({ keeps }: CutOperation): 1 | -1 => (keeps === 'sheet' ? -1 : 1)

/** Whether an operation's dose goes through the material. */
export function cutsThrough({ machine, material }: JobDocument, operation: CutOperation): boolean {
  return lineDose(wattsAt(machine, operation.power), operation.speedMmS) * operation.passes >= material.cutDose.from
}

/** What a cut takes away: its kerf beside its outlines, and along its lines. @returns rings by even-odd, mm */
export function kerfBand(job: JobDocument, operation: CutOperation, bench: Bench): Ring[] {
  const width = Math.max(0.02, operation.kerfMm)
  if (givesLines(job, operation.node)) return grownRings(job, operation.node, width, bench)
  const [from, to] = kerfSide(operation) > 0 ? [0, width] : [-width, 0]
  return bandRings(job, operation.node, from, to, bench)
}

/**
 * What the workpiece falls into after all its cuts, and what becomes of each piece. Around a part the sheet stays, what is in
 * the part's holes falls, and what stands in those falls with it; in a stencil the sheet is what is wanted.
 */
export function jobPieces(job: JobDocument, bench: Bench): readonly JobPiece[] {
  const cuts = job.runOrder.flatMap((id): [string, CutOperation][] => {
    const operation = job.operations[id]
    return operation.kind === 'cut' && cutsThrough(job, operation) ? [[id, operation]] : []
  })
  if (cuts.length === 0) return []
  const { widthMm, heightMm } = job.workpiece
  const each = cuts.map(([, { node, kerfMm, keeps }]) => [outlineKey(job, node, bench), kerfMm, keeps])
  return bench.cache.get(
    keyOf('pieces', widthMm, heightMm, each),
    () => {
      const corners = cuts.reduce(
        (sum, [, { node }]) => outlineRings(job, node, bench).reduce((all, ring) => all + ring.length / 2, sum),
        0,
      )
      if (corners > MOST_CORNERS) return []
      // Between steps that cannot be broken off: a newer request may end it here.
      bench.progress?.(0.1)
      const bands = cuts.map(([, operation]) => kerfBand(job, operation, bench))
      bench.progress?.(0.4)
      const sheet = Float64Array.of(0, 0, widthMm, 0, widthMm, heightMm, 0, heightMm)
      const all = bands.reduce((sum, band) => combine('union', sum, band))
      const outer = cuts.map(([, operation]) => {
        const rings = grownRings(job, operation.node, operation.kerfMm, bench)
        const { depth } = nest(rings)
        return rings.filter((_, i) => depth[i] === 0)
      })
      bench.progress?.(0.7)
      return piecesOfSheet(sheet, all).map((piece): JobPiece => {
        const [x, y] = insideOf(piece)
        // The last cut that goes around it frees it.
        const at = outer.findLastIndex((rings) => rings.some((ring) => ringContains(ring, x, y)))
        if (piece.depth === 0 || at < 0) return { ...piece, fate: 'stays' }
        const [operation, { keeps }] = cuts[at]
        const level = piece.depth - (keeps === 'sheet' ? 0 : 1)
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
