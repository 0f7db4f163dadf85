import { Arena, kernelMaker } from '../kernels/kernel.ts'
import { ROWS_WASM } from '../kernels/rows.wasm.ts'
import type { Machine } from '../machine/machine.ts'
import type { Rows } from '../process/strokes.ts'
import type { Chart } from '../space/chart.ts'
import type { MoveWriter } from '../toolpath/moves.ts'

/** Distance to come from rest to full engraving speed: v²/(2a), mm; mirrors need none. */
export const runUp = (machine: Machine, speedMmS: number): number =>
  machine.head.kind === 'mirrors' ? 0 : speedMmS ** 2 / (2 * machine.axes.x.accelerationMmS2)

/** A white gap is crossed at travel speed when that saves more than this, s: below it only the program grows. */
const WORTHWHILE_S = 0.004
/** For mirrors, that do everything quicker, s. */
const MIRRORS_WORTHWHILE_S = 0.0005

/** The gap from which crossing at travel speed pays, mm; Infinity where travel is no quicker. */
export function worthwhileGap(machine: Machine, speedMmS: number): number {
  const top = machine.axes.x.speedMmS
  if (top <= speedMmS) return Infinity
  const a = machine.axes.x.accelerationMmS2
  // A gap g too short to reach top speed peaks at √(v² + a·g) and takes 2(peak − v)/a; find where g/v − that = saving.
  let low = 0
  let high = 10_000
  for (let i = 0; i < 60; i++) {
    const g = (low + high) / 2
    if (machine.head.kind === 'mirrors') {
      const { jumpDelayS, markDelayS } = machine.head
      const delay = jumpDelayS.least + (jumpDelayS.most - jumpDelayS.least) * Math.min(1, g / jumpDelayS.fullMm) + markDelayS
      if (g / speedMmS - g / top - delay > MIRRORS_WORTHWHILE_S) high = g
      else low = g
      continue
    }
    const peak = Math.min(top, Math.sqrt(speedMmS ** 2 + a * g))
    const changing = (peak ** 2 - speedMmS ** 2) / a
    const time = (2 * (peak - speedMmS)) / a + Math.max(0, g - changing) / peak
    if (g / speedMmS - time > WORTHWHILE_S) high = g
    else low = g
  }
  return high
}

/** What `kernels/src/rows` does: see there. */
interface RowsKernel {
  freeFrom(): number
  burnRow(
    levels: number,
    first: number,
    last: number,
    forward: number,
    borders: number,
    power: number,
    gapDots: number,
    from: number,
    to: number,
    feed: number,
    x: number,
    s: number,
    speed: number,
  ): number
  firstMark(levels: number, columns: number): number
  lastMark(levels: number, columns: number): number
}

const rowsKernel = kernelMaker<RowsKernel>(ROWS_WASM)

/**
 * Burns the marks row by row. Each row starts and ends with a run-up outside its first and last mark, so that every
 * mark is burned at full speed; white ends are skipped, empty rows too, and long white gaps are crossed at travel
 * speed. Rows go there and back, or all one way.
 * @param chart of the workpiece that the field lies on: rows run along the machine's own x
 */
export function writePictureRows(
  writer: MoveWriter,
  { field, marks, powers, passShares, speedMmS, bothWays, runUpMm }: Rows,
  machine: Machine,
  chart: Chart,
  progress?: (done: number) => void,
): void {
  const { columns, rows, levels } = marks
  const { pitch, x0, y0 } = field
  const passes = passShares.length
  const speed = Math.min(speedMmS, machine.axes.x.speedMmS)
  const lead = runUpMm ?? runUp(machine, speed)
  const gapDots = worthwhileGap(machine, speed) / pitch
  const bedEnd = Math.round(machine.axes.x.travelMm * 1000)
  const onBed = (x: number): number => Math.min(bedEnd, Math.max(0, x))
  const { run, room } = rowsKernel.fresh()
  const arena = new Arena(run.freeFrom())
  const rowAt = arena.take(columns)
  const borders = arena.take(4 * columns + 4)
  const power = arena.take(512)
  const x = arena.take(4 * columns + 16)
  const feed = arena.take(4 * columns + 16)
  const beam = arena.take(2 * columns + 8)
  const memory = room(arena.bytes)
  const borderX = new Int32Array(memory.buffer, borders, columns + 1)
  for (let c = 0; c <= columns; c++) borderX[c] = chart.sweepX(x0 + c * pitch)
  const beamOf = new Uint16Array(memory.buffer, power, 256)
  let forward = true
  for (let pass = 0; pass < passes; pass++) {
    const share = passShares[pass] * machine.fullPowerS
    for (let level = 1; level < 256; level++) beamOf[level] = Math.max(1, Math.round(powers[level] * share))
    for (let k = 0; k < rows; k++) {
      if (progress && (k & 63) === 0) progress((pass + k / rows) / passes)
      const r = pass % 2 === 0 ? k : rows - 1 - k
      memory.set(levels.subarray(r * columns, (r + 1) * columns), rowAt)
      const first = run.firstMark(rowAt, columns)
      if (first < 0) continue
      const last = run.lastMark(rowAt, columns)
      const before = onBed(chart.sweepX(x0 + first * pitch - lead))
      const behind = onBed(chart.sweepX(x0 + (last + 1) * pitch + lead))
      const [from, to] = forward ? [before, behind] : [behind, before]
      const count = run.burnRow(rowAt, first, last, forward ? 1 : 0, borders, power, gapDots, from, to, speed, x, beam, feed)
      writer.row(
        chart.sweepY(y0 + (r + 0.5) * pitch),
        new Int32Array(memory.buffer, x, count),
        new Uint16Array(memory.buffer, beam, count),
        new Float32Array(memory.buffer, feed, count),
      )
      if (bothWays) forward = !forward
    }
  }
}
