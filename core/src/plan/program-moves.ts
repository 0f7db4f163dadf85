import type { Bench } from '../job/bench.ts'
import type { JobDocument, ProgramOperation } from '../job/document.ts'
import { programFrame, programOfNode } from '../job/program.ts'
import type { MachineFrame } from './frame.ts'
import type { MoveWriter } from './moves.ts'

/** The moves of a program from elsewhere, where it is placed. */
export function writeProgramMoves(
  writer: MoveWriter,
  job: JobDocument,
  operation: ProgramOperation,
  bench: Bench,
  frame: MachineFrame,
): void {
  const read = programOfNode(job, operation.node, bench)
  const { count, x, y, s, speed } = read.moves
  const place = programFrame(job, operation.node, read)
  const full = job.machine.fullPowerS
  for (let pass = 0; pass < operation.passes; pass++) {
    for (let i = 0; i < count; i++) {
      const beam = Math.min(full, Math.round(s[i] * operation.power))
      writer.move(frame.x(place.x(x[i] / 1000)), frame.y(place.y(y[i] / 1000)), beam, speed[i])
    }
  }
}
