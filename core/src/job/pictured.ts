import type { Triangles } from '../formats/stl.ts'
import { measuredCurve } from '../material/answer.ts'
import { type Framed, frame } from '../picture/framing.ts'
import { heightMap } from '../picture/height-map.ts'
import { maskPlane } from '../picture/mask.ts'
import type { GreyPicture } from '../picture/picture.ts'
import type { Plane } from '../picture/plane.ts'
import { type Marks, prepareMarks } from '../picture/prepare.ts'

import { type GreyWeights, LUMA, type Mask, type Treatment } from '../picture/steps.ts'
import { maskBase, type TreatOptions, treatedPlane } from '../picture/treat.ts'
import { dotGrid } from '../plan/grid.ts'
import { type Bench, keyOf } from './bench.ts'
import { type JobDocument, type PictureOperation, picturedRoot } from './document.ts'
import { drawnPicture } from './parts.ts'

/** A picture as it lies on the workpiece, and the content key it is kept by. */
export interface KeyedFrame extends Framed {
  readonly key: string
}

function meshOf(bench: Bench, asset: string): Triangles {
  if (!bench.mesh) throw new Error('Meshes cannot be read here.')
  return bench.mesh(asset)
}

const pictureBytes = ({ samples, alpha }: GreyPicture): number => samples.byteLength + (alpha?.byteLength ?? 0)

/** The framed picture that a node comes from, grey by its own weights. @param weights other weights instead */
export function framedPicture(job: JobDocument, nodeId: string, bench: Bench, weights?: GreyWeights): KeyedFrame {
  const root = picturedRoot(job, nodeId)
  const node = job.nodes[nodeId]
  if (root.kind === 'drawing') {
    const part = node.kind === 'picture' ? node.from : nodeId
    const { made, key } = drawnPicture(job, part, root, bench)
    return { ...frame(made, []), key }
  }
  const grey: GreyWeights = weights ?? (node.kind === 'picture' ? node.grey : undefined) ?? LUMA
  const source = (): GreyPicture => {
    if (root.kind === 'source') return bench.picture(root.asset, grey)
    const { axis, near, far, widthPx, heightPx } = root
    return bench.cache.get(
      keyOf('heights', root.asset, axis, near, far, widthPx, heightPx),
      () => heightMap(meshOf(bench, root.asset), axis, { widthPx, heightPx, near, far }, bench.progress),
      pictureBytes,
    )
  }
  const { kind, asset, framing } = root
  const own = kind === 'mesh' ? [root.axis, root.near, root.far, root.widthPx, root.heightPx] : grey
  const steps = framing.filter(({ on }) => on)
  const key = keyOf('framed', asset, own, steps)
  if (steps.length === 0) return { ...frame(source(), []), key }
  return {
    ...bench.cache.get(
      key,
      () => frame(source(), steps, bench.progress),
      (made) => pictureBytes(made.picture),
    ),
    key,
  }
}

const keeping = (bench: Bench, key: string, pitchMm: number): TreatOptions => ({
  pitchMm,
  progress: bench.progress,
  keep: (part, make, bytes) => bench.cache.get(keyOf(key, part), make, bytes),
})

/** The marks that a picture operation burns, and the content key they are kept by. */
export function operationMarks(job: JobDocument, operation: PictureOperation, bench: Bench): Marks & { readonly key: string } {
  const node = job.nodes[operation.node]
  if (node?.kind !== 'picture') throw new Error(`“${operation.node}” is no prepared picture.`)
  const framed = framedPicture(job, operation.node, bench)
  const { columns, rows } = dotGrid(job, operation)
  const { steps, order, masks, dots } = node
  const gain = dots.gain ? measuredCurve(job.material, 'gain', job.machine.id) : undefined
  const curves = gain && [job.machine.id, job.material.curves?.filter(({ quantity }) => quantity === 'gain')]
  const key = keyOf('marks', framed.key, columns, rows, operation.intervalMm, { steps, order, masks }, dots, curves)
  const marks = bench.cache.get(
    key,
    () =>
      prepareMarks(framed, node, dots, columns, rows, {
        ...keeping(bench, framed.key, operation.intervalMm),
        ...(gain ? { compensate: gain.inputFor } : {}),
      }),
    (made) => made.levels.byteLength,
  )
  return { ...marks, key }
}

/** A mask over a framed picture, 0–255. */
export const maskOf = (mask: Mask, framed: KeyedFrame, width: number, height: number, bench: Bench): Uint8Array =>
  maskPlane(mask, framed, width, height, () =>
    bench.cache.get(
      keyOf(framed.key, 'mask base'),
      () => maskBase(framed),
      ({ grey }) => grey.byteLength,
    ),
  )

/** A framed picture treated by some steps, as tones, in as many dots as wanted. @param treatment default all of the node's */
export function treatedTones(
  job: JobDocument,
  nodeId: string,
  bench: Bench,
  columns: number,
  rows: number,
  treatment?: Treatment,
): Plane {
  const node = job.nodes[nodeId]
  const steps = treatment ?? (node?.kind === 'picture' ? node : undefined)
  if (!steps) throw new Error(`“${nodeId}” is no prepared picture.`)
  const framed = framedPicture(job, nodeId, bench)
  const pitchMm = job.placements[picturedRoot(job, nodeId).id].widthMm / columns
  return treatedPlane(framed, steps, columns, rows, keeping(bench, framed.key, pitchMm))
}
