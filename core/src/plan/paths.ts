import { type Ring, reversed } from '../geometry/ring.ts'
import type { Machine } from '../machine/machine.ts'
import type { MoveWriter } from '../toolpath/moves.ts'
import { BurnedEdges } from './burned-edges.ts'
import { keptPower } from './corner-power.ts'
import { orderCuts } from './order.ts'

/** How paths are followed. */
export interface Following {
  readonly speedMmS: number
  /** Beam of each pass as S value: as many as there are passes. */
  readonly passes: readonly number[]
  /** Beam that is kept where the machine slows down, as S value; absent: it follows the speed all the way. */
  readonly leastS?: number
  /** How far a ring is followed beyond its start after the last pass, µm. */
  readonly overcut?: number
  /** All paths in one pass before the next one begins: told before each pass, and after the last. */
  readonly between?: ((pass: number) => void) | undefined
}

/** A ring to be cut, axes µm, with the ends of its leads. */
export interface LedRing {
  readonly points: Ring
  readonly lead?: {
    readonly start: number
    readonly into?: readonly [number, number]
    readonly out?: readonly [number, number]
  }
}

const speedOf = (speedMmS: number, machine: Machine): number =>
  Math.min(speedMmS, Math.max(machine.axes.x.speedMmS, machine.axes.y.speedMmS))

/** Goes along a line from where the head is, burning. */
export function burnAlong(
  writer: MoveWriter,
  line: Ring,
  s: number,
  { leastS = 0, speedMmS }: Following,
  machine: Machine,
): void {
  const speed = speedOf(speedMmS, machine)
  if (leastS > 0) {
    for (const to of keptPower(line, speed, s, leastS, machine)) writer.move(to.x, to.y, to.s, speed)
    return
  }
  for (let i = 2; i < line.length; i += 2) writer.move(line[i], line[i + 1], s, speed)
}

/** One path in its turn: as it is burned in a pass. */
type Burn = (pass: number) => void

/** Every pass of a path before the next path, or every path in a pass before the next pass. */
function inPasses(burns: readonly Burn[], { passes, between }: Following): void {
  if (!between) {
    for (const burn of burns) for (let pass = 0; pass < passes.length; pass++) burn(pass)
    return
  }
  for (let pass = 0; pass < passes.length; pass++) {
    between(pass)
    for (const burn of burns) burn(pass)
  }
  between(passes.length)
}

/** Cuts closed rings in a good order; what runs along an edge that is cut already is not cut again. */
export function writeRings(
  writer: MoveWriter,
  rings: readonly LedRing[],
  how: Following,
  machine: Machine,
  progress?: (done: number) => void,
): void {
  const all = rings.map(({ points }) => points)
  const starts = rings.map(({ lead }) => lead?.start)
  const edges = new BurnedEdges(all)
  const burns = orderCuts(all, [writer.x, writer.y], { progress, starts }).map(({ ring, start }): Burn => {
    const { points, lead } = rings[ring]
    const runs = edges.left(ring, points, true)
    return runs ? alongRuns(writer, runs, how, machine) : around(writer, points, start, lead, how, machine)
  })
  inPasses(burns, how)
}

/** Around a ring from one of its corners, with its leads, and beyond its start after the last pass. */
function around(writer: MoveWriter, points: Ring, start: number, lead: LedRing['lead'], how: Following, machine: Machine): Burn {
  const n = points.length / 2
  const line = new Float64Array(points.length + 2)
  for (let k = 0; k <= n; k++) line.set([points[2 * ((start + k) % n)], points[2 * ((start + k) % n) + 1]], 2 * k)
  const from = [line[0], line[1]] as const
  const { into, out } = lead ?? {}
  const led = Float64Array.from([...(into ?? []), ...line, ...(out ?? [])])
  const beyond = out || !how.overcut ? undefined : overcutLine(line, how.overcut)
  return (pass) => {
    writer.move(...(into ?? from), 0, 0)
    burnAlong(writer, led, how.passes[pass], how, machine)
    if (beyond && pass === how.passes.length - 1) burnAlong(writer, beyond, how.passes[pass], how, machine)
  }
}

/** The way along a ring from its start on, so far and at most once around: where it began is cut through as well as the rest. */
function overcutLine(line: Ring, far: number): Ring {
  const out = [line[0], line[1]]
  let left = far
  for (let i = 2; i < line.length && left > 0; i += 2) {
    const [dx, dy] = [line[i] - out[out.length - 2], line[i + 1] - out[out.length - 1]]
    const long = Math.hypot(dx, dy)
    const share = long > left ? left / long : 1
    out.push(Math.round(out[out.length - 2] + share * dx), Math.round(out[out.length - 1] + share * dy))
    left -= long
  }
  return Float64Array.from(out)
}

/** Along lines from end to end, there and back again as often as there are passes, each from the end that is nearer. */
function alongRuns(writer: MoveWriter, runs: readonly Ring[], how: Following, machine: Machine): Burn {
  const burn = (line: Ring, pass: number): void => {
    const end = line.length - 2
    const away = (i: number): number => Math.hypot(line[i] - writer.x, line[i + 1] - writer.y)
    const way = away(end) < away(0) ? reversed(line) : line
    writer.move(way[0], way[1], 0, 0)
    burnAlong(writer, way, how.passes[pass], how, machine)
  }
  if (how.between)
    return (pass) => {
      for (const line of runs) burn(line, pass)
    }
  // One line after the other, each with all its passes.
  return (pass) => {
    if (pass === 0) for (const line of runs) for (let each = 0; each < how.passes.length; each++) burn(line, each)
  }
}

/**
 * Follows lines as they are, each from the end that is nearer, there and back again as often as there are passes; what runs along a
 * line that was followed already is left out. @param lines polylines, axes µm
 */
export function writeLines(
  writer: MoveWriter,
  lines: readonly Ring[],
  how: Following,
  machine: Machine,
  progress?: (done: number) => void,
): void {
  const edges = new BurnedEdges(lines)
  const burns = orderCuts(lines, [writer.x, writer.y], { progress }).map(({ ring }): Burn => {
    const runs = edges.left(ring, lines[ring], false) ?? [lines[ring]]
    return alongRuns(writer, runs, how, machine)
  })
  inPasses(burns, how)
}
