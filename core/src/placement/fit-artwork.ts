import { groupedWith, laidAs } from '../edits/change.ts'
import type { Bounds } from '../geometry/bounds.ts'
import { combine, filledBy, together } from '../geometry/clip.ts'
import { crossesItself } from '../geometry/crossing.ts'
import { type Ring, reversed, ringArea, ringsBounds } from '../geometry/ring.ts'
import { burnOrder, type JobDocument, mainPiece, placeOf, sourceOf } from '../job/document/document.ts'
import { outlineOfFace, outlineSize } from '../job/document/workpiece.ts'
import type { Supply } from '../lineage/supply.ts'
import { burningsOf, processOf } from '../process/table.ts'
import { cosSin } from '../space/affine.ts'
import { mappedRings } from '../space/map-shapes.ts'
import { poseMap } from '../space/pose.ts'
import { type Fit, type FitSettings, fit, type NoFit } from './fit/fit.ts'

/** What is burned of some artwork and of all that moves with it, as filled polygons on the face, mm. */
export function burnedShape(job: JobDocument, node: string, supply: Supply): Ring[] {
  const root = sourceOf(job, node)
  const all = new Set([root, ...groupedWith(job, root)])
  const rings = burnOrder(job)
    .flatMap((id) => burningsOf(job, id, supply))
    .filter(({ piece }) => all.has(sourceOf(job, piece.node)))
    .flatMap((context) => {
      const framed = processOf(context.operation).framed(context)
      if (framed.length > 0) return framed
      const { x0, y0, x1, y1 } = processOf(context.operation).extent(context)
      return x1 > x0 && y1 > y0 ? [Float64Array.of(x0, y0, x1, y0, x1, y1, x0, y1)] : []
    })
  // Whatever lies around something counts as a whole: pieces over each other, holes within edges, every loop of what crosses itself.
  return together(
    rings.flatMap((ring) => (crossesItself([ring]) ? filledBy('nonzero', [ring]) : [ringArea(ring) < 0 ? reversed(ring) : ring])),
  )
}

/** Where nothing of a face may be burned is cut out of it, mm of the face. */
export function freeFace(job: JobDocument): Ring[] {
  const piece = mainPiece(job)
  const keepOuts = Object.values(piece.keepOuts).flatMap(({ outline, pose }) => {
    return mappedRings(poseMap(pose, outlineSize(outline)), outlineOfFace(outline))
  })
  const face = [...outlineOfFace(piece.outline)]
  return keepOuts.length > 0 ? combine('subtract', face, keepOuts) : face
}

/** Rounds in which what keeps its distance while the artwork grows is taken into account. */
const ROUNDS = 6
/** Near enough to as large as it can be, share of its size. */
const ENOUGH = 3e-4

/**
 * Some artwork as large as it can lie on its workpiece, or why it cannot; what is grouped with it goes along. What keeps its distance
 * while the artwork grows (an edge around it, a kerf) is found in rounds.
 */
export function fittedToPiece(
  job: JobDocument,
  node: string,
  supply: Supply,
  settings: FitSettings = {},
): { readonly job: JobDocument; readonly scale: number } | NoFit {
  const face = freeFace(job)
  let now = job
  for (let round = 0; round < ROUNDS; round++) {
    const shape = burnedShape(now, node, supply)
    if (shape.length === 0)
      return { fits: false, scale: 0, message: 'This artwork burns nothing yet: give it an operation first.' }
    const found = fit(shape, face, round === 0 ? settings : { ...settings, angles: [0] })
    if ('fits' in found) return found
    const inside = settings.mayScale === false ? found : { ...found, scale: found.scale * (1 - ENOUGH / 10) }
    now = laid(now, node, ringsBounds(shape), inside)
    if (settings.mayScale === false || (round > 0 && Math.abs(found.scale - 1) < ENOUGH)) break
  }
  return { job: now, scale: placeOf(now, node).widthMm / placeOf(job, node).widthMm }
}

/** The artwork as a fit of its shape has it. @param box around the shape as it lies now */
function laid(job: JobDocument, node: string, box: Bounds, { scale, angleDeg, x, y }: Fit): JobDocument {
  const { xMm, yMm, widthMm, heightMm } = placeOf(job, node)
  const [u, v] = [xMm + widthMm / 2 - (box.x0 + box.x1) / 2, yMm + heightMm / 2 - (box.y0 + box.y1) / 2]
  const [cos, sin] = cosSin(angleDeg)
  const middle = [x + scale * (cos * u - sin * v), y + scale * (sin * u + cos * v)] as const
  return laidAs(job, node, { scale, byDeg: angleDeg, middle })
}
