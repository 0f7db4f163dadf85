import { combine, growLines, linesWithin, offset, offsets, splitBy } from '../geometry/clip.ts'
import { flattenPath, mapPath, type Path, pathFromLine, pathFromRing } from '../geometry/path.ts'
import { closedLine, type Ring, reversed } from '../geometry/ring.ts'
import { givesLines, type JobDocument, placeOf } from '../job/document/document.ts'
import type { CleanNode, ClipNode, Within } from '../job/document/nodes.ts'
import { outlineOfFace } from '../job/document/workpiece.ts'
import { type Cleaned, cleaned } from '../outline/clean/clean.ts'
import type { StepReport } from '../outline/clean/steps.ts'
import { bridged } from '../outline/hold/bridges.ts'
import { inverseOf } from '../space/affine.ts'
import { mappedPath, mappedRings } from '../space/map-shapes.ts'
import { boxToBox, FLATTEN_MM, type Keyed, pathBytes, placeBeside, placeMap, ringBytes, ringsOf } from './local.ts'
import { partPaths, partRings } from './parts.ts'
import { keyOf, type Supply } from './supply.ts'
import { traced } from './traced.ts'
import { pathLaidTrue, ringsLaidTrue, trueKey, trueShapeOf } from './true-to-face.ts'

/** What can be said of outlines before they are anything else: curves, closed or open. */
function localPaths(job: JobDocument, nodeId: string, supply: Supply, place?: string): Keyed<readonly Path[]> {
  const node = job.nodes[nodeId]
  if (node?.kind === 'trace') {
    const { paths, key: from, sx, sy, dx, dy } = traced(job, nodeId, node, supply, place)
    const key = keyOf('paths', from, sx, sy, dx, dy)
    return { key, made: supply.cache.get(key, () => paths.map((path) => mapPath(path, sx, sy, dx, dy)), pathBytes) }
  }
  if (node?.kind === 'part' && node.as !== 'seen') return partPaths(job, nodeId, supply, place)
  if (node?.kind === 'clip') return clippedPaths(job, nodeId, node, supply, place)
  if (node?.kind === 'clean') {
    const { made, key } = cleanedBy(job, nodeId, node, supply, place)
    return { key, made: made.paths }
  }
  const { made, key: from } = localRings(job, nodeId, supply, place)
  const key = keyOf('ring paths', from)
  return { key, made: supply.cache.get(key, () => made.map(pathFromRing), pathBytes) }
}

function cleanedBy(
  job: JobDocument,
  nodeId: string,
  { from, steps, order }: CleanNode,
  supply: Supply,
  place?: string,
): Keyed<Cleaned> {
  const parent = localPaths(job, from, supply, place)
  const { widthMm, heightMm } = placeOf(job, nodeId, place)
  const list = order.map((id) => steps[id])
  const key = keyOf('cleaned', parent.key, list, widthMm, heightMm)
  const made = supply.cache.get(
    key,
    () => cleaned(parent.made, list, { widthMm, heightMm }, supply.progress),
    ({ paths }) => pathBytes(paths),
  )
  return { made, key }
}

/** What of outlines and lines lies within an edge: areas are cut at it, lines end there. */
function clippedPaths(job: JobDocument, nodeId: string, node: ClipNode, supply: Supply, place?: string): Keyed<readonly Path[]> {
  const parent = localPaths(job, node.from, supply, place)
  const { rings: region, key: edge } = keptRegion(job, nodeId, node, supply, place)
  const map = placeMap(job, nodeId, place)
  const isLines = givesLines(job, node.from)
  const placement = placeOf(job, nodeId, place)
  const shape = trueShapeOf(job, placement)
  const key = keyOf('clipped', parent.key, edge, map, isLines, trueKey(job, placement))
  const make = (): readonly Path[] => {
    const seen = shape ? ringsLaidTrue({ onto: shape.back, back: shape.onto }, region) : region
    const edges = mappedRings(inverseOf(map), seen)
    const areas = isLines ? [] : parent.made.filter(({ closed }) => closed).map((path) => flattenPath(path, FLATTEN_MM))
    const lines = parent.made.filter(({ closed }) => isLines || !closed).map(lineOf)
    const kept = areas.length > 0 ? combine('intersect', areas, edges).map(pathFromRing) : []
    const pieces = lines.length > 0 ? linesWithin(lines, edges).map(pathFromLine) : []
    return [...kept, ...pieces]
  }
  return { key, made: supply.cache.get(key, make, pathBytes) }
}

/** Where artwork in one of its places may be, by an edge that it is kept within. @returns polygons by even-odd, face mm */
export function keptRegion(
  job: JobDocument,
  nodeId: string,
  { to, marginMm }: Within,
  supply: Supply,
  place?: string,
): { readonly rings: readonly Ring[]; readonly key: string } {
  const { on } = placeOf(job, nodeId, place)
  const { outline } = job.workpieces[on]
  const beside = to === undefined ? undefined : placeBeside(job, to, place)
  const key = keyOf('kept within', to === undefined ? outline : outlineKey(job, to, supply, beside), marginMm)
  const make = (): readonly Ring[] => {
    const edge = to === undefined ? outlineOfFace(outline) : outlineRings(job, to, supply, beside)
    return offset(edge, -marginMm)
  }
  return { key, rings: supply.cache.get(key, make, ringBytes) }
}

/** Outlines as polygons. Lines that do not close are there and back: they enclose nothing. */
function localRings(job: JobDocument, nodeId: string, supply: Supply, place?: string): Keyed<readonly Ring[]> {
  const node = job.nodes[nodeId]
  if (node?.kind === 'offset') {
    const { distanceMm, join, outermost, steps = 1, both } = node
    const parent = localRings(job, node.from, supply, place)
    const key = keyOf('offset', parent.key, { distanceMm, join, outermost, steps, both })
    const make = (): Ring[] =>
      givesLines(job, node.from)
        ? Array.from({ length: steps }, (_, i) => growLines(closedLines(parent.made), distanceMm * (i + 1))).flat()
        : offsets(parent.made, distanceMm, { join, outermost, steps, both, progress: supply.progress })
    return { key, made: supply.cache.get(key, make, ringBytes) }
  }
  if (node?.kind === 'bridged') {
    const parent = localRings(job, node.from, supply, place)
    const { widthMm, heightMm } = placeOf(job, nodeId, place)
    const bridges = Object.values(node.bridges).map((each) => ({ ...each, x: each.x * widthMm, y: each.y * heightMm }))
    const key = keyOf('bridged', parent.key, bridges)
    return { key, made: supply.cache.get(key, () => bridged(parent.made, bridges), ringBytes) }
  }
  if (node?.kind === 'combine') {
    const own = localRings(job, node.from, supply, place)
    const beside = placeBeside(job, node.with, place)
    const other = localRings(job, node.with, supply, beside)
    const over = boxToBox(job, node.with, node.from, place)
    const { op } = node
    const split = op === 'split' ? localLines(job, node.with, supply, beside) : []
    const key = keyOf('combine', own.key, other.key, op, over)
    const make = (): Ring[] =>
      op === 'split' ? splitBy(own.made, mappedRings(over, split)) : combine(op, own.made, mappedRings(over, other.made))
    return { key, made: supply.cache.get(key, make, ringBytes) }
  }
  if (node?.kind === 'part') return partRings(job, nodeId, supply, place)
  if (node?.kind === 'trace' || node?.kind === 'clean' || node?.kind === 'clip') {
    const { made: paths, key: from } = localPaths(job, nodeId, supply, place)
    const key = keyOf('rings', from)
    return { key, made: supply.cache.get(key, () => ringsOf(paths), ringBytes) }
  }
  throw new Error(`“${node?.name ?? nodeId}” has no outline.`)
}

/** Rings as lines that end where they begin; growing a line there and back is growing the line. */
const closedLines = (rings: readonly Ring[]): Ring[] => rings.map(closedLine)

/** Polygons in the box of artwork, as they lie on the face: kerfs too are as wide as the surface has them. */
function placedRings(job: JobDocument, nodeId: string, rings: readonly Ring[], place?: string): Ring[] {
  const placed = mappedRings(placeMap(job, nodeId, place), rings)
  const shape = trueShapeOf(job, placeOf(job, nodeId, place))
  return shape ? ringsLaidTrue(shape, placed) : placed
}

/** Outlines in the units and place of the job, as curves where they have them. @returns paths in job mm */
export function outlinePaths(job: JobDocument, nodeId: string, supply: Supply, place?: string): Path[] {
  const map = placeMap(job, nodeId, place)
  const shape = trueShapeOf(job, placeOf(job, nodeId, place))
  const paths = localPaths(job, nodeId, supply, place).made.map((path) => mappedPath(map, path))
  return shape ? paths.map((path) => pathLaidTrue(shape, path, FLATTEN_MM)) : paths
}

/** Outlines as polygons in job mm. */
export function outlineRings(job: JobDocument, nodeId: string, supply: Supply, place?: string): Ring[] {
  return placedRings(job, nodeId, localRings(job, nodeId, supply, place).made, place)
}

/** What an outline in its place depends on. */
export function outlineKey(job: JobDocument, nodeId: string, supply: Supply, place?: string): string {
  const lies = trueKey(job, placeOf(job, nodeId, place))
  return keyOf(localRings(job, nodeId, supply, place).key, placeMap(job, nodeId, place), ...(lies ? [lies] : []))
}

/** What the clean-up steps of a node did, by step. */
export function cleanReports(
  job: JobDocument,
  nodeId: string,
  supply: Supply,
  place?: string,
): Readonly<Record<string, StepReport>> {
  const node = job.nodes[nodeId]
  if (node?.kind !== 'clean') throw new Error(`“${nodeId}” is not cleaned up.`)
  const { reports } = cleanedBy(job, nodeId, node, supply, place).made
  return Object.fromEntries(node.order.flatMap((id, i) => (reports[i] ? [[id, reports[i]]] : [])))
}

/** How wide the strokes of traced lines are, mm; empty for outlines. */
export function strokeWidths(job: JobDocument, nodeId: string, supply: Supply, place?: string): number[] {
  const node = job.nodes[nodeId]
  if (node?.kind !== 'trace') return []
  const { widths, sx } = traced(job, nodeId, node, supply, place)
  return widths.map((width) => width * sx)
}

/** All paths of an outline as polylines; those that close end where they begin. */
const localLines = (job: JobDocument, nodeId: string, supply: Supply, place?: string): Ring[] =>
  localPaths(job, nodeId, supply, place).made.map(lineOf)

/** A path as a polyline; one that closes ends where it begins. */
function lineOf(path: Path): Ring {
  const line = flattenPath(path, FLATTEN_MM)
  return path.closed ? closedLine(line) : line
}

/**
 * What is followed as it is: all lines where a node gives lines, else those that do not close. Those that close end where
 * they begin. @returns polylines in job mm
 */
export function outlineLines(job: JobDocument, nodeId: string, supply: Supply, place?: string): Ring[] {
  const lines = givesLines(job, nodeId)
  return outlinePaths(job, nodeId, supply, place)
    .filter(({ closed }) => lines || !closed)
    .map(lineOf)
}

/** All paths of an outline as lines that are followed as they are; those that close end where they begin. @returns polylines, face mm */
export const followedLines = (job: JobDocument, nodeId: string, supply: Supply, place?: string): Ring[] =>
  outlinePaths(job, nodeId, supply, place).map(lineOf)

/** The same as bands of a width: what a beam that follows them marks. @returns rings, face mm */
export function followedBands(job: JobDocument, nodeId: string, widthMm: number, supply: Supply, place?: string): Ring[] {
  const { made: paths, key } = localPaths(job, nodeId, supply, place)
  const bands = supply.cache.get(keyOf('bands', key, true, widthMm), () => growLines(paths.map(lineOf), widthMm / 2), ringBytes)
  return placedRings(job, nodeId, bands, place)
}

/** Outlines of parts grown further, lines left out: where a cut runs that keeps its kerf off the part. @returns job mm */
export const kerfRings = (job: JobDocument, nodeId: string, byMm: number, supply: Supply, place?: string): Ring[] =>
  givesLines(job, nodeId) ? [] : placedRings(job, nodeId, grownOutlines(job, nodeId, byMm, supply, place), place)

/**
 * The polygons of an outline grown further, kept by content: for kerfs. Lines become bands of that width, nothing where it is
 * not above 0. @returns rings in job mm
 */
export function grownRings(job: JobDocument, nodeId: string, byMm: number, supply: Supply, place?: string): Ring[] {
  const lines = givesLines(job, nodeId)
  const { made: paths, key } = localPaths(job, nodeId, supply, place)
  const open = lines ? paths : paths.filter(({ closed }) => !closed)
  const bands =
    open.length === 0
      ? []
      : supply.cache.get(keyOf('bands', key, lines, byMm), () => growLines(open.map(lineOf), byMm / 2), ringBytes)
  const rings = lines ? bands : [...grownOutlines(job, nodeId, byMm, supply, place), ...bands]
  return placedRings(job, nodeId, rings, place)
}

/**
 * What lies between two distances from the edge of an outline, outside positive. Edges of one shape grown by different
 * distances never meet: the band is one edge within the other. @returns rings by even-odd, job mm
 */
export function bandRings(
  job: JobDocument,
  nodeId: string,
  fromMm: number,
  toMm: number,
  supply: Supply,
  place?: string,
): Ring[] {
  const outer = grownRings(job, nodeId, toMm, supply, place)
  const inner = grownRings(job, nodeId, fromMm, supply, place)
  // Lines become bands of their own, which may lie over the others.
  const plain = localPaths(job, nodeId, supply, place).made.every(({ closed }) => closed)
  return plain ? [...outer, ...inner.map(reversed)] : combine('subtract', outer, inner)
}

function grownOutlines(job: JobDocument, nodeId: string, byMm: number, supply: Supply, place?: string): readonly Ring[] {
  const { made, key } = localRings(job, nodeId, supply, place)
  const { progress } = supply
  return supply.cache.get(
    keyOf('grown', key, byMm),
    () =>
      byMm === 0
        ? offset(made, 0, { progress })
        : offset(grownOutlines(job, nodeId, 0, supply, place), byMm, { simple: true, progress }),
    ringBytes,
  )
}
