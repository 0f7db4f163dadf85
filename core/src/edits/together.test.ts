import { strToU8 } from 'fflate'
import { describe, expect, it } from 'vitest'
import { type Drawn, drawnSvg } from '../drawn/drawn.ts'
import { readDrawing } from '../formats/read-drawing.ts'
import { shapeArea } from '../geometry/clip.ts'
import { ringsBounds } from '../geometry/ring.ts'
import type { JobDocument } from '../job/document/document.ts'
import { burnOrder, withPlace } from '../job/document/document.ts'
import { assetsSupply } from '../lineage/assets-supply.ts'
import { outlineLines, outlineRings } from '../lineage/evaluate.ts'
import { MACHINES, MATERIALS } from '../material/catalogue.ts'
import { proposalsFor } from '../proposals/proposals-for.ts'
import { checkJob } from '../reading/check-job.ts'
import { assetName } from '../reading/job-file.ts'
import { mapped } from '../space/affine.ts'
import { poseMap } from '../space/pose.ts'
import { looksOf } from '../vector/drawing.ts'
import { withArtwork } from './add-artwork.ts'
import { grouped, groupedWith, moved, resized, ungrouped } from './change.ts'
import { outlineAround } from './outline-around.ts'
import { withCombination, withOffset } from './outline-edits.ts'
import { redrawn } from './redrawn.ts'

const assets = new Map<string, Uint8Array>()
const supply = assetsSupply((name) => assets.get(name))

/** A job made of what is drawn by numbers, by one of its proposals. */
function jobOf(drawn: Drawn, proposal: string): JobDocument {
  const bytes = strToU8(drawnSvg(drawn).svg)
  const asset = assetName(bytes)
  assets.set(asset, bytes)
  const drawing = readDrawing(bytes)
  const facts = { name: 'drawn', asset, widthPx: 10, heightPx: 10, hasAlpha: true, drawing, drawn }
  const settings = {
    workpiece: { widthMm: 300, heightMm: 200, thicknessMm: 3 },
    material: MATERIALS[0],
    machine: MACHINES[0],
  }
  return proposalsFor(facts, settings, supply).find(({ id }) => id === proposal)!.job
}
const rectangle = (widthMm: number, heightMm: number): Drawn => ({ kind: 'rectangle', widthMm, heightMm, radiusMm: 0 })
const at = (job: JobDocument, id: string, xMm: number, yMm: number): JobDocument => ({
  ...job,
  placements: { ...job.placements, [id]: { ...job.placements[id], xMm, yMm } },
})

describe('artwork together', () => {
  const one = at(jobOf(rectangle(40, 20), 'cut-lines'), 'source', 10, 10)
  const two = at(withArtwork(one, jobOf(rectangle(10, 30), 'cut-lines'), 'b'), 'source-b', 70, 40)

  it('moves and grows as one while it is grouped, and alone again afterwards', () => {
    const group = checkJob(grouped(two, 'outline', 'source-b', 'g1'))
    expect(groupedWith(group, 'source')).toEqual(['source-b'])
    const away = moved(group, 'outline', 5, -3)
    expect(away.placements['source-b']).toMatchObject({ xMm: 75, yMm: 37, widthMm: 10, heightMm: 30 })
    const box = ringsBounds(outlineRings(away, 'outline', supply))
    const grown = resized(away, 'outline', box, { widthMm: 80 }, { anchorX: 0, anchorY: 0, keepRatio: true })
    expect(grown.placements.source).toMatchObject({ xMm: 15, yMm: 7, widthMm: 80, heightMm: 40 })
    expect(grown.placements['source-b']).toMatchObject({ xMm: 135, yMm: 67, widthMm: 20, heightMm: 60 })
    const free = ungrouped(grown, 'source-b')
    expect(free.groups).toBeUndefined()
    expect(moved(free, 'source', 9, 9).placements['source-b']).toEqual(grown.placements['source-b'])
  })

  it('gets one outline around it, cut last, which follows all of it', () => {
    const job = checkJob(outlineAround(two, ['source', 'source-b'], 5, 't'))
    expect(burnOrder(job).at(-1)).toBe('cut-t')
    const { x0, y0, x1, y1 } = ringsBounds(outlineRings(job, 'around-t', supply))
    const edges = [x0, y0, x1, y1].map((v) => Number(v.toFixed(1)))
    // The strokes that are seen are 0.1 mm wide.
    expect(edges).toEqual([5, 5, 85, 75])
    const follows = ringsBounds(outlineRings(moved(job, 'source-b', 20, 0), 'around-t', supply))
    expect(follows.x1).toBeCloseTo(x1 + 20, 3)
    expect(() => outlineAround({ ...two, nodes: {} }, [], 3, 't')).toThrow('edge')
  })

  it('is parted where lines of other artwork run through it', () => {
    const line = withArtwork(one, jobOf({ kind: 'line', lengthMm: 60, angleDeg: 90 }, 'score-lines'), 'l')
    const placed = at(line, 'source-l', 30, 0)
    const job = checkJob(withCombination(placed, 'outline', 'lines-l', 'split', 'parts'))
    const rings = outlineRings(job, 'parts', supply)
    expect(rings).toHaveLength(2)
    expect(shapeArea(rings)).toBeCloseTo(800, 0)
    expect(rings.map((ring) => Math.round(shapeArea([ring]))).sort()).toEqual([400, 400])
  })
})

describe('outlines at several distances', () => {
  const base = jobOf(rectangle(40, 20), 'cut-lines')
  const spun = (change: object): JobDocument => {
    const job = withOffset(base, 'outline', 2, 'rings')
    return checkJob({ ...job, nodes: { ...job.nodes, rings: { ...job.nodes.rings, ...change } as never } })
  }
  /** Area within a rounded rectangle at a distance (Steiner): A + L·d + π·d². */
  const steiner = (d: number): number => 800 + 120 * d + Math.PI * d * d

  it('come one after the other, each as far again, as lines to follow', () => {
    const lines = outlineLines(spun({ steps: 3 }), 'rings', supply)
    expect(lines).toHaveLength(3)
    lines.forEach((line, i) => {
      expect(Math.abs(shapeArea([line.subarray(0, -2)]))).toBeCloseTo(steiner(2 * (i + 1)), 0)
    })
  })

  it('lie inside as well where that is asked for', () => {
    const areas = outlineLines(spun({ both: true }), 'rings', supply).map((line) => Math.abs(shapeArea([line.subarray(0, -2)])))
    expect(areas[0]).toBeCloseTo(steiner(2), 0)
    expect(areas[1]).toBeCloseTo(36 * 16, 0)
  })
})

describe('what is drawn or written here', () => {
  it('keeps its numbers: other ones change all that comes from it, in its place and at its scale', () => {
    const job = at(jobOf(rectangle(40, 20), 'cut-lines'), 'source', 100, 50)
    const scaled = withPlace(job, 'source', { xMm: 100, yMm: 50, widthMm: 80, heightMm: 40 })
    const drawn: Drawn = rectangle(60, 30)
    const bytes = strToU8(drawnSvg(drawn).svg)
    const asset = assetName(bytes)
    assets.set(asset, bytes)
    const drawing = readDrawing(bytes)
    const changed = checkJob(redrawn(scaled, 'source', { drawn, asset, ...drawing, looks: [...looksOf(drawing).keys()] }))
    expect(changed.placements.source).toMatchObject({ xMm: 80, yMm: 40, widthMm: 120, heightMm: 60 })
    const box = ringsBounds(outlineRings(changed, 'outline', supply))
    expect(box.x1 - box.x0).toBeCloseTo(120, 2)
  })

  it('a text keeps where it begins, turned and scaled too, where that is told', () => {
    const job = jobOf(rectangle(18, 6), 'cut-lines')
    const place = { ...job.placements.source, xMm: 40, yMm: 30, widthMm: 36, heightMm: 12, deg: 90 }
    const laid = { ...job, placements: { ...job.placements, source: place } }
    const drawn = rectangle(30, 5)
    const origin = { before: [1, 5], after: [3, 4] } as const
    const changed = redrawn(laid, 'source', { drawn, asset: 'e'.repeat(64), widthMm: 30, heightMm: 5, looks: [], origin })
    const now = changed.placements.source
    expect(now).toMatchObject({ widthMm: 60, heightMm: 10, deg: 90 })
    const [bx, by] = mapped(poseMap(place, place), 2, 10)
    const [ax, ay] = mapped(poseMap(now, now), 6, 8)
    expect([ax, ay]).toEqual([expect.closeTo(bx, 3), expect.closeTo(by, 3)])
  })

  it('a text keeps its left edge and its top, its name and its looks follow', () => {
    const spec: Drawn = {
      kind: 'text',
      text: 'Tern',
      font: { kind: 'strokes' },
      capMm: 10,
      letterMm: 0,
      lineShare: 1.6,
      align: 'left',
    }
    const made = jobOf(spec, 'score-lines')
    const job = { ...made, nodes: { ...made.nodes, source: { ...made.nodes.source, name: 'Tern' } as never } }
    const drawn: Drawn = { ...spec, text: 'Oystercatcher' }
    const drawing = readDrawing(strToU8(drawnSvg(drawn).svg))
    const asset = 'f'.repeat(64)
    const changed = redrawn(job, 'source', { drawn, asset, ...drawing, looks: ['other look'] })
    expect(changed.placements.source.xMm).toBeCloseTo(job.placements.source.xMm, 6)
    expect(changed.placements.source.yMm).toBeCloseTo(job.placements.source.yMm, 6)
    expect(changed.nodes.source.name).toBe('Oystercatcher')
    expect(changed.nodes.lines).toMatchObject({ looks: ['other look'] })
  })
})
