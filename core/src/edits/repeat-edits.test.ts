import { describe, expect, it } from 'vitest'
import type { Drawn } from '../drawn/drawn.ts'
import { drawnSvg } from '../drawn/drawn.ts'
import { readDrawing } from '../formats/read-drawing.ts'
import { combine } from '../geometry/clip.ts'
import { type Ring, ringsBounds } from '../geometry/ring.ts'
import { type JobDocument, type Placement, placesOf } from '../job/document/document.ts'
import { burnedPieces } from '../job/document/pieces.ts'
import { repeatedAround } from '../job/document/repeats.ts'
import { assetsSupply } from '../lineage/assets-supply.ts'
import { outlinePaths } from '../lineage/evaluate.ts'
import { MACHINES, MATERIALS } from '../material/catalogue.ts'
import { proposalsFor } from '../proposals/proposals-for.ts'
import { checkJob } from '../reading/check-job.ts'
import { poseCorners } from '../space/pose.ts'
import type { TextSpec } from '../text/text-spec.ts'
import { withArtwork } from './add-artwork.ts'
import { grouped, moved, resized } from './change.ts'
import { redrawn } from './redrawn.ts'
import { circledAbout, firstAround, firstRepetition, notRepeated, repeated, repetitionOf } from './repeat-edits.ts'
import { withoutArtwork } from './take-away.ts'

const NAMES: TextSpec = {
  kind: 'text',
  text: '{}',
  font: { kind: 'strokes' },
  capMm: 5,
  letterMm: 0,
  lineShare: 1.6,
  align: 'middle',
  series: { entries: ['Tern', 'Eider', 'Gannet', 'Fulmar', 'Dunlin'], columns: 2, pitchXMm: 50, pitchYMm: 20 },
}
const EDGE: Drawn = { kind: 'rectangle', widthMm: 40, heightMm: 16, radiusMm: 3 }
const bytes = new Map([NAMES, EDGE].map((drawn, i) => ['ab'[i].repeat(64), new TextEncoder().encode(drawnSvg(drawn).svg)]))
const supply = assetsSupply((asset) => bytes.get(asset))

function made(drawn: Drawn, asset: string, id: string): JobDocument {
  const { widthMm, heightMm } = readDrawing(bytes.get(asset)!)
  const setting = { workpiece: { widthMm: 300, heightMm: 200, thicknessMm: 3 }, material: MATERIALS[0], machine: MACHINES[0] }
  const facts = { name: id, asset, widthPx: 0, heightPx: 0, hasAlpha: false, drawing: { widthMm, heightMm }, drawn }
  return proposalsFor(facts, setting, supply).find((each) => each.id === id)!.job
}
const names = made(NAMES, 'a'.repeat(64), 'score-lines')
const label = grouped(withArtwork(names, made(EDGE, 'b'.repeat(64), 'cut-lines'), 'edge'), 'source', 'source-edge', 'g')

/** The middles of what is burned at each place of a node, in order. */
const middles = (job: JobDocument, root: string): [number, number][] =>
  placesOf(job, root).map((place) => {
    const { xMm, yMm, widthMm, heightMm } = job.placements[place]
    return [xMm + widthMm / 2, yMm + heightMm / 2]
  })
const poseOutline = (place: Placement): Ring => Float64Array.from(poseCorners(place, place).flat())
const sorted = (points: [number, number][]): [number, number][] => [...points].sort((a, b) => a[1] - b[1] || a[0] - b[0])

describe('a group, once for each entry of a list', () => {
  const begun = firstRepetition(label, 'source-edge')
  const rows = repeated(label, 'source', begun)

  it('begins as often as the list is long, as close as the edge is large', () => {
    expect(begun).toEqual({ count: 5, columns: 3, pitchXMm: 44, pitchYMm: 20 })
    expect(() => checkJob(JSON.parse(JSON.stringify(rows)))).not.toThrow()
    expect(placesOf(rows, 'source')).toHaveLength(5)
    expect(placesOf(rows, 'source-edge')).toHaveLength(5)
  })

  it('has each name in the middle of its own edge, each entry once', () => {
    const [operation] = Object.values(rows.operations).filter(({ process }) => process === 'score')
    const pieces = burnedPieces(rows, operation)
    expect(pieces.map(({ placement }) => placement.entry).sort()).toEqual([0, 1, 2, 3, 4])
    const edges = middles(rows, 'source-edge')
    const written = pieces.map(({ node, place }) => {
      const box = ringsBounds(outlinePaths(rows, node, supply, place).map(({ points }) => Float64Array.from(points)))
      return [(box.x0 + box.x1) / 2, (box.y0 + box.y1) / 2]
    })
    const own = written.map(([x, y]) => edges.findIndex(([ex, ey]) => Math.abs(x - ex) < 0.6 && Math.abs(y - ey) < 0.6))
    expect(new Set(own).size).toBe(5)
    expect(own).not.toContain(-1)
  })

  it('never slides apart: when columns change, when one of it is moved, when it grows', () => {
    const together = (job: JobDocument): void => {
      const [edges, texts] = [sorted(middles(job, 'source-edge')), sorted(middles(job, 'source'))]
      expect(texts).toHaveLength(edges.length)
      for (const [i, [x, y]] of texts.entries()) {
        expect(x).toBeCloseTo(edges[i][0], 2)
        expect(y).toBeCloseTo(edges[i][1], 2)
      }
    }
    const two = repeated(rows, 'source-edge', { ...begun, columns: 2, pitchXMm: 50 })
    together(two)
    expect(repetitionOf(two, 'source')).toMatchObject({ root: 'source', repetition: { columns: 2 } })
    together(moved(two, 'source-edge', 12, -3))
    expect(middles(moved(two, 'source-edge', 12, -3), 'source')[1][0] - middles(two, 'source')[1][0]).toBeCloseTo(12, 6)
    const box = ringsBounds([Float64Array.of(0, 0, 40, 0, 40, 16)])
    together(resized(two, 'source-edge', box, { widthMm: 60 }, { anchorX: 0.5, anchorY: 0.5, keepRatio: true }))
  })

  it('is as often as its list is long, also when that changes; each entry keeps its room', () => {
    const drawn = { ...NAMES, series: { ...NAMES.series, entries: ['A', 'B', 'C'] } } as Drawn
    const { looks } = rows.nodes[rows.operations.score?.of[0] ?? 'lines'] as { looks: readonly string[] }
    const fewer = redrawn(rows, 'source', { drawn, asset: 'c'.repeat(64), widthMm: 60, heightMm: 25, looks })
    expect(placesOf(fewer, 'source')).toHaveLength(3)
    expect(placesOf(fewer, 'source-edge')).toHaveLength(3)
    expect(fewer.placements.source).toEqual(rows.placements.source)
  })

  it('is once again where its first one lies, and nothing is left of it when its artwork goes', () => {
    const once = notRepeated(rows, 'source-edge')
    expect(placesOf(once, 'source-edge')).toHaveLength(1)
    expect(once.repeats).toBeUndefined()
    const gone = withoutArtwork(rows, ['source', 'source-edge'])
    expect(gone.repeats).toBeUndefined()
    expect(gone.placements).toEqual({})
  })
})

describe('a group around a circle', () => {
  const begun = { ...firstAround(label, 'source-edge'), count: 8 }
  const ring = repeated(label, 'source-edge', begun)
  const middle = (job: JobDocument): readonly [number, number] => repeatedAround(job, repetitionOf(job, 'source-edge')!.root)!

  it('begins where it lies, on a circle where none touches the next', () => {
    const first = firstAround(label, 'source-edge')
    expect(first).toMatchObject({ count: 5, atDeg: -90, overDeg: 360, turned: true })
    const made = repeated(label, 'source-edge', first)
    expect(made.placements['source-edge']).toEqual(label.placements['source-edge'])
    const edges = placesOf(made, 'source-edge').map((place) => poseOutline(made.placements[place]))
    for (const [i, a] of edges.entries()) for (const b of edges.slice(i + 1)) expect(combine('intersect', [a], [b])).toEqual([])
    expect(() => checkJob(JSON.parse(JSON.stringify(made)))).not.toThrow()
  })

  it('stands evenly, each turned by its share, name and edge together; or all upright', () => {
    const [cx, cy] = middle(ring)
    const [edges, texts] = ['source-edge', 'source'].map((root) => middles(ring, root))
    expect(edges).toHaveLength(8)
    for (const [i, [x, y]] of edges.entries()) {
      expect(Math.hypot(x - cx, y - cy)).toBeCloseTo(begun.diameterMm / 2, 2)
      expect(texts[i][0]).toBeCloseTo(x, 2)
      expect(texts[i][1]).toBeCloseTo(y, 2)
    }
    const turns = placesOf(ring, 'source-edge').map((place) => ring.placements[place].deg ?? 0)
    expect(turns.sort((a, b) => a - b)).toEqual([-135, -90, -45, 0, 45, 90, 135, 180])
    const upright = repeated(ring, 'source', { ...begun, turned: false })
    expect(placesOf(upright, 'source-edge').map((place) => upright.placements[place].deg ?? 0)).toEqual(Array(8).fill(0))
    for (const [x, y] of middles(upright, 'source-edge')) expect(Math.hypot(x - cx, y - cy)).toBeCloseTo(begun.diameterMm / 2, 2)
  })

  it('over a part of a circle goes from its first to its last', () => {
    const half = repeated(ring, 'source-edge', { ...begun, count: 3, overDeg: 180 })
    const [cx, cy] = middle(half)
    const [[, y0], [x1], [, y2]] = middles(half, 'source-edge')
    expect([y0 - cy, x1 - cx, y2 - cy].map((v) => (2 * v) / begun.diameterMm)).toEqual([
      expect.closeTo(-1, 4),
      expect.closeTo(1, 4),
      expect.closeTo(1, 4),
    ])
  })

  it('goes around another middle: the first stays, wherever that is put', () => {
    const [fx, fy] = middles(ring, 'source-edge')[0]
    for (const [x, y] of [
      [fx + 60, fy],
      [fx - 20, fy - 45],
      [fx + 3, fy + 80],
    ]) {
      const other = circledAbout(ring, 'source-edge', x, y)
      expect(middle(other)[0]).toBeCloseTo(x, 2)
      expect(middle(other)[1]).toBeCloseTo(y, 2)
      expect(middles(other, 'source-edge')[0]).toEqual([fx, fy])
    }
    expect(circledAbout(label, 'source-edge', 5, 5)).toBe(label)
  })
})
