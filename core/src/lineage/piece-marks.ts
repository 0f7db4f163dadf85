import type { TrueShape } from '../curved/true-shape.ts'
import { offset } from '../geometry/clip.ts'
import { coverage } from '../geometry/coverage.ts'
import { mapRing } from '../geometry/ring.ts'
import type { JobDocument, Placement } from '../job/document/document.ts'
import type { PictureNode } from '../job/document/nodes.ts'
import type { BurnedPiece } from '../job/document/pieces.ts'
import { measuredCurve } from '../material/answer.ts'
import { topLayer } from '../material/material.ts'
import { bytesBy } from '../picture/bytes.ts'
import type { Framed } from '../picture/framing.ts'
import { type Marks, prepareMarks } from '../picture/prepare.ts'
import { bentFrame, turnedFrame } from '../picture/turned.ts'
import { composed, inverseOf, mapped, moving, scaling } from '../space/affine.ts'
import { mappedRings } from '../space/map-shapes.ts'
import { poseMap } from '../space/pose.ts'
import { keptRegion } from './evaluate.ts'
import { type DotField, dotField, staysAsPrepared } from './field.ts'
import { framedPicture, keeping } from './pictured.ts'
import { keyOf, type Supply } from './supply.ts'
import { trueKey, trueShapeOf } from './true-to-face.ts'

/**
 * The marks that an operation burns of a piece, and the content key they are kept by. A turned picture is turned where it is
 * sampled: once, from its pixels to the dots.
 */
export function pieceMarks(
  job: JobDocument,
  operation: { readonly intervalMm: number },
  piece: BurnedPiece,
  supply: Supply,
): Marks & { readonly key: string } {
  const node = job.nodes[piece.node]
  if (node?.kind !== 'picture') throw new Error(`“${piece.node}” is no prepared picture.`)
  const { machine } = job
  const { material, placement } = piece
  const upright = framedPicture(job, piece.node, supply, undefined, piece.place)
  const field = dotField(job, operation, piece)
  const { columns, rows, deg } = field
  const shape = trueShapeOf(job, placement)
  const turn = deg === 0 && !shape ? [] : [deg, placement.widthMm, placement.heightMm]
  const lies = shape ? [trueKey(job, placement), field.x0, field.y0, field.toFace] : []
  const { steps, order, masks } = node
  const dots = node.dots.asPrepared && !staysAsPrepared(job, piece) ? { ...node.dots, asPrepared: false } : node.dots
  const gain = dots.gain ? measuredCurve(material, 'gain', machine.id) : undefined
  const curves = gain && [machine.id, topLayer(material).curves?.filter(({ quantity }) => quantity === 'gain')]
  const cover = node.clip && coverOf(job, piece, node.clip, field, supply)
  const key = keyOf(
    ...(cover ? [cover.key] : []),
    'marks',
    upright.key,
    ...turn,
    ...lies,
    columns,
    rows,
    operation.intervalMm,
    { steps, order, masks },
    dots,
    curves,
  )
  const marks = supply.cache.get(
    key,
    () =>
      prepareMarks(framedIn(upright, placement, field, shape), node, dots, columns, rows, {
        ...keeping(supply, turn.length > 0 ? keyOf(upright.key, turn, lies) : upright.key, operation.intervalMm),
        ...(gain ? { compensate: gain.inputFor } : {}),
        ...(cover ? { cover: cover.make() } : {}),
      }),
    (made) => made.levels.byteLength,
  )
  return { ...marks, key }
}

/** A framed picture in the field that it is burned in: as it stands, turned, or laid true on its face. */
function framedIn(upright: Framed, placement: Placement, field: DotField, shape: TrueShape | undefined): Framed {
  if (!shape) return field.deg === 0 ? upright : turnedFrame(upright, placement, field)
  const { pitch, x0, y0, toFace } = field
  const dotsToFace = [scaling(pitch, pitch), moving(x0, y0), toFace].reduce(composed)
  const faceToDots = inverseOf(dotsToFace)
  const unbent = (u: number, v: number): readonly [number, number] =>
    mapped(faceToDots, ...shape.back(...mapped(dotsToFace, u, v)))
  return bentFrame(upright, placement, field, composed(dotsToFace, inverseOf(poseMap(placement, placement))), unbent)
}

/** A fade is so many steps fine: dots make it smooth. */
const FADE_STEPS = 16

/**
 * How much of each dot of a field may be burned where a picture is kept within an edge, 0–255, and what that depends on. Where it fades,
 * edges farther and farther in are added up, so that it grows evenly with the distance from the edge.
 */
function coverOf(
  job: JobDocument,
  { node, place }: BurnedPiece,
  clip: NonNullable<PictureNode['clip']>,
  { columns, rows, pitch, x0, y0, toFace }: DotField,
  supply: Supply,
): { readonly key: string; readonly make: () => Uint8Array } {
  const { rings, key } = keptRegion(job, node, clip, supply, place)
  const { fadeMm } = clip
  const make = (): Uint8Array => {
    const steps = fadeMm > 0 ? FADE_STEPS : 1
    const sum = new Float32Array(columns * rows)
    for (let i = 0; i < steps; i++) {
      const edge = fadeMm > 0 ? offset(rings, -(fadeMm * (i + 0.5)) / steps) : rings
      const cells = mappedRings(inverseOf(toFace), edge).map((ring) =>
        mapRing(ring, 1 / pitch, 1 / pitch, -x0 / pitch, -y0 / pitch),
      )
      const covered = cells.length > 0 ? coverage(cells, columns, rows) : undefined
      if (covered) for (let k = 0; k < sum.length; k++) sum[k] += covered[k]
    }
    return bytesBy(sum.length, (k) => Math.round((255 * sum[k]) / steps))
  }
  return { key: keyOf('cover', key, fadeMm, columns, rows, pitch, x0, y0, toFace), make }
}
