import { describe, expect, it } from 'vitest'
import type { Machine } from '../machine/machine.ts'
import { MACHINES } from '../material/catalogue.ts'
import { MoveWriter } from '../toolpath/moves.ts'
import { MirrorClock } from './mirrors.ts'

const machine: Machine = {
  ...MACHINES.find(({ id }) => id === 'scan-20')!,
  axes: {
    x: { travelMm: 110, speedMmS: 1000, accelerationMmS2: 1000 },
    y: { travelMm: 110, speedMmS: 1000, accelerationMmS2: 1000 },
  },
  head: { kind: 'mirrors', jumpDelayS: { least: 0.001, most: 0.005, fullMm: 20 }, markDelayS: 0.002, turnDelayS: 0.004 },
}

function secondsOf(moves: readonly (readonly [number, number, number, number])[]): number {
  const clock = new MirrorClock(machine)
  clock.section()
  const writer = new MoveWriter({ operation: () => {}, event: () => {}, moves: (block) => clock.add(block) })
  for (const [x, y, s, speed] of moves) writer.move(x * 1000, y * 1000, s, speed)
  writer.flush()
  return clock.finish()[0].seconds
}

describe('the time of a scan head', () => {
  it('is worked out by hand: a jump, two marks around a right corner, a jump back', () => {
    const seconds = secondsOf([
      [10, 0, 0, 0],
      [10, 5, 500, 100],
      [15, 5, 500, 100],
      [15, 30, 0, 0],
    ])
    // Jumps: 10 mm and 25 mm at 1000 mm/s, settling 1 + 4·0.5 ms and 5 ms. Marks: 2 · 5 mm at 100 mm/s, the corner half
    // of 4 ms, and 2 ms before the jump.
    expect(seconds).toBeCloseTo(0.01 + 0.003 + 0.05 + 0.002 + 0.05 + 0.002 + 0.025 + 0.005, 9)
  })

  it('needs no time for straight joints, and never goes faster than its mirrors', () => {
    expect(
      secondsOf([
        [1, 0, 9, 100],
        [2, 0, 9, 100],
        [3, 0, 9, 100],
      ]),
    ).toBeCloseTo(0.03 + 0.002, 9)
    expect(secondsOf([[100, 0, 9, 5000]])).toBeCloseTo(0.1 + 0.002, 9)
  })

  it('is no machine without its delays', () => {
    expect(() => new MirrorClock(MACHINES[0])).toThrow('without the delays')
  })
})
