import { groupedWith, laidAs } from '../edits/change.ts'
import { type JobDocument, placeOf, sourceOf } from '../job/document/document.ts'
import type { Supply } from '../lineage/supply.ts'
import { cosSin } from '../space/affine.ts'
import { burnedShape, freeFace } from './fit-artwork.ts'
import { type NestSettings, nestPieces } from './nest/nest.ts'

/** Artwork laid out, or why it was not. */
export type LaidOut =
  /** `used`: share of the sheet that lies in what was laid out, 0–1. */
  { readonly job: JobDocument; readonly used: number } | { readonly not: string }

/**
 * Artwork laid out on its workpiece without wasting any, by what is burned of it; what is grouped goes as one piece. All of it, or
 * nothing is moved.
 * @param nodes one of each family is enough
 */
export function laidOut(job: JobDocument, nodes: readonly string[], supply: Supply, settings: NestSettings): LaidOut {
  const seen = new Set<string>()
  const pieces = nodes.flatMap((node) => {
    const root = sourceOf(job, node)
    if (seen.has(root)) return []
    for (const one of [root, ...groupedWith(job, root)]) seen.add(one)
    const rings = burnedShape(job, node, supply)
    return rings.length > 0 ? [{ node, rings }] : []
  })
  if (pieces.length === 0) return { not: 'This artwork burns nothing yet: give it operations first.' }
  const { placed, left, used } = nestPieces(
    pieces.map(({ rings }) => ({ rings, count: 1 })),
    freeFace(job),
    settings,
  )
  const over = left.reduce((sum, count) => sum + count, 0)
  if (over > 0)
    return {
      not: `${over} of ${pieces.length} find no place with ${settings.spacingMm ?? 0} mm between them: less distance, a smaller margin or smaller pieces would do.`,
    }
  const laid = placed.reduce((sum, { piece, deg, xMm, yMm }) => {
    const { node } = pieces[piece]
    const place = placeOf(sum, node)
    const [u, v] = [place.xMm + place.widthMm / 2, place.yMm + place.heightMm / 2]
    const [cos, sin] = cosSin(deg)
    return laidAs(sum, node, { scale: 1, byDeg: deg, middle: [xMm + cos * u - sin * v, yMm + sin * u + cos * v] })
  }, job)
  return { job: laid, used }
}
