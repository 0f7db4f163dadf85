// What holds for the program of every job: random artwork, processes, settings and order. A seed repeats a job.
import {
  burnOrder,
  checkFindings,
  checkJob,
  given,
  inGoodOrder,
  type JobDocument,
  measureJob,
  type Operation,
  PlanError,
  PROCESSES,
  type ProcessName,
  ResultCache,
  readProgram,
  relationsOf,
  stepAdded,
  turnedTo,
  withOperation,
  withPiece,
} from '@neotaxis/core'
import { greyPicture, onRectangle, sampleJob } from '@neotaxis/core/testing/sample-job'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { drivenOn, programOf } from './testing/on-machine.ts'

const JOBS = Number(process.env.NEOTAXIS_HISTORIES ?? 300) / 10
const GIVEN: readonly ProcessName[] = ['picture', 'relief', 'area', 'cut', 'score', 'guide']

/** Blobs with holes, sharp corners and thin places. */
const pictures = [
  greyPicture(90, 70, (x, y) => (Math.hypot(x - 40, y - 35) < 28 && Math.hypot(x - 45, y - 30) > 9 ? 20 : 250)),
  greyPicture(90, 70, (x, y) => (x > 10 && x < 80 && y > 10 && y < 60 && (x + y) % 23 > 5 ? 40 : 255)),
  greyPicture(90, 70, (x, y) => 128 + 120 * Math.sin(x / 7) * Math.cos(y / 9)),
]

const share = fc.integer({ min: 1, max: 100 }).map((v) => v / 100)
const settings = fc.record(
  {
    power: share,
    speedMmS: fc.integer({ min: 2, max: 400 }),
    passes: fc.integer({ min: 1, max: 3 }),
    air: fc.boolean(),
    leastPower: share,
    leadInMm: fc.integer({ min: 0, max: 6 }),
    overcutMm: fc.integer({ min: 0, max: 3 }),
    kerfMm: fc.integer({ min: 0, max: 40 }).map((v) => v / 100),
    intervalMm: fc.integer({ min: 15, max: 90 }).map((v) => v / 100),
    deg: fc.integer({ min: -90, max: 90 }),
    strategy: fc.constantFrom('sweep', 'patches', 'rings'),
    bothWays: fc.boolean(),
    runUpMm: fc.integer({ min: 0, max: 20 }),
    restS: fc.constantFrom(0, 1),
  },
  { requiredKeys: [] },
)
const wish = fc.record({
  picture: fc.constantFrom(0, 1, 2),
  widthMm: fc.integer({ min: 6, max: 40 }),
  deg: fc.integer({ min: -180, max: 180 }),
  lies: fc.integer({ min: -180, max: 180 }),
  made: fc.array(fc.record({ process: fc.constantFrom(...GIVEN), settings }), { minLength: 1, maxLength: 4 }),
  pauses: fc.array(fc.nat(4), { maxLength: 2 }),
  ordered: fc.boolean(),
})

/** Only what a process has of it. */
const own = (operation: Operation, change: object): Partial<Operation> => {
  const names = new Set([...Object.keys(PROCESSES[operation.process].schema), 'power', 'speedMmS', 'passes', 'air'])
  const kept = Object.fromEntries(Object.entries(change).filter(([name]) => names.has(name)))
  if ('minPower' in operation) return { ...kept, minPower: 0 } as Partial<Operation>
  return kept as Partial<Operation>
}

describe('every job', () => {
  it('has a program that is dark in travel and at the end, on the bed, within its power, in its time and in its order', () => {
    fc.assert(
      fc.property(wish, (asked) => {
        const picture = pictures[asked.picture]
        const supply = { picture: () => picture, cache: new ResultCache() }
        const sample = sampleJob({ picture, widthMm: asked.widthMm, xMm: 40, yMm: 40 })
        const bare: JobDocument = {
          ...onRectangle(sample, { widthMm: 130, heightMm: 120 }),
          operations: {},
          steps: {},
          order: [],
        }
        let job = withPiece(turnedTo(bare, 'edge', asked.deg), { pose: { xMm: 200, yMm: 130, deg: asked.lies } })
        for (const { process, settings: change } of asked.made) {
          const made = given(job, ['source'], process)
          job = withOperation(made.job, made.operation, own(made.job.operations[made.operation], change))
        }
        for (const at of asked.pauses) job = stepAdded(job, { kind: 'pause', text: 'Wipe it' }, at).job
        if (asked.ordered) job = inGoodOrder(job, supply)
        checkJob(job)
        let program: ReturnType<typeof programOf>
        try {
          program = programOf(job, supply)
        } catch (cause) {
          // More lines than can be planned are refused with a sentence.
          if (cause instanceof PlanError) return
          throw cause
        }
        const { text, report } = program
        const { moves, problems } = readProgram(text)
        expect(problems.filter(({ severity }) => severity === 'stop')).toEqual([])
        const { fullPowerS, axes } = job.machine
        for (let i = 0; i < moves.count; i++) {
          if (moves.s[i] > 0 && moves.speed[i] === 0) throw new Error('It burns in travel.')
          if (moves.s[i] > fullPowerS) throw new Error('More power than there is.')
          const isOn =
            moves.x[i] >= 0 && moves.x[i] <= axes.x.travelMm * 1000 && moves.y[i] >= 0 && moves.y[i] <= axes.y.travelMm * 1000
          if (!isOn) throw new Error('Outside the bed.')
        }
        if (moves.count > 0 && moves.s[moves.count - 1] !== 0) throw new Error('The beam is on at the end.')
        if (asked.ordered) {
          const at = (id: string): number => burnOrder(job).indexOf(id)
          for (const { first, then } of relationsOf(job, supply)) expect(at(first)).toBeLessThan(at(then))
          expect(checkFindings(job, supply).filter(({ kind }) => kind === 'cut-first')).toEqual([])
        }
        const { machine, seconds } = drivenOn(undefined, text, job.workpieces.piece.thicknessMm)
        expect(machine.counts.alarms).toBe(0)
        expect(machine.beamNow).toBe(0)
        expect(measureJob(job, supply).seconds).toBeCloseTo(report.seconds, 9)
        if (report.seconds > 5) expect(Math.abs(seconds - report.seconds) / report.seconds).toBeLessThan(0.005)
      }),
      { numRuns: JOBS, ...(process.env.NEOTAXIS_SEED ? { seed: Number(process.env.NEOTAXIS_SEED) % 2 ** 31 } : {}) },
    )
  }, 1_200_000)
})
