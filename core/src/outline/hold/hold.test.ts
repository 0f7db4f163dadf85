import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { withBridges } from '../../edits/bridge-edits.ts'
import { checkFindings } from '../../findings/check.ts'
import { paintForecast } from '../../forecast/paint.ts'
import { combine, shapeArea } from '../../geometry/clip.ts'
import { type Ring, ringArea } from '../../geometry/ring.ts'
import { jobPieces } from '../../hold/pieces.ts'
import type { JobDocument } from '../../job/document/document.ts'
import { applyPatches } from '../../job/patches/edit.ts'
import { kerfRings, outlineRings } from '../../lineage/evaluate.ts'
import { checkJob } from '../../reading/check-job.ts'
import { forecastScene } from '../../scene/scene.ts'
import { burning, greyPicture, sampleJob, supplyWith } from '../../testing/sample-job.ts'
import { bestBridges, bridged, spanAt } from './bridges.ts'
import { piecesOfSheet } from './pieces.ts'

const box = (x: number, y: number, w: number, h = w): Ring => Float64Array.of(x, y, x + w, y, x + w, y + h, x, y + h)
const round = (cx: number, cy: number, r: number, n = 180): Ring =>
  Float64Array.from({ length: 2 * n }, (_, i) =>
    i % 2 ? cy + r * Math.sin(((i - 1) * Math.PI) / n) : cx + r * Math.cos((i * Math.PI) / n),
  )
/** The band that a cut along a circle takes away. */
const band = (cx: number, cy: number, r: number): Ring[] => [round(cx, cy, r + 0.1), round(cx, cy, r - 0.1)]

describe('pieces of a sheet', () => {
  it('are what no cut connects, each knowing what is around it', () => {
    const pieces = piecesOfSheet([box(0, 0, 100)], [...band(50, 50, 30), ...band(50, 50, 10), ...band(40, 68, 4)])
    expect(pieces.map(({ depth }) => depth).sort()).toEqual([0, 1, 2, 2])
    expect(pieces.find(({ depth }) => depth === 1)!.holes).toHaveLength(2)
    const all = pieces.reduce((sum, { areaMm2 }) => sum + areaMm2, 0)
    const kerf = [...band(50, 50, 30), ...band(50, 50, 10), ...band(40, 68, 4)].reduce(
      (sum, ring, i) => sum + (i % 2 ? -1 : 1) * Math.abs(ringArea(ring)),
      0,
    )
    expect(all).toBeCloseTo(10_000 - kerf, 1)
  })

  it('of a cut from edge to edge are two, both at the outside', () => {
    expect(piecesOfSheet([box(0, 0, 100)], [box(40, -5, 0.2, 110)]).map(({ depth }) => depth)).toEqual([0, 0])
  })
})

describe('pieces of bands everywhere', () => {
  it('are those that clipping all of them against the sheet would give', () => {
    const circle = fc.record({
      x: fc.integer({ min: -5, max: 105 }),
      y: fc.integer({ min: -5, max: 105 }),
      r: fc.integer({ min: 2, max: 30 }),
    })
    fc.assert(
      fc.property(fc.array(circle, { minLength: 1, maxLength: 9 }), (circles) => {
        const bands = circles.reduce<Ring[]>((sum, { x, y, r }) => combine('union', sum, band(x + 0.37, y + 0.21, r)), [])
        const sheet = box(0, 0, 100)
        const left = combine('subtract', [sheet], bands)
        const pieces = piecesOfSheet([sheet], bands)
        const area = (list: readonly { areaMm2: number }[]): number => list.reduce((sum, { areaMm2 }) => sum + areaMm2, 0)
        expect(Math.abs(area(pieces) - shapeArea(left))).toBeLessThan(0.05 * (pieces.length + 8))
        const outer = left.filter((ring) => ringArea(ring) > 0.1).length
        expect(Math.abs(pieces.filter(({ outer: ring }) => Math.abs(ringArea(ring)) > 0.1).length - outer)).toBeLessThanOrEqual(1)
      }),
      { numRuns: 60 },
    )
  })
})

describe('bridges', () => {
  it('cross what is cut away to the nearest edge, and stand where they are short', () => {
    // An island off the middle of a hole: the shortest way is at its right.
    const rings = [box(0, 0, 100, 60), box(20, 10, 60, 40), box(50, 20, 26, 20)]
    const span = spanAt(rings, 76, 30)!
    expect([...span.from, ...span.to]).toEqual([76, 30, 80, 30])
    expect(spanAt([box(0, 0, 10)], 0, 5)).toBeUndefined()
    const [first, ...rest] = bestBridges(rings, 2, 3, 2)
    expect(first[0]).toBeCloseTo(76, 6)
    expect(rest).toHaveLength(2)
    // Never at a corner.
    for (const [x, y] of [first, ...rest])
      for (const cx of [50, 76]) for (const cy of [20, 40]) expect(Math.hypot(x - cx, y - cy)).toBeGreaterThan(1)
  })

  it('join the island to what is around it, added to parts and taken off what a stencil opens', () => {
    const part = [box(0, 0, 100, 60), box(20, 10, 60, 40), box(40, 20, 20)]
    expect(bridged(part, [])).toEqual(part)
    const held = bridged(part, [{ x: 40, y: 30, widthMm: 3 }])
    // The hole is a C now, the island is no ring of its own.
    expect(held).toHaveLength(2)
    expect(shapeArea(held.map((ring, i) => (i === 0 ? ring : ring)))).toBeCloseTo(6000 - 2400 + 400 + 20 * 3, 1)
    const stencil = [box(20, 10, 60, 40), box(40, 20, 20)]
    const open = bridged(stencil, [
      { x: 40, y: 30, widthMm: 3 },
      { x: 60, y: 30, widthMm: 3 },
    ])
    expect(open).toHaveLength(2)
    expect(shapeArea(open)).toBeCloseTo(2400 - 400 - 2 * 60, 1)
  })

  it('that overlap are one strip: nothing of their overlap is open', () => {
    const part = [box(0, 0, 100, 60), box(20, 10, 60, 40), box(40, 25, 10)]
    const at = (y: number) => ({ x: 40, y, widthMm: 4 })
    const alone = bridged(part, [at(30)])
    expect(shapeArea(bridged(part, [at(30), at(30)]))).toBeCloseTo(shapeArea(alone), 3)
    expect(shapeArea(bridged(part, [at(29), at(31)]))).toBeCloseTo(shapeArea(alone) + 2 * 20, 1)
    const stencil = part.slice(1)
    expect(shapeArea(bridged(stencil, [at(29), at(31)]))).toBeCloseTo(2400 - 100 - 6 * 20, 1)
  })

  it('stand square to a rough edge, and on both edges where there are straight ones across', () => {
    // A traced circle: its corners lie off by up to 0.05 mm, so that single edges run anyhow.
    let seed = 7
    const off = (): number => {
      seed = (seed * 48271) % 2147483647
      return 0.1 * (seed / 2147483647 - 0.5)
    }
    const rough = round(30, 30, 10, 240).map((v) => v + off())
    const rings = [box(0, 0, 60), round(30, 30, 18), rough]
    for (let turn = 0; turn < 6.2; turn += 0.31) {
      const { from, to } = spanAt(rings, 30 + 10 * Math.cos(turn), 30 + 10 * Math.sin(turn), 2)!
      const [rx, ry] = [(from[0] - 30) / 10, (from[1] - 30) / 10]
      const far = Math.hypot(to[0] - from[0], to[1] - from[1])
      expect((rx * (to[0] - from[0]) + ry * (to[1] - from[1])) / far).toBeGreaterThan(Math.cos((6 * Math.PI) / 180))
    }
    // A leaf in a long hole: only its flat side and its short ones are straight.
    const leaf = Float64Array.of(20, 20, 40, 20, 40, 21, 34, 27, 30, 29, 26, 27, 20, 21)
    const flat = [box(0, 0, 60), box(10, 14, 40, 24), leaf]
    for (const [x, y] of bestBridges(flat, 2, 2, 2)) {
      const { from, to } = spanAt(flat, x, y, 2)!
      expect([Math.abs(to[0] - from[0]), Math.abs(to[1] - from[1])].sort((a, b) => a - b)[0]).toBeLessThan(0.3)
    }
  })

  it('leave no slivers beside them, and fill no slit that was there before', () => {
    const beside = [box(0, 0, 60), Float64Array.of(10, 10, 50, 10, 50, 50, 10, 50), box(20, 20, 20, 20)]
    // Two bridges whose strips are 0.1 mm apart are one.
    const pair = bridged(beside, [
      { x: 20, y: 28.95, widthMm: 2 },
      { x: 20, y: 31.05, widthMm: 2 },
    ])
    expect(shapeArea(pair)).toBeCloseTo(3600 - 1600 + 400 + 10 * 4.1, 1)
    expect(pair).toHaveLength(2)
    // A slit of 0.2 mm all around an island stays open but for its bridge.
    const slit = [box(0, 0, 60), box(20, 20, 20.4), box(20.2, 20.2, 20)]
    const one = bridged(slit, [{ x: 20.2, y: 30, widthMm: 2 }])
    expect(3600 - shapeArea(one)).toBeCloseTo(20.4 ** 2 - 400 - 2 * 0.2, 1)
  })

  it('hold any island in any hole: nothing is lost that has one', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 4, max: 12, noNaN: true }),
        fc.double({ min: -3, max: 3, noNaN: true }),
        fc.double({ min: -3, max: 3, noNaN: true }),
        fc.integer({ min: 1, max: 4 }),
        fc.double({ min: 0.8, max: 3, noNaN: true }),
        (r, dx, dy, count, widthMm) => {
          const rings = [box(0, 0, 60), round(30, 30, 18), round(30 + dx, 30 + dy, r)]
          const places = bestBridges(rings, 2, count, widthMm)
          expect(places.length).toBeGreaterThan(0)
          const held = bridged(
            rings,
            places.map(([x, y]) => ({ x, y, widthMm })),
          )
          // One piece: an outer ring, and as many holes as there are bridges.
          expect(held).toHaveLength(1 + places.length)
        },
      ),
    )
  })
})

describe('what falls', () => {
  /** A disc with a hole in it, and a disc in the hole: 100 px are 60 mm. */
  const picture = greyPicture(400, 400, (x, y) => {
    const r = Math.hypot(x - 200, y - 200)
    return r < 40 || (r > 90 && r < 180) ? 0 : 255
  })
  const supply = supplyWith(picture)
  const job: JobDocument = (() => {
    const base = sampleJob({ picture, widthMm: 60 })
    return burning({ ...base, operations: { cut: { ...base.operations.cut, of: ['edge'] } } }, 'cut')
  })()

  it('of a part: what is in its holes, and what stands in those is lost', () => {
    expect(
      jobPieces(job, supply)
        .map(({ fate }) => fate)
        .sort(),
    ).toEqual(['lost', 'part', 'stays', 'waste'])
    const [finding] = checkFindings(job, supply).filter(({ kind }) => kind === 'falls-out')
    expect(finding.message).toMatch(/A piece of 1[12]\.\d × 1[12]\.\d mm falls out/)
    const held = checkJob(applyPatches(job, finding.fixes[0].patches))
    expect(jobPieces(held, supply).map(({ fate }) => fate)).not.toContain('lost')
    expect(checkFindings(held, supply).map(({ kind }) => kind)).not.toContain('falls-out')
  })

  it('of a stencil: all within its outlines, and the kerf is kept inside', () => {
    const stencil = { ...job, operations: { cut: { ...job.operations.cut, keeps: 'sheet' as const } } }
    expect(checkJob(stencil)).toEqual(stencil)
    expect(
      jobPieces(stencil, supply)
        .map(({ fate }) => fate)
        .sort(),
    ).toEqual(['lost', 'part', 'stays', 'waste'].map((f) => (f === 'part' ? 'waste' : f)).sort())
    const area = (rings: readonly Ring[]): number => shapeArea(rings)
    expect(area(kerfRings(stencil, 'edge', -0.1, supply))).toBeLessThan(area(outlineRings(stencil, 'edge', supply)))
  })

  it('is not there any more in the forecast', () => {
    const { placements } = job
    const at = (dx: number, dy: number) => ({
      x: placements.source.xMm + 30 + dx,
      y: placements.source.yMm + 30 + dy,
      pxPerMm: 4,
      widthPx: 1,
      heightPx: 1,
    })
    const alpha = (j: JobDocument, dx: number, dy: number): number => paintForecast(forecastScene(j, supply), at(dx, dy))[3]
    // The island and its hole are gone, the part is there.
    expect([alpha(job, 0, 0), alpha(job, 10, 0), alpha(job, 20, 0)]).toEqual([0, 0, 255])
    const [finding] = checkFindings(job, supply).filter(({ kind }) => kind === 'falls-out')
    const held = applyPatches(job, finding.fixes[0].patches)
    expect(alpha(held, 0, 0)).toBe(255)
  })

  it('is nothing where the dose only marks, and bridges add up', () => {
    const weak = { ...job, operations: { cut: { ...job.operations.cut, power: 0.01 } as never } }
    expect(jobPieces(weak, supply)).toEqual([])
    const two = withBridges(
      withBridges(job, 'cut', [{ x: 0.6, y: 0.5, widthMm: 2 }], 'held'),
      'cut',
      [{ x: 0.4, y: 0.5, widthMm: 2 }],
      'unused',
    )
    expect(Object.keys((two.nodes.held as { bridges: object }).bridges)).toEqual(['b1', 'b2'])
    expect(jobPieces(two, supply).map(({ fate }) => fate)).not.toContain('lost')
  })
})
