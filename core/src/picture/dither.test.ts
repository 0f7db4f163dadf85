import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { prepared } from '../testing/prepared.ts'
import { greyPicture } from '../testing/sample-job.ts'
import { blueNoiseRanks, TILE } from './blue-noise.ts'
import { KERNELS, type Kernel } from './steps.ts'
import { voidAndCluster } from './void-and-cluster.ts'

/** Dots of tones 0–1, asked for exactly: 16-bit samples, one a dot. */
function dots(
  columns: number,
  rows: number,
  wanted: (x: number, y: number) => number,
  kernel: Kernel = 'floyd-steinberg',
  more: object = {},
): Uint8Array {
  const samples = new Uint16Array(columns * rows)
  for (let y = 0; y < rows; y++)
    for (let x = 0; x < columns; x++) samples[y * columns + x] = Math.round(65_535 * (1 - wanted(x, y)))
  return prepared({ widthPx: columns, heightPx: rows, samples, full: 65_535 }, columns, rows, { kernel, ...more }).levels
}

const mean = (levels: Uint8Array): number => levels.reduce((sum, v) => sum + v / 255, 0) / levels.length

/** Published weights: [dx ahead, dy, parts] and the divisor. */
const PUBLISHED: Partial<Record<Kernel, readonly [number, readonly (readonly [number, number, number])[]]>> = {
  'floyd-steinberg': [
    16,
    [
      [1, 0, 7],
      [-1, 1, 3],
      [0, 1, 5],
      [1, 1, 1],
    ],
  ],
  'jarvis-judice-ninke': [
    48,
    [
      [1, 0, 7],
      [2, 0, 5],
      [-2, 1, 3],
      [-1, 1, 5],
      [0, 1, 7],
      [1, 1, 5],
      [2, 1, 3],
      [-2, 2, 1],
      [-1, 2, 3],
      [0, 2, 5],
      [1, 2, 3],
      [2, 2, 1],
    ],
  ],
  stucki: [
    42,
    [
      [1, 0, 8],
      [2, 0, 4],
      [-2, 1, 2],
      [-1, 1, 4],
      [0, 1, 8],
      [1, 1, 4],
      [2, 1, 2],
      [-2, 2, 1],
      [-1, 2, 2],
      [0, 2, 4],
      [1, 2, 2],
      [2, 2, 1],
    ],
  ],
  burkes: [
    32,
    [
      [1, 0, 8],
      [2, 0, 4],
      [-2, 1, 2],
      [-1, 1, 4],
      [0, 1, 8],
      [1, 1, 4],
      [2, 1, 2],
    ],
  ],
  sierra: [
    32,
    [
      [1, 0, 5],
      [2, 0, 3],
      [-2, 1, 2],
      [-1, 1, 4],
      [0, 1, 5],
      [1, 1, 4],
      [2, 1, 2],
      [-1, 2, 2],
      [0, 2, 3],
      [1, 2, 2],
    ],
  ],
  'sierra-two-row': [
    16,
    [
      [1, 0, 4],
      [2, 0, 3],
      [-2, 1, 1],
      [-1, 1, 2],
      [0, 1, 3],
      [1, 1, 2],
      [2, 1, 1],
    ],
  ],
  'sierra-lite': [
    4,
    [
      [1, 0, 2],
      [-1, 1, 1],
      [0, 1, 1],
    ],
  ],
  atkinson: [
    8,
    [
      [1, 0, 1],
      [2, 0, 1],
      [-1, 1, 1],
      [0, 1, 1],
      [1, 1, 1],
      [0, 2, 1],
    ],
  ],
}

/** Error diffusion the plain way, in numbers with fractions. */
function plain(
  kernel: Kernel,
  columns: number,
  rows: number,
  wanted: (x: number, y: number) => number,
  serpentine: boolean,
): number[] {
  const [divisor, weights] = PUBLISHED[kernel]!
  const field = Array.from({ length: rows }, (_, y) => Array.from({ length: columns }, (_, x) => wanted(x, y)))
  const out: number[] = []
  for (let y = 0; y < rows; y++) {
    const way = serpentine && y % 2 ? -1 : 1
    for (let i = 0; i < columns; i++) {
      const x = way === 1 ? i : columns - 1 - i
      const mark = field[y][x] >= 0.5 ? 1 : 0
      out[y * columns + x] = mark * 255
      const e = field[y][x] - mark
      for (const [dx, dy, parts] of weights) {
        const to = x + way * dx
        if (y + dy < rows && to >= 0 && to < columns) field[y + dy][to] += (e * parts) / divisor
      }
    }
  }
  return out
}

const DIFFUSING = Object.keys(PUBLISHED) as Kernel[]

describe.each(DIFFUSING)('error diffusion: %s', (kernel) => {
  it.each([true, false])('gives the dots of the published weights, there and back: %s', (serpentine) => {
    const tone = (x: number, y: number): number => (((x * 37 + y * 91) % 64) + 0.37) / 65
    const ours = dots(23, 19, tone, kernel, { serpentine })
    const truth = plain(kernel, 23, 19, tone, serpentine)
    // Tones that stand on the edge may fall either way by rounding, and what follows with them.
    expect(ours.reduce((sum, v, i) => sum + (v === truth[i] ? 0 : 1), 0)).toBeLessThanOrEqual(0.05 * truth.length)
  })

  it('leaves white white and black black, in any shape', () => {
    for (const [w, h] of [
      [31, 9],
      [1, 40],
      [40, 1],
      [2, 2],
    ]) {
      expect(dots(w, h, () => 0, kernel).every((v) => v === 0)).toBe(true)
      expect(dots(w, h, () => 1, kernel).every((v) => v === 255)).toBe(true)
    }
  })
})

describe('the mean tone', () => {
  const keeping = KERNELS.filter((kernel) => !['atkinson', 'threshold'].includes(kernel))
  it.each(keeping)('of %s is that of the picture, within 0.5 %%', (kernel) => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 1, noNaN: true }), fc.constantFrom(0, 0.07, -0.2), (level, slope) => {
        const side = 256
        const tone = (x: number): number => Math.min(1, Math.max(0, level + (slope * (x - side / 2)) / side))
        let wanted = 0
        for (let x = 0; x < side; x++) wanted += tone(x) / side
        expect(Math.abs(mean(dots(side, side, tone, kernel)) - wanted)).toBeLessThan(0.005)
      }),
      { numRuns: 25 },
    )
  })

  it('of a clustered dot is kept at any ruling and angle', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.05, max: 0.95, noNaN: true }),
        fc.double({ min: 20, max: 85, noNaN: true }),
        fc.double({ min: 0, max: 90, noNaN: true }),
        (level, linesPerInch, angleDeg) => {
          expect(Math.abs(mean(dots(400, 400, () => level, 'clustered', { linesPerInch, angleDeg })) - level)).toBeLessThan(0.005)
        },
      ),
      { numRuns: 40 },
    )
  })
})

describe('screens', () => {
  it('of a clustered dot with five dots a period keep every tone', () => {
    for (let level = 0.02; level < 1; level += 0.07) {
      const levels = dots(320, 320, () => level, 'clustered', { linesPerInch: 50.8, angleDeg: 0 })
      expect(Math.abs(mean(levels) - level)).toBeLessThan(0.005)
    }
  })

  it('cluster as many dots together as the ruling says', () => {
    // 50.8 lines an inch at 0.1 mm: five dots a period.
    const levels = dots(100, 100, () => 0.3, 'clustered', { linesPerInch: 50.8, angleDeg: 0 })
    const repeats = (dx: number, dy: number): number => {
      let same = 0
      for (let y = 0; y < 90; y++)
        for (let x = 0; x < 90; x++) if (levels[y * 100 + x] === levels[(y + dy) * 100 + x + dx]) same++
      return same / 8100
    }
    expect(repeats(5, 0)).toBeGreaterThan(0.85)
    expect(repeats(0, 5)).toBeGreaterThan(0.85)
    expect(repeats(2, 0)).toBeLessThan(0.7)
  })

  it('of Bayer place one dot of sixteen where one sixteenth is wanted, evenly', () => {
    const levels = dots(16, 16, () => 1 / 16, 'bayer-4')
    expect(levels.filter((v) => v).length).toBe(16)
    const at = levels.indexOf(255)
    for (let k = 0; k < 16; k++)
      expect(levels[(at % 4) + 4 * (k % 4) + 16 * (Math.floor(at / 16) + 4 * Math.floor(k / 4))]).toBe(255)
  })

  it('of blue noise have no dots side by side in light tones, and ship as they are made', () => {
    const ranks = blueNoiseRanks()
    expect([...ranks]).toEqual([...voidAndCluster(TILE, 20)])
    expect(new Set(ranks).size).toBe(TILE * TILE)
    const levels = dots(TILE, TILE, () => 0.05, 'blue-noise')
    levels.forEach((v, i) => {
      if (!v) return
      const x = i % TILE
      for (const near of [i + 1, i - 1, i + TILE, i - TILE])
        if (near >= 0 && near < levels.length && Math.abs((near % TILE) - x) <= 1) expect(levels[near]).toBe(0)
    })
  })
})

describe('the others', () => {
  it('threshold parts at the middle, none keeps grey', () => {
    const tones = [0.2, 0.501, 0.9]
    expect([...dots(3, 1, (x) => tones[x], 'threshold')]).toEqual([0, 255, 255])
    expect([...dots(3, 1, (x) => Math.min(1, x * 0.503), 'none')]).toEqual([0, 128, 255])
  })

  it('dot gain is made up for by asking for less', () => {
    const picture = greyPicture(200, 200, () => 127)
    const marks = prepared(picture, 200, 200, {}, undefined, { compensate: (tone) => tone ** 2 })
    expect(marks.wantedTone).toBeCloseTo(128 / 255, 3)
    expect(marks.meanTone).toBeCloseTo((128 / 255) ** 2, 2)
  })
})

describe('small pictures to look at', () => {
  /** A ramp from nothing to full, as rows of dots. */
  const shown = (kernel: Kernel): string => {
    const levels = dots(32, 6, (x) => (x + 0.5) / 32, kernel, { linesPerInch: 42, angleDeg: 45 })
    return Array.from({ length: 6 }, (_, y) =>
      [...levels.subarray(32 * y, 32 * y + 32)].map((v) => (v ? '#' : '.')).join(''),
    ).join('\n')
  }

  it.each(['floyd-steinberg', 'atkinson', 'bayer-4', 'clustered', 'blue-noise'] as const)('a ramp in %s', (kernel) => {
    expect(`\n${shown(kernel)}\n`).toMatchSnapshot()
  })
})
