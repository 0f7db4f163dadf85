import { combine } from '../geometry/clip.ts'
import { type Ring, ringsBounds } from '../geometry/ring.ts'
import { burnOrder, type JobDocument, mainPiece, mainPieceId, placeOf } from '../job/document/document.ts'
import { outlineOfFace, outlineSize } from '../job/document/workpiece.ts'
import type { Supply } from '../lineage/supply.ts'
import { micro } from '../numeric/micro.ts'
import { type Fit, fit } from '../placement/fit/fit.ts'
import { burnedShape } from '../placement/fit-artwork.ts'
import { cosSin } from '../space/affine.ts'
import { mappedRings } from '../space/map-shapes.ts'
import { poseMap, readDeg } from '../space/pose.ts'
import { outlineArea, type StockPiece } from './stock-piece.ts'

/** A piece of stock that takes all of a job as it is laid out, and how it lies there. */
export interface StockFit {
  readonly piece: StockPiece
  readonly fit: Fit
  /** What of it the job does not need, mm². */
  readonly wasteMm2: number
}

/** Sheets are sold in thicknesses that differ by as much from what is written on them, mm. */
const AS_THICK_MM = 0.15

/** Where nothing of a piece may be burned is cut out of it. */
const freeOf = ({ outline, keepOuts }: StockPiece): Ring[] => {
  const taken = Object.values(keepOuts).flatMap((each) =>
    mappedRings(poseMap(each.pose, outlineSize(each.outline)), outlineOfFace(each.outline)),
  )
  const face = [...outlineOfFace(outline)]
  return taken.length > 0 ? combine('subtract', face, taken) : face
}

/** Whether a piece is of the material and the thickness that a job is for. */
export function isOfKind(job: JobDocument, piece: Pick<StockPiece, 'material' | 'thicknessMm'>): boolean {
  const { material, thicknessMm } = mainPiece(job)
  return piece.material === material && Math.abs(piece.thicknessMm - thicknessMm) <= AS_THICK_MM
}

/** All that a job burns on its main workpiece, as one shape of the face, mm. */
export function shapeOfJob(job: JobDocument, supply: Supply): Ring[] {
  const on = mainPieceId(job)
  const nodes = [...new Set(burnOrder(job).flatMap((id) => job.operations[id].of))]
  return nodes
    .filter((node) => placeOf(job, node).on === on)
    .reduce<Ring[]>((sum, node) => combine('union', sum, burnedShape(job, node, supply)), [])
}

/**
 * Which pieces of stock take a job, the one that leaves the least first; each tried on its true outline, with its holes. Where both have
 * a grain, it is kept.
 * @param progress called with the share done, may throw to cancel
 */
export function whichFit(
  job: JobDocument,
  supply: Supply,
  stock: readonly StockPiece[],
  marginMm: number,
  progress?: (done: number) => void,
): StockFit[] {
  const shape = shapeOfJob(job, supply)
  if (shape.length === 0) return []
  const needed = outlineArea({ kind: 'rings', rings: shape.map((ring) => [...ring]) })
  const { grainDeg } = mainPiece(job)
  const byArea = stock
    .filter((piece) => isOfKind(job, piece))
    .map((piece) => ({ piece, areaMm2: outlineArea(piece.outline) }))
    .filter(({ areaMm2 }) => areaMm2 >= needed)
    .sort((a, b) => a.areaMm2 - b.areaMm2 || (a.piece.id < b.piece.id ? -1 : 1))
  return byArea.flatMap(({ piece, areaMm2 }, i) => {
    progress?.(i / byArea.length)
    const along = piece.grainDeg !== undefined && grainDeg !== undefined ? readDeg(piece.grainDeg - grainDeg) : undefined
    const angles = along === undefined ? undefined : [along, readDeg(along + 180)]
    // As it is laid out, turned by quarters, or anyhow: what needs no turning comes first.
    const tries = angles ? angles.map((deg) => [deg]) : [[0], [90, 180, 270], undefined]
    for (const degs of tries) {
      const found = fit(shape, freeOf(piece), { marginMm, mayScale: false, ...(degs && { angles: degs }) })
      if (!('fits' in found)) return [{ piece, fit: found, wasteMm2: areaMm2 - needed }]
    }
    return []
  })
}

/** The job on a piece of stock: its workpiece is that piece, and all that lay on the old one lies there as it was found to fit. */
export function ontoStock(job: JobDocument, supply: Supply, { piece, fit: found }: Pick<StockFit, 'piece' | 'fit'>): JobDocument {
  const { x0, y0, x1, y1 } = ringsBounds(shapeOfJob(job, supply))
  const [mx, my] = [(x0 + x1) / 2, (y0 + y1) / 2]
  const [cos, sin] = cosSin(found.angleDeg)
  const on = mainPieceId(job)
  const placements = Object.fromEntries(
    Object.entries(job.placements).map(([id, place]) => {
      if (place.on !== on) return [id, place]
      const [u, v] = [place.xMm + place.widthMm / 2 - mx, place.yMm + place.heightMm / 2 - my]
      const deg = readDeg((place.deg ?? 0) + found.angleDeg)
      const { deg: _, ...rest } = place
      const xMm = micro(found.x + cos * u - sin * v - place.widthMm / 2)
      const yMm = micro(found.y + sin * u + cos * v - place.heightMm / 2)
      return [id, { ...rest, xMm, yMm, ...(deg === 0 ? {} : { deg }) }]
    }),
  )
  return withStock({ ...job, placements }, piece)
}

/** The job's workpiece is a piece of stock of the same material: what lies on it stays where it is on the face. */
export function withStock(job: JobDocument, piece: StockPiece): JobDocument {
  const on = mainPieceId(job)
  const { pose, surface } = job.workpieces[on]
  const { outline, thicknessMm, keepOuts, marks, grainDeg, material, id, name, cents } = piece
  return {
    ...job,
    workpieces: {
      ...job.workpieces,
      [on]: {
        name,
        material,
        outline,
        surface,
        thicknessMm,
        keepOuts,
        marks,
        ...(grainDeg === undefined ? {} : { grainDeg }),
        pose,
        stock: { id, cents },
      },
    },
  }
}
