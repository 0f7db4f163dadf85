import { type JobDocument, picturedRoot, placeOf } from '../job/document/document.ts'
import { heightMap } from '../mesh/height-map.ts'
import type { Triangles } from '../mesh/stl.ts'
import { type Framed, frame } from '../picture/framing.ts'
import { maskPlane } from '../picture/mask.ts'
import type { GreyPicture } from '../picture/picture.ts'
import type { Plane } from '../picture/plane.ts'
import { type GreyWeights, LUMA, type Mask, type Treatment } from '../picture/steps.ts'
import { maskBase, type TreatOptions, treatedPlane } from '../picture/treat.ts'
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

/** Keeps what treatment makes on its way. */
export const keeping = (supply: Supply, key: string, pitchMm: number): TreatOptions => ({
  pitchMm,
  progress: supply.progress,
  keep: (part, make, bytes) => supply.cache.get(keyOf(key, part), make, bytes),
})

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
