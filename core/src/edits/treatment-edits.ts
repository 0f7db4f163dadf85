import { chained, mapPoint, undoing } from '../geometry/homography.ts'
import { burnOrder, type JobDocument, type Placement, picturedRoot, placeOf, withPlace } from '../job/document/document.ts'
import type { PictureNode } from '../job/document/nodes.ts'
import { RANGES } from '../job/document/ranges.ts'
import { powerFor, spotMm, wattsAt } from '../machine/machine.ts'
import type { MeshExtent, ViewAxis } from '../mesh/height-map.ts'
import { micro } from '../numeric/micro.ts'
import { framedSize, frameMap } from '../picture/framing.ts'
import type { Dots, FramingStep, Mask, MaskPart, TreatmentStep } from '../picture/steps.ts'
import type { RowSettings } from '../process/picture/settings.ts'
import { mapped } from '../space/affine.ts'
import { poseMap } from '../space/pose.ts'
import { withNode, withOperation } from './change.ts'

/** The prepared picture of an id. @throws where it is none */
export function pictureNode(job: JobDocument, id: string): PictureNode {
  const node = job.nodes[id]
  if (node?.kind !== 'picture') throw new Error(`“${id}” is no prepared picture.`)
  return node
}

/** A step changed. */
export function withStep(job: JobDocument, nodeId: string, stepId: string, change: Partial<TreatmentStep>): JobDocument {
  const { steps } = pictureNode(job, nodeId)
  if (!steps[stepId]) return job
  return withNode(job, nodeId, { steps: { ...steps, [stepId]: { ...steps[stepId], ...change } as TreatmentStep } })
}

/** A step more, at a place in the order; at its end where none is said. */
export function addedStep(job: JobDocument, nodeId: string, stepId: string, step: TreatmentStep, at?: number): JobDocument {
  const { steps, order } = pictureNode(job, nodeId)
  const place = at ?? order.length
  return withNode(job, nodeId, {
    steps: { ...steps, [stepId]: step },
    order: [...order.slice(0, place), stepId, ...order.slice(place)],
  })
}

/** A step less; a mask that nothing else uses goes with it. */
export function withoutStep(job: JobDocument, nodeId: string, stepId: string): JobDocument {
  const node = pictureNode(job, nodeId)
  const { [stepId]: gone, ...steps } = node.steps
  const used = new Set(Object.values(steps).map(({ mask }) => mask))
  const masks = Object.fromEntries(Object.entries(node.masks).filter(([id]) => id !== gone?.mask || used.has(id)))
  return withNode(job, nodeId, { steps, order: node.order.filter((id) => id !== stepId), masks })
}

/** A step at another place in the order. */
export function movedStep(job: JobDocument, nodeId: string, stepId: string, to: number): JobDocument {
  const rest = pictureNode(job, nodeId).order.filter((id) => id !== stepId)
  return withNode(job, nodeId, { order: [...rest.slice(0, to), stepId, ...rest.slice(to)] })
}

export const withDots = (job: JobDocument, nodeId: string, change: Partial<Dots>): JobDocument =>
  withNode(job, nodeId, { dots: { ...pictureNode(job, nodeId).dots, ...change } })

export const withMask = (job: JobDocument, nodeId: string, maskId: string, mask: Mask): JobDocument =>
  withNode(job, nodeId, { masks: { ...pictureNode(job, nodeId).masks, [maskId]: mask } })

/** A mask with one more part: a stroke, a shape. Made where it is not there yet. */
export function addedPart(job: JobDocument, nodeId: string, maskId: string, partId: string, part: MaskPart): JobDocument {
  const mask = pictureNode(job, nodeId).masks[maskId] ?? { name: 'mask', feather: 0, parts: {}, order: [] }
  return withMask(job, nodeId, maskId, { ...mask, parts: { ...mask.parts, [partId]: part }, order: [...mask.order, partId] })
}

/**
 * Another framing of what a node comes from. Whatever stays in the picture stays where it lies on the workpiece, at the
 * scale it has; the placement follows.
 */
export function withFraming(job: JobDocument, nodeId: string, framing: readonly FramingStep[]): JobDocument {
  const { id, ...root } = picturedRoot(job, nodeId)
  const before = frameMap(root, root.framing)
  const after = frameMap(root, framing)
  const place = placeOf(job, id)
  const sx = place.widthMm / before.widthPx
  const sy = place.heightMm / before.heightPx
  const widthMm = Math.min(RANGES.sizeMm.max, Math.max(RANGES.sizeMm.min, after.widthPx * sx))
  const heightMm = Math.min(RANGES.sizeMm.max, Math.max(RANGES.sizeMm.min, after.heightPx * sy))
  // The middle of the new frame, as it lay in the old one.
  const toOld = chained(undoing(after.toFrame), before.toFrame)
  const [cx, cy] = mapPoint(toOld, after.widthPx / 2, after.heightPx / 2)
  const next = {
    widthMm: micro(widthMm),
    heightMm: micro(heightMm),
    ...(place.deg
      ? turnedCorner(place, cx * sx, cy * sy, widthMm, heightMm)
      : { xMm: micro(place.xMm + cx * sx - widthMm / 2), yMm: micro(place.yMm + cy * sy - heightMm / 2) }),
  }
  return withPlace(withNode(job, id, { framing }), id, next)
}

/** The corner of a box of another size, whose middle lies where a place of the turned one lay. */
function turnedCorner(place: Placement, x: number, y: number, widthMm: number, heightMm: number) {
  const [cx, cy] = mapped(poseMap(place, place), x, y)
  return { xMm: micro(cx - widthMm / 2), yMm: micro(cy - heightMm / 2) }
}

/** The longer side of a mesh's height map, px. */
const MESH_PX = 1600

/** A mesh looked at along another axis: it keeps its scale, and its middle. @param extent seen along the new axis */
export function lookedAlong(job: JobDocument, id: string, axis: ViewAxis, before: MeshExtent, extent: MeshExtent): JobDocument {
  const node = job.nodes[id]
  const place = placeOf(job, id)
  if (node?.kind !== 'mesh' || !(extent.width > 0 && extent.height > 0)) return job
  const scale = place.widthMm / before.width
  const px = MESH_PX / Math.max(extent.width, extent.height)
  const widthMm = micro(Math.max(RANGES.sizeMm.min, extent.width * scale))
  const heightMm = micro(Math.max(RANGES.sizeMm.min, extent.height * scale))
  const changed = withNode(job, id, {
    axis,
    framing: [],
    widthPx: Math.max(1, Math.round(extent.width * px)),
    heightPx: Math.max(1, Math.round(extent.height * px)),
  })
  const xMm = micro(place.xMm + (place.widthMm - widthMm) / 2)
  const yMm = micro(place.yMm + (place.heightMm - heightMm) / 2)
  return withPlace(changed, id, { widthMm, heightMm, xMm, yMm })
}

/** A crop of an exact real size: the ratio of `crop` is brought to it around its middle, and the artwork gets that size. */
export function croppedTo(
  job: JobDocument,
  nodeId: string,
  index: number,
  size: { readonly widthMm: number; readonly heightMm: number },
): JobDocument {
  const { id, ...root } = picturedRoot(job, nodeId)
  const step = root.framing[index]
  if (step?.kind !== 'crop') return job
  const given = framedSize(root, root.framing.slice(0, index))
  const ratio = size.heightMm / size.widthMm
  // All that was kept, and as much more as the ratio asks for, as far as the picture goes.
  const width = Math.min(given.widthPx, given.heightPx / ratio, Math.max(step.width, step.height / ratio))
  const height = width * ratio
  const within = (at: number, length: number, most: number): number => Math.max(0, Math.min(most - length, at))
  const crop: FramingStep = {
    ...step,
    on: true,
    width,
    height,
    x: within(step.x + (step.width - width) / 2, width, given.widthPx),
    y: within(step.y + (step.height - height) / 2, height, given.heightPx),
  }
  const framed = withFraming(
    job,
    nodeId,
    root.framing.map((each, i) => (i === index ? crop : each)),
  )
  const place = placeOf(framed, id)
  const { widthMm, heightMm } = size
  return withPlace(framed, id, {
    widthMm: micro(widthMm),
    heightMm: micro(heightMm),
    xMm: micro(place.xMm + (place.widthMm - widthMm) / 2),
    yMm: micro(place.yMm + (place.heightMm - heightMm) / 2),
  })
}

/**
 * Another interval for a picture operation. With `keepDose` the power makes up for it, and where the power is at its end
 * the speed does; J/mm² stay.
 */
export function withInterval(job: JobDocument, operationId: string, intervalMm: number, keepDose: boolean): JobDocument {
  const operation = job.operations[operationId]
  if (!operation || !('intervalMm' in operation)) return job
  if (!keepDose) return withOperation(job, operationId, { intervalMm })
  const share = intervalMm / operation.intervalMm
  const wanted = wattsAt(job.machine, operation.power) * share
  const most = wattsAt(job.machine, 1)
  const power = wanted > most ? 1 : Math.round(powerFor(job.machine, wanted) * 1e4) / 1e4
  const speedMmS = wanted > most ? Math.round((operation.speedMmS * most * 100) / wanted) / 100 : operation.speedMmS
  if (!('minPower' in operation)) return withOperation(job, operationId, { intervalMm, power, speedMmS })
  const weakest = wattsAt(job.machine, operation.minPower) * share
  const minPower = Math.min(power, Math.round(powerFor(job.machine, weakest) * 1e4) / 1e4)
  const change: Partial<RowSettings> = { intervalMm, power, speedMmS, minPower }
  return withOperation(job, operationId, change)
}

/** Another lens in the machine: the interval of each picture goes with its spot, and the dose stays. */
export function withLens(job: JobDocument, lensId: string): JobDocument {
  const before = spotMm(job.machine)
  const machine = { ...job.machine, lens: lensId }
  const share = spotMm(machine) / before
  return burnOrder(job).reduce(
    (changed, id) => {
      const operation = changed.operations[id]
      if (!('intervalMm' in operation)) return changed
      const intervalMm = Math.round(operation.intervalMm * share * 1e4) / 1e4
      const { min, max } = RANGES.intervalMm
      return withInterval(changed, id, Math.min(max, Math.max(min, intervalMm)), true)
    },
    { ...job, machine },
  )
}
