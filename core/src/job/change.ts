import type { Bounds } from '../geometry/bounds.ts'
import { isRoot, type JobDocument, type LineageNode, type Operation, type Placement, sourceOf } from './document.ts'
import { RANGES } from './ranges.ts'

/** To a micrometre: what a machine can tell apart, and what a person can read again. */
const micro = (mm: number): number => Math.round(mm * 1000) / 1000

/** The job with some values of an operation changed. */
export const withOperation = (job: JobDocument, id: string, change: Partial<Operation>): JobDocument => ({
  ...job,
  operations: { ...job.operations, [id]: { ...job.operations[id], ...change } as Operation },
})

/** The job with some values of a piece of artwork changed. */
export const withNode = (job: JobDocument, id: string, change: Partial<LineageNode>): JobDocument => ({
  ...job,
  nodes: { ...job.nodes, [id]: { ...job.nodes[id], ...change } as LineageNode },
})

const withPlacement = (job: JobDocument, sourceId: string, place: Placement): JobDocument => ({
  ...job,
  placements: {
    ...job.placements,
    [sourceId]: { xMm: micro(place.xMm), yMm: micro(place.yMm), widthMm: micro(place.widthMm), heightMm: micro(place.heightMm) },
  },
})

/** A placement changed, and what is grouped with it changed likewise. */
function withGroup(job: JobDocument, sourceId: string, next: Placement): JobDocument {
  const old = job.placements[sourceId]
  const group = job.groups?.[sourceId]
  const placed = withPlacement(job, sourceId, next)
  if (group === undefined) return placed
  const [sx, sy] = [next.widthMm / old.widthMm, next.heightMm / old.heightMm]
  return Object.keys(job.groups ?? {})
    .filter((id) => id !== sourceId && job.groups![id] === group)
    .reduce((sum, id) => {
      const { xMm, yMm, widthMm, heightMm } = job.placements[id]
      return withPlacement(sum, id, {
        xMm: next.xMm + (xMm - old.xMm) * sx,
        yMm: next.yMm + (yMm - old.yMm) * sy,
        widthMm: widthMm * sx,
        heightMm: heightMm * sy,
      })
    }, placed)
}

/** Artwork that moves and grows with a piece of artwork, by the roots of their families. */
export function groupedWith(job: JobDocument, nodeId: string): string[] {
  const root = sourceOf(job, nodeId)
  const group = job.groups?.[root]
  return group === undefined ? [] : Object.keys(job.groups!).filter((id) => id !== root && job.groups![id] === group)
}

/** Two families, with what each is grouped with, as one group. @param tag names a group that is new */
export function grouped(job: JobDocument, nodeId: string, otherId: string, tag: string): JobDocument {
  const roots = [nodeId, otherId].flatMap((id) => [sourceOf(job, id), ...groupedWith(job, id)])
  return { ...job, groups: { ...job.groups, ...Object.fromEntries(roots.map((root) => [root, tag])) } }
}

/** A family taken out of its group; a group of one is none. */
export function ungrouped(job: JobDocument, nodeId: string): JobDocument {
  const rest = groupedWith(job, nodeId)
  const gone = [sourceOf(job, nodeId), ...(rest.length === 1 ? rest : [])]
  const groups = Object.fromEntries(Object.entries(job.groups ?? {}).filter(([id]) => !gone.includes(id)))
  const { groups: _, ...bare } = job
  return Object.keys(groups).length > 0 ? { ...bare, groups } : bare
}

/** A family of artwork moved as one, with its group. */
export function moved(job: JobDocument, nodeId: string, dxMm: number, dyMm: number): JobDocument {
  const sourceId = sourceOf(job, nodeId)
  const place = job.placements[sourceId]
  return withGroup(job, sourceId, { ...place, xMm: place.xMm + dxMm, yMm: place.yMm + dyMm })
}

/** How far a node's outline stands out beyond what scales with the picture: twice the sum of its offsets, mm. */
export function standsOut(job: JobDocument, nodeId: string): number {
  let sum = 0
  for (let node: LineageNode | undefined = job.nodes[nodeId]; node && !isRoot(node); node = job.nodes[node.from]) {
    if (node.kind === 'offset') sum += (node.both ? Math.abs(node.distanceMm) : node.distanceMm) * (node.steps ?? 1)
  }
  return 2 * sum
}

export interface ResizeOptions {
  /** The point of the box that stays: 0 left or top, 0.5 middle, 1 right or bottom. */
  readonly anchorX: number
  readonly anchorY: number
  readonly keepRatio: boolean
}

/**
 * A family of artwork scaled as one, so that a node's box gets the width or height wanted. Offsets keep their distance.
 * @param box around the node now, job mm
 */
export function resized(
  job: JobDocument,
  nodeId: string,
  box: Bounds,
  wanted: { readonly widthMm?: number; readonly heightMm?: number },
  options: ResizeOptions,
): JobDocument {
  const sourceId = sourceOf(job, nodeId)
  const place = job.placements[sourceId]
  const out = standsOut(job, nodeId)
  const width = box.x1 - box.x0
  const height = box.y1 - box.y0
  const share = (now: number, then: number | undefined): number | undefined =>
    then === undefined || now - out <= 0 ? undefined : Math.max(1e-4, (then - out) / (now - out))
  const sx = share(width, wanted.widthMm)
  const sy = share(height, wanted.heightMm)
  if (sx === undefined && sy === undefined) return job
  const limit = (scale: number, size: number): number =>
    Math.min(RANGES.sizeMm.max / size, Math.max(RANGES.sizeMm.min / size, scale))
  const scaleX = limit(sx ?? (options.keepRatio ? sy! : 1), place.widthMm)
  const scaleY = limit(options.keepRatio ? scaleX : (sy ?? 1), place.heightMm)
  const start = (low: number, size: number, at: number, anchor: number, scale: number): number => {
    const then = (size - out) * scale + out
    const fixed = low + anchor * size
    return fixed - anchor * then + out / 2 - (low + out / 2 - at) * scale
  }
  return withGroup(job, sourceId, {
    widthMm: place.widthMm * scaleX,
    heightMm: place.heightMm * scaleY,
    xMm: start(box.x0, width, place.xMm, options.anchorX, scaleX),
    yMm: start(box.y0, height, place.yMm, options.anchorY, scaleY),
  })
}

/** The run order with one operation moved to another place. */
export function reordered(job: JobDocument, id: string, to: number): JobDocument {
  const rest = job.runOrder.filter((other) => other !== id)
  const at = Math.min(rest.length, Math.max(0, to))
  return { ...job, runOrder: [...rest.slice(0, at), id, ...rest.slice(at)] }
}
