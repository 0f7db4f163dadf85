import { describe, expect, it } from 'vitest'
import { burnOrder, type JobDocument } from '../job/document/document.ts'
import type { TraceNode } from '../job/document/nodes.ts'
import { outlinePaths, strokeWidths } from '../lineage/evaluate.ts'
import { INK } from '../picture/ink/ink-only.ts'
import { propose } from '../proposals/proposals.ts'
import { checkJob } from '../reading/check-job.ts'
import { type InkPage, inkPage } from '../testing/ink-page.ts'
import { greyPicture, sampleJob, squarePicture, supplyWith } from '../testing/sample-job.ts'
import { given } from './give-process.ts'
import { outlineAround } from './outline-around.ts'
import { traceable, tracedFrom } from './traced-from.ts'

const page: InkPage = inkPage({
  seed: 21,
  widthPx: 900,
  heightPx: 600,
  ink: [0.45, 0.6],
  strokePx: [3, 4],
  dimmest: 0.45,
  noise: 3,
  ruled: { dark: 0.2, everyPx: 40, thickPx: 2, deg: 1 },
})
const proposalsOf = (picture: InkPage['picture']) => {
  const { material, machine } = (() => {
    const job = sampleJob({ picture })
    return { material: Object.values(job.materials)[0], machine: job.machine }
  })()
  const facts = { name: 'note.png', asset: 'a'.repeat(64), widthPx: picture.widthPx, heightPx: picture.heightPx, hasAlpha: false }
  const setting = { material, machine, workpiece: { widthMm: 300, heightMm: 200, thicknessMm: 4 } }
  return propose(facts, picture, setting, supplyWith(picture))
}
const only = (job: JobDocument, ...nodes: string[]): JobDocument => ({
  ...job,
  nodes: Object.fromEntries(nodes.map((id) => [id, job.nodes[id]])),
  operations: {},
  steps: {},
  order: [],
})

describe('a page of ink', () => {
  const list = proposalsOf(page.picture)
  const engraved = list.find(({ id }) => id === 'engrave')!.job

  it('is proposed first as its ink only, its strokes, and its shapes; each a job that can be kept', () => {
    expect(list.map(({ id }) => id).slice(0, 3)).toEqual(['ink-only', 'score-strokes', 'fill-shapes'])
    expect(list[0].detail).toMatch(/ruled lines/)
    for (const { job } of list) expect(checkJob(JSON.parse(JSON.stringify(job)))).toEqual(job)
    expect(burnOrder(list[2].job).map((id) => list[2].job.operations[id].process)).toEqual(['area'])
  })

  it('that is engraved already is traced, followed and filled by one press each: its ink, as fine as its strokes', () => {
    const bare = only(engraved, 'source')
    expect(traceable(bare)).toEqual(['source'])
    for (const [as, process, mode] of [
      ['edge', 'cut', undefined],
      ['shapes', 'area', undefined],
      ['strokes', 'score', 'centreline'],
    ] as const) {
      const { job, operation } = tracedFrom(bare, 'source', as)
      expect(job.operations[operation].process).toBe(process)
      const trace = job.nodes[job.operations[operation].of[0]] as TraceNode
      expect(trace).toMatchObject({ kind: 'trace', ink: INK, threshold: 0.5 })
      expect(trace.mode).toBe(mode)
      // A dot of the pen is no speck.
      expect(trace.minAreaMm2).toBeLessThan(0.5)
      expect(checkJob(JSON.parse(JSON.stringify(job))).nodes).toEqual(job.nodes)
    }
    // Scored, its strokes are followed, however it is asked for.
    const { job, operation } = given(bare, ['source'], 'score')
    expect(job.nodes[job.operations[operation].of[0]]).toMatchObject({ mode: 'centreline', ink: INK })
  })

  it('is traced without its ruled lines and its shadow', () => {
    const { job, operation } = tracedFrom(only(engraved, 'source'), 'source', 'strokes')
    const [id] = job.operations[operation].of
    const supply = supplyWith(page.picture)
    const widths = strokeWidths(job, id, supply)
    const perPx = job.placements.source.widthMm / 900
    const middle = widths.sort((a, b) => a - b)[widths.length >> 1] / perPx
    expect(middle).toBeGreaterThan(2)
    expect(middle).toBeLessThan(6)
    const raw = { ...job, nodes: { ...job.nodes, [id]: { ...job.nodes[id], ink: undefined } as TraceNode } }
    const reach = (of: JobDocument): number => outlinePaths(of, id, supply).length
    expect(reach(job)).toBeGreaterThan(20)
    expect(reach(raw)).not.toBe(reach(job))
    expect(outlineAround(only(engraved, 'source'), ['source'], 2, 'x').nodes['edge-0-x']).toMatchObject({ ink: INK })
  })
})

describe('any other picture', () => {
  it('is traced by its darkness, its strokes too', () => {
    const picture = squarePicture(60, 15)
    const job = only(sampleJob({ picture }), 'source')
    const { job: traced, operation } = tracedFrom(job, 'source', 'strokes')
    const trace = traced.nodes[traced.operations[operation].of[0]]
    expect(trace).toMatchObject({ kind: 'trace', mode: 'centreline' })
    expect('ink' in trace).toBe(false)
    expect(proposalsOf(greyPicture(300, 200, (x, y) => (x + y) % 256)).map(({ id }) => id)).not.toContain('ink-only')
  })

  it('of an id that is none is refused with a sentence', () => {
    const job = sampleJob({ picture: squarePicture(20, 5) })
    expect(() => tracedFrom(job, 'edge', 'strokes')).toThrow(/is no picture/)
  })
})

describe('a picture with a transparent margin', () => {
  it('is as wide as what is seen of it; the margin comes back with the crop switched off', () => {
    // A disc of 40 px in the left half of 200 × 100 px that are clear.
    const [w, h] = [200, 100]
    const alpha = Uint8Array.from({ length: w * h }, (_, i) =>
      Math.hypot((i % w) + 0.5 - 50, Math.floor(i / w) + 0.5 - 50) < 20 ? 255 : 0,
    )
    const picture = { widthPx: w, heightPx: h, samples: new Uint8Array(w * h).fill(30), full: 255, alpha }
    const job = sampleJob({ picture: squarePicture(20, 5) })
    const facts = { name: 'float.png', asset: 'a'.repeat(64), widthPx: w, heightPx: h, hasAlpha: true }
    const setting = {
      material: Object.values(job.materials)[0],
      machine: job.machine,
      workpiece: { widthMm: 300, heightMm: 200, thicknessMm: 4 },
      size: { widthMm: 60 },
    }
    const [first] = propose(facts, picture, setting, supplyWith(picture))
    const { source } = first.job.placements
    expect([source.widthMm, source.heightMm]).toEqual([60, 60])
    expect((first.job.nodes.source as { framing: readonly object[] }).framing[0]).toMatchObject({
      kind: 'crop',
      on: true,
      x: 30,
      y: 30,
      width: 40,
      height: 40,
    })
    // Nothing to crop, nothing cropped.
    const whole = { ...picture, alpha: new Uint8Array(w * h).fill(200) }
    const [kept] = propose(facts, whole, setting, supplyWith(whole))
    expect((kept.job.nodes.source as { framing: readonly object[] }).framing).toEqual([])
  })
})
