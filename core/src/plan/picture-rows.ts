import type { PictureOperation } from '../job/document.ts'
import type { Machine } from '../machine/machine.ts'
import type { Marks } from '../picture/prepare.ts'
import type { MachineFrame } from './frame.ts'
import type { DotGrid } from './grid.ts'
import type { MoveWriter } from './moves.ts'

/** Distance to come from rest to full engraving speed: v²/(2a), mm. */
export const runUp = (machine: Machine, speedMmS: number): number => speedMmS ** 2 / (2 * machine.accelerationMmS2.x)

/** A white gap is crossed at travel speed when that saves more than this, s: below it only the program grows. */
const WORTHWHILE_S = 0.004

/** The gap from which crossing at travel speed pays, mm; Infinity where travel is no quicker. */
export function worthwhileGap(machine: Machine, speedMmS: number): number {
  const top = machine.maxSpeedMmS.x
  if (top <= speedMmS) return Infinity
  const a = machine.accelerationMmS2.x
  // A gap g too short to reach top speed peaks at √(v² + a·g) and takes 2(peak − v)/a; find where g/v − that = saving.
  let low = 0
  let high = 10_000
  for (let i = 0; i < 60; i++) {
    const g = (low + high) / 2
    const peak = Math.min(top, Math.sqrt(speedMmS ** 2 + a * g))
    const changing = (peak ** 2 - speedMmS ** 2) / a
    const time = (2 * (peak - speedMmS)) / a + Math.max(0, g - changing) / peak
    if (g / speedMmS - time > WORTHWHILE_S) high = g
    else low = g
  }
  return high
}

/**
 * Burns the marks row by row. Each row starts and ends with a run-up outside its first and last mark, so that every
 * mark is burned at full speed; white ends are skipped, empty rows too, and long white gaps are crossed at travel
 * speed. Rows go there and back, or all one way.
 * @param s S value of full mark
 */
export function writePictureRows(
  writer: MoveWriter,
  marks: Marks,
  grid: DotGrid,
  operation: PictureOperation,
  machine: Machine,
  frame: MachineFrame,
  s: number,
  progress?: (done: number) => void,
): void {
  const { columns, rows, levels } = marks
  const speed = Math.min(operation.speedMmS, machine.maxSpeedMmS.x)
  const lead = runUp(machine, speed)
  const gapDots = worthwhileGap(machine, speed) / grid.pitch
  const power = new Uint16Array(256)
  for (let level = 1; level < 256; level++) power[level] = Math.max(1, Math.round((level / 255) * s))
  const bedEnd = Math.round(machine.bed.widthMm * 1000)
  const onBed = (x: number): number => (x < 0 ? 0 : x > bedEnd ? bedEnd : x)
  const atX = new Int32Array(columns + 1)
  for (let c = 0; c <= columns; c++) atX[c] = frame.x(grid.x0 + c * grid.pitch)
  let forward = true
  for (let pass = 0; pass < operation.passes; pass++) {
    for (let k = 0; k < rows; k++) {
      if (progress && (k & 63) === 0) progress((pass + k / rows) / operation.passes)
      const r = pass % 2 === 0 ? k : rows - 1 - k
      const base = r * columns
      let first = 0
      while (first < columns && levels[base + first] === 0) first++
      if (first === columns) continue
      let last = columns - 1
      while (levels[base + last] === 0) last--
      const y = frame.y(grid.y0 + (r + 0.5) * grid.pitch)
      if (forward) {
        writer.move(onBed(frame.x(grid.x0 + first * grid.pitch - lead)), y, 0, 0)
        let c = first
        while (c <= last) {
          const level = levels[base + c]
          let end = c + 1
          while (end <= last && levels[base + end] === level) end++
          if (level !== 0) {
            if (c === first) writer.move(atX[c], y, 0, speed)
            writer.move(atX[end], y, power[level], speed)
          } else writer.move(atX[end], y, 0, end - c >= gapDots ? 0 : speed)
          c = end
        }
        writer.move(onBed(frame.x(grid.x0 + (last + 1) * grid.pitch + lead)), y, 0, speed)
      } else {
        writer.move(onBed(frame.x(grid.x0 + (last + 1) * grid.pitch + lead)), y, 0, 0)
        let c = last
        while (c >= first) {
          const level = levels[base + c]
          let end = c - 1
          while (end >= first && levels[base + end] === level) end--
          if (level !== 0) {
            if (c === last) writer.move(atX[c + 1], y, 0, speed)
            writer.move(atX[end + 1], y, power[level], speed)
          } else writer.move(atX[end + 1], y, 0, c - end >= gapDots ? 0 : speed)
          c = end
        }
        writer.move(onBed(frame.x(grid.x0 + first * grid.pitch - lead)), y, 0, speed)
      }
      if (operation.bothWays) forward = !forward
    }
  }
}
