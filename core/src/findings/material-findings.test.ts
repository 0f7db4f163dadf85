import { describe, expect, it } from 'vitest'
import { type JobDocument, mainPiece, withPiece } from '../job/document/document.ts'
import { greyPicture, onRectangle, sampleJob, supplyWith } from '../testing/sample-job.ts'
import { checkFindings } from './check.ts'

/** A strip of some 66 × 14 mm, cut out. */
const picture = greyPicture(120, 20, (x, y) => (x > 4 && x < 115 && y > 5 && y < 14 ? 0 : 255))
const supply = supplyWith(picture)
const job = onRectangle(sampleJob({ picture, widthMm: 66, xMm: 40, yMm: 40 }), { widthMm: 200, heightMm: 120 })
const of = (document: JobDocument, kind: string) => checkFindings(document, supply).filter((found) => found.kind === kind)

describe('a strip across the grain', () => {
  it('is told; along the grain, or where there is none, it is not', () => {
    const [found] = of(withPiece(job, { grainDeg: 90 }), 'across-grain')
    expect(found.message).toMatch(/^6\d × 1\d mm lies across the grain/)
    expect(found.severity).toBe('note')
    expect(of(withPiece(job, { grainDeg: 0 }), 'across-grain')).toHaveLength(0)
    expect(of(withPiece(job, { grainDeg: 180 }), 'across-grain')).toHaveLength(0)
    expect(of(job, 'across-grain')).toHaveLength(0)
  })

  it('turned with its artwork lies along it again', () => {
    const turned = { ...job, placements: { source: { ...job.placements.source, deg: 90 } } }
    expect(of(withPiece(turned, { grainDeg: 90 }), 'across-grain')).toHaveLength(0)
    expect(of(withPiece(turned, { grainDeg: 0 }), 'across-grain')).toHaveLength(1)
  })
})

describe('a workpiece of another thickness', () => {
  const meant = mainPiece(job).thicknessMm
  it.each([
    [meant, undefined],
    [meant * 1.05, undefined],
    [meant * 1.12, 'note'],
    [meant * 1.4, 'ask'],
    [meant * 0.6, 'note'],
  ])('of %s mm is told by how much it matters: %s', (thicknessMm, severity) => {
    const found = of(withPiece(job, { thicknessMm }), 'other-thickness')
    expect(found[0]?.severity).toBe(severity)
    if (severity) expect(found[0].message).toContain(thicknessMm > meant ? 'may not go through' : 'may char')
  })
})
