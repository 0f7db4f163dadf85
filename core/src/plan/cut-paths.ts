import type { Ring } from '../geometry/ring.ts'
import type { CutOperation } from '../job/document.ts'
import type { Machine } from '../machine/machine.ts'
import type { MachineFrame } from './frame.ts'
import type { MoveWriter } from './moves.ts'
import { orderCuts } from './order.ts'

/** Cuts closed rings in a good order, every ring as many times as there are passes. @param rings middle lines, job mm */
export function writeCutPaths(
  writer: MoveWriter,
  rings: readonly Ring[],
  operation: CutOperation,
  machine: Machine,
  frame: MachineFrame,
  s: number,
  progress?: (done: number) => void,
): void {
  const speed = speedOf(operation, machine)
  const inMachine = rings.map((ring) => framed(ring, frame))
  for (const { ring, start } of orderCuts(inMachine, [writer.x, writer.y], progress)) {
    const points = inMachine[ring]
    const n = points.length / 2
    writer.move(points[2 * start], points[2 * start + 1], 0, 0)
    for (let pass = 0; pass < operation.passes; pass++) {
      for (let k = 1; k <= n; k++) {
        const i = 2 * ((start + k) % n)
        writer.move(points[i], points[i + 1], s, speed)
      }
    }
  }
}

const speedOf = (operation: CutOperation, machine: Machine): number =>
  Math.min(operation.speedMmS, Math.max(machine.maxSpeedMmS.x, machine.maxSpeedMmS.y))

function framed(ring: Ring, frame: MachineFrame): Ring {
  const out = new Float64Array(ring.length)
  for (let i = 0; i < ring.length; i += 2) {
    out[i] = frame.x(ring[i])
    out[i + 1] = frame.y(ring[i + 1])
  }
  return out
}

/**
 * Follows lines as they are, each from the end that is nearer, there and back again as often as there are passes.
 * @param lines polylines, job mm
 */
export function writeLinePaths(
  writer: MoveWriter,
  lines: readonly Ring[],
  operation: CutOperation,
  machine: Machine,
  frame: MachineFrame,
  s: number,
  progress?: (done: number) => void,
): void {
  const speed = speedOf(operation, machine)
  const inMachine = lines.map((line) => framed(line, frame))
  for (const { ring } of orderCuts(inMachine, [writer.x, writer.y], progress)) {
    const points = inMachine[ring]
    const last = points.length - 2
    const away = (i: number): number => Math.hypot(points[i] - writer.x, points[i + 1] - writer.y)
    let back = away(last) < away(0)
    writer.move(points[back ? last : 0], points[(back ? last : 0) + 1], 0, 0)
    for (let pass = 0; pass < operation.passes; pass++, back = !back)
      for (let i = 2; i <= last; i += 2) writer.move(points[back ? last - i : i], points[(back ? last - i : i) + 1], s, speed)
  }
}
