import { combine, growLines, offset, offsets, splitBy } from '../geometry/clip.ts'
import { flattenPath, mapPath, type Path, pathFromRing } from '../geometry/path.ts'
import { mapRing, type Ring, reversed } from '../geometry/ring.ts'
import { type Cleaned, cleaned } from '../outline/clean/clean.ts'
import type { StepReport } from '../outline/clean/steps.ts'
import { bridged } from '../outline/hold/bridges.ts'
import { type Bench, keyOf } from './bench.ts'
import { type CleanNode, givesLines, type JobDocument } from './document.ts'
import { FLATTEN_MM, type Keyed, pathBytes, placeOf, ringBytes, ringsOf } from './local.ts'
import { partPaths, partRings } from './parts.ts'
import { traced } from './traced.ts'

/** What can be said of outlines before they are anything else: curves, closed or open. */
function localPaths(job: JobDocument, nodeId: string, bench: Bench): Keyed<readonly Path[]> {
  const node = job.nodes[nodeId]
  if (node?.kind === 'trace') {
    const { paths, key: from, sx, sy, dx, dy } = traced(job, nodeId, node, bench)
    const key = keyOf('paths', from, sx, sy, dx, dy)
    return { key, made: bench.cache.get(key, () => paths.map((path) => mapPath(path, sx, sy, dx, dy)), pathBytes) }
  }
  if (node?.kind === 'part' && node.as !== 'seen') return partPaths(job, nodeId, bench)
  if (node?.kind === 'clean') {
    const { made, key } = cleanedBy(job, nodeId, node, bench)
    return { key, made: made.paths }
  }
  const { made, key: from } = localRings(job, nodeId, bench)
  const key = keyOf('ring paths', from)
  return { key, made: bench.cache.get(key, () => made.map(pathFromRing), pathBytes) }
}

function cleanedBy(job: JobDocument, nodeId: string, { from, steps, order }: CleanNode, bench: Bench): Keyed<Cleaned> {
  const parent = localPaths(job, from, bench)
  const { widthMm, heightMm } = placeOf(job, nodeId)
  const list = order.map((id) => steps[id])
  const key = keyOf('cleaned', parent.key, list, widthMm, heightMm)
  const made = bench.cache.get(
    key,
    () => cleaned(parent.made, list, { widthMm, heightMm }, bench.progress),
    ({ paths }) => pathBytes(paths),
  )
  return { made, key }
}

/** Outlines as polygons. Lines that do not close are there and back: they enclose nothing. */
function localRings(job: JobDocument, nodeId: string, bench: Bench): Keyed<readonly Ring[]> {
  const node = job.nodes[nodeId]
  if (node?.kind === 'offset') {
    const { distanceMm, join, outermost, steps = 1, both } = node
    const parent = localRings(job, node.from, bench)
    const key = keyOf('offset', parent.key, { distanceMm, join, outermost, steps, both })
    const make = (): Ring[] =>
      givesLines(job, node.from)
        ? Array.from({ length: steps }, (_, i) => growLines(closedLines(parent.made), distanceMm * (i + 1))).flat()
        : offsets(parent.made, distanceMm, { join, outermost, steps, both, progress: bench.progress })
    return { key, made: bench.cache.get(key, make, ringBytes) }
  }
  if (node?.kind === 'bridged') {
    const parent = localRings(job, node.from, bench)
    const { widthMm, heightMm } = placeOf(job, nodeId)
    const bridges = Object.values(node.bridges).map((each) => ({ ...each, x: each.x * widthMm, y: each.y * heightMm }))
    const key = keyOf('bridged', parent.key, bridges)
    return { key, made: bench.cache.get(key, () => bridged(parent.made, bridges), ringBytes) }
  }
  if (node?.kind === 'combine') {
    const own = localRings(job, node.from, bench)
    const other = localRings(job, node.with, bench)
    const here = placeOf(job, node.from)
    const there = placeOf(job, node.with)
    const dx = there.xMm - here.xMm
    const dy = there.yMm - here.yMm
    const { op } = node
    const split = op === 'split' ? localLines(job, node.with, bench) : []
    const key = keyOf('combine', own.key, other.key, op, dx, dy)
    const make = (): Ring[] => {
      const there = (rings: readonly Ring[]): Ring[] => rings.map((ring) => mapRing(ring, 1, 1, dx, dy))
      return op === 'split' ? splitBy(own.made, there(split)) : combine(op, own.made, there(other.made))
    }
    return { key, made: bench.cache.get(key, make, ringBytes) }
  }
  if (node?.kind === 'part') return partRings(job, nodeId, bench)
  if (node?.kind === 'trace' || node?.kind === 'clean') {
    const { made: paths, key: from } = localPaths(job, nodeId, bench)
    const key = keyOf('rings', from)
    return { key, made: bench.cache.get(key, () => ringsOf(paths), ringBytes) }
  }
  throw new Error(`“${node?.name ?? nodeId}” has no outline.`)
}

/** Rings as lines that end where they begin; growing a line there and back is growing the line. */
const closedLines = (rings: readonly Ring[]): Ring[] => rings.map((ring) => Float64Array.of(...ring, ring[0], ring[1]))

/** Outlines in the units and place of the job, as curves where they have them. @returns paths in job mm */
export function outlinePaths(job: JobDocument, nodeId: string, bench: Bench): Path[] {
  const { xMm, yMm } = placeOf(job, nodeId)
  return localPaths(job, nodeId, bench).made.map((path) => mapPath(path, 1, 1, xMm, yMm))
}

/** Outlines as polygons in job mm. */
export function outlineRings(job: JobDocument, nodeId: string, bench: Bench): Ring[] {
  const { xMm, yMm } = placeOf(job, nodeId)
  return localRings(job, nodeId, bench).made.map((ring) => mapRing(ring, 1, 1, xMm, yMm))
}

/** What an outline in its place depends on. */
export function outlineKey(job: JobDocument, nodeId: string, bench: Bench): string {
  const { xMm, yMm } = placeOf(job, nodeId)
  return keyOf(localRings(job, nodeId, bench).key, xMm, yMm)
}

/** What the clean-up steps of a node did, by step. */
export function cleanReports(job: JobDocument, nodeId: string, bench: Bench): Readonly<Record<string, StepReport>> {
  const node = job.nodes[nodeId]
  if (node?.kind !== 'clean') throw new Error(`“${nodeId}” is not cleaned up.`)
  const { reports } = cleanedBy(job, nodeId, node, bench).made
  return Object.fromEntries(node.order.flatMap((id, i) => (reports[i] ? [[id, reports[i]]] : [])))
}

/** How wide the strokes of traced lines are, mm; empty for outlines. */
export function strokeWidths(job: JobDocument, nodeId: string, bench: Bench): number[] {
  const node = job.nodes[nodeId]
  if (node?.kind !== 'trace') return []
  const { widths, sx } = traced(job, nodeId, node, bench)
  return widths.map((width) => width * sx)
}

/** All paths of an outline as polylines; those that close end where they begin. */
const localLines = (job: JobDocument, nodeId: string, bench: Bench): Ring[] =>
  localPaths(job, nodeId, bench).made.map((path) => {
    const line = flattenPath(path, FLATTEN_MM)
    return path.closed ? Float64Array.of(...line, line[0], line[1]) : line
  })

/**
 * What is followed as it is: all lines where a node gives lines, else those that do not close. Those that close end where
 * they begin. @returns polylines in job mm
 */
export function outlineLines(job: JobDocument, nodeId: string, bench: Bench): Ring[] {
  const lines = givesLines(job, nodeId)
  return outlinePaths(job, nodeId, bench)
    .filter(({ closed }) => lines || !closed)
    .map((path) => {
      const line = flattenPath(path, FLATTEN_MM)
      return path.closed ? Float64Array.of(...line, line[0], line[1]) : line
    })
}

/** Outlines of parts grown further, lines left out: where a cut runs that keeps its kerf off the part. @returns job mm */
export const kerfRings = (job: JobDocument, nodeId: string, byMm: number, bench: Bench): Ring[] =>
  givesLines(job, nodeId) ? [] : placed(job, nodeId, grownOutlines(job, nodeId, byMm, bench))

/**
 * The polygons of an outline grown further, kept by content: for kerfs. Lines become bands of that width, nothing where it is
 * not above 0. @returns rings in job mm
 */
export function grownRings(job: JobDocument, nodeId: string, byMm: number, bench: Bench): Ring[] {
  const lines = givesLines(job, nodeId)
  const { made: paths, key } = localPaths(job, nodeId, bench)
  const open = lines ? paths : paths.filter(({ closed }) => !closed)
  const bands =
    open.length === 0
      ? []
      : bench.cache.get(
          keyOf('bands', key, lines, byMm),
          () =>
            growLines(
              open.map((path) => {
                const line = flattenPath(path, FLATTEN_MM)
                return path.closed ? Float64Array.of(...line, line[0], line[1]) : line
              }),
              byMm / 2,
            ),
          ringBytes,
        )
  return placed(job, nodeId, lines ? bands : [...grownOutlines(job, nodeId, byMm, bench), ...bands])
}

/**
 * What lies between two distances from the edge of an outline, outside positive. Edges of one shape grown by different
 * distances never meet: the band is one edge within the other. @returns rings by even-odd, job mm
 */
export function bandRings(job: JobDocument, nodeId: string, fromMm: number, toMm: number, bench: Bench): Ring[] {
  const outer = grownRings(job, nodeId, toMm, bench)
  const inner = grownRings(job, nodeId, fromMm, bench)
  // Lines become bands of their own, which may lie over the others.
  const plain = localPaths(job, nodeId, bench).made.every(({ closed }) => closed)
  return plain ? [...outer, ...inner.map(reversed)] : combine('subtract', outer, inner)
}

function grownOutlines(job: JobDocument, nodeId: string, byMm: number, bench: Bench): readonly Ring[] {
  const { made, key } = localRings(job, nodeId, bench)
  const { progress } = bench
  return bench.cache.get(
    keyOf('grown', key, byMm),
    () =>
      byMm === 0 ? offset(made, 0, { progress }) : offset(grownOutlines(job, nodeId, 0, bench), byMm, { simple: true, progress }),
    ringBytes,
  )
}

function placed(job: JobDocument, nodeId: string, rings: readonly Ring[]): Ring[] {
  const { xMm, yMm } = placeOf(job, nodeId)
  return rings.map((ring) => mapRing(ring, 1, 1, xMm, yMm))
}
