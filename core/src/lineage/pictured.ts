import { type JobDocument, picturedRoot, placeOf } from '../job/document/document.ts'
import type { BurnedPiece } from '../job/document/pieces.ts'
import { measuredCurve } from '../material/answer.ts'
import { topLayer } from '../material/material.ts'
import { heightMap } from '../mesh/height-map.ts'
import type { Triangles } from '../mesh/stl.ts'
import { type Framed, frame } from '../picture/framing.ts'
import { maskPlane } from '../picture/mask.ts'
import type { GreyPicture } from '../picture/picture.ts'
import type { Plane } from '../picture/plane.ts'
import { type Marks, prepareMarks } from '../picture/prepare.ts'
import { type GreyWeights, LUMA, type Mask, type Treatment } from '../picture/steps.ts'
import { maskBase, type TreatOptions, treatedPlane } from '../picture/treat.ts'
import { turnedFrame } from '../picture/turned.ts'
import { dotField, staysAsPrepared } from './field.ts'
import { drawnPicture } from './parts.ts'
import { keyOf, type Supply } from './supply.ts'

/** A picture as it lies on the workpiece, and the content key it is kept by. */
export interface KeyedFrame extends Framed {
  readonly key: string
}

function meshOf(supply: Supply, asset: string): Triangles {
  if (!supply.mesh) throw new Error('Meshes cannot be read here.')
  return supply.mesh(asset)
}

const pictureBytes = ({ samples, alpha }: GreyPicture): number => samples.byteLength + (alpha?.byteLength ?? 0)

/** The framed picture that a node comes from, grey by its own weights. @param weights other weights instead */
export function framedPicture(
  job: JobDocument,
  nodeId: string,
  supply: Supply,
  weights?: GreyWeights,
  place?: string,
): KeyedFrame {
  const root = picturedRoot(job, nodeId, place)
  const node = job.nodes[nodeId]
  if (root.kind === 'drawing') {
    const part = node.kind === 'picture' ? node.from : nodeId
    const { made, key } = drawnPicture(job, part, root, supply, place)
    return { ...frame(made, []), key }
  }
  const grey: GreyWeights = weights ?? (node.kind === 'picture' ? node.grey : undefined) ?? LUMA
  const source = (): GreyPicture => {
    if (root.kind === 'source') return supply.picture(root.asset, grey)
    const { axis, near, far, widthPx, heightPx } = root
    return supply.cache.get(
      keyOf('heights', root.asset, axis, near, far, widthPx, heightPx),
      () => heightMap(meshOf(supply, root.asset), axis, { widthPx, heightPx, near, far }, supply.progress),
      pictureBytes,
    )
  }
  const { kind, asset, framing } = root
  const own = kind === 'mesh' ? [root.axis, root.near, root.far, root.widthPx, root.heightPx] : grey
  const steps = framing.filter(({ on }) => on)
  const key = keyOf('framed', asset, own, steps)
  if (steps.length === 0) return { ...frame(source(), []), key }
  return {
    ...supply.cache.get(
      key,
      () => frame(source(), steps, supply.progress),
      (made) => pictureBytes(made.picture),
    ),
    key,
  }
}

const keeping = (supply: Supply, key: string, pitchMm: number): TreatOptions => ({
  pitchMm,
  progress: supply.progress,
  keep: (part, make, bytes) => supply.cache.get(keyOf(key, part), make, bytes),
})

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
  const turn = deg === 0 ? [] : [deg, placement.widthMm, placement.heightMm]
  const { steps, order, masks } = node
  const dots = node.dots.asPrepared && !staysAsPrepared(job, piece) ? { ...node.dots, asPrepared: false } : node.dots
  const gain = dots.gain ? measuredCurve(material, 'gain', machine.id) : undefined
  const curves = gain && [machine.id, topLayer(material).curves?.filter(({ quantity }) => quantity === 'gain')]
  const key = keyOf('marks', upright.key, ...turn, columns, rows, operation.intervalMm, { steps, order, masks }, dots, curves)
  const marks = supply.cache.get(
    key,
    () =>
      prepareMarks(deg === 0 ? upright : turnedFrame(upright, placement, field), node, dots, columns, rows, {
        ...keeping(supply, turn.length > 0 ? keyOf(upright.key, turn) : upright.key, operation.intervalMm),
        ...(gain ? { compensate: gain.inputFor } : {}),
      }),
    (made) => made.levels.byteLength,
  )
  return { ...marks, key }
}

/** A mask over a framed picture, 0–255. */
export const maskOf = (mask: Mask, framed: KeyedFrame, width: number, height: number, supply: Supply): Uint8Array =>
  maskPlane(mask, framed, width, height, () =>
    supply.cache.get(
      keyOf(framed.key, 'mask base'),
      () => maskBase(framed),
      ({ grey }) => grey.byteLength,
    ),
  )

/** A framed picture treated by some steps, as tones, in as many dots as wanted. @param treatment default all of the node's */
export function treatedTones(
  job: JobDocument,
  nodeId: string,
  supply: Supply,
  columns: number,
  rows: number,
  treatment?: Treatment,
): Plane {
  const node = job.nodes[nodeId]
  const steps = treatment ?? (node?.kind === 'picture' ? node : undefined)
  if (!steps) throw new Error(`“${nodeId}” is no prepared picture.`)
  const framed = framedPicture(job, nodeId, supply)
  const pitchMm = placeOf(job, nodeId).widthMm / columns
  return treatedPlane(framed, steps, columns, rows, keeping(supply, framed.key, pitchMm))
}
