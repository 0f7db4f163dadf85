import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { calibrated, type MarksView } from './calibrate.ts'
import { type Camera, sightOf, standsOver, turnFromMatrix, turnMatrix } from './camera.ts'
import { homographyOf, throughHomography } from './homography.ts'
import { bent, type Lens, unbent } from './lens.ts'

const BROWN: Lens = { kind: 'brown', k1: -0.21, k2: 0.06, p1: 0.0012, p2: -0.0007 }
const WIDE: Lens = { kind: 'fisheye', k1: -0.03, k2: 0.004, k3: -0.001 }

/** Over the middle of a bed of 600 × 400 mm, a little askew. */
const over = (lens: Lens, focalPx: number, heightMm: number): Camera => {
  const turn = [0.03, -0.02, 0.01] as const
  const m = turnMatrix(turn)
  const at = [305, 190, -heightMm]
  const shift = [0, 3, 6].map((r) => -(m[r] * at[0] + m[r + 1] * at[1] + m[r + 2] * at[2])) as [number, number, number]
  return { widthPx: 2592, heightPx: 1944, focalPx, axisPx: [1303, 961], lens, turn, shift }
}

let seed = 1
const random = (): number => {
  seed = (seed * 48271) % 2147483647
  return seed / 2147483647
}
const noise = (px: number): number => px * (random() + random() + random() + random() - 2) * 1.7

/** Dots of a grid over the bed as a camera sees them at a height, off by a little. */
const view = (camera: Camera, heightMm: number, px: number, pose?: readonly [number, number, number]): MarksView => {
  const { seen } = sightOf(camera)
  const spots: MarksView['spots'][number][] = []
  const [bx, by, turn] = pose ?? [0, 0, 0]
  for (let y = 20; y <= 380; y += 30)
    for (let x = 20; x <= 580; x += 40) {
      const [px0, py0] = [bx + Math.cos(turn) * x - Math.sin(turn) * y, by + Math.sin(turn) * x + Math.cos(turn) * y]
      const at = seen(px0, py0, heightMm)
      if (at && at[0] > 0 && at[1] > 0 && at[0] < camera.widthPx && at[1] < camera.heightPx)
        spots.push({ x, y, u: at[0] + noise(px), v: at[1] + noise(px) })
    }
  return { heightMm, spots, ...(pose ? { anyhow: true } : {}) }
}

/** How far a calibrated camera is off the true one, over the whole bed, mm. */
const offOver = (camera: Camera, truth: Camera, heightMm: number): number[] => {
  const [own, real] = [sightOf(camera), sightOf(truth)]
  const off: number[] = []
  for (let y = 0; y <= 400; y += 20)
    for (let x = 0; x <= 600; x += 20) {
      const [u, v] = real.seen(x, y, heightMm)!
      const at = own.place(u, v, heightMm)
      off.push(at ? Math.hypot(at[0] - x, at[1] - y) : Infinity)
    }
  return off.sort((a, b) => a - b)
}

describe('a lens', () => {
  it.each([BROWN, WIDE])('bends rays, and the way back finds them: $kind', (lens) => {
    fc.assert(
      fc.property(fc.double({ min: -0.9, max: 0.9, noNaN: true }), fc.double({ min: -0.7, max: 0.7, noNaN: true }), (x, y) => {
        const back = unbent(lens, ...bent(lens, x, y))!
        expect(back[0]).toBeCloseTo(x, 7)
        expect(back[1]).toBeCloseTo(y, 7)
      }),
    )
  })

  it('has no ray for what lies beyond its edge', () => {
    expect(unbent(WIDE, 9, 0)).toBeUndefined()
    expect(unbent({ kind: 'brown', k1: -0.4, k2: 0, p1: 0, p2: 0 }, 3, 0)).toBeUndefined()
  })
})

describe('a camera', () => {
  it('sees places of the bed, and tells them from what it sees, at any height', () => {
    const camera = over(BROWN, 2400, 520)
    const { seen, place } = sightOf(camera)
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 600 }),
        fc.integer({ min: 0, max: 400 }),
        fc.integer({ min: 0, max: 60 }),
        (x, y, h) => {
          const at = place(...seen(x, y, h)!, h)!
          expect(at[0]).toBeCloseTo(x, 5)
          expect(at[1]).toBeCloseTo(y, 5)
        },
      ),
    )
    expect(standsOver(camera)).toEqual({ x: expect.closeTo(305, 6), y: expect.closeTo(190, 6), heightMm: expect.closeTo(520, 6) })
    // What lies higher is farther out: by t · d / (height − t).
    const [u, v] = seen(505, 190, 10)!
    const flat = place(u, v, 0)!
    expect(flat[0] - 505).toBeCloseTo((10 * 200) / (520 - 10), 1)
  })

  it('has a turn that its matrix tells', () => {
    for (const turn of [
      [0.3, -0.2, 1.1],
      [0, 0, 0],
      [-1e-7, 2e-7, 0],
    ] as const)
      turnFromMatrix(turnMatrix(turn)).forEach((v, i) => {
        expect(v).toBeCloseTo(turn[i], 9)
      })
  })
})

describe('a homography', () => {
  it('is found from four places or more, and refused on a line', () => {
    const h = [1.2, 0.1, 30, -0.2, 0.9, 12, 0.0004, -0.0002, 1]
    const from = [
      [0, 0],
      [600, 0],
      [600, 400],
      [0, 400],
      [310, 120],
    ] as const
    const to = from.map(([x, y]) => throughHomography(h, x, y))
    for (const n of [4, 5])
      homographyOf(from.slice(0, n), to.slice(0, n)).forEach((v, i) => {
        expect(v).toBeCloseTo(h[i], 6)
      })
    const line = [0, 1, 2, 3].map((i) => [i * 10, i * 20] as const)
    expect(() => homographyOf(line, line)).toThrow('one line')
    expect(() => homographyOf(line.slice(1), line.slice(1))).toThrow('Four')
  })
})

describe('a calibration', () => {
  it.each([
    ['moderate', over(BROWN, 2400, 520)],
    ['wide', over(WIDE, 1250, 300)],
  ])('from marks at three heights tells places of the bed within 0.15 mm: %s', (_, truth) => {
    const views = [0, 12, 25].map((height) => view(truth, height, 0.15))
    const found = calibrated(truth, views)
    expect(found.camera.lens.kind).toBe(truth.lens.kind)
    for (const height of [0, 6, 20]) {
      const off = offOver(found.camera, truth, height)
      expect(off[Math.floor(0.95 * off.length)]).toBeLessThan(0.15)
    }
    expect(found.p95Mm).toBeLessThan(0.2)
    expect(found.worst.mm).toBeGreaterThanOrEqual(found.p95Mm)
  })

  it('takes boards that lie anyhow, where one photo says where the bed is', () => {
    const truth = over(BROWN, 2400, 520)
    const views = [view(truth, 0, 0.1), view(truth, 10, 0.1, [40, 25, 0.2]), view(truth, 22, 0.1, [-30, 50, -0.15])]
    const off = offOver(calibrated(truth, views).camera, truth, 15)
    expect(off[Math.floor(0.95 * off.length)]).toBeLessThan(0.15)
  })

  it('is refused with a sentence where photos say too little', () => {
    const truth = over(BROWN, 2400, 520)
    const whole = view(truth, 0, 0)
    expect(() => calibrated(truth, [{ ...whole, anyhow: true }])).toThrow('places on the bed are known')
    expect(() => calibrated(truth, [{ ...whole, spots: whole.spots.slice(0, 12) }])).toThrow('Only 12 marks')
    const line = whole.spots.filter(({ y }) => y === 20)
    expect(() => calibrated(truth, [{ ...whole, spots: [...line, ...line] }])).toThrow('one line')
  })
})
