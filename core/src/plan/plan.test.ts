import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { type Ring, ringBounds, ringContains } from '../geometry/ring.ts'
import type { JobDocument } from '../job/document/document.ts'
import { burnOrder } from '../job/document/document.ts'
import { spotMm } from '../machine/machine.ts'
import { MACHINES, MATERIALS } from '../material/catalogue.ts'
import { areaDose, lineDose, topLayer } from '../material/material.ts'
import type { GreyPicture } from '../picture/picture.ts'
import { PLAIN_DOTS } from '../picture/steps.ts'
import { prepared } from '../testing/prepared.ts'
import { burning, greyPicture, onRectangle, sampleJob, squarePicture, supplyWith } from '../testing/sample-job.ts'
import { type MoveBlock, MoveWriter, type PlanSink } from '../toolpath/moves.ts'
import { orderCuts } from './order.ts'
import { runUp, worthwhileGap } from './picture-rows.ts'
import { measureJob, planJob } from './plan.ts'
import { writeProgram } from './write-program.ts'

interface Move {
  readonly op: string
  readonly x0: number
  readonly y0: number
  readonly x: number
  readonly y: number
  readonly s: number
  readonly speed: number
}

/** The moves of a job one by one, mm. */
function movesOf(job: JobDocument, picture: GreyPicture): Move[] {
  const moves: Move[] = []
  let op = ''
  let x0 = 0
  let y0 = 0
  const sink: PlanSink = {
    event: () => {},
    operation: (id) => {
      op = id
    },
    moves: ({ count, x, y, s, speed }: MoveBlock) => {
      for (let i = 0; i < count; i++) {
        moves.push({ op, x0, y0, x: x[i] / 1000, y: y[i] / 1000, s: s[i], speed: speed[i] })
        x0 = x[i] / 1000
        y0 = y[i] / 1000
      }
    },
  }
  planJob(job, supplyWith(picture), sink)
  return moves
}

const textOf = (job: JobDocument, picture: GreyPicture): string => {
  let text = ''
  writeProgram(job, supplyWith(picture), (bytes) => {
    text += new TextDecoder().decode(bytes)
  })
  return text
}

describe('an overcut', () => {
  it('goes on along each ring beyond where it began, after the last pass only, and at most once around', () => {
    const picture = squarePicture(40, 10)
    const cut = (change: object) =>
      movesOf(sampleJob({ picture, widthMm: 20, cut: { passes: 2, ...change } }), picture).filter(
        ({ op, s }) => op === 'cut' && s > 0,
      )
    const length = (moves: readonly Move[]): number =>
      moves.reduce((sum, { x0, y0, x, y }) => sum + Math.hypot(x - x0, y - y0), 0)
    const plain = cut({})
    const over = cut({ overcutMm: 3 })
    expect(length(over)).toBeCloseTo(length(plain) + 3, 2)
    // What is burned before is the same; the rest is the beginning once more.
    expect(over.slice(0, plain.length)).toEqual(plain)
    for (const [i, move] of over.slice(plain.length).entries()) expect([move.x0, move.y0]).toEqual([plain[i].x0, plain[i].y0])
    const small = squarePicture(6, 2)
    const around = movesOf(sampleJob({ picture: small, widthMm: 1, distanceMm: 0.2, cut: { overcutMm: 20 } }), small).filter(
      ({ op, s }) => op === 'cut' && s > 0,
    )
    const once = movesOf(sampleJob({ picture: small, widthMm: 1, distanceMm: 0.2 }), small).filter(
      ({ op, s }) => op === 'cut' && s > 0,
    )
    expect(length(around)).toBeCloseTo(2 * length(once), 2)
  })
})

describe('picture rows', () => {
  const picture = greyPicture(40, 30, (x, y) => ((x * 3 + y * 5) % 11 < 4 ? 0 : 255))
  const job = sampleJob({ picture, widthMm: 8, engrave: { intervalMm: 0.2 } })
  const engraving = movesOf(job, picture).filter(({ op }) => op === 'engrave')

  it('burn exactly the marks of the prepared picture', () => {
    const { levels } = prepared(picture, 40, 30)
    const burned = new Uint8Array(40 * 30)
    const left = 150 + 100
    const rear = 400 - (100 + 50)
    for (const { x0, x, y, s } of engraving) {
      if (s === 0) continue
      const row = Math.round((rear - y) / 0.2 - 0.5)
      for (let c = Math.round((Math.min(x0, x) - left) / 0.2); c < Math.round((Math.max(x0, x) - left) / 0.2); c++)
        burned[row * 40 + c] += 255
    }
    expect([...burned]).toEqual([...levels])
  })

  it('come to speed before the first mark and slow down after the last, there and back', () => {
    const lead = runUp(job.machine, 300)
    expect(lead).toBeCloseTo(300 ** 2 / 12_000, 9)
    let way = 0
    for (let i = 1; i < engraving.length; i++) {
      const [before, here] = [engraving[i - 1], engraving[i]]
      if (before.speed === 0 && here.s === 0 && here.speed > 0) {
        expect(Math.abs(here.x - here.x0)).toBeCloseTo(lead, 2)
        if (way !== 0) expect(Math.sign(here.x - here.x0)).toBe(-way)
        way = Math.sign(here.x - here.x0)
      }
    }
    const oneWay = movesOf(sampleJob({ picture, widthMm: 8, engrave: { bothWays: false } }), picture)
    expect(oneWay.filter(({ s, x, x0, op }) => op === 'engrave' && s > 0 && x < x0)).toEqual([])
  })

  it('skip white rows and white ends, and cross a gap at travel speed only where that is quicker', () => {
    const two = greyPicture(1000, 5, (x, y) => (y === 2 && (x < 3 || x > 996) ? 0 : 255))
    const wide = movesOf(sampleJob({ picture: two, widthMm: 200, xMm: 20, engrave: { speedMmS: 200 } }), two)
    const rows = wide.filter(({ op }) => op === 'engrave')
    expect(new Set(rows.filter(({ s }) => s > 0).map(({ y }) => y)).size).toBe(1)
    expect(rows.some(({ s, speed, x, x0 }) => s === 0 && speed === 0 && Math.abs(x - x0) > 180)).toBe(true)
    expect(worthwhileGap(MACHINES[0], 600)).toBe(Infinity)
    const gap = worthwhileGap(MACHINES[0], 200)
    expect(gap).toBeGreaterThan(1)
    expect(gap).toBeLessThan(30)
  })

  it('never leave the bed with their run-ups', () => {
    const edge = movesOf(onRectangle(sampleJob({ picture, widthMm: 8, xMm: 0 }), { xMm: 0, yMm: 0 }), picture)
    expect(Math.min(...edge.filter(({ op }) => op === 'engrave').map(({ x }) => x))).toBe(0)
  })

  it('burn a grey picture with as much power as each mark wants', () => {
    const ramp = greyPicture(4, 1, (x) => [255, 128, 64, 0][x])
    const base = sampleJob({ picture: ramp, widthMm: 0.8, engrave: { power: 1 } })
    const dots = base.nodes.dots
    const job2 = { ...base, nodes: { ...base.nodes, dots: { ...dots, dots: { ...PLAIN_DOTS, kernel: 'none' } } } } as JobDocument
    const beams = movesOf(job2, ramp).filter(({ op, s }) => op === 'engrave' && s > 0)
    expect(beams.map(({ s }) => s)).toEqual([498, 749, 1000])
  })
})

describe('cuts', () => {
  const box = (x: number, y: number, w: number): Ring => Float64Array.of(x, y, x + w, y, x + w, y + w, x, y + w)

  it('run what lies inside before what it lies in', () => {
    const rings = [box(0, 0, 100), box(10, 10, 30), box(15, 15, 5), box(60, 60, 20), box(200, 0, 10)]
    const order = orderCuts(rings, [0, 0]).map(({ ring }) => ring)
    const at = (ring: number): number => order.indexOf(ring)
    expect([...order].sort()).toEqual([0, 1, 2, 3, 4])
    expect(at(2)).toBeLessThan(at(1))
    expect(at(1)).toBeLessThan(at(0))
    expect(at(3)).toBeLessThan(at(0))
  })

  it('start where the way is short, and go around as often as there are passes', () => {
    const picture = squarePicture(20, 10)
    const job = sampleJob({ picture, cut: { passes: 3, kerfMm: 0.2 } })
    const cut = movesOf(job, picture).filter(({ op }) => op === 'cut')
    expect(cut.filter(({ s }) => s === 0)).toHaveLength(1)
    const length = cut.filter(({ s }) => s > 0).reduce((sum, m) => sum + Math.hypot(m.x - m.x0, m.y - m.y0), 0)
    // A square of 20 mm, 3 mm and half a kerf around it, three times.
    expect(length / 3).toBeCloseTo(80 + 2 * Math.PI * 3.1, 1)
    expect(cut.filter(({ s }) => s > 0).every(({ s, speed }) => s === 680 && speed === 12)).toBe(true)
  })

  it('keep half a kerf outside the part and inside its holes', () => {
    const frame = greyPicture(60, 60, (x, y) => {
      const d = Math.max(Math.abs(x - 29.5), Math.abs(y - 29.5))
      return d < 20 && d > 10 ? 0 : 255
    })
    const base = sampleJob({ picture: frame, widthMm: 60, cut: { of: ['edge'], kerfMm: 1 } })
    const cut = movesOf(base, frame).filter(({ op, s }) => op === 'cut' && s > 0)
    const rings: Ring[] = []
    let points: number[] = []
    for (const m of cut) {
      if (points.length === 0) points.push(m.x0, m.y0)
      points.push(m.x, m.y)
      if (Math.hypot(m.x - points[0], m.y - points[1]) < 1e-6) {
        rings.push(Float64Array.from(points))
        points = []
      }
    }
    expect(rings).toHaveLength(2)
    const [hole, outer] = rings.map(ringBounds)
    expect(outer.x1 - outer.x0).toBeCloseTo(41, 0)
    expect(hole.x1 - hole.x0).toBeCloseTo(19, 0)
    expect(ringContains(rings[1], rings[0][0], rings[0][1])).toBe(true)
  })
})

describe('the program', () => {
  const picture = squarePicture(20, 10)

  it('is the same text for the same job, and says what it is', () => {
    const job = sampleJob({ picture, widthMm: 6 })
    const text = textOf(job, picture)
    expect(textOf(structuredClone(job), picture)).toBe(text)
    expect(text.split('\n').slice(0, 7)).toEqual([
      '; Sample - made by Neotaxis',
      '; Birch ply 3 mm, 300 x 200 mm, on Bench laser 60 W',
      'G21',
      'G90',
      'G54',
      'M5',
      'M4 S0',
    ])
    expect(text.trimEnd().split('\n').slice(-3)).toEqual(['M5', 'M9', 'M2'])
    expect(text).toContain('; operation cut: cut, 68 %, 12 mm/s, 1 pass\nM8\n')
  })

  it('writes names from anywhere as plain ASCII without brackets', () => {
    const text = textOf({ ...sampleJob({ picture, widthMm: 6 }), name: 'Möwe (2) — Flut' }, picture)
    expect(text.split('\n')[0]).toBe('; M?we 2 ? Flut - made by Neotaxis')
  })

  it('runs only what is asked for', () => {
    const seen: string[] = []
    planJob(
      sampleJob({ picture, widthMm: 6 }),
      supplyWith(picture),
      { operation: (id) => seen.push(id), moves: () => {}, event: () => {} },
      new Set(['cut']),
    )
    expect(seen).toEqual(['cut', 'return'])
  })

  it('keeps its promises on jobs of every kind: dark in travel, inside its limits, as many passes as asked, home at the end', () => {
    fc.assert(
      fc.property(
        fc.record({
          seed: fc.nat(1000),
          power: fc.double({ min: 0.01, max: 1, noNaN: true }),
          speedMmS: fc.double({ min: 1, max: 600, noNaN: true }),
          passes: fc.integer({ min: 1, max: 3 }),
          distanceMm: fc.double({ min: -1, max: 4, noNaN: true }),
          bothWays: fc.boolean(),
          zero: fc.constantFrom('front-left' as const, 'rear-left' as const),
          cutFirst: fc.boolean(),
        }),
        ({ seed, power, speedMmS, passes, distanceMm, bothWays, zero, cutFirst }) => {
          const random = greyPicture(24, 18, (x, y) =>
            Math.hypot(x - 12, y - 9) < 4 + (seed % 5) ? (x * seed + y * 7) % 120 : 255 - ((x + y + seed) % 9),
          )
          const base = sampleJob({
            picture: random,
            widthMm: 6,
            engrave: { power, speedMmS, passes, bothWays },
            cut: { passes },
            distanceMm,
          })
          const ordered = cutFirst ? burning(base, 'cut', 'engrave') : base
          const job = { ...ordered, machine: { ...base.machine, zero } }
          const moves = movesOf(job, random)
          for (const m of moves) {
            if (m.speed === 0) expect(m.s).toBe(0)
            expect(m.s).toBeLessThanOrEqual(1000)
            expect(m.x >= 0 && m.x <= 600 && m.y >= 0 && m.y <= 400).toBe(true)
            if (m.op === 'cut' && m.s > 0) expect(m.speed).toBe(12)
          }
          const last = moves[moves.length - 1]
          expect([last.x, last.y, last.s]).toEqual([0, 0, 0])
          expect([...new Set(moves.map(({ op }) => op))].filter((op) => op !== 'return')).toEqual(
            burnOrder(job).filter((id) => moves.some(({ op }) => op === id)),
          )
          const once = movesOf(
            { ...job, operations: { ...job.operations, engrave: { ...job.operations.engrave, passes: 1 } } },
            random,
          )
          const burned = (list: readonly Move[]): number =>
            list.filter(({ op, s }) => op === 'engrave' && s > 0).reduce((sum, m) => sum + Math.abs(m.x - m.x0), 0)
          expect(burned(moves)).toBeCloseTo(passes * burned(once), 6)
        },
      ),
      { numRuns: 120 },
    )
  })
})

describe('measureJob', () => {
  it('tells time, ways, bounds and dose of each operation', () => {
    const picture = squarePicture(20, 10)
    const job = sampleJob({ picture, cut: { passes: 2 } })
    const report = measureJob(job, supplyWith(picture))
    const [engrave, cut] = report.operations
    expect(engrave).toMatchObject({ id: 'engrave', kind: 'picture' })
    expect(cut.doseJPerMm).toBeCloseTo(2 * lineDose(60 * 0.68, 12), 9)
    expect(lineDose(60 * 0.68, 12)).toBeCloseTo(3.4, 9)
    expect(engrave.doseJPerMm2).toBeCloseTo(areaDose(60 * 0.32, 300, 0.2), 9)
    expect(cut.seconds).toBeGreaterThan(cut.burnMm / 12)
    expect(report.seconds).toBeCloseTo(engrave.seconds + cut.seconds + report.returnSeconds, 9)
    expect(report.bounds![0]).toBeCloseTo(150 + 110 - 3.1, 2)
    expect(report.bounds![2]).toBeCloseTo(150 + 130 + 3.1, 2)
  })

  it('tells no bounds where nothing burns, and refuses more dots than can be', () => {
    const white = greyPicture(10, 10, () => 255)
    expect(measureJob(sampleJob({ picture: white }), supplyWith(white)).bounds).toBeNull()
    const huge = sampleJob({ picture: white, widthMm: 5000, engrave: { intervalMm: 0.02 } })
    expect(() => measureJob(huge, supplyWith(white))).toThrow('more than can be planned')
  })

  it('knows that every shipped recipe lies in the dose window of its material', () => {
    for (const material of MATERIALS)
      for (const recipe of material.recipes) {
        const machine = MACHINES.find(({ id }) => id === recipe.machine)!
        const { watts } = machine
        // A scored line marks as wide as the spot.
        const { power, speedMmS, intervalMm = recipe.process === 'score' ? spotMm(machine) : 1, passes } = recipe
        const dose =
          passes * (recipe.process === 'cut' ? lineDose(watts * power, speedMmS) : areaDose(watts * power, speedMmS, intervalMm))
        const window = recipe.process === 'cut' ? material.cutDose : topLayer(material).markDose
        expect(dose).toBeGreaterThan(window.from)
        // A relief goes deep, whatever the surface looks like.
        if (recipe.process !== 'relief') expect(dose).toBeLessThan(window.to * 1.4)
      }
  })
})

describe('MoveWriter', () => {
  it('hands on long rows in blocks, leaving out moves without length', () => {
    const counts: number[] = []
    let last = 0
    const writer = new MoveWriter({
      operation: () => {},
      event: () => {},
      moves: (block) => {
        counts.push(block.count)
        last = block.x[block.count - 1]
      },
    })
    const n = 40_000
    writer.move(5, 7, 0, 0)
    writer.row(
      7,
      Int32Array.from({ length: n }, (_, i) => 5 + i),
      new Uint16Array(n).fill(9),
      new Float32Array(n).fill(1),
    )
    writer.move(5 + n - 1, 7, 0, 0)
    writer.flush()
    expect(counts.reduce((sum, count) => sum + count, 0)).toBe(n)
    expect(last).toBe(5 + n - 1)
  })
})
