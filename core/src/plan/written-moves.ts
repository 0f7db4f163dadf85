import type { Machine } from '../machine/machine.ts'
import type { Moves } from '../process/strokes.ts'
import { composed } from '../space/affine.ts'
import type { Chart } from '../space/chart.ts'
import type { MoveWriter } from '../toolpath/moves.ts'

/** The moves of a program from elsewhere, where it is placed. */
export function writeMoves(writer: MoveWriter, { moves, toFace, power, passes }: Moves, machine: Machine, chart: Chart): void {
  const { count, x, y, s, speed } = moves
  const [a, b, c, d, e, f] = composed(toFace, chart.toAxes)
  const full = machine.fullPowerS
  for (let pass = 0; pass < passes; pass++) {
    for (let i = 0; i < count; i++) {
      const px = x[i] / 1000
      const py = y[i] / 1000
      const beam = Math.min(full, Math.round(s[i] * power))
      writer.move(Math.round((e + a * px + c * py) * 1000), Math.round((f + d * py + b * px) * 1000), beam, speed[i])
    }
  }
}
