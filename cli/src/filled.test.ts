import {
  type AreaOperation,
  area,
  burnOrder,
  chartOf,
  checkJob,
  compareBurn,
  deepened,
  depthOfFill,
  FILLS,
  type FillName,
  filledAs,
  forecastMaps,
  forecastScene,
  given,
  type JobDocument,
  MATERIALS,
  mainPiece,
  ResultCache,
  readProgram,
  type Supply,
  sweptScene,
  turnedTo,
  withOperation,
  withPiece,
} from '@neotaxis/core'
import { burning, greyPicture, onRectangle, sampleJob } from '@neotaxis/core/testing/sample-job'
import { Workpiece } from '@neotaxis/stand-ins'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { CELL, driven, programOf } from './testing/on-machine.ts'

/** A float with a hole, a bar beside it, and a thin stroke. */
const picture = greyPicture(160, 120, (x, y) => {
  const r = Math.hypot(x - 60, y - 60)
  const isFloat = r < 45 && Math.hypot(x - 66, y - 56) > 17
  const isBar = x > 116 && x < 140 && y > 20 && y < 100
  return isFloat || isBar || (x > 148 && x < 152 && y > 30 && y < 90) ? 10 : 255
})
const supply = (): Supply => ({ picture: () => picture, cache: new ResultCache() })

function filledJob(change: Partial<AreaOperation> = {}, deg = 0, lies = 0): JobDocument {
  const base = sampleJob({ picture, widthMm: 24, xMm: 10, yMm: 12 })
  const [birch] = MATERIALS
  const operation = { ...area.fromRecipe(['edge'], birch, base.machine), intervalMm: 0.12, ...change }
  const only = burning({ ...onRectangle(base, { widthMm: 50, heightMm: 44 }), operations: { fill: operation } }, 'fill')
  return checkJob(turnedTo(withPiece(only, { pose: { xMm: 200, yMm: 120, deg: lies } }), 'edge', deg))
}

function burned(text: string) {
  const { machine, bed } = driven(text)
  expect(machine.counts.alarms).toBe(0)
  const box = { x0: 190, y0: 210, x1: 270, y1: 290 }
  return { machine, piece: new Workpiece({ material: 'birch-ply', thickness: 3, ...box }, bed, 0) }
}

const WAYS: readonly (readonly [FillName, Partial<AreaOperation>, deg: number, lies: number])[] = [
  ['sweep', {}, 0, 0],
  ['sweep', { deg: 30, shareMm: 0 }, 25, -14],
  ['sweep', { deg: 90, bothWays: false, begins: 'near' }, 0, 0],
  ['patches', {}, 0, 0],
  ['patches', { deg: -40 }, 0, 20],
  ['rings', {}, 0, 0],
  ['rings', { begins: 'near' }, 70, 0],
  ['two-angles', {}, 0, 0],
  ['sweep', { insetMm: 0.5 }, 0, 0],
  ['rings', { insetMm: 0.5 }, 15, 0],
  ['sweep', { passes: 3, passPowers: [1, 0.7, 0.4], restS: 1.5, power: 0.08 }, 0, 0],
  ['two-angles', { passes: 2, passPowers: [1, 0.5], power: 0.08 }, 0, 0],
  ['rings', { passes: 2, passPowers: [0.9, 0.5], leastPower: 0.06, power: 0.1 }, 0, 0],
]

describe('an area', () => {
  it.each(WAYS)(
    'filled by %s %o burns as it was forecast, in the time that was told',
    { timeout: 120_000 },
    async (name, change, deg, lies) => {
      // A speed at which the beam's own lag is less than a line.
      const job = filledAs(filledJob({ speedMmS: 120, power: 0.2, ...change }, deg, lies), 'fill', name)
      const work = supply()
      const { text, report } = programOf(job, work)
      const { machine, piece } = burned(text)
      expect(Math.abs(machine.counts.seconds - report.seconds) / report.seconds).toBeLessThan(0.005)
      const { pose } = mainPiece(job)
      const [columns, rows] = [3000, 2600]
      const [x, y] = [pose.xMm - 2, 400 - pose.yMm - 50]
      const seen = await piece.picture(x, y, columns, rows, CELL)
      const [x0, y0] = [x - pose.xMm, 400 - pose.yMm - y - rows * CELL]
      const maps = forecastMaps(sweptScene(forecastScene(job, work), chartOf(job)), columns, rows, CELL, x0, y0)
      const { toneOff } = compareBurn(maps, { ...seen, x0, y0, cellMm: CELL })
      expect(toneOff).toBeLessThan(0.02)
      // What is dark in both, of what is dark in either: over squares as wide as a line.
      const side = 6
      let both = 0
      let either = 0
      for (let r = 0; r + side <= rows; r += side)
        for (let c = 0; c + side <= columns; c += side) {
          let [f, b] = [0, 0]
          for (let k = 0; k < side * side; k++) {
            const at = (r + Math.floor(k / side)) * columns + c + (k % side)
            f += maps.tone[at]
            b += seen.tone[at]
          }
          const dark = 40 * side * side
          if (f > dark && b > dark) both++
          if (f > dark || b > dark) either++
        }
      expect(either).toBeGreaterThan(1000)
      expect(both / either).toBeGreaterThan(0.97)
    },
  )

  it('keeps what holds for every program: dark in travel and at the end, in the bed, as much power as told, as often as told', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...(Object.keys(FILLS) as FillName[])),
        fc.record({
          intervalMm: fc.double({ min: 0.1, max: 1.2, noNaN: true }).map((v) => Math.round(1000 * v) / 1000),
          speedMmS: fc.integer({ min: 5, max: 900 }),
          power: fc.integer({ min: 1, max: 100 }).map((v) => v / 100),
          passes: fc.integer({ min: 1, max: 3 }),
          deg: fc.integer({ min: -360, max: 360 }),
          bothWays: fc.boolean(),
          begins: fc.constantFrom('far' as const, 'near' as const),
          shareMm: fc.option(fc.integer({ min: 0, max: 30 }), { nil: undefined }),
          insetMm: fc.constantFrom(0, 0.05, 0.4),
        }),
        fc.integer({ min: -180, max: 180 }),
        fc.constantFrom([200, 120], [0, 0], [550, 356]),
        (name, change, deg, [xMm, yMm]) => {
          const laid = withPiece(filledJob(change, deg), { pose: { xMm, yMm } })
          const job = filledAs(laid, 'fill', name)
          const { text, report } = programOf(job, supply())
          const { moves, problems } = readProgram(text)
          expect(problems).toEqual([])
          const full = Math.round(change.power * job.machine.fullPowerS)
          for (let i = 0; i < moves.count; i++) {
            if (moves.speed[i] === 0 && moves.s[i] !== 0) throw new Error('It burns in travel.')
            if (moves.s[i] !== 0 && moves.s[i] !== full) throw new Error(`A power of ${moves.s[i]}, not ${full}.`)
            if (moves.x[i] < 0 || moves.x[i] > 600_000 || moves.y[i] < 0 || moves.y[i] > 400_000)
              throw new Error('Outside the bed.')
          }
          expect(moves.s[moves.count - 1]).toBe(0)
          const once = programOf(withOperation(job, 'fill', { passes: 1 }), supply()).report
          expect(report.burnMm).toBeCloseTo(once.burnMm * change.passes, 2)
        },
      ),
      { numRuns: 60 },
    )
  }, 120_000)

  it('gets as deep as is asked, in the fewest passes: told, and burned so', async () => {
    const lime = MATERIALS.find(({ id }) => id === 'lime-wood-12')!
    const birch = filledJob({ speedMmS: 120 })
    const base = withPiece(
      { ...birch, materials: { ...birch.materials, [lime.id]: lime } },
      { material: lime.id, thicknessMm: 12 },
    )
    const { machine } = base
    const fill = (job: JobDocument) => job.operations.fill as AreaOperation
    expect(deepened({ ...fill(base), power: 0.01 }, 2.9, lime, machine)).toMatchObject({
      not: expect.stringContaining('set more power'),
    })
    expect(deepened(fill(base), 12, lime, machine)).toMatchObject({ not: expect.stringContaining('12 mm') })
    expect(deepened(fill(base), 5, lime, machine)).toMatchObject({ not: expect.stringContaining('measured down to') })
    expect(deepened(fill(base), 1, MATERIALS[0], machine)).toMatchObject({ not: expect.stringContaining('not measured') })
    const way = deepened({ ...fill(base), power: 0.35 }, 1.8, lime, machine)
    if ('not' in way) throw new Error(way.not)
    const job = withOperation(base, 'fill', way.change)
    expect(depthOfFill(fill(job), lime, machine)).toBeCloseTo(1.8, 1)
    expect(depthOfFill({ ...fill(job), passes: way.change.passes - 1, power: 0.35 }, lime, machine)).toBeLessThan(1.8)
    const { text } = programOf(job, supply())
    const { bed } = driven(text)
    const piece = new Workpiece({ material: 'lime-wood', thickness: 12, x0: 190, y0: 210, x1: 270, y1: 290 }, bed, 0)
    // In the middle of the bar: over an interval of lines both ways.
    const { pose } = mainPiece(job)
    const depths: number[] = []
    for (let k = 0; k < 30; k++) depths.push(piece.depth(pose.xMm + 10 + 19.2 + k * 0.02, 400 - (pose.yMm + 12 + 9 + k * 0.02)))
    const mean = depths.reduce((sum, depth) => sum + depth, 0) / depths.length
    expect(Math.abs(mean - 1.8)).toBeLessThan(0.09)
  }, 60_000)

  it('of pieces that lie over each other is burned once', () => {
    const job = filledJob()
    const twice: JobDocument = checkJob({
      ...job,
      placements: { ...job.placements, again: { ...job.placements.source, xMm: job.placements.source.xMm + 3 } },
    })
    const one = programOf(job, supply()).report.burnMm
    const two = programOf(twice, supply()).report.burnMm
    expect(two).toBeGreaterThan(1.02 * one)
    expect(two).toBeLessThan(1.6 * one)
    expect(burnOrder(given(job, ['edge'], 'cut').job)).toEqual(['fill', 'cut'])
    // Forecast once as well: where they lie over each other it is no darker than elsewhere.
    const weak = (of: JobDocument) => withOperation(of, 'fill', { power: 0.05, speedMmS: 300 })
    const darkest = (of: JobDocument) => {
      const { tone } = forecastMaps(forecastScene(weak(of), supply()), 500, 440, 0.1)
      return tone.reduce((most, v) => Math.max(most, v), 0)
    }
    expect(darkest(twice)).toBeLessThanOrEqual(darkest(job) + 4)
  })
})
