import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { turnedTo, withNode, withOperation } from '../edits/change.ts'
import { given, operationAgain, withProcess } from '../edits/give-process.ts'
import { reordered } from '../edits/steps-edits.ts'
import { burnOrder, type JobDocument, withPiece } from '../job/document/document.ts'
import { applyPatches } from '../job/patches/edit.ts'
import { MACHINES, MATERIALS } from '../material/catalogue.ts'
import { measureJob } from '../plan/plan.ts'
import { burnedBounds } from '../process/extent.ts'
import { checkJob } from '../reading/check-job.ts'
import { burning, greyPicture, onRectangle, sampleJob, squarePicture, supplyWith } from '../testing/sample-job.ts'
import { checkFindings } from './check.ts'
import type { Finding } from './finding.ts'

const picture = squarePicture(200, 20)
const supply = supplyWith(picture)
const kinds = (job: JobDocument): string[] => checkFindings(job, supply).map(({ kind }) => kind)
const find = (job: JobDocument, kind: string): Finding => checkFindings(job, supply).find((finding) => finding.kind === kind)!
const fixed = (job: JobDocument, finding: Finding, at = 0): JobDocument => checkJob(applyPatches(job, finding.fixes[at].patches))

/** The sample with an area filled: a second square beside the first. */
const filledJob = (change: object = {}): JobDocument => {
  const sample = sampleJob({ picture })
  const made = given(
    { ...sample, operations: { cut: sample.operations.cut }, steps: { cut: sample.steps.cut }, order: ['cut'] } as JobDocument,
    ['edge'],
    'area',
  )
  return withOperation(made.job, made.operation, change)
}

describe('what is burned twice', () => {
  it('is asked about: a fill over a picture, with how much it is; apart from each other they are good', () => {
    const both = given(sampleJob({ picture }), ['edge'], 'area').job
    const finding = find(both, 'burned-twice')
    expect(finding.severity).toBe('ask')
    // The square of 33.3 mm.
    expect(finding.message).toMatch(/^Burned twice: (11|10\.\d|11\.\d) cm² of 2 lies on what 1 marks already\.$/)
    expect(kinds(filledJob())).toEqual([])
  })

  it('is taken out of the second fill by one press; a further pass over the same is meant', () => {
    const job = filledJob()
    const [area] = burnOrder(job)
    expect(kinds(operationAgain(job, area).job)).not.toContain('burned-twice')
    const inner: JobDocument = {
      ...job,
      nodes: {
        ...job.nodes,
        inner: { kind: 'offset', name: 'inner', from: 'edge', distanceMm: -6, join: 'round', outermost: false },
      },
    }
    const two = given(inner, ['inner'], 'area')
    const last = find(two.job, 'burned-twice')
    expect(last.message).toContain('4.')
    const outer = reordered(two.job, two.operation, 0)
    const after = fixed(outer, find(outer, 'burned-twice'))
    expect(kinds(after)).not.toContain('burned-twice')
    expect(measureJob(after, supply).operations[1].burnMm).toBeLessThan(0.8 * measureJob(outer, supply).operations[1].burnMm)
  })
})

describe('like operations', () => {
  it('that differ are noted with what differs, and made the same by one press; a further pass is meant', () => {
    const sample = sampleJob({ picture })
    const again = operationAgain(sample, 'cut')
    expect(kinds(withOperation(again.job, again.operation, { power: 0.9 }))).not.toContain('differ')
    const inner: JobDocument = {
      ...again.job,
      nodes: {
        ...sample.nodes,
        inner: { kind: 'offset', name: 'inner', from: 'edge', distanceMm: 1, join: 'round', outermost: false },
      },
    }
    const two = withOperation(inner, again.operation, { of: ['inner'], power: 0.9, speedMmS: 14, kerfMm: 0.1 } as never)
    const finding = find(two, 'differ')
    expect(finding).toMatchObject({ severity: 'note', operation: again.operation })
    expect(finding.message).toBe(
      '3 is set otherwise than 2, on the same material: power 90 %, not 68 %; speed in mm/s 14, not 12; kerf in mm 0.1, not 0.2.',
    )
    const after = fixed(two, finding)
    expect(kinds(after)).not.toContain('differ')
    expect(after.operations[again.operation]).toEqual({ ...sample.operations.cut, of: ['inner'] })
    // Another process, or what keeps the sheet, is something else.
    expect(kinds(withProcess(two, again.operation, 'score'))).not.toContain('differ')
  })
})

describe('what is too weak', () => {
  it('to leave a mark is asked about, to cut through is noted; its fix is enough, by power, passes or speed', () => {
    for (const [process, change, severity] of [
      ['area', { power: 0.02 }, 'ask'],
      ['score', { power: 0.01 }, 'ask'],
      ['cut', { power: 0.1 }, 'note'],
      ['cut', { speedMmS: 45 }, 'note'],
      ['cut', { speedMmS: 390 }, 'note'],
    ] as const) {
      const sample = sampleJob({ picture })
      const bare = { ...sample, operations: {}, steps: {}, order: [] } as unknown as JobDocument
      const made = given(bare, ['edge'], process)
      expect(kinds(made.job)).toEqual([])
      const weak = withOperation(made.job, made.operation, change)
      const finding = find(weak, 'too-weak')
      expect(finding).toMatchObject({ severity, operation: made.operation })
      expect(finding.message).toMatch(process === 'cut' ? /does not cut through/ : /leaves no mark/)
      expect(kinds(fixed(weak, finding))).not.toContain('too-weak')
    }
  })

  it.each(MATERIALS.flatMap((material) => material.recipes.map((recipe) => [recipe.id, material, recipe] as const)))(
    'is no recipe that ships: %s',
    (_id, material, recipe) => {
      const machine = MACHINES.find(({ id }) => id === recipe.machine)!
      const sample = sampleJob({ picture, widthMm: 20 })
      const on = withPiece({ ...sample, machine, materials: { [material.id]: material } }, { material: material.id })
      const bare = { ...on, operations: {}, steps: {}, order: [] } as unknown as JobDocument
      const made = given(bare, ['source'], recipe.process)
      expect(made.job.operations[made.operation].recipe).toBe(recipe.id)
      expect(kinds(made.job)).not.toContain('too-weak')
    },
  )

  it('is nothing that was put aside, or only guides', () => {
    const silent = withProcess(sampleJob({ picture }), 'cut', 'guide')
    expect(kinds(withOperation(silent, 'cut', { power: 0.001 }))).not.toContain('too-weak')
  })
})

describe('a cut that comes first', () => {
  it('is asked about whatever is marked inside after it: an area, a line', () => {
    for (const process of ['area', 'score'] as const) {
      const sample = sampleJob({ picture })
      const bare = {
        ...sample,
        operations: { cut: sample.operations.cut },
        steps: { cut: sample.steps.cut },
        order: ['cut'],
      } as JobDocument
      const { job, operation } = given(bare, ['edge'], process)
      expect(kinds(job)).not.toContain('cut-first')
      const late = reordered(job, operation, 1)
      const finding = find(late, 'cut-first')
      expect(finding.operation).toBe('cut')
      expect(burnOrder(fixed(late, finding))).toEqual([operation, 'cut'])
    }
  })
})

describe('findings', () => {
  it('has nothing to say about a good job', () => {
    expect(kinds(sampleJob({ picture }))).toEqual([])
  })

  it('asks about what leaves the workpiece, and moves it back by exactly what is missing', () => {
    const job = sampleJob({ picture, xMm: 275 })
    const finding = find(job, 'outside-workpiece')
    expect(finding).toMatchObject({ severity: 'ask', x: 300 })
    expect(finding.message).toMatch(/mm over its right edge/)
    const after = fixed(job, finding)
    expect(kinds(after)).toEqual(['near-edge'])
    expect(burnedBounds(after, 'cut', supply).x1).toBeCloseTo(300, 1)
    // Another press leaves a sound strip as well.
    const apart = fixed(after, find(after, 'near-edge'))
    expect(kinds(apart)).toEqual([])
    expect(burnedBounds(apart, 'cut', supply).x1).toBeCloseTo(297, 1)
  })

  it('notes a cut near the edge of its workpiece, by the thickness of the material, on blanks of any shape', () => {
    const job = sampleJob({ picture, widthMm: 40, xMm: 20, yMm: 20 })
    const at = (thicknessMm: number, left: number): JobDocument =>
      withPiece(job, {
        thicknessMm,
        outline: { kind: 'rings', rings: [[left, 0, 300, 0, 300, 200, left, 200].map((v, i) => (i % 2 ? v : v - left))] },
      })
    const { x0 } = burnedBounds(job, 'cut', supply)
    const near = withPiece(job, {
      thicknessMm: 3,
      outline: { kind: 'rings', rings: [[0, 0, 300, 0, 300, 200, 0, 200, x0 - 2, 40]] },
    })
    expect(find(near, 'near-edge').message).toMatch(/comes 2\.0 mm near the edge .* under 3 mm/)
    expect(kinds(withPiece(near, { thicknessMm: 1.5 }))).not.toContain('near-edge')
    expect(kinds(at(20, 0))).not.toContain('near-edge')
  })

  it('asks about two workpieces in one place, as set-ups lay them too', () => {
    const job = sampleJob({ picture })
    const [id] = Object.keys(job.workpieces)
    const two = (xMm: number): JobDocument => ({
      ...job,
      workpieces: {
        ...job.workpieces,
        other: { ...job.workpieces[id], name: 'Offcut', pose: { xMm, yMm: job.workpieces[id].pose.yMm } },
      },
    })
    const { xMm } = job.workpieces[id].pose
    expect(kinds(two(xMm + 301))).not.toContain('pieces-overlap')
    expect(find(two(xMm + 290), 'pieces-overlap').message).toMatch(/“Offcut” lie over each other on the bed, 20\.0 cm² of them/)
  })

  it('shrinks what is larger than the workpiece until it fits, whatever its size', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 240, max: 900, noNaN: true }),
        fc.double({ min: 0, max: 8, noNaN: true }),
        (widthMm, distanceMm) => {
          const job = sampleJob({ picture, widthMm, xMm: 0, yMm: 0, distanceMm, engrave: { intervalMm: 5 } })
          const finding = find(job, 'outside-workpiece')
          expect(kinds(fixed(job, finding))).not.toContain('outside-workpiece')
        },
      ),
      { numRuns: 12 },
    )
  })

  it('stops what the head cannot reach, and offers to move the workpiece onto the bed', () => {
    const job = onRectangle(sampleJob({ picture }), { xMm: 480, yMm: 100 })
    const finding = find(job, 'outside-bed')
    expect(finding.severity).toBe('stop')
    expect(finding.message).toContain('mm past its right edge')
    expect(finding.fixes[0].label).toBe('Move the workpiece onto the bed')
    expect(kinds(fixed(job, finding))).toEqual([])
  })

  it('stops a speed that the machine does not reach', () => {
    const job = withOperation(sampleJob({ picture }), 'cut', { speedMmS: 450 })
    const finding = find(job, 'beyond-machine')
    expect(finding).toMatchObject({ severity: 'stop', operation: 'cut' })
    expect(fixed(job, finding).operations.cut.speedMmS).toBe(400)
  })

  it('asks about a cut that frees what is still to be engraved, and puts it after', () => {
    const job = burning(sampleJob({ picture }), 'cut', 'engrave')
    const finding = find(job, 'cut-first')
    expect(finding).toMatchObject({ severity: 'ask', operation: 'cut' })
    const after = fixed(job, finding)
    expect(burnOrder(after)).toEqual(['engrave', 'cut'])
    expect(kinds(after)).toEqual([])
  })

  it('does not mind a cut beside what is engraved', () => {
    const away = sampleJob({ picture })
    const twin = {
      ...away,
      nodes: { ...away.nodes, other: { ...away.nodes.source, name: 'other' }, edge: { ...away.nodes.edge, from: 'other' } },
      placements: { ...away.placements, other: { ...away.placements.source, of: 'other', xMm: 200 } },
      order: ['cut', 'engrave'],
    } as JobDocument
    expect(kinds(checkJob(twin))).toEqual([])
  })

  it('notes a source that is too small for its size, with two ways out', () => {
    const small = greyPicture(60, 60, (x, y) => (x > 10 && x < 50 && y > 10 && y < 50 ? 0 : 255))
    const job = sampleJob({ picture: small, widthMm: 60, engrave: { intervalMm: 0.1 } })
    const finding = checkFindings(job, supplyWith(small)).find(({ kind }) => kind === 'low-resolution')!
    expect(finding.severity).toBe('note')
    expect(finding.message).toContain('25 dpi there, 254 dpi burned')
    for (let at = 0; at < finding.fixes.length; at++)
      expect(checkFindings(fixed(job, finding, at), supplyWith(small)).map(({ kind }) => kind)).not.toContain('low-resolution')
  })

  it('asks about an operation that burns nothing', () => {
    const job = withNode(sampleJob({ picture }), 'edge', { minAreaMm2: 9000 })
    expect(find(job, 'nothing-to-burn').message).toContain('no outline left to cut')
  })

  it('lets a finding be meant until it says something else; a stop cannot be', () => {
    const job = sampleJob({ picture, xMm: 275 })
    const { id, message } = find(job, 'outside-workpiece')
    const meant = { ...job, meant: { [id]: message } }
    expect(find(meant, 'outside-workpiece').meant).toBe(true)
    const moved = { ...meant, placements: { source: { ...job.placements.source, xMm: 280 } } }
    expect(find(moved, 'outside-workpiece').meant).toBe(false)
    const off = onRectangle(job, { xMm: 480, yMm: 100 })
    const stop = find(off, 'outside-bed')
    expect(find({ ...off, meant: { [stop.id]: stop.message } }, 'outside-bed').meant).toBe(false)
    expect(checkFindings(off, supply)[0].severity).toBe('stop')
  })
})

describe('the true edge of a workpiece', () => {
  const round = (xMm: number, yMm: number): JobDocument =>
    withPiece(onRectangle(sampleJob({ picture, widthMm: 40, xMm, yMm }), { widthMm: 100, heightMm: 100 }), {
      outline: { kind: 'circle', diameterMm: 100 },
    })

  it('counts where its box does not: a corner lies beside a round blank', () => {
    expect(kinds(round(30, 30))).toEqual([])
    expect(kinds(round(4, 4))).toContain('outside-workpiece')
    const finding = find(round(4, 4), 'outside-workpiece')
    expect(Math.hypot(finding.x! - 50, finding.y! - 50)).toBeGreaterThan(50)
  })

  it('is kept by its fix wherever the artwork lies, at any turn', () => {
    let over = 0
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 60 }),
        fc.integer({ min: 0, max: 60 }),
        fc.integer({ min: -90, max: 90 }),
        (x, y, deg) => {
          const job = turnedTo(round(x, y), 'source', deg)
          const finding = checkFindings(job, supply).find(({ kind }) => kind === 'outside-workpiece')
          if (!finding) return
          over++
          expect(finding.fixes[0].label).toMatch(/^Move it /)
          expect(kinds(fixed(job, finding))).not.toContain('outside-workpiece')
        },
      ),
      { numRuns: 20 },
    )
    expect(over).toBeGreaterThan(3)
    // What is too large for it is not moved about.
    const large = withPiece(sampleJob({ picture, widthMm: 90, xMm: 0, yMm: 0 }), { outline: { kind: 'circle', diameterMm: 100 } })
    expect(find(large, 'outside-workpiece').fixes).toEqual([])
  })

  it('is met by a hole as by an edge', () => {
    const ring = [0, 0, 300, 0, 300, 200, 0, 200]
    const hole = [110, 60, 110, 90, 130, 90, 130, 60]
    const plate = sampleJob({ picture, widthMm: 40, xMm: 100, yMm: 50 })
    expect(kinds(withPiece(plate, { outline: { kind: 'rings', rings: [ring] } }))).toEqual([])
    expect(kinds(withPiece(plate, { outline: { kind: 'rings', rings: [ring, hole] } }))).toContain('outside-workpiece')
  })

  it('is asked about where a clamp lies under what is burned, wherever the workpiece lies', () => {
    const clamp = (xMm: number) => ({
      clamp: { name: 'the clamp', outline: { kind: 'rect', widthMm: 12, heightMm: 8 } as const, pose: { xMm, yMm: 60, deg: 20 } },
    })
    const job = sampleJob({ picture, widthMm: 40, xMm: 100, yMm: 50 })
    expect(kinds(withPiece(job, { keepOuts: clamp(200) }))).toEqual([])
    for (const deg of [0, 17, 90]) {
      const held = withPiece(job, { keepOuts: clamp(112), pose: { xMm: 150, yMm: 100, deg } })
      const found = checkFindings(held, supply).filter(({ kind }) => kind === 'keep-out')
      expect(found.length).toBeGreaterThan(0)
      expect(found.every(({ severity }) => severity === 'ask')).toBe(true)
      expect(found[0].message).toContain('runs over “the clamp”')
    }
  })
})
