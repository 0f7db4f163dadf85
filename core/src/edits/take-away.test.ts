import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { checkFindings } from '../findings/check.ts'
import { burnOrder, type JobDocument } from '../job/document/document.ts'
import { ResultCache } from '../lineage/cache.ts'
import { measureJob } from '../plan/plan.ts'
import { checkJob } from '../reading/check-job.ts'
import { forecastScene } from '../scene/scene.ts'
import { greyPicture, sampleJob } from '../testing/sample-job.ts'
import { withArtwork } from './add-artwork.ts'
import { grouped, groupedWith } from './change.ts'
import { duplicated, madeFrom, onlyArtwork, pasted, rootsOf, withoutArtwork, withoutBurn, withoutOperation } from './take-away.ts'

const picture = greyPicture(20, 20, () => 0)
const one = sampleJob({ picture })
const other = sampleJob({ picture, xMm: 7 })
/** Three families, each a picture that is engraved and cut around. */
const three = withArtwork(withArtwork(one, other, 'n2'), other, 'n3')

describe('artwork that is taken away', () => {
  it('takes with it what is made from it, its place and its operations; the rest is as it was', () => {
    const left = checkJob(withoutArtwork(three, ['source-n2']))
    expect(Object.keys(left.nodes).some((id) => id.endsWith('-n2'))).toBe(false)
    expect(left.placements['source-n2']).toBeUndefined()
    expect(burnOrder(left)).toEqual(burnOrder(three).filter((id) => !id.endsWith('-n2')))
    expect(left.nodes.source).toEqual(three.nodes.source)
  })

  it('may be a part of a family: what it was made from stays', () => {
    const left = checkJob(withoutArtwork(one, ['edge']))
    expect(madeFrom(one, ['edge'])).toEqual(['edge', 'around'])
    expect(Object.keys(left.nodes)).toEqual(Object.keys(one.nodes).filter((id) => id !== 'edge' && id !== 'around'))
    expect(burnOrder(left)).toEqual(['engrave'])
  })

  it('may be all of it: an empty job is a job', () => {
    const left = checkJob(withoutArtwork(one, Object.keys(one.nodes)))
    expect([left.nodes, left.placements, left.operations, left.order]).toEqual([{}, {}, {}, []])
    // It is worked out as any other.
    const supply = { cache: new ResultCache(), picture: () => picture }
    expect(measureJob(left, supply).operations).toEqual([])
    expect(checkFindings(left, supply).filter(({ severity }) => severity === 'stop')).toEqual([])
    expect(forecastScene(left, supply).layers).toEqual([])
  })

  it('leaves an operation that burns something else too', () => {
    const both: JobDocument = {
      ...three,
      operations: { ...three.operations, cut: { ...three.operations.cut, of: ['around', 'around-n2'] } },
    }
    const left = checkJob(withoutArtwork(both, ['source-n2']))
    expect(left.operations.cut.of).toEqual(['around'])
    expect(burnOrder(left)).toContain('cut')
  })

  it('leaves no group of one', () => {
    const group = grouped(grouped(three, 'source', 'source-n2', 'g'), 'source', 'source-n3', 'g')
    expect(groupedWith(withoutArtwork(group, ['source-n3']), 'source')).toEqual(['source-n2'])
    expect(withoutArtwork(group, ['source-n2', 'source-n3']).groups).toBeUndefined()
  })
})

describe('an operation that is taken away', () => {
  it('goes with its settings and what is asked before it', () => {
    const left = checkJob(withoutOperation(three, 'cut'))
    expect(left.operations.cut).toBeUndefined()
    expect(burnOrder(left)).toEqual(burnOrder(three).filter((id) => id !== 'cut'))
    expect(left.nodes).toEqual(three.nodes)
  })
})

describe('what an operation burns, taken away', () => {
  it('goes as far up as nothing else needs it', () => {
    const left = checkJob(withoutBurn(one, 'cut'))
    expect(Object.keys(left.nodes)).toEqual(Object.keys(one.nodes).filter((id) => id !== 'edge' && id !== 'around'))
    const nothing = checkJob(withoutBurn(left, 'engrave'))
    expect(nothing.nodes).toEqual({})
    expect(Object.keys(checkJob(withoutBurn(one, 'engrave')).nodes)).toContain('source')
  })
})

describe('a copy', () => {
  it('is the family once more, beside it, with its operations; its group too', () => {
    const { job, nodes } = duplicated(one, ['around'], 'c1')
    checkJob(job)
    expect(nodes).toEqual(['around-c1'])
    expect(job.nodes['around-c1']).toMatchObject({ from: 'edge-c1' })
    expect(job.placements['source-c1'].xMm).toBe(one.placements.source.xMm + 5)
    const group = grouped(three, 'source', 'source-n2', 'g')
    expect(rootsOf(group, ['edge'])).toEqual(['source', 'source-n2'])
    const copied = checkJob(duplicated(group, ['edge'], 'c2').job)
    expect(groupedWith(copied, 'source-c2')).toEqual(['source-n2-c2'])
  })

  it('of a copy of a copy keeps to names that a job may have', () => {
    let job = one
    for (let n = 0; n < 6; n++) {
      const id = Object.keys(job.placements).at(-1)!
      job = checkJob(duplicated(job, [job.placements[id].of], `copy${n}`).job)
    }
    expect(Object.keys(job.placements)).toHaveLength(7)
  })

  it('that is pasted lies where it lay, or beside what lies there', () => {
    const copied = onlyArtwork(three, ['source-n2'])
    expect(Object.keys(copied.placements)).toEqual(['source-n2'])
    const elsewhere = checkJob(pasted(one, copied, 'p1'))
    expect(elsewhere.placements['source-n2-p1'].xMm).toBe(7)
    const beside = checkJob(pasted(elsewhere, copied, 'p2'))
    expect(beside.placements['source-n2-p2'].xMm).toBe(12)
  })

  it('and what is taken away undo each other, whatever is chosen', () => {
    const ids = Object.keys(three.nodes)
    fc.assert(
      fc.property(fc.subarray(ids, { minLength: 1 }), (chosen) => {
        const { job } = duplicated(three, chosen, 'x')
        checkJob(job)
        const copies = Object.keys(job.nodes).filter((id) => !three.nodes[id])
        const back = withoutArtwork(job, copies)
        expect(back.nodes).toEqual(three.nodes)
        expect(back.operations).toEqual(three.operations)
        expect(back.order).toEqual(three.order)
        expect(back.placements).toEqual(three.placements)
        checkJob(withoutArtwork(three, chosen))
      }),
    )
  })
})
