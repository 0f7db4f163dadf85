import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { grouped } from '../edits/change.ts'
import { duplicated } from '../edits/take-away.ts'
import type { Bounds } from '../geometry/bounds.ts'
import { combine, offset, shapeArea } from '../geometry/clip.ts'
import { ringsBounds } from '../geometry/ring.ts'
import { type JobDocument, placeOf, withPiece } from '../job/document/document.ts'
import { checkJob } from '../reading/check-job.ts'
import { greyPicture, onRectangle, sampleJob, supplyWith } from '../testing/sample-job.ts'
import { aligned, spreadEvenly } from './arrange.ts'
import { burnedShape, fittedToPiece, freeFace } from './fit-artwork.ts'
import { laidOut } from './lay-out.ts'
import { levelled } from './level.ts'
import { snapped } from './snap.ts'

const picture = greyPicture(80, 60, (x, y) => (Math.hypot((x - 40) / 1.3, y - 30) < 26 ? 30 : 255))
const supply = supplyWith(picture)
const job = onRectangle(sampleJob({ picture, widthMm: 24, xMm: 12, yMm: 14 }), { widthMm: 90, heightMm: 60 })

/** The job with its artwork three more times, each a family of its own. */
function withFour(): JobDocument {
  const { source } = job.nodes
  const names = ['b', 'c', 'd']
  return {
    ...job,
    nodes: { ...job.nodes, ...Object.fromEntries(names.map((id) => [id, source])) },
    placements: {
      ...job.placements,
      ...Object.fromEntries(
        names.map((id, i) => [`p${id}`, { ...job.placements.source, of: id, xMm: 30 + 11 * i ** 2, yMm: 5 + 7 * i }]),
      ),
    },
  }
}
const boxOf = (of: JobDocument, node: string): Bounds => {
  const { xMm, yMm, widthMm, heightMm } = placeOf(of, node)
  return { x0: xMm, y0: yMm, x1: xMm + widthMm, y1: yMm + heightMm }
}
const items = (of: JobDocument, nodes: readonly string[]) => nodes.map((node) => ({ node, box: boxOf(of, node) }))

describe('artwork in line', () => {
  const four = withFour()
  const all = ['source', 'b', 'c', 'd']
  const face = { x0: 0, y0: 0, x1: 90, y1: 60 }

  it('is brought to a side or the middle of a box, and stays where it was the other way', () => {
    const left = aligned(four, items(four, all), 'left', face)
    for (const node of all) expect(boxOf(left, node)).toMatchObject({ x0: 0, y0: boxOf(four, node).y0 })
    const middle = aligned(four, items(four, ['b']), 'middle', face)
    expect((boxOf(middle, 'b').y0 + boxOf(middle, 'b').y1) / 2).toBeCloseTo(30, 6)
    expect(boxOf(aligned(four, items(four, ['c']), 'bottom', face), 'c').y1).toBeCloseTo(60, 6)
  })

  it('moves what is grouped once, as one', () => {
    const group = grouped(four, 'b', 'c', 'g')
    const right = aligned(group, items(group, ['b', 'c', 'd']), 'right', face)
    const [b, c] = [boxOf(right, 'b'), boxOf(right, 'c')]
    expect(Math.max(b.x1, c.x1)).toBeCloseTo(90, 6)
    expect(c.x0 - b.x0).toBeCloseTo(boxOf(four, 'c').x0 - boxOf(four, 'b').x0, 6)
    expect(boxOf(right, 'd').x1).toBeCloseTo(90, 6)
  })

  it('is spread so that gaps are alike and the outermost stay; two have no gap to share', () => {
    const even = spreadEvenly(four, items(four, all), 'x')
    const boxes = all.map((node) => boxOf(even, node)).sort((p, q) => p.x0 - q.x0)
    const gaps = boxes.slice(1).map((box, i) => box.x0 - boxes[i].x1)
    for (const gap of gaps) expect(gap).toBeCloseTo(gaps[0], 2)
    expect(boxes[0].x0).toBe(Math.min(...all.map((node) => boxOf(four, node).x0)))
    expect(boxes[3].x1).toBeCloseTo(Math.max(...all.map((node) => boxOf(four, node).x1)), 6)
    expect(spreadEvenly(four, items(four, ['b', 'c']), 'y')).toBe(four)
  })
})

describe('snaps', () => {
  const face = { x0: 0, y0: 0, x1: 200, y1: 100 }
  const at = (x: number, y: number, w = 20, h = 10): Bounds => ({ x0: x, y0: y, x1: x + w, y1: y + h })

  it('come to the middle and the edges of the workpiece, and to sides and middles of other artwork', () => {
    expect(snapped(at(90.6, 44.7), { face, others: [] }, 1)).toMatchObject({
      dx: expect.closeTo(-0.6, 9),
      dy: expect.closeTo(0.3, 9),
    })
    expect(snapped(at(0.4, 30), { face, others: [] }, 1)).toMatchObject({ dx: expect.closeTo(-0.4, 9), dy: 0 })
    const { dx, lines } = snapped(at(50.5, 70), { face, others: [at(50, 20)] }, 1)
    expect(dx).toBeCloseTo(-0.5, 9)
    expect(lines[0]).toMatchObject({ x0: expect.closeTo(60, 9), x1: expect.closeTo(60, 9), y0: 20, y1: 80 })
    expect(snapped(at(53, 70), { face, others: [at(50, 20)] }, 1)).toEqual({ dx: 0, dy: 0, lines: [] })
  })

  it('come to a margin, and to gaps that are alike, between neighbours or in a row', () => {
    expect(snapped(at(5.3, 30), { face, others: [], marginMm: 5 }, 1).dx).toBeCloseTo(-0.3, 9)
    const between = snapped(at(60.4, 40), { face, others: [at(10, 38), at(110, 42)] }, 1)
    expect(between.dx).toBeCloseTo(-0.4, 9)
    const row = snapped(at(70.7, 43), { face, others: [at(10, 40), at(40, 41)] }, 1)
    expect(row.dx).toBeCloseTo(-0.7, 9)
    expect(row.lines.filter(({ isGap }) => isGap)).toHaveLength(2)
  })

  it('never move farther than the reach, and what lies exactly stays', () => {
    const box = fc.record({ x: fc.integer({ min: 0, max: 180 }), y: fc.integer({ min: 0, max: 90 }) }).map(({ x, y }) => at(x, y))
    fc.assert(
      fc.property(box, fc.array(box, { maxLength: 6 }), (moved, others) => {
        const snap = snapped(moved, { face, others }, 3)
        expect(Math.max(Math.abs(snap.dx), Math.abs(snap.dy))).toBeLessThanOrEqual(3)
        const there = { x0: moved.x0 + snap.dx, x1: moved.x1 + snap.dx, y0: moved.y0 + snap.dy, y1: moved.y1 + snap.dy }
        const again = snapped(there, { face, others }, 1e-6)
        expect([again.dx, again.dy].every((v) => Math.abs(v) < 1e-5)).toBe(true)
        for (const { x0, x1, y0, y1 } of snap.lines) expect(x0 === x1 || y0 === y1).toBe(true)
      }),
    )
  })
})

describe('a line made level', () => {
  it('turns the artwork by as much as the line is off, to whichever way is nearer', () => {
    const turn = (dx: number, dy: number) => placeOf(levelled(job, 'source', [10, 10], [10 + dx, 10 + dy])!, 'source').deg ?? 0
    expect(turn(10, 1)).toBeCloseTo(-5.711, 2)
    expect(turn(-10, 1)).toBeCloseTo(5.711, 2)
    expect(turn(1, 10)).toBeCloseTo(5.711, 2)
    expect(turn(4, 0)).toBe(0)
    expect(levelled(job, 'source', [10, 10], [10, 10])).toBeUndefined()
  })
})

describe('artwork laid out', () => {
  const names = ['a2', 'a3', 'a4', 'a5']
  const wide = withPiece(
    names.reduce((sum, tag) => duplicated(sum, ['source'], tag).job, job),
    { outline: { kind: 'rings', rings: [[0, 0, 130, 0, 130, 50, 60, 90, 0, 90]] } },
  )
  const roots = Object.keys(wide.nodes).filter((id) => wide.nodes[id].kind === 'source')

  it('lies apart on the workpiece, all of it, groups as one', () => {
    const made = laidOut(wide, roots, supply, { spacingMm: 2, marginMm: 1 })
    if ('not' in made) throw new Error(made.not)
    checkJob(made.job)
    const shapes = roots.map((root) => burnedShape(made.job, root, supply))
    for (const [i, a] of shapes.entries()) {
      expect(shapeArea(combine('subtract', a, freeFace(wide)))).toBeLessThan(1e-2)
      for (const b of shapes.slice(0, i))
        expect(shapeArea(combine('intersect', offset(a, 0.99), offset(b, 0.99)))).toBeLessThan(1e-2)
    }
    expect(made.used).toBeGreaterThan(0.2)
    const group = grouped(wide, roots[0], roots[1], 'g')
    const before = placeOf(group, roots[1]).xMm - placeOf(group, roots[0]).xMm
    const together = laidOut(group, roots, supply, { angles: [0] })
    if ('not' in together) throw new Error(together.not)
    expect(placeOf(together.job, roots[1]).xMm - placeOf(together.job, roots[0]).xMm).toBeCloseTo(before, 2)
  })

  it('moves nothing where something finds no place', () => {
    expect(laidOut(wide, roots, supply, { spacingMm: 60 })).toEqual({
      not: expect.stringMatching(/\d of 5 find no place with 60 mm between them/),
    })
    expect(laidOut({ ...wide, order: [] }, roots, supply, {})).toMatchObject({
      not: expect.stringContaining('burns nothing yet'),
    })
  })
})

describe('artwork as large as its workpiece takes', () => {
  it('lies inside with its margin, with what keeps its distance, on any blank', () => {
    const blank = withPiece(job, {
      outline: {
        kind: 'rings',
        rings: [
          [0, 0, 90, 0, 90, 30, 50, 60, 0, 60],
          [8, 8, 8, 16, 16, 16, 16, 8],
        ],
      },
      keepOuts: { clamp: { name: 'clamp', outline: { kind: 'circle', diameterMm: 8 }, pose: { xMm: 40, yMm: 10 } } },
    })
    const made = fittedToPiece(blank, 'source', supply, { marginMm: 2 })
    if ('fits' in made) throw new Error(made.message)
    checkJob(made.job)
    const shape = burnedShape(made.job, 'source', supply)
    expect(shapeArea(combine('subtract', shape, freeFace(blank)))).toBeLessThan(1e-2)
    expect(made.scale).toBeGreaterThan(1)
    // Its cut goes around at its distance, so nothing is scaled by the cut's own: the margin holds to a hundredth.
    const whole = fittedToPiece(job, 'source', supply, { marginMm: 3, angles: [0] })
    if ('fits' in whole) throw new Error(whole.message)
    const { x0, y0, x1, y1 } = ringsBounds(burnedShape(whole.job, 'source', supply))
    expect(Math.min(x0, y0, 90 - x1, 60 - y1)).toBeGreaterThan(2.99)
    expect(Math.min(x0, y0, 90 - x1, 60 - y1)).toBeLessThan(3.1)
  })

  it('keeps its size where it must, to the micrometre', () => {
    const made = fittedToPiece(job, 'source', supply, { mayScale: false })
    if ('fits' in made) throw new Error(made.message)
    expect(placeOf(made.job, 'source').widthMm).toBe(placeOf(job, 'source').widthMm)
  })

  it('says what does not fit, and that nothing is burned', () => {
    expect(fittedToPiece(job, 'source', supply, { marginMm: 40 })).toMatchObject({
      message: expect.stringContaining('margin of 40 mm'),
    })
    expect(fittedToPiece({ ...job, order: [] }, 'source', supply)).toMatchObject({
      message: expect.stringContaining('burns nothing yet'),
    })
  })
})
