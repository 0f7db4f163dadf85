// Faces that are curved or uneven, and a lens that follows them: driven by a simulated machine that knows how high they really are.
import {
  applyPatches,
  burnOrder,
  chartOf,
  checkFindings,
  checkJob,
  faceSize,
  fociOf,
  focusMm,
  heightAt,
  heightsOf,
  type JobDocument,
  mainPiece,
  mapped,
  placesToProbe,
  preflight,
  ResultCache,
  radiusByChord,
  riseOf,
  type Supply,
  withArch,
  withFollowing,
  withHeights,
  withoutOperation,
  withPiece,
  withStrips,
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
  machine.jog(0, 0, focusMm(job), 10)
  while (machine.finishMove());
  const before = machine.counts.seconds
  let asked: number | undefined
  const foci: number[] = []
  for (const line of text.split('\n')) {
    while (!machine.hasRoom) {
      if (machine.state === 'pause' && asked !== undefined) {
        machine.setLens(asked)
        foci.push(asked)
        machine.resume()
      } else machine.finishMove()
    }
    const focus = /^; pause: Set the focus ([\d.]+) mm/.exec(line)
    if (focus) asked = Number(focus[1])
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
  return { text, wideAt, foci, told: report.seconds, taken: machine.counts.seconds - before, z: whereIs(machine)[2] }
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

describe('a curved face under a lens that a hand sets', () => {
  /** The same piece on a machine that does not move its lens. */
  function byHand(strips: boolean, more?: (job: JobDocument) => JobDocument): JobDocument {
    const job = withArch(square(), { radiusMm: ARCHED.radius, across: 'x' })
    const { z: _, ...axes } = job.machine.axes
    const still = withStrips({ ...job, machine: { ...job.machine, axes } }, strips)
    return more ? more(still) : still
  }
  const onArch = (machine: Machine): void => {
    machine.arch = ARCHED
  }
  /** Two cuts, one after the other. */
  const twice = (job: JobDocument): JobDocument => {
    const [id] = burnOrder(job)
    return {
      ...job,
      operations: { ...job.operations, again: job.operations[id] },
      steps: { ...job.steps, 'step-again': { kind: 'burn', operation: 'again' } },
      order: [...job.order, 'step-again'],
    }
  }

  it('is burned in strips, each in its focus: the line is as thin at the edge as on the crown, and all of it is there', () => {
    const job = byHand(true)
    expect(checkJob(JSON.parse(JSON.stringify(job)))).toEqual(job)
    const foci = fociOf(job, mainPiece(job))
    // 24 mm deep at its edges, ±2 mm sharp: six foci. The square reaches 63 mm: 9.1 mm deep, three of them.
    expect(foci.map(({ underMm }) => underMm).slice(0, 3)).toEqual([2, 6, 10])
    const [still, strips] = [burned(byHand(false), onArch), burned(job, onArch)]
    expect(strips.foci).toEqual([4, 0])
    const places = [40, 45, 55, 70, 85, 100, 115, 130, 145, 155, 160]
    const wide = places.map((x) => strips.wideAt(x, 37))
    expect(Math.min(...wide)).toBeGreaterThan(0)
    expect(Math.max(...wide) / Math.min(...wide)).toBeLessThan(1.5)
    expect(still.wideAt(40, 37) / still.wideAt(100, 37)).toBeGreaterThan(2)
    expect(Math.abs(strips.taken / strips.told - 1)).toBeLessThan(0.005)
  })

  it('keeps its focus from one operation to the next, and asks for it again where a run begins in the midst', () => {
    const job = byHand(true, twice)
    const foci = (of: JobDocument): string[] =>
      [...programOf(of, supply()).text.matchAll(/Set the focus ([\d.]+) mm/g)].map(([, height]) => height)
    // Down for the first, back to the crown with the second.
    expect(foci(job)).toEqual(['4', '0', '4', '8'])
    const { seconds } = programOf(job, supply()).report
    expect(foci({ ...job, limits: { fromSeconds: seconds / 2 + 0.5 } })).toEqual(['0', '4', '8'])
    // A zone over the crown needs no other focus.
    expect(foci({ ...job, limits: { zone: { x0: 90, y0: 0, x1: 110, y1: 200 } } })).toEqual(['8'])
    expect(foci({ ...job, limits: { zone: { x0: 30, y0: 0, x1: 40, y1: 200 } } })).toEqual(['0'])
    // Laid anew its lens is on the crown again: the same focus is asked for once more.
    const setUp = { kind: 'set-up', name: 'Turn it around', poses: {} } as const
    const laidAnew = {
      ...job,
      steps: { ...job.steps, anew: setUp },
      order: [...job.order.slice(0, -1), 'anew', ...job.order.slice(-1)],
    }
    expect(foci({ ...laidAnew, limits: { zone: { x0: 30, y0: 0, x1: 40, y1: 200 } } })).toEqual(['0', '0'])
    expect(preflight(job, []).find(({ kind }) => kind === 'focus')?.title).toContain('2 mm under its crown; farther out 6, 10, ')
  })

  it('asks for each of two pieces whose thickness differs, and not for a level one that is sharp as it is', () => {
    const job = byHand(true)
    const [[id, piece]] = Object.entries(job.workpieces)
    const [key] = Object.keys(job.placements)
    const beside = (thicknessMm: number, level: boolean): JobDocument => ({
      ...job,
      workpieces: {
        ...job.workpieces,
        second: { ...piece, thicknessMm, pose: { xMm: 380, yMm: 20 }, surface: level ? { kind: 'flat' } : piece.surface },
      },
      placements: { ...job.placements, second: { ...job.placements[key], of: key, on: 'second' } },
    })
    expect(id).not.toBe('second')
    const foci = (of: JobDocument): string[] =>
      [...programOf(of, supply()).text.matchAll(/Set the focus ([\d.]+) mm/g)].map(([, height]) => height)
    expect(foci(beside(10, false))).toEqual(['4', '0'])
    expect(foci(beside(14, false))).toEqual(['12', '4', '8', '0', '4'])
    expect(foci(beside(9, true))).toEqual(['4', '0'])
  })

  it('is offered where something would be out of focus and the lens stays where it is', () => {
    const found = (job: JobDocument) => checkFindings(job, supply()).find(({ kind }) => kind === 'out-of-focus')
    const fix = found(byHand(false))?.fixes.find(({ label }) => label.startsWith('Burn it in strips'))
    expect(fix).toBeDefined()
    expect(found(applyPatches(byHand(false), fix!.patches) as JobDocument)).toBeUndefined()
    const moving = withStrips(withArch(square(), { radiusMm: ARCHED.radius, across: 'x' }), true)
    expect(fociOf(moving, mainPiece(moving))).toEqual([])
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
