import { type Join, offset } from '../geometry/clip.ts'
import { flattenPath, mapPath, type Path } from '../geometry/path.ts'
import { mapRing, type Ring } from '../geometry/ring.ts'
import { DEFAULT_TOLERANCE_PX, trace } from '../outline/trace.ts'
import type { GreyPicture } from '../picture/picture.ts'
import { type Marks, preparePicture } from '../picture/prepare.ts'
import { dotGrid } from '../plan/grid.ts'
import type { ResultCache } from './cache.ts'
import { type JobDocument, type OffsetNode, type PictureOperation, sourceOf, type TraceNode } from './document.ts'

/** What evaluation needs from outside: the decoded pictures, kept results, and a way to tell how far it is. */
export interface Bench {
  /** The decoded picture of an asset. Throws when it is not there. */
  readonly picture: (asset: string) => GreyPicture
  /** The text of a program asset; throws where it is not there. */
  readonly program?: (asset: string) => string
  readonly cache: ResultCache

  /** Share done of the step at hand, 0–1; may throw to cancel. */
  readonly progress?: (done: number) => void
}

/** How far the chords of an outline may lie off its curves, mm. */
export const FLATTEN_MM = 0.008

const keyOf = (...parts: readonly unknown[]): string => JSON.stringify(parts)

interface Traced {
  /** Outlines in source pixels. */
  readonly paths: readonly Path[]
  readonly key: string
}

function traced(job: JobDocument, node: TraceNode, sourceId: string, bench: Bench): Traced {
  const source = job.nodes[sourceId]
  if (source.kind !== 'source') throw new Error(`“${source.name}” is no picture.`)
  const picture = bench.picture(source.asset)
  const place = job.placements[sourceId]
  const sx = place.widthMm / picture.widthPx
  const sy = place.heightMm / picture.heightPx
  const fine = Math.min(sx, sy)
  const options = {
    threshold: node.threshold,
    channel: node.channel,
    tolerancePx: node.toleranceMm > 0 ? Math.max(0.02, node.toleranceMm / fine) : DEFAULT_TOLERANCE_PX,
    cornerDeg: node.cornerDeg,
    minAreaPx: node.minAreaMm2 / (sx * sy),
  }
  const key = keyOf('trace', source.asset, picture.widthPx, options)
  const paths = bench.cache.get(
    key,
    () => trace(picture, { ...options, progress: bench.progress }),
    (found) => found.reduce((sum, path) => sum + path.points.byteLength + 200, 0),
  )
  return { paths, key }
}

/** Outlines in the units and place of the job, as curves: only traces have curves. @returns paths in job mm */
export function tracedPaths(job: JobDocument, nodeId: string, bench: Bench): Path[] {
  const node = job.nodes[nodeId]
  if (node?.kind !== 'trace') throw new Error(`“${nodeId}” is no trace.`)
  const sourceId = sourceOf(job, nodeId)
  const { paths } = traced(job, node, sourceId, bench)
  const place = job.placements[sourceId]
  const { sx, sy } = scaleOf(job, sourceId, bench)
  return paths.map((path) => mapPath(path, sx, sy, place.xMm, place.yMm))
}

function scaleOf(job: JobDocument, sourceId: string, bench: Bench): { sx: number; sy: number } {
  const source = job.nodes[sourceId]
  if (source.kind !== 'source') throw new Error(`“${source.name}” is no picture.`)
  const picture = bench.picture(source.asset)
  const place = job.placements[sourceId]
  return { sx: place.widthMm / picture.widthPx, sy: place.heightMm / picture.heightPx }
}

/** Outlines of a trace or offset as polygons, from the source's top-left corner in mm: unchanged when the artwork moves. */
function localRings(job: JobDocument, nodeId: string, bench: Bench): { rings: readonly Ring[]; key: string } {
  const node = job.nodes[nodeId]
  const sourceId = sourceOf(job, nodeId)
  const bytes = (rings: readonly Ring[]): number => rings.reduce((sum, ring) => sum + ring.byteLength + 100, 0)
  if (node.kind === 'trace') {
    const { paths, key: from } = traced(job, node, sourceId, bench)
    const { sx, sy } = scaleOf(job, sourceId, bench)
    const key = keyOf('rings', from, sx, sy)
    return {
      key,
      rings: bench.cache.get(key, () => paths.map((path) => flattenPath(mapPath(path, sx, sy, 0, 0), FLATTEN_MM)), bytes),
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

/** The marks that a picture operation burns, and the content key they are kept by. */
export function operationMarks(job: JobDocument, operation: PictureOperation, bench: Bench): Marks & { readonly key: string } {
  const node = job.nodes[operation.node]
  if (node?.kind !== 'picture') throw new Error(`“${operation.node}” is no prepared picture.`)
  const sourceId = sourceOf(job, operation.node)
  const source = job.nodes[sourceId]
  if (source.kind !== 'source') throw new Error(`“${source.name}” is no picture.`)
  const picture = bench.picture(source.asset)
  const { columns, rows } = dotGrid(job.placements[sourceId], operation)
  const steps = { tone: node.tone, kernel: node.kernel }
  const key = keyOf('marks', source.asset, picture.widthPx, columns, rows, steps)
  const marks = bench.cache.get(
    key,
    () => preparePicture(picture, columns, rows, steps, { progress: bench.progress }),
    (made) => made.levels.byteLength,
  )
  return { ...marks, key }
}
