import type { Ring } from '../geometry/ring.ts'
import type { Machine } from '../machine/machine.ts'
import type { MoveWriter } from '../toolpath/moves.ts'
import { orderCuts } from './order.ts'

/** How paths are followed. */
interface Following {
  readonly speedMmS: number
  readonly passes: number
  /** Beam as S value. */
  readonly s: number
  /** How far a ring is followed beyond its start after the last pass, µm. */
  readonly overcut?: number
}

const speedOf = (speedMmS: number, machine: Machine): number =>
  Math.min(speedMmS, Math.max(machine.axes.x.speedMmS, machine.axes.y.speedMmS))

/** Cuts closed rings in a good order, every ring as many times as there are passes. @param rings axes µm */
export function writeRings(
  writer: MoveWriter,
  rings: readonly Ring[],
  { speedMmS, passes, s, overcut = 0 }: Following,
  machine: Machine,
  progress?: (done: number) => void,
): void {
  const speed = speedOf(speedMmS, machine)
  for (const { ring, start } of orderCuts(rings, [writer.x, writer.y], progress)) {
    const points = rings[ring]
    const n = points.length / 2
    writer.move(points[2 * start], points[2 * start + 1], 0, 0)
    for (let pass = 0; pass < passes; pass++) {
      for (let k = 1; k <= n; k++) {
        const i = 2 * ((start + k) % n)
        writer.move(points[i], points[i + 1], s, speed)
      }
    }
    goOn(writer, points, start, overcut, s, speed)
  }
}

/** Follows a ring from its start on, so far and at most once around: where it began is cut through as well as the rest. */
function goOn(writer: MoveWriter, points: Ring, start: number, far: number, s: number, speed: number): void {
  const n = points.length / 2
  let left = far
  for (let k = 1; k <= n && left > 0; k++) {
    const i = 2 * ((start + k) % n)
    const [dx, dy] = [points[i] - writer.x, points[i + 1] - writer.y]
    const long = Math.hypot(dx, dy)
    const share = long > left ? left / long : 1
    writer.move(Math.round(writer.x + share * dx), Math.round(writer.y + share * dy), s, speed)
    left -= long
  }
}

/**
 * Follows lines as they are, each from the end that is nearer, there and back again as often as there are passes.
 * @param lines polylines, axes µm
 */
export function writeLines(
  writer: MoveWriter,
  lines: readonly Ring[],
  { speedMmS, passes, s }: Following,
  machine: Machine,
  progress?: (done: number) => void,
): void {
  const speed = speedOf(speedMmS, machine)
  for (const { ring } of orderCuts(lines, [writer.x, writer.y], progress)) {
    const points = lines[ring]
    const last = points.length - 2
    const away = (i: number): number => Math.hypot(points[i] - writer.x, points[i + 1] - writer.y)
    let back = away(last) < away(0)
    writer.move(points[back ? last : 0], points[(back ? last : 0) + 1], 0, 0)
    for (let pass = 0; pass < passes; pass++, back = !back)
      for (let i = 2; i <= last; i += 2) writer.move(points[back ? last - i : i], points[(back ? last - i : i) + 1], s, speed)
  }
}
