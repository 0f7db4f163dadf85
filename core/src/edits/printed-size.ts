import { type JobDocument, withPiece } from '../job/document/document.ts'
import { micro } from '../numeric/micro.ts'

/**
 * A job whose artwork was printed larger or smaller than it was drawn: what lies on the workpiece and the marks it is found by are as
 * large as the print. Its edge is what it is.
 * @param scale how much larger the print is
 */
export function asPrinted(job: JobDocument, scale: number, id: string): JobDocument {
  const { marks } = job.workpieces[id]
  const by = (mm: number): number => micro(mm * scale)
  const scaled = withPiece(
    job,
    { marks: Object.fromEntries(Object.entries(marks).map(([key, { xMm, yMm }]) => [key, { xMm: by(xMm), yMm: by(yMm) }])) },
    id,
  )
  return {
    ...scaled,
    placements: Object.fromEntries(
      Object.entries(job.placements).map(([key, place]) => [
        key,
        place.on === id
          ? { ...place, xMm: by(place.xMm), yMm: by(place.yMm), widthMm: by(place.widthMm), heightMm: by(place.heightMm) }
          : place,
      ]),
    ),
  }
}
