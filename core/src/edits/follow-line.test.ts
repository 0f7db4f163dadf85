import { describe, expect, it } from 'vitest'
import { pathsOf } from '../formats/svg/path-data.ts'
import { flattenPath } from '../geometry/path.ts'
import { ringsBounds } from '../geometry/ring.ts'
import type { JobDocument } from '../job/document/document.ts'
import type { DrawingNode } from '../job/document/nodes.ts'
import { outlinePaths } from '../lineage/evaluate.ts'
import { checkJob } from '../reading/check-job.ts'
import { sampleJob, squarePicture, supplyWith } from '../testing/sample-job.ts'
import { lineUnder } from '../text/line-under.ts'
import type { TextSpec } from '../text/text-spec.ts'
import { withArtwork } from './add-artwork.ts'
import { followers, placedOn, withFollowers } from './follow-line.ts'
import { setOnLine } from './set-on-line.ts'

const picture = squarePicture(40, 10)
const supply = supplyWith(picture)
const bare = sampleJob({ picture })
const { xMm, yMm, widthMm, heightMm } = bare.placements.source
// The top edge of the square, a little left of its middle.
const [px, py] = [xMm + widthMm * 0.4, yMm + heightMm * 0.25]
const under = lineUnder(outlinePaths(bare, 'edge', supply), px, py)!
const spec: TextSpec = {
  kind: 'text',
  text: 'Low water',
  font: { kind: 'strokes' },
  capMm: 4,
  letterMm: 0,
  lineShare: 1.6,
  align: under.align,
  along: { kind: 'path', data: under.data, on: placedOn(bare, 'edge', px, py) },
}
const text: DrawingNode = { kind: 'drawing', name: 'Low water', asset: 'b'.repeat(64), widthMm: 20, heightMm: 4, drawn: spec }
const job: JobDocument = {
  ...bare,
  nodes: { ...bare.nodes, text },
  placements: {
    ...bare.placements,
    text: { of: 'text', on: bare.placements.source.on, xMm: 5, yMm: 6, widthMm: 20, heightMm: 4 },
  },
}
const placed = (of: JobDocument, id: string, change: object): JobDocument => ({
  ...of,
  placements: { ...of.placements, [id]: { ...of.placements[id], ...change } },
})
const boxOf = (data: string) => {
  const paths = pathsOf(data)
  return ringsBounds(paths.map((path) => flattenPath(path, 0.01)))
}

describe('a text on a line', () => {
  it('is kept with the line it stands on, and read again', () => {
    expect(checkJob(JSON.parse(JSON.stringify(job))).nodes.text).toEqual(text)
    expect(placedOn(bare, 'edge', px, py)).toMatchObject({ node: 'edge', x: 0.4, y: 0.25 })
  })

  it('goes along where its line is moved, in the same edit, and once', () => {
    const moved = placed(job, 'source', { xMm: xMm + 12, yMm: yMm - 3 })
    const with1 = withFollowers(job, moved)
    expect(with1.placements.text).toMatchObject({ xMm: 17, yMm: 3 })
    // What went along already does not go twice.
    expect(withFollowers(job, with1)).toBe(with1)
    expect(followers(job, with1)).toEqual([])
    // Moved together with its line, or by itself, it is where somebody wants it.
    const both = placed(moved, 'text', { xMm: 17, yMm: 3 })
    expect(withFollowers(job, both)).toBe(both)
    expect(withFollowers(job, placed(job, 'text', { xMm: 50 })).placements.text.xMm).toBe(50)
    expect(withFollowers(job, job)).toBe(job)
  })

  it('is set anew where its line is another: at the same share of it, its origin where the line’s middle took it', () => {
    const larger = placed(job, 'source', { widthMm: widthMm * 2, heightMm: heightMm * 2 })
    const after = withFollowers(job, larger)
    const [follower] = followers(job, larger)
    expect(follower).toMatchObject({ root: 'text', anew: true, dxMm: widthMm / 2, dyMm: heightMm / 2 })
    expect(after.placements.text.xMm).toBeCloseTo(5 + widthMm / 2, 3)
    const set = setOnLine(after, follower, outlinePaths(after, 'edge', supply))!
    expect(set.along).toMatchObject({ kind: 'path', on: { node: 'edge' } })
    const [was, is] = [boxOf(under.data), boxOf((set.along as { data: string }).data)]
    expect(is.x1 - is.x0).toBeCloseTo(2 * (was.x1 - was.x0), 1)
    // Around the same middle, in its own millimetres.
    expect((is.x0 + is.x1) / 2).toBeCloseTo((was.x0 + was.x1) / 2, 1)
    expect((is.y0 + is.y1) / 2).toBeCloseTo((was.y0 + was.y1) / 2, 1)
    // Another threshold is another line as well.
    const traced = { ...job, nodes: { ...job.nodes, edge: { ...job.nodes.edge, threshold: 0.3 } as never } }
    expect(followers(job, traced)).toMatchObject([{ root: 'text', anew: true, dxMm: 0 }])
    expect(setOnLine(job, follower, [])).toBeUndefined()
  })

  it('stands by itself where its line is gone, and on its own line in another job', () => {
    const { edge: _, ...nodes } = job.nodes
    expect(followers(job, { ...job, nodes })).toEqual([])
    const copied = withArtwork(bare, { ...job, operations: {}, steps: {}, order: [] }, 'c')
    expect((copied.nodes['text-c'] as DrawingNode).drawn).toMatchObject({ along: { on: { node: 'edge-c' } } })
    const only = { ...job, nodes: { text }, placements: { text: job.placements.text }, operations: {}, steps: {}, order: [] }
    // Written into the job that has the line, it stands on that one.
    expect((withArtwork(bare, only, 'e').nodes['text-e'] as DrawingNode).drawn).toEqual(spec)
    const alone = withArtwork(placed(bare, 'source', { xMm: xMm + 40 }), only, 'd')
    const { along } = (alone.nodes['text-d'] as DrawingNode).drawn as TextSpec
    expect(along).toEqual({ kind: 'path', data: under.data })
  })
})
