// A part of a job run again: some pieces, a zone of the face, from a moment on. The beam stays within what was meant.
import {
  type AreaOperation,
  area,
  burnOrder,
  chartOf,
  checkJob,
  type JobDocument,
  jobForRun,
  MATERIALS,
  measureJob,
  ResultCache,
  readProgram,
  recordJob,
  type Supply,
  withPiece,
} from '@neotaxis/core'
import { greyPicture, sampleJob } from '@neotaxis/core/testing/sample-job'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { driven, programOf } from './testing/on-machine.ts'

const picture = greyPicture(120, 90, (x, y) => (Math.hypot(x - 60, y - 45) < 38 && Math.hypot(x - 66, y - 42) > 14 ? 20 : 255))
const work: Supply = { picture: () => picture, cache: new ResultCache() }
const supply = (): Supply => work

function job(deg = 0): JobDocument {
  const base = sampleJob({ picture, widthMm: 30, xMm: 20, yMm: 20, engrave: { intervalMm: 0.4 } })
  const fill: AreaOperation = { ...area.fromRecipe(['edge'], MATERIALS[0], base.machine), intervalMm: 0.5 }
  return checkJob(
    withPiece(
      {
        ...base,
        operations: { ...base.operations, fill },
        steps: { ...base.steps, fill: { kind: 'burn', operation: 'fill' }, wait: { kind: 'pause', text: 'Wipe it' } },
        order: ['engrave', 'fill', 'wait', 'cut'],
      },
      { pose: { xMm: 150, yMm: 100, deg } },
    ),
  )
}

function movesOf(run: JobDocument) {
  const { text } = programOf(run, supply())
  const { moves, problems } = readProgram(text)
  expect(problems.filter(({ severity }) => severity === 'stop')).toEqual([])
  const burned: { x0: number; y0: number; x1: number; y1: number; s: number }[] = []
  let at = [0, 0]
  for (let i = 0; i < moves.count; i++) {
    if (moves.speed[i] === 0 && moves.s[i] > 0) throw new Error('It burns in travel.')
    if (moves.s[i] > 0) burned.push({ x0: at[0], y0: at[1], x1: moves.x[i], y1: moves.y[i], s: moves.s[i] })
    at = [moves.x[i], moves.y[i]]
  }
  expect(moves.s[moves.count - 1] ?? 0).toBe(0)
  return { burned, text }
}
const length = (list: readonly { x0: number; y0: number; x1: number; y1: number }[]): number =>
  list.reduce((sum, { x0, y0, x1, y1 }) => sum + Math.hypot(x1 - x0, y1 - y0), 0) / 1000

describe('a run', () => {
  it('that is limited to a zone burns all that lies in it, and nothing beside', () => {
    const side = fc.integer({ min: 0, max: 60 })
    fc.assert(
      fc.property(
        side,
        side,
        fc.integer({ min: 1, max: 40 }),
        fc.integer({ min: 1, max: 40 }),
        fc.integer({ min: -180, max: 180 }),
        (x, y, w, h, deg) => {
          const whole = job(deg)
          const zone = { x0: x, y0: y, x1: x + w, y1: y + h }
          const { toAxes } = chartOf(whole)
          const [a, b, c, d, e, f] = toAxes
          const det = a * d - b * c
          const face = (ax: number, ay: number): readonly [number, number] => [
            (d * (ax / 1000 - e) - c * (ay / 1000 - f)) / det,
            (a * (ay / 1000 - f) - b * (ax / 1000 - e)) / det,
          ]
          const isIn = (p: readonly [number, number], more: number): boolean =>
            p[0] >= zone.x0 - more && p[0] <= zone.x1 + more && p[1] >= zone.y0 - more && p[1] <= zone.y1 + more
          const { burned } = movesOf(jobForRun(whole, { zone }))
          for (const { x0, y0, x1, y1 } of burned)
            if (!isIn(face(x0, y0), 0.01) || !isIn(face(x1, y1), 0.01)) throw new Error('It burns outside.')
          // As much of the whole run lies in the zone.
          let wanted = 0
          for (const { x0, y0, x1, y1 } of movesOf(whole).burned) {
            const steps = Math.max(1, Math.ceil(Math.hypot(x1 - x0, y1 - y0) / 100))
            for (let k = 0; k < steps; k++) {
              const t = (k + 0.5) / steps
              if (isIn(face(x0 + (x1 - x0) * t, y0 + (y1 - y0) * t), 0)) wanted += Math.hypot(x1 - x0, y1 - y0) / steps / 1000
            }
          }
          expect(Math.abs(length(burned) - wanted)).toBeLessThan(0.5 + 0.01 * wanted)
        },
      ),
      { numRuns: 25 },
    )
  }, 120_000)

  it('from a moment on burns what is left, asks what is still to be asked, and takes the rest of the time', () => {
    const whole = job()
    const all = movesOf(whole)
    const { seconds } = measureJob(whole, supply())
    const { track: planned } = recordJob(whole, supply())
    const first = planned.parts.find(({ id }) => id === 'cut')!.firstMove
    // From the end of the last move that burns before the pause to the first move after it.
    let lastBurn = first - 1
    while (lastBurn > 0 && planned.s[lastBurn] === 0) lastBurn--
    const [askedFrom, askedTo] = [planned.seconds[lastBurn], planned.seconds[first]]
    fc.assert(
      fc.property(fc.double({ min: 0.01, max: 0.98, noNaN: true }), (share) => {
        const run = jobForRun(whole, { fromSeconds: share * seconds })
        const { burned, text } = movesOf(run)
        expect(burned.slice(1)).toEqual(all.burned.slice(all.burned.length - burned.length + 1))
        const left = measureJob(run, supply()).seconds
        expect(Math.abs(left - (1 - share) * seconds)).toBeLessThan(3)
        const { track } = recordJob(run, supply())
        const cutIsLeft = track.parts.findIndex(({ id }) => id === 'cut')
        // Where nothing but dark ways is left before the pause, it may be asked or be done.
        const isAtPause = share * seconds > askedFrom - 0.05 && share * seconds < askedTo + 0.05
        if (!isAtPause) expect(text.includes('M0')).toBe(cutIsLeft > 0)
      }),
      { numRuns: 12 },
    )
    const late = movesOf(jobForRun(whole, { fromSeconds: seconds + 100 }))
    expect(late.burned).toEqual([])
  }, 120_000)

  it('of a part takes the time that was told, on the machine', () => {
    for (const scope of [
      { zone: { x0: 25, y0: 22, x1: 38, y1: 40 } },
      { fromSeconds: 20 },
      { pieces: ['edge'] },
      { zone: { x0: 25, y0: 22, x1: 38, y1: 40 }, fromSeconds: 4, only: ['engrave', 'cut'] },
    ]) {
      const run = jobForRun(job(), scope)
      const { text } = movesOf(run)
      const { seconds } = driven(text)
      const told = measureJob(run, supply()).seconds
      expect(Math.abs(seconds - told) / told).toBeLessThan(0.005)
    }
  })

  it('in a zone goes with the workpiece that a set-up lays anew', () => {
    const pose = { xMm: 250, yMm: 140, deg: 30 }
    const turned = {
      ...job(),
      steps: { ...job().steps, wait: { kind: 'set-up', name: 'Turn it', poses: { piece: pose } } },
    } as JobDocument
    const zone = { x0: 20, y0: 20, x1: 34, y1: 50 }
    const longOf = (only: readonly string[]) => length(movesOf(jobForRun(turned, { zone, only })).burned)
    // As much of the cut lies in the zone as where the piece lay at first.
    const first = length(movesOf(jobForRun(job(), { zone, only: ['cut'] })).burned)
    expect(first).toBeGreaterThan(5)
    expect(Math.abs(longOf(['cut']) - first)).toBeLessThan(0.05)
  })

  it('of some pieces burns their operations alone, with what is asked before them', () => {
    const run = jobForRun(job(), { pieces: ['edge'], changes: { fill: { power: 0.5 } } })
    expect(burnOrder(run)).toEqual(['fill'])
    expect(run.operations.fill.power).toBe(0.5)
    expect(() => checkJob(jobForRun(job(), { fromSeconds: 3 }))).toThrow('limits')
  })
})
