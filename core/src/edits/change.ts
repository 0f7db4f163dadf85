import type { Bounds } from '../geometry/bounds.ts'
import { type JobDocument, type Placement, placeIdOf, sourceOf } from '../job/document/document.ts'
import type { LineageNode } from '../job/document/nodes.ts'
import type { Operation } from '../job/document/operation.ts'
import { RANGES } from '../job/document/ranges.ts'
import { relaid } from '../job/document/repeats.ts'
import { standsOut } from '../lineage/stands-out.ts'
import { micro } from '../numeric/micro.ts'
import { composed, mapped, quarterTurns, scaling, turning } from '../space/affine.ts'
import { readDeg } from '../space/pose.ts'

/** Settings that are not those of another material any more once somebody set them. */
const OWN = ['power', 'speedMmS', 'passes', 'recipe'] as const

/** The job with some values of an operation changed. */
export function withOperation(job: JobDocument, id: string, change: Partial<Operation>): JobDocument {
  const operation = job.operations[id]
  const own = operation.keptFrom !== undefined && OWN.some((name) => name in change) ? { keptFrom: undefined } : {}
  return { ...job, operations: { ...job.operations, [id]: { ...operation, ...own, ...change } as Operation } }
}

/** The job with some values of a piece of artwork changed. */
export const withNode = (job: JobDocument, id: string, change: Partial<LineageNode>): JobDocument => ({
  ...job,
  nodes: { ...job.nodes, [id]: { ...job.nodes[id], ...change } as LineageNode },
})

/** A placement to the micrometre and the thousandth of a degree. */
const withPlacement = (job: JobDocument, id: string, place: Placement): JobDocument => {
  const { deg = 0, ...rest } = place
  const turned = readDeg(deg)
  return {
    ...job,
    placements: {
      ...job.placements,
      [id]: {
        ...rest,
        xMm: micro(place.xMm),
        yMm: micro(place.yMm),
        widthMm: micro(place.widthMm),
        heightMm: micro(place.heightMm),
        ...(turned === 0 ? {} : { deg: turned }),
      },
    },
  }
}

/** Ids of the placements that move and grow with one: those of the roots in its group, on the same workpiece. */
function placesWith(job: JobDocument, place: string): string[] {
  const { of, on } = job.placements[place]
  const group = job.groups?.[of]
  if (group === undefined) return []
  return Object.keys(job.placements).filter((id) => {
    const other = job.placements[id]
    return id !== place && other.of !== of && other.on === on && job.groups?.[other.of] === group
  })
}

/** A placement changed, and what is grouped with it changed likewise. */
function withGroup(job: JobDocument, id: string, next: Placement): JobDocument {
  const old = job.placements[id]
  return relaid(
    placesWith(job, id).reduce(
      (sum, other) => withPlacement(sum, other, likewise(old, next, job.placements[other])),
      withPlacement(job, id, next),
    ),
  )
}

/** Where a placement goes when another one is moved, scaled along its own sides and turned: it keeps its part in the whole. */
function likewise(old: Placement, next: Placement, place: Placement): Placement {
  const [sx, sy] = [next.widthMm / old.widthMm, next.heightMm / old.heightMm]
  const { xMm, yMm, widthMm, heightMm } = place
  if (!old.deg && !next.deg && !place.deg)
    return {
      ...place,
      xMm: next.xMm + (xMm - old.xMm) * sx,
      yMm: next.yMm + (yMm - old.yMm) * sy,
      widthMm: widthMm * sx,
      heightMm: heightMm * sy,
    }
  const middle = (of: Placement): [number, number] => [of.xMm + of.widthMm / 2, of.yMm + of.heightMm / 2]
  const [ox, oy] = middle(old)
  const [nx, ny] = middle(next)
  const [px, py] = middle(place)
  const along = [turning(-(old.deg ?? 0)), scaling(sx, sy), turning(next.deg ?? 0)].reduce(composed)
  const [mx, my] = mapped(along, px - ox, py - oy)
  // What lies across grows across; at any other angle it can only grow as a whole.
  const quarter = quarterTurns((place.deg ?? 0) - (old.deg ?? 0))
  const whole = Math.sqrt(sx * sy)
  const [gx, gy] = quarter === undefined ? [whole, whole] : quarter % 2 === 0 ? [sx, sy] : [sy, sx]
  return {
    ...place,
    widthMm: widthMm * gx,
    heightMm: heightMm * gy,
    xMm: nx + mx - (widthMm * gx) / 2,
    yMm: ny + my - (heightMm * gy) / 2,
    deg: (place.deg ?? 0) + (next.deg ?? 0) - (old.deg ?? 0),
  }
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

/** A family of artwork moved as one, with its group. @param place one of its placements, default the one that counts */
export function moved(job: JobDocument, nodeId: string, dxMm: number, dyMm: number, place = placeIdOf(job, nodeId)): JobDocument {
  const old = job.placements[place]
  return withGroup(job, place, { ...old, xMm: old.xMm + dxMm, yMm: old.yMm + dyMm })
}

/** A family of artwork turned about its own middle, with its group. @param deg how it lies then, degrees clockwise */
export function turnedTo(job: JobDocument, nodeId: string, deg: number, place = placeIdOf(job, nodeId)): JobDocument {
  return withGroup(job, place, { ...job.placements[place], deg: readDeg(deg) })
}

/** A family of artwork made larger and turned about its own middle, which comes to lie somewhere else; with its group. */
export function laidAs(
  job: JobDocument,
  nodeId: string,
  {
    scale,
    byDeg,
    middle: [x, y],
  }: { readonly scale: number; readonly byDeg: number; readonly middle: readonly [number, number] },
  place = placeIdOf(job, nodeId),
): JobDocument {
  const old = job.placements[place]
  const [widthMm, heightMm] = [old.widthMm * scale, old.heightMm * scale]
  const deg = readDeg((old.deg ?? 0) + byDeg)
  return withGroup(job, place, { ...old, widthMm, heightMm, deg, xMm: x - widthMm / 2, yMm: y - heightMm / 2 })
}

/** How a family of artwork is turned, degrees clockwise. */
export const turnOfPlace = (job: JobDocument, nodeId: string, place = placeIdOf(job, nodeId)): number =>
  job.placements[place].deg ?? 0

export interface ResizeOptions {
  /** The point of the box that stays: 0 left or top, 0.5 middle, 1 right or bottom. */
  readonly anchorX: number
  readonly anchorY: number
  readonly keepRatio: boolean
  /** One of several placements; default the one that counts. */
  readonly place?: string
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
  const id = options.place ?? placeIdOf(job, nodeId)
  const place = job.placements[id]
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
  const quarter = quarterTurns(place.deg ?? 0)
  // At an odd angle it grows as a whole, or it would be sheared.
  const keepRatio = options.keepRatio || quarter === undefined
  const across = quarter !== undefined && quarter % 2 === 1
  const scaleX = limit(sx ?? (keepRatio ? sy! : 1), across ? place.heightMm : place.widthMm)
  const scaleY = limit(keepRatio ? scaleX : (sy ?? 1), across ? place.widthMm : place.heightMm)
  if (quarter !== 0) {
    const shift = (low: number, size: number, middle: number, anchor: number, scale: number): number => {
      const then = (size - out) * scale + out
      return low + anchor * size - (middle + (low + out / 2 - middle) * scale - out / 2 + anchor * then)
    }
    const [cx, cy] = [place.xMm + place.widthMm / 2, place.yMm + place.heightMm / 2]
    const widthMm = place.widthMm * (across ? scaleY : scaleX)
    const heightMm = place.heightMm * (across ? scaleX : scaleY)
    return withGroup(job, id, {
      ...place,
      widthMm,
      heightMm,
      xMm: cx + shift(box.x0, width, cx, options.anchorX, scaleX) - widthMm / 2,
      yMm: cy + shift(box.y0, height, cy, options.anchorY, scaleY) - heightMm / 2,
    })
  }
  const start = (low: number, size: number, at: number, anchor: number, scale: number): number => {
    const then = (size - out) * scale + out
    const fixed = low + anchor * size
    return fixed - anchor * then + out / 2 - (low + out / 2 - at) * scale
  }
  return withGroup(job, id, {
    ...place,
    widthMm: place.widthMm * scaleX,
    heightMm: place.heightMm * scaleY,
    xMm: start(box.x0, width, place.xMm, options.anchorX, scaleX),
    yMm: start(box.y0, height, place.yMm, options.anchorY, scaleY),
  })
}
