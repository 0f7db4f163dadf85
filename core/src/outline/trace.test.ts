import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { coverage } from '../geometry/coverage.ts'
import { CUBIC, flattenPath, LINE } from '../geometry/path.ts'
import { type Ring, ringArea, ringLength } from '../geometry/ring.ts'
import type { GreyPicture } from '../picture/picture.ts'
import { greyPicture, squarePicture } from '../testing/sample-job.ts'
import { DEFAULT_CORNER_DEG, DEFAULT_TOLERANCE_PX, type TraceOptions, trace } from './trace.ts'

const options = (more: Partial<TraceOptions> = {}): TraceOptions => ({
  threshold: 0.5,
  channel: 'grey',
  tolerancePx: DEFAULT_TOLERANCE_PX,
  cornerDeg: DEFAULT_CORNER_DEG,
  minAreaPx: 2,
  ...more,
})

const circle = (cx: number, cy: number, r: number, n = 2000): Ring =>
  Float64Array.from({ length: 2 * n }, (_, i) =>
    i % 2 ? cy + r * Math.sin((Math.PI * (i - 1)) / n) : cx + r * Math.cos((Math.PI * i) / n),
  )

const drawn = (rings: readonly Ring[], side: number, dark = 255, noise = 0): GreyPicture => {
  const covered = coverage(rings, side, side)
  let seed = 7
  const random = (): number => {
    seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0
    return seed / 2 ** 32 - 0.5
  }
  const samples = Uint8Array.from(covered, (c) => Math.max(0, Math.min(255, Math.round(255 - c * dark + noise * random()))))
  return { widthPx: side, heightPx: side, samples, full: 255 }
}

/** A picture with the grain of a scan: Gaussian, of a deviation in levels, on soft edges of grey on grey. */
function grainy(rings: readonly Ring[], side: number, sigma: number): GreyPicture {
  const covered = coverage(rings, side, side)
  let seed = 11
  const random = (): number => {
    seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0
    return (seed + 0.5) / 2 ** 32
  }
  const grain = (): number => sigma * Math.sqrt(-2 * Math.log(random())) * Math.cos(2 * Math.PI * random())
  const samples = Uint8Array.from(covered, (c) => Math.max(0, Math.min(255, Math.round(220 - 185 * c + grain()))))
  return { widthPx: side, heightPx: side, samples, full: 255 }
}

describe('noise', () => {
  const side = 600
  const oval = Float64Array.from({ length: 8000 }, (_, i) => {
    const a = (2 * Math.PI * (i >> 1)) / 4000
    return i % 2 ? 300 + 150 * Math.sin(a) : 300 + 240 * Math.cos(a)
  })

  it.each([
    [0, 14, 0.06],
    [4, 16, 0.06],
    [8, 16, 0.09],
    [14, 20, 0.1],
    [20, 20, 0.14],
  ])('of grain %d leaves an ellipse as few pieces as it needs, and nearer than its pixels are noisy', (sigma, most, near) => {
    const [path, ...more] = trace(grainy([oval], side, sigma), options({ minAreaPx: 20 }))
    expect(more).toEqual([])
    expect(path.kinds.length).toBeLessThanOrEqual(most)
    const flat = flattenPath(path, 0.01)
    let squares = 0
    for (let i = 0; i < flat.length; i += 2) {
      // Distance from an ellipse to first order: its equation by the length of its gradient.
      const [x, y] = [(flat[i] - 300) / 240, (flat[i + 1] - 300) / 150]
      squares += ((x * x + y * y - 1) / (2 * Math.hypot(x / 240, y / 150))) ** 2
    }
    expect(Math.sqrt((2 * squares) / flat.length)).toBeLessThan(near)
  })

  it('leaves a gear its flanks: a straight piece for each, corners where they meet', () => {
    const gear = Float64Array.from(
      Array.from({ length: 24 }, (_, i) =>
        (
          [
            [200, -0.3],
            [240, -0.18],
            [240, 0.18],
            [200, 0.3],
          ] as const
        ).flatMap(([r, o]) => {
          const a = (2 * Math.PI * (i + o)) / 24
          return [300 + r * Math.cos(a), 300 + r * Math.sin(a)]
        }),
      ).flat(),
    )
    for (const sigma of [4, 8, 14]) {
      const [path] = trace(grainy([gear], side, sigma), options({ minAreaPx: 20 }))
      expect(path.kinds.length).toBeLessThanOrEqual(100)
      expect(Math.abs(ringArea(flattenPath(path, 0.01)))).toBeCloseTo(Math.abs(ringArea(gear)), -2)
    }
  })
})

describe('trace', () => {
  it('puts a circle within a tenth of a pixel (RMS) of where it was drawn, with few segments', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 60, max: 68, noNaN: true }),
        fc.double({ min: 60, max: 68, noNaN: true }),
        fc.double({ min: 12, max: 50, noNaN: true }),
        (x, y, r) => {
          const paths = trace(drawn([circle(x, y, r)], 128), options())
          expect(paths).toHaveLength(1)
          expect(paths[0].kinds.length).toBeLessThanOrEqual(8)
          const flat = flattenPath(paths[0], 0.005)
          let squares = 0
          for (let i = 0; i < flat.length; i += 2) squares += (Math.hypot(flat[i] - x, flat[i + 1] - y) - r) ** 2
          expect(Math.sqrt((2 * squares) / flat.length)).toBeLessThan(0.1)
        },
      ),
      { numRuns: 40 },
    )
  })

  it('finds the corners of a square at any place between pixels, and joins them with lines', () => {
    fc.assert(
      fc.property(fc.double({ min: 10, max: 11, noNaN: true }), fc.double({ min: 10, max: 11, noNaN: true }), (x, y) => {
        const square = Float64Array.of(x, y, x + 40, y, x + 40, y + 40, x, y + 40)
        const [path, ...more] = trace(drawn([square], 64), options())
        expect(more).toEqual([])
        expect([...path.kinds]).toEqual([LINE, LINE, LINE, LINE])
        for (let k = 0; k < 4; k++) {
          const px = path.points[2 * k]
          const py = path.points[2 * k + 1]
          const nearest = Math.min(...[0, 2, 4, 6].map((i) => Math.hypot(square[i] - px, square[i + 1] - py)))
          expect(nearest).toBeLessThan(0.12)
        }
      }),
      { numRuns: 40 },
    )
  })

  it('takes a band of tones: a grey disc on white with a black one in it is a ring', () => {
    // Grey 128 out to 40, black out to 20; the blur of both edges is a pixel wide.
    const samples = new Uint8Array(128 * 128)
    for (let y = 0; y < 128; y++)
      for (let x = 0; x < 128; x++) {
        const r = Math.hypot(x + 0.5 - 64, y + 0.5 - 64)
        const step = (edge: number): number => Math.min(1, Math.max(0, edge - r + 0.5))
        samples[y * 128 + x] = Math.round(255 - 127 * step(40) - 128 * step(20))
      }
    const picture = { widthPx: 128, heightPx: 128, samples, full: 255 }
    const area = (paths: ReturnType<typeof trace>): number =>
      paths.reduce((sum, path) => sum + ringArea(flattenPath(path, 0.01)), 0)
    const band = trace(picture, { ...options(), threshold: 0.75, above: 0.25 })
    expect(band).toHaveLength(2)
    expect(Math.abs(area(band))).toBeCloseTo(Math.PI * (40 ** 2 - 20 ** 2), -2)
    expect(Math.abs(area(trace(picture, { ...options(), threshold: 0.75 })))).toBeCloseTo(Math.PI * 40 ** 2, -2)
    expect(() => trace(picture, { ...options(), threshold: 0.3, above: 0.4 })).toThrow(RangeError)
  })

  it('smooths ripples away and keeps what is large', () => {
    const ripple = Float64Array.from({ length: 1440 }, (_, i) => {
      const angle = (Math.PI * (i >> 1)) / 360
      const r = 40 + 1.2 * Math.cos(60 * angle)
      return 64 + r * (i % 2 ? Math.sin(angle) : Math.cos(angle))
    })
    const rough = trace(drawn([ripple], 128), options())
    const even = trace(drawn([ripple], 128), { ...options(), smoothPx: 4 })
    expect(even).toHaveLength(1)
    expect(even[0].kinds.length).toBeLessThan(rough[0].kinds.length / 3)
    const flat = flattenPath(even[0], 0.005)
    for (let i = 0; i < flat.length; i += 2) expect(Math.abs(Math.hypot(flat[i] - 64, flat[i + 1] - 64) - 40)).toBeLessThan(0.6)
  })

  it('turns outer edges clockwise and holes against them; drops specks below the area', () => {
    // Swapping x and y mirrors a circle on the diagonal: the same circle, turned around.
    const hole = circle(50, 50, 20).map((_, i, all) => all[i ^ 1])
    const ringPicture = drawn([circle(50, 50, 40), hole], 100)
    const areas = trace(ringPicture, options()).map((path) => ringArea(flattenPath(path, 0.01)))
    expect(areas.map(Math.sign)).toEqual([1, -1])
    expect(areas[0]).toBeCloseTo(Math.PI * 1600, -2)
    const specks = greyPicture(40, 40, (x, y) => ((x > 5 && x < 30 && y > 5 && y < 30) || (x === 35 && y === 35) ? 0 : 255))
    expect(trace(specks, options({ minAreaPx: 0 }))).toHaveLength(2)
    expect(trace(specks, options({ minAreaPx: 4 }))).toHaveLength(1)
  })

  it('follows soft edges at any angle, diagonals too, as near as it is told to', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(45, 44, 40, 52, 30, 0),
        fc.constantFrom(0.15, 0.4, 0.8),
        fc.constantFrom(1, 2.3, 4),
        (angle, tolerancePx, smoothPx) => {
          const a = (angle * Math.PI) / 180
          const at = (u: number, v: number): [number, number] => [
            100 + u * Math.cos(a) - v * Math.sin(a),
            100 + u * Math.sin(a) + v * Math.cos(a),
          ]
          const bar = Float64Array.from([at(-70, -22), at(70, -22), at(70, 22), at(-70, 22)].flat())
          for (const path of trace(drawn([bar], 200), options({ tolerancePx, smoothPx }))) {
            const flat = flattenPath(path, 0.05)
            for (let i = 0; i < flat.length; i += 2) {
              // In the bar's own directions: how far off its long sides, away from its corners.
              const [dx, dy] = [flat[i] - 100, flat[i + 1] - 100]
              const u = dx * Math.cos(a) + dy * Math.sin(a)
              const v = -dx * Math.sin(a) + dy * Math.cos(a)
              if (Math.abs(u) < 70 - 4 * smoothPx) expect(Math.abs(Math.abs(v) - 22)).toBeLessThan(tolerancePx + 0.35)
            }
          }
        },
      ),
    )
  })

  it('keeps the number of segments down on noisy pictures', () => {
    const paths = trace(drawn([circle(100, 100, 80)], 200, 190, 60), options({ minAreaPx: 40 }))
    expect(paths).toHaveLength(1)
    // A tenth of its points.
    expect(paths[0].kinds.length).toBeLessThan(60)
    expect(paths[0].kinds.filter((k) => k === CUBIC).length).toBeGreaterThan(2)
  })

  it('does not follow the steps of a picture without soft edges', () => {
    for (const r of [35, 80, 150]) {
      const side = 2 * r + 20
      const hard = greyPicture(side, side, (x, y) => (Math.hypot(x + 0.5 - side / 2, y + 0.2 - side / 2) < r ? 20 : 250))
      const [path, ...more] = trace(hard, options())
      expect(more).toEqual([])
      const flat = flattenPath(path, 0.01)
      expect(ringLength(flat) / (2 * Math.PI * r)).toBeCloseTo(1, 2)
      expect(Math.abs(ringArea(flat)) / (Math.PI * r * r)).toBeCloseTo(1, 2)
      expect(path.kinds.length).toBeLessThan(2 * Math.PI * r * 0.1)
    }
  })

  it('follows the threshold: a darker one is a smaller shape', () => {
    const soft = greyPicture(100, 100, (x, y) => Math.min(255, Math.hypot(x - 50, y - 50) * 6))
    const areaAt = (threshold: number): number =>
      trace(soft, options({ threshold })).reduce((sum, path) => sum + ringArea(flattenPath(path, 0.01)), 0)
    const areas = [0.2, 0.4, 0.6, 0.8].map(areaAt)
    for (let i = 1; i < 4; i++) expect(areas[i]).toBeGreaterThan(areas[i - 1] * 1.3)
    expect(areaAt(0.5)).toBeCloseTo(Math.PI * ((0.5 * 255) / 6) ** 2, -2)
  })

  it('traces transparency, and the whole picture where there is none', () => {
    const alpha = squarePicture(20, 5).samples.map((v) => 255 - v) as Uint8Array
    const white = new Uint8Array(900).fill(255)
    const shape = trace({ widthPx: 30, heightPx: 30, samples: white, full: 255, alpha }, options({ channel: 'alpha' }))
    expect(shape.map((path) => Math.round(ringArea(flattenPath(path, 0.01))))).toEqual([400])
    const whole = trace({ widthPx: 30, heightPx: 20, samples: white.slice(0, 600), full: 255 }, options({ channel: 'alpha' }))
    expect(whole.map((path) => Math.round(ringArea(flattenPath(path, 0.01))))).toEqual([600])
    expect(trace({ widthPx: 30, heightPx: 30, samples: white, full: 255, alpha }, options())).toEqual([])
  })

  it('gives the same for 16 bits a sample as for 8', () => {
    const picture = drawn([circle(40, 40, 25)], 80)
    const deep = { ...picture, samples: Uint16Array.from(picture.samples, (v) => v * 257), full: 65_535 }
    expect(trace(deep, options())).toEqual(trace(picture, options()))
  })

  it('survives any picture: closed paths with finite points, all white and all black too', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 14 }),
        fc.integer({ min: 1, max: 14 }),
        fc.infiniteStream(fc.integer({ min: 0, max: 255 })),
        (w, h, stream) => {
          const samples = Uint8Array.from({ length: w * h }, () => stream.next().value as number)
          for (const path of trace({ widthPx: w, heightPx: h, samples, full: 255 }, options({ minAreaPx: 0 }))) {
            expect(path.closed).toBe(true)
            expect(path.points.every(Number.isFinite)).toBe(true)
            const end = path.points.length - 2
            expect(path.points[end]).toBeCloseTo(path.points[0], 6)
            expect(path.points[end + 1]).toBeCloseTo(path.points[1], 6)
          }
        },
      ),
      { numRuns: 300 },
    )
    expect(
      trace(
        greyPicture(9, 9, () => 255),
        options(),
      ),
    ).toEqual([])
    expect(
      trace(
        greyPicture(9, 9, () => 0),
        options(),
      ),
    ).toHaveLength(1)
  })

  it('looks at edges near the frame of a wide picture without leaving it', () => {
    // Grey paper in the first row, ink in the second: the edge is looked for upwards, beyond the picture.
    const wide = greyPicture(4000, 8, (_x, y) => [120, 20, 20, 120, 120, 20, 20, 120][y])
    expect(trace(wide, options({ threshold: 0.3 })).length).toBeGreaterThan(0)
  })

  it('can be cancelled, and refuses a threshold that is none', () => {
    const stop = (): never => {
      throw new Error('stopped')
    }
    expect(() => trace(squarePicture(30, 5), options({ progress: stop }))).toThrow('stopped')
    expect(() => trace(squarePicture(30, 5), options({ threshold: 2 }))).toThrow(RangeError)
  })
})
