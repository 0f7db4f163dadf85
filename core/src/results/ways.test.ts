import { describe, expect, it } from 'vitest'
import { withOperation } from '../edits/change.ts'
import type { JobDocument } from '../job/document/document.ts'
import { depthOf, toneOf } from '../material/answer.ts'
import { MACHINES, MATERIALS } from '../material/catalogue.ts'
import type { Material } from '../material/material.ts'
import { processOf } from '../process/table.ts'
import { trialCard } from '../trial/card.ts'
import { type Result, type Ways, wantable, waysTo } from './ways.ts'

const [machine] = MACHINES
const on = (id: string): Material => MATERIALS.find((each) => each.id === id)!
const jobOf = (process: 'area' | 'cut' | 'picture', material: Material): JobDocument =>
  trialCard(
    { process, across: { setting: 'power', values: [0.5] } },
    { material, machine, workpiece: { widthMm: 90, heightMm: 90, thicknessMm: material.thicknessMm } },
  ).job
const CELL = 'cell-1-1'
const waysOf = (found: Ways) => {
  if ('not' in found) throw new Error(found.not)
  return found.ways
}
const doseOf = (job: JobDocument) => processOf(job.operations[CELL]).dose(job.operations[CELL], job.machine)

describe('a result that is asked for', () => {
  const lime = jobOf('area', on('lime-wood-12'))
  it('can be a depth, a tone, a coating lifted, or through: by what the operation is', () => {
    expect(wantable(lime, CELL)).toEqual(['depth', 'tone'])
    expect(wantable(jobOf('area', on('tin-lid-03')), CELL)).toEqual(['depth', 'tone', 'lift'])
    expect(wantable(jobOf('cut', on('birch-ply-3')), CELL)).toEqual(['through'])
    expect(waysTo(lime, CELL, { kind: 'through' })).toEqual({ not: 'This cannot be asked of this operation.' })
  })

  it.each<[string, JobDocument, Result]>([
    ['a depth', lime, { kind: 'depth', mm: 1.1 }],
    ['a tone', lime, { kind: 'tone', share: 0.6 }],
    ['a tone of dots', jobOf('picture', on('birch-ply-3')), { kind: 'tone', share: 0.8 }],
  ])('of %s is reached by every way, by the measured curve', (_, job, wanted) => {
    const { material } = { material: Object.values(job.materials)[0] }
    const ways = waysOf(waysTo(job, CELL, wanted))
    expect(ways.length).toBeGreaterThan(2)
    for (const { change, off } of ways) {
      const dose = doseOf(withOperation(job, CELL, change)).doseJPerMm2!
      const got = wanted.kind === 'depth' ? depthOf(material, dose, machine.id)! : toneOf(material, dose, machine.id)
      const value = wanted.kind === 'depth' ? wanted.mm : (wanted as { share: number }).share
      expect(Math.abs(got / value - 1)).toBeLessThan(0.02)
      expect(off).toBeGreaterThan(0)
      expect(change.power).toBeLessThanOrEqual(1)
      expect(change.speedMmS).toBeLessThanOrEqual(machine.axes.x.speedMmS)
    }
    // The quickest is no slower than what it was set to.
    expect(ways[0].id).toBe('quickest')
    const quick = ways[0].change.speedMmS / ways[0].change.passes
    for (const { change } of ways) expect(change.speedMmS / change.passes).toBeLessThanOrEqual(quick * 1.001)
  })

  it('through stays within the window in which it cuts and does not char', () => {
    const ply = on('birch-ply-3')
    for (const { change } of waysOf(waysTo(jobOf('cut', ply), CELL, { kind: 'through' }))) {
      const dose = doseOf(withOperation(jobOf('cut', ply), CELL, change)).doseJPerMm!
      expect(dose).toBeGreaterThan(ply.cutDose.from)
      expect(dose).toBeLessThan(ply.cutDose.to)
    }
  })

  it('of a lifted coating keeps under what harms what is below', () => {
    const lid = on('tin-lid-03')
    const [{ liftDose, harmsBelow }] = lid.layers
    const ways = waysOf(waysTo(jobOf('area', lid), CELL, { kind: 'lift' }))
    for (const { change, why } of ways) {
      const dose = doseOf(withOperation(jobOf('area', lid), CELL, change)).doseJPerMm2!
      expect(dose).toBeGreaterThan(liftDose!.from)
      expect(dose).toBeLessThan(0.8 * harmsBelow!)
      expect(why).toContain('tinplate is harmed from 3.2')
    }
    const thin = { ...lid, layers: [{ ...lid.layers[0], harmsBelow: 1.4 }, lid.layers[1]] }
    expect(waysTo(jobOf('area', thin), CELL, { kind: 'lift' })).toMatchObject({
      not: expect.stringContaining('is harmed already'),
    })
  })

  it('that nothing is known of says what to do', () => {
    const told = (job: JobDocument, wanted: Result): string => {
      const found = waysTo(job, CELL, wanted)
      return 'not' in found ? found.not : ''
    }
    expect(told(jobOf('area', on('birch-ply-3')), { kind: 'depth', mm: 1 })).toContain('burn a step wedge on scrap')
    expect(told(lime, { kind: 'depth', mm: 12 })).toContain('must leave a ground')
    expect(told(lime, { kind: 'depth', mm: 9 })).toMatch(/was measured from 0 mm to .*: 9 mm is not known/)
    expect(told(lime, { kind: 'tone', share: 1.2 })).toContain('120 % is not known')
  })
})
