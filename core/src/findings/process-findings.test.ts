import { describe, expect, it } from 'vitest'
import { withOperation } from '../edits/change.ts'
import { given } from '../edits/give-process.ts'
import { withoutArtwork } from '../edits/take-away.ts'
import type { JobDocument } from '../job/document/document.ts'
import { applyPatches } from '../job/patches/edit.ts'
import { MACHINES } from '../material/catalogue.ts'
import { programWords } from '../plan/program-words.ts'
import { burningsOf, processOf } from '../process/table.ts'
import { checkJob } from '../reading/check-job.ts'
import { preflight } from '../run/preflight.ts'
import { greyPicture, sampleJob, squarePicture, supplyWith } from '../testing/sample-job.ts'
import { checkFindings } from './check.ts'

const picture = squarePicture(20, 5)
const supply = supplyWith(picture)
const sample = sampleJob({ picture })
const found = (job: JobDocument, kind: string, work = supply) => checkFindings(job, work).filter((each) => each.kind === kind)
const fixed = (job: JobDocument, kind: string): JobDocument => checkJob(applyPatches(job, found(job, kind)[0].fixes[0].patches))

describe('a source', () => {
  it('is spared: more power than it stands for long is asked, and brought down', () => {
    const job = withOperation(sample, 'cut', { power: 0.97 })
    expect(found(job, 'over-safe-power')[0]).toMatchObject({ operation: 'cut', severity: 'ask' })
    expect(fixed(job, 'over-safe-power').operations.cut.power).toBe(0.9)
    expect(found(fixed(job, 'over-safe-power'), 'over-safe-power')).toEqual([])
    expect(found(sample, 'over-safe-power')).toEqual([])
  })
})

describe('a speed', () => {
  it('that short ways never let the machine reach is told, with the one that it reaches', () => {
    const job = withOperation(sample, 'cut', { speedMmS: 590 })
    const [finding] = found(job, 'never-reached')
    expect(finding.severity).toBe('note')
    const slower = fixed(job, 'never-reached')
    expect(slower.operations.cut.speedMmS).toBeLessThan(590)
    expect(found(slower, 'never-reached')).toEqual([])
    expect(found(sample, 'never-reached')).toEqual([])
  })
})

describe('a run-up', () => {
  it('that is too short for the speed is told, by hand or at the edge of the bed', () => {
    expect(found(sample, 'never-reached')).toEqual([])
    const typed = withOperation(sample, 'engrave', { speedMmS: 400, runUpMm: 2 } as never)
    const [finding] = found(typed, 'never-reached')
    expect(finding.message).toMatch(/1 begins its rows below 400 mm\/s: they have 2\.0 mm to get there, and 13\.3 mm are needed/)
    expect(fixed(typed, 'never-reached').operations.engrave).not.toHaveProperty('runUpMm')
    const piece = { ...sample.workpieces.piece, pose: { xMm: -98, yMm: 100 } }
    const atEdge = withOperation({ ...sample, workpieces: { piece } }, 'engrave', { speedMmS: 400 })
    expect(found(atEdge, 'never-reached')[0]).toMatchObject({ operation: 'engrave', fixes: [] })
  })
})

describe('pulses', () => {
  const fibre = MACHINES.find(({ pulses }) => pulses)!

  it('are those that the source gives, told before the start and in the program', () => {
    const set = withOperation({ ...sample, machine: fibre }, 'engrave', { pulseHz: 30_000, pulseNs: 100 })
    expect(found(checkJob(set), 'pulses')).toEqual([])
    expect(preflight(set, []).find(({ id }) => id === 'pulses-0')?.title).toBe('Pulses of 30 kHz, 100 ns for 1')
    expect(programWords(set).operation('engrave')).toContain('30000 Hz, 100 ns')
    const tooFast = withOperation(set, 'engrave', { pulseHz: 900_000 })
    expect(found(tooFast, 'pulses')[0]).toMatchObject({ severity: 'stop', operation: 'engrave' })
    expect(fixed(tooFast, 'pulses').operations.engrave.pulseHz).toBe(200_000)
    const elsewhere = withOperation(sample, 'engrave', { pulseHz: 30_000 })
    expect(found(elsewhere, 'pulses')[0].message).toContain('cannot be set')
    expect(fixed(elsewhere, 'pulses').operations.engrave).not.toHaveProperty('pulseHz')
  })
})

describe('heat', () => {
  it('gathers where cuts lie close together', () => {
    const comb = supplyWith(greyPicture(90, 60, (x, y) => (x % 3 === 0 && y > 4 && y < 56 && x > 4 && x < 86 ? 0 : 255)))
    const grille = withOperation(sampleJob({ picture: greyPicture(90, 60, () => 0), widthMm: 36 }), 'cut', {
      of: ['edge'],
      kerfMm: 0,
    })
    expect(found(grille, 'heat', comb)[0]?.message).toMatch(/Heat gathers: 2 cuts \d+ mm within 3 × 3 mm/)
    expect(found(withOperation(grille, 'cut', { restS: 3, passes: 2 } as never), 'heat', comb)).toEqual([])
    expect(found(sample, 'heat')).toEqual([])
  })
})

describe('ground that two operations burn', () => {
  const both = given(sample, ['edge'], 'area').job

  it('is left out of the picture, whose other dots stay as they are', () => {
    const before = marks(both)
    expect(found(both, 'burned-twice')).toHaveLength(1)
    const job = fixed(both, 'burned-twice')
    expect(job.operations.engrave).toMatchObject({ spares: ['edge'] })
    const after = marks(job)
    let gone = 0
    for (let i = 0; i < after.length; i++) {
      if (after[i] === before[i]) continue
      expect(after[i]).toBe(0)
      gone++
    }
    expect(gone).toBeGreaterThan(0.9 * before.filter((level) => level > 0).length)
    expect(found(job, 'burned-twice')).toEqual([])
  })

  it('comes back when what was spared goes', () => {
    const job = fixed(both, 'burned-twice')
    const alone = checkJob(withoutArtwork(job, ['edge']))
    expect(alone.operations.engrave).toMatchObject({ spares: [] })
    expect(() =>
      checkJob({ ...job, operations: { ...job.operations, engrave: { ...job.operations.engrave, spares: ['dots'] } } } as never),
    ).toThrow('spares artwork that is missing or has no outline')
  })

  function marks(job: JobDocument): Uint8Array {
    const [context] = burningsOf(job, 'engrave', supply)
    return Uint8Array.from(processOf(context.operation).dots!(context).marks.levels)
  }
})
