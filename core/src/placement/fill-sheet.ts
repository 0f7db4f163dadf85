import { groupedWith } from '../edits/change.ts'
import { notRepeated } from '../edits/repeat-edits.ts'
import { shapeArea } from '../geometry/clip.ts'
import { type JobDocument, mainPieceId, type Placement, placeIdOf, placesOf, sourceOf } from '../job/document/document.ts'
import { entriesOf } from '../job/document/repeats.ts'
import type { Supply } from '../lineage/supply.ts'
import { micro } from '../numeric/micro.ts'
import { cosSin } from '../space/affine.ts'
import { readDeg } from '../space/pose.ts'
import { burnedShape, freeFace } from './fit-artwork.ts'
import { type NestSettings, nestPieces } from './nest/nest.ts'

/** More of one piece are never laid out. */
const MOST = 500

/** A sheet full of one piece, or why it is not. @property used share of the sheet that lies in pieces, 0–1 */
export type FilledSheet = { readonly job: JobDocument; readonly count: number; readonly used: number } | { readonly not: string }

/**
 * The workpiece filled with some artwork, as often as it goes: by what is burned of it, with all that is grouped with it. What lay there
 * more than once is laid anew; a text with a list shows its next entry at each place.
 */
export function filledSheet(job: JobDocument, node: string, supply: Supply, settings: NestSettings): FilledSheet {
  const on = mainPieceId(job)
  const root = sourceOf(job, node)
  const roots = [root, ...groupedWith(job, root)]
  const alone = onlyFirst(notRepeated(job, node), roots, on)
  const rings = burnedShape(alone, node, supply)
  if (rings.length === 0) return { not: 'This artwork burns nothing yet: give it an operation first.' }
  const sheet = freeFace(alone)
  const count = Math.min(MOST, Math.floor(shapeArea(sheet) / shapeArea(rings)) + 1)
  const { placed, used } = nestPieces([{ rings, count }], sheet, settings)
  if (placed.length === 0)
    return {
      not: `Not one has a place with ${settings.marginMm ?? 0} mm to the edge: a smaller margin or smaller artwork would do.`,
    }
  const placements: Record<string, Placement> = { ...alone.placements }
  for (const each of roots) {
    const first = placeIdOf(alone, each)
    const like = alone.placements[first]
    const [u, v] = [like.xMm + like.widthMm / 2, like.yMm + like.heightMm / 2]
    const entries = entriesOf(alone, each)
    placed.forEach(({ deg, xMm, yMm }, i) => {
      const [cos, sin] = cosSin(deg)
      const turned = readDeg((like.deg ?? 0) + deg)
      const { deg: _, ...rest } = like
      placements[i === 0 ? first : `${each.slice(0, 34)}-n${i}`] = {
        ...rest,
        xMm: micro(xMm + cos * u - sin * v - like.widthMm / 2),
        yMm: micro(yMm + sin * u + cos * v - like.heightMm / 2),
        ...(turned === 0 ? {} : { deg: turned }),
        ...(entries !== undefined && placed.length > 1 ? { entry: i % entries } : {}),
      }
    })
  }
  return { job: { ...alone, placements }, count: placed.length, used }
}

/** Artwork once only, where it counts. */
function onlyFirst(job: JobDocument, roots: readonly string[], on: string): JobDocument {
  const gone = new Set(
    roots.flatMap((root) => {
      const first = placeIdOf(job, root)
      return placesOf(job, root).filter((place) => place !== first && job.placements[place].on === on)
    }),
  )
  return { ...job, placements: Object.fromEntries(Object.entries(job.placements).filter(([id]) => !gone.has(id))) }
}
