// Paths that are followed: leads, power that is kept at corners, passes of their own, shared edges. Program, forecast and burn are one.
import {
  type CutOperation,
  checkJob,
  forecastMaps,
  forecastScene,
  type JobDocument,
  mainPiece,
  ResultCache,
  readProgram,
  type Supply,
  turnedTo,
  withOperation,
  withPiece,
} from '@neotaxis/core'
import { burning, greyPicture, onRectangle, sampleJob } from '@neotaxis/core/testing/sample-job'
import { Workpiece } from '@neotaxis/stand-ins'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { CELL, driven, programOf } from './testing/on-machine.ts'

/** A float with a hole, and a bar beside it. */
const picture = greyPicture(160, 120, (x, y) => {
  const isFloat = Math.hypot(x - 60, y - 60) < 45 && Math.hypot(x - 66, y - 56) > 17
  return isFloat || (x > 122 && x < 148 && y > 20 && y < 100) ? 10 : 255
})
const supply = (): Supply => ({ picture: () => picture, cache: new ResultCache() })

function cutJob(change: Partial<CutOperation> = {}, deg = 0): JobDocument {
  const base = sampleJob({ picture, widthMm: 32, xMm: 12, yMm: 12 })
  const operation = { ...base.operations.cut, of: ['edge'], air: false, ...change } as CutOperation
  const only = burning({ ...onRectangle(base, { widthMm: 60, heightMm: 50 }), operations: { cut: operation } }, 'cut')
  return checkJob(turnedTo(withPiece(only, { pose: { xMm: 200, yMm: 120 } }), 'edge', deg))
}

function burned(text: string, { thicknessMm }: { readonly thicknessMm: number }) {
  const { machine, bed, seconds } = driven(text, thicknessMm)
  expect(machine.counts.alarms).toBe(0)
  const box = { x0: 190, y0: 200, x1: 280, y1: 290 }
  return { seconds, piece: new Workpiece({ material: 'birch-ply', thickness: thicknessMm, ...box }, bed, 0) }
}

const WAYS: readonly (readonly [string, Partial<CutOperation>, number])[] = [
  ['with leads', { leadInMm: 3, leadOutMm: 2 }, 0],
  ['with leads, of a stencil', { leadInMm: 4, keeps: 'sheet' }, 25],
  ['with leads in two passes', { leadInMm: 3, passes: 2, speedMmS: 24 }, 0],
  ['with power kept at corners', { leastPower: 0.6, speedMmS: 40, power: 1, passes: 3 }, 10],
  ['in passes of their own', { passes: 3, passPowers: [1, 0.8, 0.5], restS: 2.5 }, 0],
  ['deeper from pass to pass', { passes: 3, focusStepMm: 0.5 }, 0],
  ['with an overcut', { overcutMm: 3 }, 45],
]

describe('a cut', () => {
  it.each(WAYS)(
    '%s goes through where it was forecast, in the time that was told',
    { timeout: 60_000 },
    async (_, change, deg) => {
      const job = cutJob(change, deg)
      const work = supply()
      const { text, report } = programOf(job, work)
      const { seconds, piece } = burned(text, mainPiece(job))
      expect(Math.abs(seconds - report.seconds) / report.seconds).toBeLessThan(0.005)
      const { pose } = mainPiece(job)
      const [columns, rows] = [3200, 2800]
      const [x, y] = [pose.xMm - 2, 400 - pose.yMm - 54]
      const seen = await piece.picture(x, y, columns, rows, CELL)
      const maps = forecastMaps(forecastScene(job, work), columns, rows, CELL, x - pose.xMm, 400 - pose.yMm - y - rows * CELL)
      let both = 0
      let either = 0
      for (let i = 0; i < columns * rows; i++) {
        const [f, b] = [maps.through[i] > 0, seen.through[i] > 0]
        if (f && b) both++
        if (f || b) either++
      }
      expect(either).toBeGreaterThan(10_000)
      // A kerf is a few cells wide: half a cell of doubt on both sides.
      expect(both / either).toBeGreaterThan(0.7)
    },
  )

  it('keeps what holds for every program, whatever is set', () => {
    const share = fc.integer({ min: 0, max: 100 }).map((v) => v / 100)
    fc.assert(
      fc.property(
        fc.record({
          power: share,
          leastPower: fc.option(share, { nil: undefined }),
          speedMmS: fc.integer({ min: 1, max: 600 }),
          passes: fc.integer({ min: 1, max: 4 }),
          passPowers: fc.option(fc.array(share, { maxLength: 5 }), { nil: undefined }),
          kerfMm: fc.integer({ min: 0, max: 60 }).map((v) => v / 100),
          keeps: fc.constantFrom(undefined, 'sheet' as const),
          leadInMm: fc.option(fc.integer({ min: 0, max: 20 }), { nil: undefined }),
          leadOutMm: fc.option(fc.integer({ min: 0, max: 20 }), { nil: undefined }),
          overcutMm: fc.option(fc.integer({ min: 0, max: 5 }), { nil: undefined }),
          restS: fc.constantFrom(undefined, 0, 1.25),
          focusStepMm: fc.constantFrom(undefined, 0, 0.3, 9),
        }),
        fc.integer({ min: -180, max: 180 }),
        (change, deg) => {
          const job = cutJob(change, deg)
          const { text, report } = programOf(job, supply())
          const { moves, problems } = readProgram(text)
          expect(problems.filter(({ severity }) => severity !== 'note')).toEqual([])
          const full = job.machine.fullPowerS
          let z = 3
          for (const line of text.split('\n')) {
            const lens = /Z(-?[\d.]+)/.exec(line)
            if (lens) z = Number(lens[1])
            if (z < 0 || z > 3) throw new Error(`The lens stands at ${z} mm.`)
          }
          expect(z).toBe(3)
          for (let i = 0; i < moves.count; i++) {
            if (moves.speed[i] === 0 && moves.s[i] !== 0) throw new Error('It burns in travel.')
            if (moves.s[i] > full) throw new Error('More power than there is.')
            // Beyond its own power only where it is raised for a corner.
            if (!change.leastPower && moves.s[i] > Math.round(change.power * full)) throw new Error('More power than was set.')
            if (moves.x[i] < 0 || moves.x[i] > 600_000 || moves.y[i] < 0 || moves.y[i] > 400_000)
              throw new Error('Outside the bed.')
          }
          expect(moves.count === 0 || moves.s[moves.count - 1]).toBe(moves.count === 0 ? true : 0)
          expect(report.seconds).toBeGreaterThan(0)
        },
      ),
      { numRuns: 150 },
    )
  }, 120_000)

  it('with leads never goes into what is wanted', () => {
    for (const keeps of [undefined, 'sheet'] as const)
      for (const leadInMm of [1, 3, 8]) {
        const job = cutJob({ leadInMm, leadOutMm: leadInMm, kerfMm: 0.2, ...(keeps ? { keeps } : {}) })
        const with_ = forecastMaps(forecastScene(job, supply()), 600, 500, 0.1)
        const without = forecastMaps(
          forecastScene(withOperation(job, 'cut', { leadInMm: 0, leadOutMm: 0 }), supply()),
          600,
          500,
          0.1,
        )
        let more = 0
        for (let y = 0; y < 500; y++)
          for (let x = 0; x < 600; x++) {
            const i = y * 600 + x
            if (with_.through[i] === 0 || without.through[i] > 0) continue
            more++
            // Where the picture is dark lies what the outlines enclose.
            const [px, py] = [Math.round((x / 10 - 12) * 5), Math.round((y / 10 - 12) * 5)]
            const dark = [-2, 2].every(
              (d) => px + d > 0 && px + d < 160 && py + d > 0 && py + d < 120 && picture.samples[(py + d) * 160 + px + d] === 10,
            )
            const bright = [-2, 2].every(
              (d) =>
                !(px + d > 0 && px + d < 160 && py + d > 0 && py + d < 120 && picture.samples[(py + d) * 160 + px + d] === 10),
            )
            if (keeps ? bright : dark) throw new Error(`${x}, ${y} is wanted.`)
          }
        expect(more).toBeGreaterThan(10)
      }
  })
})
