import type { Machine } from '../machine/machine.ts'
import type { SweptSet } from '../process/area/fill.ts'
import type { Sweeps, Threads } from '../process/strokes.ts'
import { composed } from '../space/affine.ts'
import { type Chart, pointsToAxes } from '../space/chart.ts'
import type { MoveWriter } from '../toolpath/moves.ts'
import { burnAlong, type Following } from './paths.ts'
import { worthwhileGap } from './picture-rows.ts'

/** How a machine drives along a straight line: each axis does its part. */
interface Drive {
  /** mm/s */
  readonly speed: number
  /** To come from rest to that speed: v²/(2a), mm; mirrors need none. */
  readonly runUp: number
}

/** @param ux,uy direction on the axes, of length 1 */
function driveAlong({ axes, head }: Machine, speedMmS: number, ux: number, uy: number): Drive {
  const along = (x: number, y: number): number => Math.min(x / Math.max(1e-9, Math.abs(ux)), y / Math.max(1e-9, Math.abs(uy)))
  const speed = Math.min(speedMmS, along(axes.x.speedMmS, axes.y.speedMmS))
  const acceleration = along(axes.x.accelerationMmS2, axes.y.accelerationMmS2)
  return { speed, runUp: head.kind === 'mirrors' ? 0 : speed ** 2 / (2 * acceleration) }
}

/**
 * Burns lines set by set, pass by pass. Each line starts and ends with a run-up outside, as far as the bed goes, so that it is
 * burned at full speed; long gaps in it are crossed at travel speed.
 */
export function writeSweeps(
  writer: MoveWriter,
  { sets, bothWays, runUpMm }: Sweeps,
  { passes, speedMmS, between }: Following,
  machine: Machine,
  chart: Chart,
  progress?: (done: number) => void,
): void {
  for (const [pass, s] of passes.entries()) {
    between?.(pass)
    for (const [i, set] of sets.entries()) {
      if (i % 16 === 0) progress?.((pass + i / sets.length) / passes.length)
      writeSet(writer, set, { s, speedMmS, bothWays, runUpMm }, machine, chart)
    }
  }
  between?.(passes.length)
}

function writeSet(
  writer: MoveWriter,
  { lines: { v, first, u }, toFace }: SweptSet,
  { s, speedMmS, bothWays, runUpMm }: { readonly s: number } & Pick<Sweeps, 'speedMmS' | 'bothWays' | 'runUpMm'>,
  machine: Machine,
  chart: Chart,
): void {
  const [a, b, c, d, e, f] = composed(toFace, chart.toAxes)
  const { speed, runUp: needed } = driveAlong(machine, speedMmS, a, b)
  const runUp = runUpMm ?? needed
  const gap = worthwhileGap(machine, speed)
  const [wide, deep] = [machine.axes.x.travelMm, machine.axes.y.travelMm]
  const go = (at: number, height: number, beam: number, speed: number): void =>
    writer.move(Math.round((e + a * at + c * height) * 1000), Math.round((f + d * height + b * at) * 1000), beam, speed)
  /** As far as a line can go on over the bed, from a place on it. @param way 1 or −1 */
  const room = (at: number, height: number, way: number): number => {
    const left = (place: number, by: number, most: number): number =>
      Math.abs(by) < 1e-9 ? Infinity : Math.max(0, (by > 0 ? most - place : -place) / by)
    const around = machine.turns ? Infinity : left(f + d * height + b * at, b * way, deep)
    return Math.min(left(e + a * at + c * height, a * way, wide), around)
  }
  let forward = true
  for (let k = 0; k < v.length; k++) {
    const [from, to] = [first[k], first[k + 1]]
    if (from === to) continue
    const way = forward ? 1 : -1
    const at = (i: number): number => (forward ? u[from + i] : u[to - 1 - i])
    const n = to - from
    go(at(0) - way * Math.min(runUp, room(at(0), v[k], -way)), v[k], 0, 0)
    for (let i = 0; i + 1 < n; i += 2) {
      // Up to full speed, or over a gap.
      if (i === 0 || Math.abs(at(i) - at(i - 1)) <= gap) go(at(i), v[k], 0, speed)
      else go(at(i), v[k], 0, 0)
      go(at(i + 1), v[k], s, speed)
    }
    go(at(n - 1) + way * Math.min(runUp, room(at(n - 1), v[k], way)), v[k], 0, speed)
    if (bothWays) forward = !forward
  }
}

/** Follows lines one after the other as they are, pass by pass. */
export function writeThreads(
  writer: MoveWriter,
  { threads }: Threads,
  how: Following,
  machine: Machine,
  chart: Chart,
  progress?: (done: number) => void,
): void {
  const { passes, between } = how
  for (const [pass, s] of passes.entries()) {
    between?.(pass)
    for (const [done, thread] of threads.entries()) {
      if (done % 64 === 0) progress?.((pass + done / threads.length) / passes.length)
      const points = pointsToAxes(chart, thread)
      writer.move(points[0], points[1], 0, 0)
      burnAlong(writer, points, s, how, machine)
    }
  }
  between?.(passes.length)
}
