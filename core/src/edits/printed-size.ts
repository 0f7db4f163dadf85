import { type JobDocument, type Placement, withPiece } from '../job/document/document.ts'
import { micro } from '../numeric/micro.ts'
import { quarterTurns } from '../space/affine.ts'

/** How much wider and higher something is. */
interface Larger {
  readonly x: number
  readonly y: number
}

/**
 * A job whose artwork was printed larger or smaller than it was drawn: what lies on the workpiece and the marks it is found by are as
 * large as the print. Its edge is what it is. What lies at an odd angle grows as a whole, or it would be askew.
 */
export function asPrinted(job: JobDocument, { x, y }: Larger, id: string): JobDocument {
  const { marks } = job.workpieces[id]
  const scaled = withPiece(
    job,
    {
      marks: Object.fromEntries(
        Object.entries(marks).map(([key, { xMm, yMm }]) => [key, { xMm: micro(xMm * x), yMm: micro(yMm * y) }]),
      ),
    },
    id,
  )
  return {
    ...scaled,
    placements: Object.fromEntries(
      Object.entries(job.placements).map(([key, place]) => [key, place.on === id ? larger(place, { x, y }) : place]),
    ),
  }
}

function larger(place: Placement, { x, y }: Larger): Placement {
  const { xMm, yMm, widthMm, heightMm, deg = 0 } = place
  const turns = quarterTurns(deg)
  const [along, across] = turns === undefined ? [Math.sqrt(x * y), Math.sqrt(x * y)] : turns % 2 === 0 ? [x, y] : [y, x]
  const size = { widthMm: widthMm * along, heightMm: heightMm * across }
  return {
    ...place,
    xMm: micro((xMm + widthMm / 2) * x - size.widthMm / 2),
    yMm: micro((yMm + heightMm / 2) * y - size.heightMm / 2),
    widthMm: micro(size.widthMm),
    heightMm: micro(size.heightMm),
  }
}
