// Faces that are curved or uneven, and a lens that follows them: driven by a simulated machine that knows how high they really are.
import {
  chartOf,
  checkFindings,
  checkJob,
  faceSize,
  heightAt,
  heightsOf,
  type JobDocument,
  mainPiece,
  mapped,
  placesToProbe,
  ResultCache,
  radiusByChord,
  riseOf,
  type Supply,
  withArch,
  withFollowing,
  withHeights,
  withoutOperation,
  withPiece,
} from '@neotaxis/core'
import { onRectangle, sampleJob, squarePicture } from '@neotaxis/core/testing/sample-job'
import { Bed, Machine, TRUTHS } from '@neotaxis/stand-ins'
import { describe, expect, it } from 'vitest'
import { programOf } from './testing/on-machine.ts'

const picture = squarePicture(60, 0)
const supply = (): Supply => ({ picture: () => picture, cache: new ResultCache() })
const ARCHED = { radius: radiusByChord(200, 24), crown: 250, across: 'x' as const }
const ROUGH = { deep: 6, seed: 4 }

/** A square of 120 mm that is cut around on a piece of 200 × 200 mm, 10 mm thick. */
function square(): JobDocument {
  const base = withoutOperation(sampleJob({ picture, widthMm: 120, cut: { speedMmS: 60, power: 0.4 } }), 'engrave')
  const job = onRectangle(base, { widthMm: 200, heightMm: 200, thicknessMm: 10 })
  return { ...job, placements: { source: { ...job.placements.source, xMm: 40, yMm: 40 } } }
}

/** Where a machine says that its head is. */
const whereIs = (machine: Machine): number[] => (/at ([-\d.,]+)/.exec(machine.status())?.[1] ?? '').split(',').map(Number)

/** How wide the cut is burned, mm, beside each place of it; and the times told and taken. */
function burned(job: JobDocument, lie: (machine: Machine) => void) {
  const { text, report } = programOf(job, supply())
  const truth = TRUTHS['bench-60']
  const bed = new Bed(truth.bed.x, truth.bed.y, 0.02, truth.spot)
  const machine = new Machine(truth, bed)
  machine.surface = mainPiece(job).thicknessMm
  lie(machine)
  machine.jog(0, 0, mainPiece(job).thicknessMm, 10)
  while (machine.finishMove());
  const before = machine.counts.seconds
  for (const line of text.split('\n')) {
    while (!machine.hasRoom) machine.finishMove()
    machine.take(line)
  }
  while (machine.finishMove());
  expect(machine.counts.alarms).toBe(0)
  const { toAxes } = chartOf(job)
  const wideAt = (fx: number, fy: number): number => {
    const [x, y] = mapped(toAxes, fx, fy)
    let wide = 0
    // Across a horizontal cut.
    for (let r = Math.round((y - 3) / bed.cell); r < (y + 3) / bed.cell; r++)
      if (bed.energy(Math.round(x / bed.cell), r) > 0) wide += bed.cell
    return wide
  }
  return { text, wideAt, told: report.seconds, taken: machine.counts.seconds - before, z: whereIs(machine)[2] }
}

describe('a lens that follows a curved face', () => {
  const curved = (follows: boolean): JobDocument =>
    withFollowing(withArch(square(), { radiusMm: ARCHED.radius, across: 'x' }), follows)
  const onArch = (machine: Machine): void => {
    machine.arch = ARCHED
  }

  it('keeps a line as thin at the edge as on the crown, in the time that is told, and goes back to where it was', () => {
    const job = curved(true)
    expect(checkJob(JSON.parse(JSON.stringify(job)))).toEqual(job)
    const [still, following] = [burned(curved(false), onArch), burned(job, onArch)]
    // The cut lies 3 mm outside the square.
    const [crown, edge] = [100, 45].map((x) => following.wideAt(x, 37))
    expect(edge / crown).toBeLessThan(1.1)
    expect(still.wideAt(45, 37) / still.wideAt(100, 37)).toBeGreaterThan(1.3)
    expect(Math.abs(following.taken / following.told - 1)).toBeLessThan(0.005)
    expect(following.z).toBeCloseTo(10, 2)
  })

  it('is offered where something would be out of focus, and answers it', () => {
    const found = (job: JobDocument) => checkFindings(job, supply()).find(({ kind }) => kind === 'out-of-focus')
    expect(found(curved(false))?.fixes.map(({ label }) => label)).toContain('Let the lens follow the face')
    expect(found(curved(true))).toBeUndefined()
  })
})

describe('an uneven face', () => {
  const rough = (machine: Machine): void => {
    machine.uneven = ROUGH
  }

  /** The same job, with what the simulated machine's probe touched. */
  function probed(columns: number, rows: number): JobDocument {
    const job = square()
    const machine = new Machine(TRUTHS['bench-60'], new Bed(600, 400, 1, 0.1))
    machine.surface = 10
    rough(machine)
    const touched: (number | undefined)[] = []
    for (const { index, xMm, yMm } of placesToProbe(columns, rows, faceSize(mainPiece(job)), 0)) {
      const [x, y] = mapped(chartOf(job).toAxes, xMm, yMm)
      const [hx, hy] = whereIs(machine)
      machine.jog(x - hx, y - hy, 0, 100)
      while (machine.finishMove());
      touched[index] = machine.probe()
      while (machine.finishMove());
    }
    const { thicknessMm, heights } = heightsOf(columns, rows, touched)
    return withPiece(withHeights(job, heights), { thicknessMm })
  }

  it('is touched at its places, is told where it is out of focus, and burned as thin everywhere when the lens follows', () => {
    const job = probed(13, 13)
    expect(checkJob(JSON.parse(JSON.stringify(job)))).toEqual(job)
    expect(checkFindings(job, supply()).find(({ kind }) => kind === 'out-of-focus')?.message).toMatch(
      /lower than the piece is thick/,
    )
    const follows = withFollowing(job, true)
    expect(checkFindings(follows, supply()).find(({ kind }) => kind === 'out-of-focus')).toBeUndefined()
    const [still, following] = [burned(job, rough), burned(follows, rough)]
    const places = [45, 60, 80, 100, 120, 140, 155]
    const wide = (of: typeof still): number => Math.max(...places.map((x) => of.wideAt(x, 37)))
    const thin = Math.min(...places.map((x) => following.wideAt(x, 37)))
    expect(wide(following) / thin).toBeLessThan(1.35)
    expect(wide(still) / thin).toBeGreaterThan(1.9)
    expect(Math.abs(following.taken / following.told - 1)).toBeLessThan(0.005)
  })

  it('is known between its places, as at the nearest beside them, and refused where nothing was touched', () => {
    const { thicknessMm, heights } = heightsOf(2, 2, [10, 12, undefined, 11])
    expect(thicknessMm).toBe(12)
    // The rear left is the nearest to the front left, with the front right.
    expect(heights.mm).toEqual([-2, 0, -2, -1])
    const size = { widthMm: 100, heightMm: 50 }
    expect(heightAt(heights, size, 50, 0)).toBeCloseTo(-1, 9)
    expect(heightAt(heights, size, 100, 25)).toBeCloseTo(-0.5, 9)
    expect(heightAt(heights, size, 900, -7)).toBe(0)
    expect(() => heightsOf(2, 2, [undefined, undefined, undefined, undefined])).toThrow('found no piece')
    expect(riseOf(mainPiece(square()))).toBeUndefined()
    expect(() => checkJob(withHeights(square(), { columns: 3, rows: 2, mm: [0, 0, 0] }))).toThrow()
  })
})
