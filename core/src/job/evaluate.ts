import { type Join, offset } from '../geometry/clip.ts'
import { flattenPath, mapPath, type Path } from '../geometry/path.ts'
import { mapRing, type Ring } from '../geometry/ring.ts'
import { DEFAULT_TOLERANCE_PX, trace } from '../outline/trace.ts'
import { type Bench, keyOf } from './bench.ts'
import { type JobDocument, type OffsetNode, sourceOf, type TraceNode } from './document.ts'
import { framedPicture } from './pictured.ts'

/** How far the chords of an outline may lie off its curves, mm. */
export const FLATTEN_MM = 0.008

interface Traced {
  /** Outlines in pixels of the framed picture. */
  readonly paths: readonly Path[]
  readonly key: string
  /** From those pixels to mm from the placement's corner. */
  readonly sx: number
  readonly sy: number
  readonly dx: number
  readonly dy: number
}

function traced(job: JobDocument, nodeId: string, node: TraceNode, bench: Bench): Traced {
  const { picture, window, key: framed } = framedPicture(job, nodeId, bench)
  const place = job.placements[sourceOf(job, nodeId)]
  const sx = place.widthMm / window.width
  const sy = place.heightMm / window.height
  const fine = Math.min(sx, sy)
  const options = {
    threshold: node.threshold,
    channel: node.channel,
    tolerancePx: node.toleranceMm > 0 ? Math.max(0.02, node.toleranceMm / fine) : DEFAULT_TOLERANCE_PX,
    cornerDeg: node.cornerDeg,
    minAreaPx: node.minAreaMm2 / (sx * sy),
  }
  const key = keyOf('trace', framed, options)
  const paths = bench.cache.get(
    key,
    () => trace(picture, { ...options, progress: bench.progress }),
    (found) => found.reduce((sum, path) => sum + path.points.byteLength + 200, 0),
  )
  return { paths, key, sx, sy, dx: -window.x * sx, dy: -window.y * sy }
}

/** Outlines in the units and place of the job, as curves: only traces have curves. @returns paths in job mm */
export function tracedPaths(job: JobDocument, nodeId: string, bench: Bench): Path[] {
  const node = job.nodes[nodeId]
  if (node?.kind !== 'trace') throw new Error(`“${nodeId}” is no trace.`)
  const { paths, sx, sy, dx, dy } = traced(job, nodeId, node, bench)
  const place = job.placements[sourceOf(job, nodeId)]
  return paths.map((path) => mapPath(path, sx, sy, place.xMm + dx, place.yMm + dy))
}

/** Outlines of a trace or offset as polygons, from the source's top-left corner in mm: unchanged when the artwork moves. */
function localRings(job: JobDocument, nodeId: string, bench: Bench): { rings: readonly Ring[]; key: string } {
  const node = job.nodes[nodeId]
  const bytes = (rings: readonly Ring[]): number => rings.reduce((sum, ring) => sum + ring.byteLength + 100, 0)
  if (node.kind === 'trace') {
    const { paths, key: from, sx, sy, dx, dy } = traced(job, nodeId, node, bench)
    const key = keyOf('rings', from, sx, sy)
    return {
      key,
      rings: bench.cache.get(key, () => paths.map((path) => flattenPath(mapPath(path, sx, sy, dx, dy), FLATTEN_MM)), bytes),
    }
  }
  if (node.kind === 'offset') {
    const parent = localRings(job, node.from, bench)
    const options: Pick<OffsetNode, 'distanceMm' | 'outermost'> & { join: Join } = {
      distanceMm: node.distanceMm,
      join: node.join,
      outermost: node.outermost,
    }
    const key = keyOf('offset', parent.key, options)
    return {
      key,
      rings: bench.cache.get(key, () => offset(parent.rings, node.distanceMm, { ...options, progress: bench.progress }), bytes),
    }
  }
  throw new Error(`“${node.name}” has no outline.`)
}

/** Outlines of a trace or offset as polygons in job mm. */
export function outlineRings(job: JobDocument, nodeId: string, bench: Bench): Ring[] {
  const place = job.placements[sourceOf(job, nodeId)]
  return localRings(job, nodeId, bench).rings.map((ring) => mapRing(ring, 1, 1, place.xMm, place.yMm))
}

/** The polygons of an outline grown further, kept by content: for kerfs. @returns rings in job mm */
export function grownRings(job: JobDocument, nodeId: string, byMm: number, bench: Bench): Ring[] {
  const place = job.placements[sourceOf(job, nodeId)]
  const local = localRings(job, nodeId, bench)
  const rings = bench.cache.get(
    keyOf('grown', local.key, byMm),
    () => offset(local.rings, byMm, { progress: bench.progress }),
    (found) => found.reduce((sum, ring) => sum + ring.byteLength + 100, 0),
  )
  return rings.map((ring) => mapRing(ring, 1, 1, place.xMm, place.yMm))
}
