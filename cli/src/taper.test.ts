// A tapered cup in a chuck: driven by a simulated machine whose cup is thinner at one end, for which nobody here wrote the sums.
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import {
  type AreaOperation,
  axesToPoint,
  chartOf,
  checkFindings,
  checkJob,
  decodePng,
  encodePng,
  type JobDocument,
  mainPiece,
  preflight,
  ResultCache,
  ROTARIES,
  readProgram,
  type Supply,
  timesRound,
  withFlat,
  withoutOperation,
  withRound,
  withTrueToFace,
} from '@neotaxis/core'
import { sampleJob, squarePicture } from '@neotaxis/core/testing/sample-job'
import { Bed, Machine, TRUTHS, turning } from '@neotaxis/stand-ins'
import { afterAll, describe, expect, it } from 'vitest'
import { loadJob } from './jobs.ts'
import { programOf } from './testing/on-machine.ts'
import { ran } from './testing/ran.ts'

const picture = squarePicture(100, 0)
const supply = (): Supply => ({ picture: () => picture, cache: new ResultCache() })
/** So much is a burn, J/mm². */
const ENOUGH = 0.05
const ENDS = { leftMm: 40, rightMm: 60 }

/** A dark square of 40 × 40 mm, as it is counted, on a cup of Ø 40 to 60 mm whose side is 60 mm long. */
function cup(): JobDocument {
  const base = withoutOperation(
    sampleJob({ picture, widthMm: 40, engrave: { power: 0.5, speedMmS: 200, intervalMm: 0.1 } }),
    'cut',
  )
  const job = withRound(base, ROTARIES.chuck, ENDS, 60)
  return { ...job, placements: { source: { ...job.placements.source, xMm: 10, yMm: 40 } } }
}

/** The program of a job, on a machine that turns the cup as it is. */
function burned(job: JobDocument, profile?: readonly (readonly [number, number])[]) {
  const { text, report } = programOf(job, supply())
  const { xMm } = mainPiece(job).pose
  const { speedMmS, accelerationMmS2 } = ROTARIES.chuck
  const truth = turning(TRUTHS['bench-60'], {
    diameter: 60,
    levelled: true,
    profile: profile ?? [
      [xMm, 40],
      [xMm + 60, 60],
    ],
    speed: speedMmS,
    acceleration: accelerationMmS2,
  })
  const bed = new Bed(truth.bed.x, truth.bed.y, 0.05, truth.spot)
  const machine = new Machine(truth, bed)
  for (const line of text.split('\n')) {
    while (!machine.hasRoom) machine.finishMove()
    machine.take(line)
  }
  while (machine.finishMove());
  expect(machine.counts.alarms).toBe(0)
  return { text, report, bed, seconds: machine.counts.seconds, xMm }
}

/** Energy on a stretch along x, for each mm² of what is counted; the machine keeps it for each mm² of surface. */
function energyOf(bed: Bed, from: number, to: number): number {
  let sum = 0
  for (let r = 0; r < bed.rows; r++)
    for (let c = Math.round(from / bed.cell); c < Math.round(to / bed.cell); c++) sum += bed.energy(c, r)
  return sum / (to - from)
}

describe('a tapered cup', () => {
  it('is a job like any: kept, checked, its axis tilted in the list before the start; what is none is refused', () => {
    const job = cup()
    expect(checkJob(job)).toEqual(job)
    expect(mainPiece(job).surface).toEqual({ kind: 'cone', ...ENDS })
    expect(mainPiece(job).outline).toMatchObject({ widthMm: 60, heightMm: expect.closeTo(60 * Math.PI, 3) })
    expect(checkFindings(job, supply()).filter(({ severity }) => severity === 'stop')).toEqual([])
    // sin α = 10 / 60.
    expect(preflight(job, []).find(({ id }) => id === 'rotary-turns')?.title).toContain('tilted 9.6°')
    expect(() => withRound(job, ROTARIES.chuck, { leftMm: 60, rightMm: 60 }, 60)).toThrow('it is a cylinder')
    expect(() => withRound(job, ROTARIES.chuck, { leftMm: 20, rightMm: 120 }, 45)).toThrow('The side must be longer')
    expect(() => withRound(job, ROTARIES.chuck, { leftMm: 3, rightMm: 60 }, 60)).toThrow('too thin')
    expect(mainPiece(withFlat(job)).surface).toEqual({ kind: 'flat' })
  })

  it('gets as much on every mm² of its surface, thin or wide: within 1 %, in the time that is told', () => {
    const { bed, xMm, seconds, report } = burned(cup())
    const [thin, middle, wide] = [14, 29, 44].map((x) => energyOf(bed, xMm + x, xMm + x + 4))
    expect(thin / middle).toBeGreaterThan(0.99)
    expect(thin / middle).toBeLessThan(1.01)
    expect(wide / middle).toBeGreaterThan(0.99)
    expect(wide / middle).toBeLessThan(1.01)
    expect(Math.abs(seconds / report.seconds - 1)).toBeLessThan(0.005)
    // Without that it would be burned half as much again where it is thin.
    const flat = withRound(cup(), ROTARIES.chuck, 60, 60)
    const plain = burned({ ...flat, placements: cup().placements })
    expect(energyOf(plain.bed, xMm + 14, xMm + 18) / energyOf(plain.bed, xMm + 44, xMm + 48)).toBeGreaterThan(1.2)
  })

  it('keeps the speed of its surface where it is turned for a line or a fill around it', () => {
    const base = cup()
    const area = {
      process: 'area',
      of: ['around'],
      power: 0.3,
      speedMmS: 40,
      passes: 1,
      intervalMm: 0.2,
      strategy: 'sweep',
      deg: 90,
      bothWays: true,
      begins: 'far',
      insetMm: 0,
      air: false,
    }
    const square = {
      kind: 'trace',
      name: 'square',
      from: 'source',
      channel: 'grey',
      threshold: 0.5,
      toleranceMm: 0,
      cornerDeg: 32,
      minAreaMm2: 0,
    }
    const job = {
      ...base,
      nodes: { source: base.nodes.source, around: square },
      operations: { area: area as unknown as AreaOperation },
      steps: { area: { kind: 'burn', operation: 'area' } },
      order: ['area'],
    } as unknown as JobDocument
    const { text, bed, xMm } = burned(job)
    const { moves } = readProgram(text)
    // v · D / d: 40 mm/s at Ø 60 mm, faster where it is thinner.
    for (let i = 1; i < moves.count; i++) {
      if (moves.s[i] === 0 || moves.x[i] !== moves.x[i - 1]) continue
      const d = 40 + (20 * (moves.x[i] / 1000 - xMm)) / 60
      expect(moves.speed[i]).toBeCloseTo((40 * 60) / d, 0)
    }
    const [thin, wide] = [14, 44].map((x) => energyOf(bed, xMm + x, xMm + x + 4))
    expect(thin / wide).toBeGreaterThan(0.99)
    expect(thin / wide).toBeLessThan(1.01)
  })
})

describe('artwork true to a taper', () => {
  it('is burned as large and as straight on the cup as it is drawn', () => {
    const job = withTrueToFace(cup(), 'source', true)
    const { bed } = burned(job)
    const chart = chartOf(job)
    const { xMm, yMm } = job.placements.source
    // The cup laid flat: its thin end 120 mm from the tip, and a turn is a sixth of a circle.
    const [tip, share] = [120, 1 / 6]
    let both = 0
    let either = 0
    for (let r = 0; r < bed.rows; r++)
      for (let c = 0; c < bed.columns; c++) {
        const [x, y] = axesToPoint(chart, 1000 * (c + 0.5) * bed.cell, 1000 * (r + 0.5) * bed.cell)
        if (x < 0 || x > 60) continue
        const turn = ((y - yMm - 20) / 30) * share
        const [along, across] = [(tip + x) * Math.cos(turn) - tip - xMm - 20, (tip + x) * Math.sin(turn)]
        const wanted = Math.abs(along) < 20 && Math.abs(across) < 20
        const got = bed.energy(c, r) > ENOUGH
        if (wanted && got) both++
        if (wanted || got) either++
      }
    expect(both * bed.cell ** 2).toBeGreaterThan(1600)
    expect(both / either).toBeGreaterThan(0.97)
  })
})

describe('a bellied vase', () => {
  const places = [
    { alongMm: 0, diameterMm: 40 },
    { alongMm: 30, diameterMm: 60 },
    { alongMm: 60, diameterMm: 44 },
  ]
  const vase = (widthMm: number): JobDocument => {
    const base = withoutOperation(sampleJob({ picture, widthMm, engrave: { power: 0.5, speedMmS: 200, intervalMm: 0.1 } }), 'cut')
    const job = withRound(base, ROTARIES.chuck, { places }, 60)
    return { ...job, placements: { source: { ...job.placements.source, xMm: 30 - widthMm / 2, yMm: 40 } } }
  }

  it('is counted around its widest place, and gets as much everywhere too', () => {
    const job = vase(50)
    expect(checkJob(job)).toEqual(job)
    expect(mainPiece(job).outline).toMatchObject({ heightMm: expect.closeTo(60 * Math.PI, 3) })
    const { xMm } = mainPiece(job).pose
    const { bed, seconds, report } = burned(
      job,
      places.map(({ alongMm, diameterMm }) => [xMm + alongMm, diameterMm] as const),
    )
    const [thin, belly] = [10, 28].map((x) => energyOf(bed, xMm + x, xMm + x + 4))
    expect(thin / belly).toBeGreaterThan(0.99)
    expect(thin / belly).toBeLessThan(1.01)
    expect(Math.abs(seconds / report.seconds - 1)).toBeLessThan(0.005)
  })

  it('is told where it leaves the focus, and refused where it is none', () => {
    const focus = (job: JobDocument) => checkFindings(job, supply()).find(({ kind }) => kind === 'out-of-focus')
    // Two millimetres farther in: 6 mm along where it goes from 40 to 60 over 30 mm, 7.5 where it goes to 44.
    expect(focus(vase(11))).toBeUndefined()
    expect(focus(vase(40))?.message).toContain('sharp from 24 to 37.5 mm')
    // Told once, however often it lies there.
    const often = timesRound(vase(40), 'source', 'gap', { count: 3 })
    expect(checkFindings(often, supply()).filter(({ kind }) => kind === 'out-of-focus')).toHaveLength(1)
    const wrong = (list: typeof places) => () => withRound(vase(10), ROTARIES.chuck, { places: list }, 60)
    expect(wrong([places[0]])).toThrow('two diameters at least')
    expect(wrong([places[0], { alongMm: 30, diameterMm: 0 }])).toThrow('more than 0')
    expect(wrong([places[1], places[0]])).toThrow('lies before')
    expect(wrong([places[0], { alongMm: 60, diameterMm: 2 }])).toThrow('too thin')
  })
})

describe('a round job from the command line', () => {
  const folder = mkdtempSync(join(tmpdir(), 'neotaxis-round-'))
  afterAll(() => rmSync(folder, { recursive: true, force: true }))
  const at = (name: string): string => join(folder, name)
  const png = encodePng({ widthPx: 100, heightPx: 100, channels: 1, samples: picture.samples as Uint8Array, full: 255 })

  it('is put on what turns, planned, forecast and checked; what does not hold it is said', async () => {
    writeFileSync(at('square.png'), png)
    expect(
      (await ran('propose', at('square.png'), '--proposal', 'engrave', '--size', '20x', '-o', at('flat.neotaxis'))).code,
    ).toBe(0)
    const made = await ran(
      'rotary',
      at('flat.neotaxis'),
      '--diameter',
      '50',
      '--length',
      '120',
      '--around',
      '6:gap',
      '-o',
      at('cup.neotaxis'),
      '--json',
    )
    expect(made.err).toBe('')
    expect(JSON.parse(made.out)).toMatchObject({
      device: 'Roller bed',
      widthMm: 120,
      heightMm: expect.closeTo(50 * Math.PI, 3),
      stops: [],
    })
    expect(Object.keys(loadJob(at('cup.neotaxis')).job.placements)).toHaveLength(6)
    const plan = await ran('plan', at('cup.neotaxis'), '-o', at('cup.gcode'), '--json')
    expect(plan.err).toBe('')
    const once = JSON.parse((await ran('plan', at('flat.neotaxis'), '-o', at('flat.gcode'), '--json')).out)
    expect(JSON.parse(plan.out).seconds).toBeGreaterThan(4 * once.seconds)
    const seen = await ran('forecast', at('cup.neotaxis'), '--dpi', '50', '-o', at('cup.png'), '--json')
    expect(seen.err).toBe('')
    const { widthPx, heightPx } = decodePng(new Uint8Array(readFileSync(at('cup.png'))))
    expect(heightPx / widthPx).toBeCloseTo((50 * Math.PI) / 120, 1)
    // A cone, in the chuck; refused where its side is none, or nothing holds it.
    const cone = await ran(
      'rotary',
      at('flat.neotaxis'),
      '--device',
      'chuck',
      '--cone',
      '60,40,90',
      '--true',
      '-o',
      at('cone.neotaxis'),
      '--json',
    )
    expect(JSON.parse(cone.out)).toMatchObject({ widthMm: 90, heightMm: expect.closeTo(60 * Math.PI, 3) })
    expect(mainPiece(loadJob(at('cone.neotaxis')).job).surface).toEqual({ kind: 'cone', leftMm: 60, rightMm: 40 })
    expect(Object.values(loadJob(at('cone.neotaxis')).job.placements).every(({ trueToFace }) => trueToFace)).toBe(true)
    const straight = await ran('rotary', at('flat.neotaxis'), '--diameter', '50', '--true', '-o', at('none.neotaxis'))
    expect([straight.code, straight.err]).toEqual([2, expect.stringContaining('for what tapers')])
    const none = await ran('rotary', at('flat.neotaxis'), '--diameter', '300', '-o', at('none.neotaxis'))
    expect([none.code, existsSync(at('none.neotaxis'))]).toEqual([1, false])
    expect(none.err).toContain('from Ø 15 to Ø 120 mm')
    expect((await ran('rotary', at('flat.neotaxis'), '-o', at('none.neotaxis'))).code).toBe(2)
    expect((await ran('rotary', at('flat.neotaxis'), '--diameter', '50')).err).toContain('-o OUT')
    expect(
      (await ran('rotary', at('flat.neotaxis'), '--diameter', '50', '--around', '6:luck', '-o', at('x.neotaxis'))).err,
    ).toContain('gap, size')
  })
})
