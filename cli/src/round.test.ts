// Something that turns: a picture around a cup, driven by a simulated machine that integrates the turn itself.
import {
  broughtRound,
  burningsOf,
  chartOf,
  checkFindings,
  checkJob,
  circumferenceMm,
  compareBurn,
  dotsKept,
  forecastMaps,
  forecastScene,
  type JobDocument,
  mainPiece,
  preflight,
  processOf,
  ResultCache,
  type RotaryDevice,
  readProgram,
  type Supply,
  sweptScene,
  timesRound,
  withFlat,
  withoutOperation,
  withPiece,
  withPlace,
  withRound,
} from '@neotaxis/core'
import { greyPicture, sampleJob } from '@neotaxis/core/testing/sample-job'
import { Bed, Machine, TRUTHS, turning, Workpiece } from '@neotaxis/stand-ins'
import { describe, expect, it } from 'vitest'
import { programOf } from './testing/on-machine.ts'

const ROLLERS: RotaryDevice = {
  name: 'Roller bed',
  drive: { kind: 'roller', rollerMm: 64, stepsPerTurn: 7200 },
  axis: 'y',
  direction: 1,
  smallestMm: 20,
  largestMm: 110,
  longestMm: 400,
  speedMmS: 120,
  accelerationMmS2: 800,
}
const DIAMETER = 30
const picture = greyPicture(160, 100, (x, y) => (Math.hypot(x - 80, y - 50) > 46 ? 255 : 20 + ((x * 5 + y * 3) % 130)))
const supply = (): Supply => ({ picture: () => picture, cache: new ResultCache() })

/** A picture on a cup of Ø 30 mm. */
function cup(device = ROLLERS): JobDocument {
  const base = sampleJob({ picture, widthMm: 40, xMm: 130, yMm: 88, engrave: { power: 0.5, speedMmS: 300, intervalMm: 0.2 } })
  return withRound(withoutOperation(base, 'cut'), device, DIAMETER, 120)
}
const kinds = (job: JobDocument): string[] => checkFindings(job, supply()).map(({ kind }) => kind)

describe('a job on something round', () => {
  it('is a job like any: whole, in the middle of its face, without findings that stop it', () => {
    const job = cup()
    expect(checkJob(job)).toEqual(job)
    expect(mainPiece(job).outline).toMatchObject({
      kind: 'rect',
      widthMm: 120,
      heightMm: expect.closeTo(circumferenceMm(DIAMETER), 3),
    })
    expect(job.placements.source.xMm).toBeCloseTo(40, 6)
    expect(checkFindings(job, supply()).filter(({ severity }) => severity === 'stop')).toEqual([])
    const items = preflight(job, []).filter(({ id }) => id.startsWith('rotary'))
    expect(items.map(({ title }) => title)).toEqual(['Roller bed is plugged in', 'Ø 30 mm lies level in it and turns freely'])
    expect(items[0].detail).toContain('35.810 steps/mm on Y')
    // And flat again, as it was made for.
    const flat = withFlat(job)
    expect(flat.machine).toEqual(sampleJob({ picture }).machine)
    expect(preflight(flat, []).find(({ id }) => id === 'rotary')?.title).toBe('No rotary is plugged in')
  })

  /** What a machine that turns it burns, and its forecast. */
  async function burned(job: JobDocument) {
    const work = supply()
    const { text, report } = programOf(job, work)
    const { moves, problems } = readProgram(text)
    expect(problems).toEqual([])
    for (let i = 0; i < moves.count; i++) if (moves.speed[i] === 0) expect(moves.s[i]).toBe(0)
    const cell = 0.02
    const around = circumferenceMm(DIAMETER)
    // The controller is set as the rotary wants it.
    const set = { speed: ROLLERS.speedMmS, acceleration: ROLLERS.accelerationMmS2 }
    const truth = turning(TRUTHS['bench-60'], { diameter: DIAMETER, ...set })
    const bed = new Bed(truth.bed.x, truth.bed.y, cell, truth.spot)
    const machine = new Machine(truth, bed)
    const laid = { material: 'birch-ply', thickness: mainPiece(job).thicknessMm, x0: 0, y0: 0, x1: truth.bed.x, y1: truth.bed.y }
    const piece = new Workpiece(laid, bed, 0)
    machine.surface = laid.thickness
    machine.jog(0, 0, laid.thickness, 10)
    while (machine.finishMove());
    const before = machine.counts.seconds
    for (const line of text.split('\n')) {
      while (!machine.hasRoom) machine.finishMove()
      machine.take(line)
    }
    while (machine.finishMove());
    expect(machine.counts.alarms).toBe(0)
    // Told within half a percent.
    expect(Math.abs((machine.counts.seconds - before) / report.seconds - 1)).toBeLessThan(0.005)
    const { pose } = mainPiece(job)
    const [columns, rows] = [Math.floor(120 / cell), Math.floor(around / cell)]
    const seen = await piece.picture(pose.xMm, 0, columns, rows, cell)
    // Rows come from the rear: once around, less what is no whole row.
    const y0 = around - rows * cell
    const maps = forecastMaps(sweptScene(forecastScene(job, work), chartOf(job)), columns, rows, cell, 0, y0)
    return { work, maps, seen: { ...seen, x0: 0, y0, cellMm: cell } }
  }

  it('burns once around what its forecast shows, on a machine that turns it', { timeout: 120_000 }, async () => {
    const job = cup()
    const { work, maps, seen } = await burned(job)
    expect(compareBurn(maps, seen).toneOff).toBeLessThan(0.02)
    const [engraved] = burningsOf(job, 'engrave', work)
    const { marks, field } = processOf(engraved.operation).dots!(engraved)
    expect(dotsKept(marks, field, seen, maps)).toBeGreaterThan(0.999)
  })

  it.each([
    ['its rear edge', -12],
    ['its front edge, a turn beside it', 2 * circumferenceMm(DIAMETER) - 9],
  ])('comes round over the seam, as it is forecast: over %s', { timeout: 120_000 }, async (_, yMm) => {
    const job = withPlace(cup(), 'source', { yMm })
    expect(checkFindings(job, supply()).map(({ kind }) => kind)).not.toContain('outside-workpiece')
    expect(checkFindings(job, supply()).filter(({ severity }) => severity === 'stop')).toEqual([])
    const { maps, seen } = await burned(job)
    const off = compareBurn(maps, seen)
    // The edge of a line may lie across a cell: it is a little dark then.
    expect(off.toneOff).toBeLessThan(0.03)
    // Dark on both sides of the seam, on the same columns.
    const { columns, rows, tone } = seen
    const dark = (row: number): number =>
      tone.subarray(row * columns, (row + 1) * columns).reduce((n, v) => n + (v > 60 ? 1 : 0), 0)
    expect(dark(2)).toBeGreaterThan(100)
    expect(dark(rows - 3)).toBeGreaterThan(100)
    expect(dark(Math.floor(rows / 2))).toBe(0)
  })

  it('closes around: rows at the seam are as far from each other as any, within half an interval', () => {
    const dark = greyPicture(60, 40, () => 0)
    const work: Supply = { picture: () => dark, cache: new ResultCache() }
    const base = sampleJob({ picture: dark, widthMm: 40, engrave: { power: 0.5, speedMmS: 300, intervalMm: 0.2 } })
    const job = timesRound(withRound(withoutOperation(base, 'cut'), ROLLERS, DIAMETER, 120), 'source', 'scale', { count: 3 })
    expect(checkFindings(job, work).filter(({ severity }) => severity === 'stop')).toEqual([])
    const { moves } = readProgram(programOf(job, work).text)
    const around = circumferenceMm(DIAMETER)
    const rows = new Set<number>()
    for (let i = 0; i < moves.count; i++) if (moves.s[i] > 0) rows.add(broughtRound(moves.y[i] / 1000, around))
    const sorted = [...rows].sort((a, b) => a - b)
    const gaps = sorted.map((y, i) => (i === 0 ? y + around - sorted[sorted.length - 1] : y - sorted[i - 1]))
    expect(sorted.length).toBeGreaterThan(450)
    expect(Math.min(...gaps)).toBeGreaterThanOrEqual(0.1)
    expect(Math.max(...gaps)).toBeLessThanOrEqual(0.3)
  })

  it('is told where it does not fit: over itself, too thick, too long, slipping, or on a machine where nothing turns', () => {
    const job = cup()
    const large = withPlace(job, 'source', { widthMm: 176, heightMm: 110, xMm: 5, yMm: 0 })
    expect(kinds(large)).toContain('around-overlap')
    expect(kinds({ ...job, machine: withFlat(job).machine })).toContain('rotary-missing')
    expect(kinds(withFlat(job))).not.toContain('rotary-missing')
    const flatPiece = { ...withFlat(job), machine: job.machine }
    expect(kinds(flatPiece)).toContain('rotary-flat')
    expect(kinds({ ...job, machine: { ...job.machine, turns: { ...job.machine.turns!, diameterMm: 31 } } })).toContain(
      'rotary-diameter',
    )
    expect(kinds(cup({ ...ROLLERS, accelerationMmS2: 9000 }))).toContain('would-slip')
    expect(
      kinds(cup({ ...ROLLERS, drive: { kind: 'chuck', gear: 1, stepsPerTurn: 3200 }, accelerationMmS2: 9000 })),
    ).not.toContain('would-slip')
    expect(() => withRound(job, { ...ROLLERS, axis: 'a' }, 40, 100)).toThrow('an axis of its own')
    // What is kept free stays so when the diameter is corrected.
    const held = withPiece(job, { marks: { seam: { xMm: 5, yMm: 5 } } })
    expect(mainPiece(withRound(held, ROLLERS, 31, 120)).marks).toEqual({ seam: { xMm: 5, yMm: 5 } })
    expect(() => withRound(job, ROLLERS, 140, 100)).toThrow('from Ø 20 to Ø 110 mm')
    expect(() => withRound(job, ROLLERS, 40, 500)).toThrow('up to 400 mm long')
  })
})
