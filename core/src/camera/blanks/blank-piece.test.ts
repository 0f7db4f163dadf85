import { describe, expect, it } from 'vitest'
import { onBlanks } from '../../edits/blank-edits.ts'
import { pathFromRing } from '../../geometry/path.ts'
import { mainPieceId } from '../../job/document/document.ts'
import { outlineOfFace, outlineSize } from '../../job/document/workpiece.ts'
import { mapped } from '../../space/affine.ts'
import { poseMap } from '../../space/pose.ts'
import { sampleJob, squarePicture } from '../../testing/sample-job.ts'
import { blankPiece, blankPieces, pieceSeen } from './blank-piece.ts'
import type { SeenBlank } from './seen-blank.ts'

let state = 5
const random = (): number => {
  state = (state * 48271) % 2147483647
  return state / 2147483647 - 0.5
}

/** A ring through a function of the turn, turned and moved, off by a little as a photo has it. */
function ringOf(at: (a: number) => readonly [number, number], deg: number, x: number, y: number, noise = 0.1): Float64Array {
  const [cos, sin] = [Math.cos((deg * Math.PI) / 180), Math.sin((deg * Math.PI) / 180)]
  const out = new Float64Array(720)
  for (let i = 0; i < 360; i++) {
    const [u, v] = at((2 * Math.PI * i) / 360)
    out[2 * i] = x + cos * u - sin * v + noise * random()
    out[2 * i + 1] = y + sin * u + cos * v + noise * random()
  }
  return out
}
const box =
  (w: number, h: number) =>
  (a: number): readonly [number, number] => {
    const t = (a / (2 * Math.PI)) * 2 * (w + h)
    if (t < w) return [t - w / 2, -h / 2]
    if (t < w + h) return [w / 2, t - w - h / 2]
    if (t < 2 * w + h) return [w / 2 - (t - w - h), h / 2]
    return [-w / 2, h / 2 - (t - 2 * w - h)]
  }
const round =
  (r: number) =>
  (a: number): readonly [number, number] => [r * Math.cos(a), r * Math.sin(a)]
const leaf = (a: number): readonly [number, number] => {
  const r = 40 * (1 + 0.15 * Math.cos(2 * a) + 0.08 * Math.sin(3 * a))
  return [1.3 * r * Math.cos(a), r * Math.sin(a)]
}
const blank = (ring: Float64Array, holes: readonly Float64Array[] = []): SeenBlank => ({
  edge: pathFromRing(ring),
  holes: holes.map(pathFromRing),
  areaMm2:
    Math.abs(
      ring.reduce((sum, v, i) => sum + (i % 2 === 0 ? v * ring[(i + 3) % 720] - ring[(i + 2) % 720] * ring[i + 1] : 0), 0),
    ) / 2,
  cutOff: false,
  faint: 0,
})

describe('a blank as a workpiece', () => {
  it('is a rectangle where it is one, level along its longer side', () => {
    const { outline, pose } = blankPiece(blank(ringOf(box(120, 70), 23, 200, 150)))
    expect(outline).toMatchObject({ kind: 'rect', widthMm: expect.closeTo(120, 0), heightMm: expect.closeTo(70, 0) })
    expect(pose.deg).toBeCloseTo(23, 0)
    const { widthMm, heightMm } = outlineSize(outline)
    expect(pose.xMm + widthMm / 2).toBeCloseTo(200, 0)
    expect(pose.yMm + heightMm / 2).toBeCloseTo(150, 0)
    // Standing, it is level along its longer side as well.
    expect(Math.abs(blankPiece(blank(ringOf(box(70, 120), 0, 0, 0))).pose.deg ?? 0)).toBeCloseTo(90, 0)
    expect(blankPiece(blank(ringOf(box(80, 80), 4, 0, 0))).pose.deg).toBeCloseTo(4, 0)
  })

  it('is round where it is, with its hole kept free where that is', () => {
    const piece = blankPiece(blank(ringOf(round(45), 0, 300, 100), [ringOf(round(6), 0, 320, 90).reverse()]))
    expect(piece.outline).toMatchObject({ kind: 'circle', diameterMm: expect.closeTo(90, 0) })
    expect(piece.pose.deg).toBeUndefined()
  })

  it('keeps its holes where they are, however it is turned', () => {
    const hole = ringOf(round(6), 0, 130, 118)
    const { outline, pose, keepOuts } = blankPiece(blank(ringOf(leaf, 31, 110, 110), [hole]))
    expect(outline.kind).toBe('rings')
    const [{ outline: shape, pose: at }] = Object.values(keepOuts)
    expect(shape).toMatchObject({ kind: 'circle' })
    const size = outlineSize(shape)
    const [x, y] = mapped(poseMap(pose, outlineSize(outline)), at.xMm + size.widthMm / 2, at.yMm + size.heightMm / 2)
    expect(x).toBeCloseTo(130, 0)
    expect(y).toBeCloseTo(118, 0)
  })
})

describe('several blanks', () => {
  const turns = [12, -63, 151]
  const blanks = [...turns.map((deg, i) => blank(ringOf(leaf, deg, 100 + 150 * i, 120))), blank(ringOf(box(90, 60), 0, 90, 300))]

  it('that are alike have one edge, each turned as it lies', () => {
    const made = blankPieces(blanks)
    expect(made.map(({ like }) => like)).toEqual([0, 0, 0, 3])
    made.slice(1, 3).forEach(({ piece }, i) => {
      expect(piece.outline).toBe(made[0].piece.outline)
      const off = (piece.pose.deg ?? 0) - (made[0].piece.pose.deg ?? 0) - (turns[i + 1] - turns[0])
      expect(Math.abs(off - 360 * Math.round(off / 360))).toBeLessThan(0.4)
      // The edge lies where it was seen.
      const map = poseMap(piece.pose, outlineSize(piece.outline))
      const [ring] = outlineOfFace(piece.outline)
      const [mx, my] = [0, 1].map((k) => {
        const xs = Array.from({ length: ring.length / 2 }, (_, j) => mapped(map, ring[2 * j], ring[2 * j + 1])[k])
        return (Math.min(...xs) + Math.max(...xs)) / 2
      })
      const own = ringOf(leaf, turns[i + 1], 100 + 150 * (i + 1), 120, 0)
      const middle = [0, 1].map((k) => {
        const all = own.filter((_, j) => j % 2 === k)
        return (Math.min(...all) + Math.max(...all)) / 2
      })
      expect(Math.hypot(mx - middle[0], my - middle[1])).toBeLessThan(0.5)
    })
  })

  it('become workpieces of a job where they lie; those that are alike get the same artwork', () => {
    const job = sampleJob({ picture: squarePicture(60, 10) })
    const made = blankPieces(blanks)
    const on = onBlanks(job, made, 4, ['b', 'c', 'd'])
    expect(Object.keys(on.workpieces)).toHaveLength(4)
    expect(Object.values(on.workpieces).every(({ thicknessMm }) => thicknessMm === 4)).toBe(true)
    expect(on.workpieces.c.pose).toEqual(made[2].piece.pose)
    const places = Object.values(on.placements)
    for (const id of [mainPieceId(job), 'b', 'c']) expect(places.some((place) => place.on === id)).toBe(true)
    expect(places.some(({ on: id }) => id === 'd')).toBe(false)
    expect(onBlanks(job, [], 4, [])).toBe(job)
  })

  it('tell where a workpiece lies that is like one of them', () => {
    const { piece } = blankPieces(blanks)[1]
    const thought = { ...piece, pose: { ...piece.pose, xMm: piece.pose.xMm + 5, deg: (piece.pose.deg ?? 0) + 4 } }
    const seen = pieceSeen(thought, blanks)!
    expect(seen.offMm).toBeLessThan(0.3)
    expect(seen.pose.xMm).toBeCloseTo(piece.pose.xMm, 0)
    expect(seen.pose.deg).toBeCloseTo(piece.pose.deg ?? 0, 0)
    expect(pieceSeen({ ...piece, outline: { kind: 'circle', diameterMm: 30 } }, blanks)).toBeUndefined()
  })
})
