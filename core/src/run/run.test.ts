import { describe, expect, it } from 'vitest'
import { withRound } from '../edits/round-edits.ts'
import { withoutOperation } from '../edits/take-away.ts'
import { checkFindings } from '../findings/check.ts'
import { forecastMaps } from '../forecast/maps.ts'
import { convexHull } from '../geometry/hull.ts'
import { burnOrder, type JobDocument, withPiece, withPlace } from '../job/document/document.ts'
import { trackSeconds } from '../motion/track.ts'
import { frameLimit, framePath, frameProgram } from '../plan/frame-path.ts'
import { recordJob } from '../plan/record.ts'
import { ROTARIES } from '../rotary/shipped.ts'
import { sceneAt } from '../scene/moment.ts'
import { forecastScene } from '../scene/scene.ts'
import { fieldOf, greyPicture, marksOf, onRectangle, sampleJob, supplyWith } from '../testing/sample-job.ts'
import { jobForRun } from './changes.ts'
import { compareBurn, dotsKept } from './comparison.ts'
import { preflight } from './preflight.ts'

const picture = greyPicture(80, 80, (x, y) => (Math.hypot(x - 40, y - 40) < 30 ? 40 : 255))
const sample = sampleJob({ picture, widthMm: 24, xMm: 12, yMm: 14, engrave: { intervalMm: 0.2 }, cut: { kerfMm: 0.2 } })
const job = onRectangle(sample, { widthMm: 50, heightMm: 60 })
const supply = supplyWith(picture)

describe('a run of a part of a job', () => {
  it('burns only what is asked for, with the settings for this run, and leaves the job alone', () => {
    const before = JSON.stringify(job)
    const run = jobForRun(job, { only: ['cut'], changes: { cut: { passes: 3, power: 0.9 } } })
    expect(burnOrder(run)).toEqual(['cut'])
    expect(run.operations.cut).toMatchObject({ passes: 3, power: 0.9, speedMmS: 12 })
    expect(JSON.stringify(job)).toBe(before)
    expect(burnOrder(jobForRun(job, {}))).toEqual(burnOrder(job))
  })
})

describe('framing', () => {
  it('goes around the box, the hull or the cut itself, closed, inside the bed', () => {
    const [box] = framePath(job, supply, 'bounds')
    expect(box).toHaveLength(5)
    expect(box[0]).toEqual(box[4])
    const [hull] = framePath(job, supply, 'hull')
    const [outline] = framePath(job, supply, 'outline')
    const area = (way: readonly (readonly [number, number])[]): number =>
      Math.abs(way.slice(1).reduce((sum, [x, y], i) => sum + way[i][0] * y - x * way[i][1], 0) / 2)
    expect(area(hull)).toBeLessThanOrEqual(area(box) + 1e-6)
    expect(area(outline)).toBeLessThanOrEqual(area(hull) + 1e-6)
    expect(area(outline)).toBeGreaterThan(0.7 * area(box))
    // The picture alone has no cut: its box.
    expect(framePath(job, supply, 'outline', new Set(['engrave']))[0]).toHaveLength(5)
    expect(framePath({ ...job, order: [] }, supply, 'bounds')).toEqual([])
  })

  it('goes around what lies in the zone of a run, and nothing where nothing does', () => {
    const [whole] = framePath(job, supply, 'bounds')
    const spanX = (way: readonly (readonly [number, number])[]): number =>
      Math.max(...way.map(([x]) => x)) - Math.min(...way.map(([x]) => x))
    // A disc around x 24.
    const half = jobForRun(job, { zone: { x0: 0, y0: 0, x1: 24, y1: 60 } })
    for (const shape of ['bounds', 'hull', 'outline'] as const) {
      const [part] = framePath(half, supply, shape)
      expect(part[0]).toEqual(part.at(-1))
      expect(spanX(part) / spanX(whole)).toBeCloseTo(0.5, 1)
    }
    expect(framePath(jobForRun(job, { zone: { x0: 44, y0: 0, x1: 49, y1: 60 } }), supply, 'outline')).toEqual([])
  })

  it('is a program that is dark, or weak, and ends with the beam off', () => {
    const ways = framePath(job, supply, 'bounds')
    expect(frameProgram(ways, 50, 0).join(' ')).not.toMatch(/M[34]/)
    const weak = frameProgram(ways, 50, 8)
    expect(weak).toContain('M4S8')
    expect(weak).toContain('G1F3000')
    expect(weak.at(-1)).toBe('M5')
  })

  it('turns what is round slowly, back and forth, and never with its handle under the head', () => {
    const picture = greyPicture(40, 40, () => 0)
    const flat = withoutOperation(sampleJob({ picture, widthMm: 30 }), 'cut')
    const cup = withRound(flat, ROTARIES.rollers, 80, 120)
    const around = Math.PI * 80
    const handle = { name: 'handle', outline: { kind: 'rect', widthMm: 80, heightMm: 20 }, pose: { xMm: 20, yMm: 110 } } as const
    const both = (ys: readonly number[]): JobDocument => {
      const [first] = Object.values(cup.placements)
      const laid = Object.fromEntries(ys.map((yMm, i) => [i === 0 ? 'source' : `source-${i}`, { ...first, xMm: 40, yMm }]))
      return withPiece({ ...cup, placements: laid }, { keepOuts: { handle } })
    }
    expect(frameLimit(cup.machine)).toBe(15)
    expect(frameLimit(flat.machine)).toBeUndefined()
    const supply = supplyWith(picture)
    const span = (job: JobDocument): readonly [number, number] => {
      const [way] = framePath(job, supply, 'bounds')
      expect(way[0]).toEqual(way.at(-1))
      const ys = way.map(([, y]) => y)
      return [Math.min(...ys), Math.max(...ys)]
    }
    // Beside the handle: as it lies.
    const beside = span(both([10]))
    expect(beside[1] - beside[0]).toBeCloseTo(30, 0)
    // On both sides of it: from one to the other over the seam, not over the handle.
    const [low, high] = span(both([70, 150]))
    expect(high - low).toBeCloseTo(around - 50, 0)
    // Rows of the controller count from the front.
    const [from, to] = [around - 130, around - 110]
    const over = (y: number): boolean => [y - around, y, y + around].some((each) => each > from + 0.5 && each < to - 0.5)
    for (let y = low; y <= high; y += 0.5) expect(over(y)).toBe(false)
    // And no faster on the way there.
    expect(frameProgram(framePath(cup, supply, 'bounds'), 15, 0, true).join(' ')).not.toContain('G0')
    expect(preflight(both([10]), []).find(({ id }) => id === 'rotary-start')).toMatchObject({
      title: '“handle” is where its face says',
      detail: expect.stringContaining('60 mm from the left, 120 mm around from the seam'),
      place: [60, 120],
    })
  })

  it('finds the hull of points in any order', () => {
    const square: [number, number][] = [
      [0, 0],
      [2, 0],
      [1, 1],
      [2, 2],
      [0, 2],
      [1, 0],
      [1, 1.5],
    ]
    expect(convexHull(square)).toEqual([
      [0, 0],
      [2, 0],
      [2, 2],
      [0, 2],
    ])
    expect(convexHull([[1, 1]])).toEqual([[1, 1]])
  })
})

describe('the list before a start', () => {
  it('is made from the job: its material, its lens, its air, and what the check asks', () => {
    const high = withPlace(onRectangle(job, { thicknessMm: 6 }), 'source', { xMm: -5 })
    const items = preflight(high, checkFindings(high, supply))
    expect(items.find(({ id }) => id === 'focus')).toMatchObject({ title: 'In focus on 6 mm', action: 'focus' })
    expect(items.find(({ id }) => id === 'exhaust')!.title).toBe('Exhaust and air assist are on')
    expect(items.some(({ title }) => title.includes('glue pockets'))).toBe(true)
    expect(
      items
        .filter(({ id }) => id.startsWith('finding-'))
        .map(({ title }) => title)
        .join(),
    ).toContain('leaves the workpiece')
    const fixed = { ...job, machine: { ...job.machine, axes: { x: job.machine.axes.x, y: job.machine.axes.y }, hasAir: false } }
    expect(preflight(fixed, []).find(({ id }) => id === 'focus')!.action).toBeUndefined()
    expect(preflight(fixed, []).find(({ id }) => id === 'exhaust')!.title).toBe('The exhaust is on')
  })
})

describe('forecast against burn', () => {
  const cellMm = 0.05
  const maps = forecastMaps(forecastScene(job, supply), 1000, 1200, cellMm)
  const burned = { columns: 1000, rows: 1200, x0: 0, y0: 0, cellMm, tone: maps.tone, through: maps.through }

  it('is exact with itself, and tells how much a shift, a paler burn and a missing cut are off', () => {
    expect(compareBurn(maps, burned)).toMatchObject({ cutOverlap: 1, toneOff: 0, toneBias: 0 })
    const shifted = { ...burned, through: new Uint8Array(maps.through.length) }
    shifted.through.set(maps.through.subarray(0, -2), 2)
    const off = compareBurn(maps, shifted)
    expect(off.cutOverlap).toBeGreaterThan(0.2)
    expect(off.cutOverlap).toBeLessThan(0.8)
    const pale = compareBurn(maps, { ...burned, tone: maps.tone.map((t) => t / 2) })
    expect(pale.toneBias).toBeLessThan(-0.05)
    expect(compareBurn(maps, { ...burned, through: new Uint8Array(maps.through.length) }).cutOverlap).toBe(0)
    expect(() => compareBurn(maps, { ...burned, rows: 5 })).toThrow(RangeError)
  })

  it('counts the dots that are as they should be', () => {
    const operation = job.operations.engrave
    const grid = fieldOf(job, operation)
    const marks = marksOf(job, operation, supply)
    expect(dotsKept(marks, grid, burned, maps)).toBe(1)
    expect(dotsKept(marks, grid, { ...burned, tone: new Uint8Array(burned.tone.length) }, maps)).toBeLessThan(0.9)
    // Seen from so far away no dot is told from the next one.
    expect(dotsKept(marks, grid, { ...burned, cellMm: grid.pitch }, maps)).toBeUndefined()
  })
})

describe('the workpiece at a moment', () => {
  const track = recordJob(job, supply).track
  const total = (time: number): { tone: number; cut: number } => {
    const { tone, through } = forecastMaps(sceneAt(job, supply, track, time), 250, 300, 0.2)
    const sum = (list: Uint8Array): number => list.reduce((all, v) => all + v, 0)
    return { tone: sum(tone), cut: sum(through) }
  }

  it('is untouched at the start, whole at the end, and darkens and opens in between', () => {
    const end = trackSeconds(track)
    expect(total(0)).toEqual({ tone: 0, cut: 0 })
    const all = forecastMaps(forecastScene(job, supply), 250, 300, 0.2)
    const last = total(end)
    expect(last.tone).toBe(all.tone.reduce((sum, v) => sum + v, 0))
    let before = total(0)
    for (let i = 1; i <= 8; i++) {
      const now = total((end * i) / 8)
      expect(now.tone).toBeGreaterThanOrEqual(before.tone)
      expect(now.cut).toBeGreaterThanOrEqual(before.cut * 0.98)
      before = now
    }
    // Half of the picture's time is about half of its dots, and nothing is cut yet.
    const half = total(track.seconds[track.parts[1].firstMove - 1] / 2)
    expect(half.tone / last.tone).toBeGreaterThan(0.3)
    expect(half.tone / last.tone).toBeLessThan(0.7)
    expect(half.cut).toBe(0)
  })
})
