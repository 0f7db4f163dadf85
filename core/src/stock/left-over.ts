import { combine, offset, shapeArea, shapesOf } from '../geometry/clip.ts'
import type { Ring } from '../geometry/ring.ts'
import { jobPieces, throughCuts } from '../hold/pieces.ts'
import { burnOrder, type JobDocument, mainPieceId } from '../job/document/document.ts'
import type { Supply } from '../lineage/supply.ts'
import { burningsOf, processOf } from '../process/table.ts'
import { outlineArea } from './stock-piece.ts'

/** What stays of a workpiece when all that a job makes is taken away. */
export interface LeftOver {
  /** Pieces that are worth a place on the shelf, the largest first: rings by even-odd, face mm. */
  readonly offcuts: readonly { readonly rings: readonly Ring[]; readonly areaMm2: number }[]
  /** Of the whole workpiece, mm². */
  readonly wholeMm2: number
  /** What is not there any more: what was made, kerf, and scraps that nobody keeps, mm². */
  readonly usedMm2: number
}

/** A scrap that is nowhere wider than this is not kept, mm, and none that is smaller than that, mm². */
const LEAST_WIDE_MM = 25
const LEAST_MM2 = 2500

/**
 * What a job leaves of a workpiece: pieces of the sheet that none of its cuts frees, where nothing was burned on them. A workpiece that
 * no cut goes through is used up as a whole, because it is what was made.
 */
export function leftOver(job: JobDocument, supply: Supply, workpiece = mainPieceId(job)): LeftOver {
  const wholeMm2 = outlineArea(job.workpieces[workpiece].outline)
  const cuts = throughCuts(job, supply, workpiece)
  const keepsSheet = cuts.some(([, { keepsSheet }]) => keepsSheet)
  if (cuts.length === 0 || keepsSheet) return { offcuts: [], wholeMm2, usedMm2: wholeMm2 }
  const stays = jobPieces(job, supply, workpiece).filter(({ fate }) => fate === 'stays')
  const marked = markedOn(job, supply, workpiece)
  const offcuts = stays
    .flatMap(({ outer, holes }) => {
      // Its holes come however the cuts went around them: what is combined is told by even-odd, and turned as shapes are.
      const piece = [outer, ...holes]
      return shapesOf(marked.length > 0 ? combine('subtract', piece, marked) : combine('union', piece))
    })
    .flatMap((rings) => {
      const areaMm2 = shapeArea(combine('union', rings))
      const isKept = areaMm2 >= LEAST_MM2 && offset(rings, -LEAST_WIDE_MM / 2).length > 0
      return isKept ? [{ rings, areaMm2 }] : []
    })
    .sort((a, b) => b.areaMm2 - a.areaMm2)
  return { offcuts, wholeMm2, usedMm2: wholeMm2 - offcuts.reduce((sum, { areaMm2 }) => sum + areaMm2, 0) }
}

/** Around what is marked: nobody wants it on the next piece, mm. */
const LINE_MM = 0.5

/** Where a workpiece is marked by what does not go through it, filled by even-odd, face mm. */
function markedOn(job: JobDocument, supply: Supply, workpiece: string): Ring[] {
  const shapes = burnOrder(job).flatMap((id) => {
    const process = processOf(job.operations[id])
    return burningsOf(job, id, supply, workpiece).flatMap((context) => {
      if (process.cutting?.(context).through) return []
      const framed = process.cutting ? [] : process.framed(context)
      if (framed.length > 0) return [offset(framed, LINE_MM)]
      const { x0, y0, x1, y1 } = process.extent(context)
      return x1 > x0 && y1 > y0 ? [[Float64Array.of(x0, y0, x1, y0, x1, y1, x0, y1)]] : []
    })
  })
  return shapes.reduce<Ring[]>((sum, shape) => combine('union', sum, shape), [])
}
