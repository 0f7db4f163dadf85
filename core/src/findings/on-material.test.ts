import { describe, expect, it } from 'vitest'
import { withOperation } from '../edits/change.ts'
import { knowsMore, withNewer } from '../edits/newer-material.ts'
import { type JobDocument, mainPiece, materialOf } from '../job/document/document.ts'
import type { Evidence } from '../material/evidence.ts'
import type { Material, Recipe } from '../material/material.ts'
import { processOf } from '../process/table.ts'
import { preflight } from '../run/preflight.ts'
import { greyPicture, sampleJob, supplyWith } from '../testing/sample-job.ts'
import { checkFindings } from './check.ts'

const picture = greyPicture(60, 60, (x, y) => (x > 10 && x < 50 && y > 10 && y < 50 ? 0 : 255))
const supply = supplyWith(picture)
const sample = sampleJob({ picture })
const [engrave] = Object.keys(sample.operations).filter((id) => 'intervalMm' in sample.operations[id])
const [cut] = Object.keys(sample.operations).filter((id) => 'kerfMm' in sample.operations[id])
/** Its cut follows the recipe of its material. */
const job = withOperation(
  sample,
  cut,
  processOf(sample.operations[cut]).fromRecipe(sample.operations[cut].of, materialOf(sample), sample.machine),
)
const withMaterial = (change: Partial<Material>, of: JobDocument = job): JobDocument => {
  const material = materialOf(of)
  return { ...of, materials: { ...of.materials, [material.id]: { ...material, ...change } } }
}
const found = (of: JobDocument, kind: string) => checkFindings(of, supply).filter((each) => each.kind === kind)

describe('a material that must never be lasered', () => {
  it('stops the job, with the reason', () => {
    const [stop] = found(withMaterial({ forbidden: 'its smoke is hydrogen chloride' }), 'forbidden')
    expect(stop).toMatchObject({ severity: 'stop', fixes: [] })
    expect(stop.message).toMatch(/must never be lasered: its smoke is hydrogen chloride/)
    expect(found(job, 'forbidden')).toEqual([])
  })
})

describe('a recipe that is proven', () => {
  const { power, recipe } = job.operations[cut]
  it('says nothing more of what left it: told, with the way back', () => {
    expect(found(job, 'departed')).toEqual([])
    const [note] = found(withOperation(job, cut, { power: power * 0.8, air: !job.operations[cut].air }), 'departed')
    expect(note).toMatchObject({ severity: 'note', operation: cut })
    expect(note.message).toMatch(/which is proven: power 54\.4 %, not 68 %; air off\.$/)
    const [{ label, patches }] = note.fixes
    expect(label).toBe('Back to the recipe')
    expect(patches).toEqual([
      { path: ['operations', cut, 'power'], value: power },
      { path: ['operations', cut, 'air'], value: true },
    ])
  })

  it('that nobody has proven may be left without a word', () => {
    const recipes = materialOf(job).recipes.map((one) => (one.id === recipe ? { ...one, evidence: [] } : one))
    const left = withOperation(withMaterial({ recipes }), cut, { power: power * 0.8 })
    expect(found(left, 'departed')).toEqual([])
  })
})

describe('more dose than a material stands', () => {
  const material = materialOf(job)
  const coated: Material['layers'] = [
    { name: 'lacquer', thicknessMm: 0.05, markDose: { from: 0.05, to: 0.1 }, liftDose: { from: 0.1, to: 0.2 }, harmsBelow: 0.3 },
    { name: 'steel', thicknessMm: material.thicknessMm - 0.05, markDose: { from: 40, to: 90 } },
  ]
  it('harms what is below a coating: asked, with the power that does not', () => {
    const [harmed] = found(withMaterial({ layers: coated }), 'harmed')
    expect(harmed).toMatchObject({ severity: 'ask', operation: engrave })
    expect(harmed.message).toContain('the steel under the lacquer')
    const [{ patches }] = harmed.fixes
    const power = (patches[0] as { value: number }).value
    expect(found(withOperation(withMaterial({ layers: coated }), engrave, { power }), 'harmed')).toEqual([])
  })
  it('warps a sheet, and chars a cut of this thickness: told', () => {
    expect(found(withMaterial({ warpDose: 0.2 }), 'harmed')[0]).toMatchObject({ severity: 'note' })
    expect(found(job, 'harmed')).toEqual([])
    const slow = withOperation(job, cut, { speedMmS: 3, passes: 1 })
    expect(found(slow, 'over-dose')[0].message).toMatch(/^Too much for 3 mm: .* chars above/)
    expect(found(job, 'over-dose')).toEqual([])
  })
})

describe('a recipe that is not proven', () => {
  const own = materialOf(job).recipes.find(({ id }) => id === job.operations[cut].recipe)!
  const with_ = (change: Partial<Recipe>): JobDocument =>
    withMaterial({ recipes: materialOf(job).recipes.map((each) => (each.id === own.id ? { ...each, ...change } : each)) })
  const failed = (count: number): Evidence[] =>
    Array.from({ length: count }, (_, i) => ({
      kind: 'trial' as const,
      date: `2026-11-${20 + i}`,
      set: { power: own.power, speedMmS: own.speedMmS, passes: own.passes, air: own.air },
      answer: 'no' as const,
    }))
  it('is told where it is borrowed, asked where it failed lately; on a card of trials it is what the card is for', () => {
    expect(found(job, 'unproven')).toEqual([])
    const lent = with_({ evidence: [], borrowedFrom: '3 mm and 6 mm', mayBeOff: 0.08 })
    expect(found(lent, 'unproven')[0]).toMatchObject({ severity: 'note', operation: cut })
    expect(found(lent, 'unproven')[0].message).toContain('borrowed from 3 mm and 6 mm, and may be 8 % off')
    expect(found(with_({ evidence: [...own.evidence, ...failed(2)] }), 'unproven')).toEqual([])
    const doubtful = with_({ evidence: [...own.evidence, ...failed(3)] })
    expect(found(doubtful, 'unproven')[0]).toMatchObject({ severity: 'ask' })
    expect(found(doubtful, 'unproven')[0].message).toContain('failed 3 times since it last worked')
    // Found with a lens that is not the one that is fitted.
    expect(found(with_({ lens: job.machine.lens }), 'unproven')).toEqual([])
    expect(found(with_({ lens: 'l100' }), 'unproven')[0].message).toContain('was found with another lens')
    const trial = { process: 'cut' as const, across: { setting: 'power' as const, values: [0.5] }, cells: {} }
    expect(found({ ...doubtful, trial }, 'unproven')).toEqual([])
  })
})

describe('what the shop found since', () => {
  const shop = materialOf(job)
  const own = shop.recipes.find(({ id }) => id === job.operations[cut].recipe)!
  const better: Material = {
    ...shop,
    version: shop.version + 1,
    recipes: shop.recipes.map((each) => (each.id === own.id ? { ...each, speedMmS: 9 } : each)),
  }
  it('is taken by what follows its recipe; what left it keeps its settings', () => {
    expect(knowsMore(shop, shop, job.machine.id)).toBe(false)
    expect(knowsMore(better, shop, job.machine.id)).toBe(true)
    expect(withNewer(job, better).operations[cut].speedMmS).toBe(9)
    const left = withOperation(job, cut, { speedMmS: 14 })
    expect(withNewer(left, better).operations[cut].speedMmS).toBe(14)
    expect(withNewer(left, better).materials[shop.id]).toBe(better)
    // Where there was none, the one that was found is followed.
    const none = withMaterial({ recipes: [] }, withOperation(job, cut, { recipe: undefined, speedMmS: 30 }))
    expect(withNewer(none, better).operations[cut]).toMatchObject({ recipe: own.id, speedMmS: 9 })
  })
})

describe('the list before the start', () => {
  it('tells what the smoke is, how it burns, and what the material is taken for', () => {
    const told = preflight(
      withMaterial({
        fumes: 'acrid',
        fire: 'flames up',
        lookAlikes: [{ name: 'PVC sheet', toldBy: 'burns green on copper', forbidden: true }],
      }),
      [],
    ).filter(({ id }) => id.endsWith(mainPiece(job).material))
    expect(told.map(({ title }) => title)).toEqual([
      'It is birch ply, not pvc sheet',
      'Smoke of birch ply: acrid',
      'Fire: flames up',
    ])
    expect(told[0].detail).toBe('burns green on copper · PVC sheet must never be lasered')
  })
})

describe('a curve that is older than the power', () => {
  it('is told where it decides what is burned', () => {
    const [layer] = materialOf(job).layers
    const curves = [
      {
        id: 'c',
        quantity: 'tone' as const,
        points: [0, 1].map((input) => ({ input, readings: [input] })),
        conditions: { machine: job.machine.id, date: '2026-09-01' },
      },
    ]
    const even = withOperation(withMaterial({ layers: [{ ...layer, curves }] }), engrave, { evenIn: 'tone' } as never)
    expect(found(even, 'old-curve')).toEqual([])
    const read = { ...even, machine: { ...even.machine, powerRead: '2026-11-01' } }
    expect(found(read, 'old-curve')[0].message).toContain('The tone curve of Birch ply is of 2026-09-01')
    expect(found({ ...read, machine: { ...read.machine, powerRead: '2026-08-01' } }, 'old-curve')).toEqual([])
  })
})

describe('a width of cut that was measured', () => {
  it('is told where the job takes another, with a press that takes it', () => {
    const [layer] = materialOf(job).layers
    const { doseJPerMm = 0 } = processOf(job.operations[cut]).dose(job.operations[cut], job.machine)
    const curve = (wide: number) => ({
      id: 'k',
      quantity: 'kerf' as const,
      points: [0.5, 1, 1.5, 2].map((k) => ({ input: k * doseJPerMm, readings: [wide] })),
      conditions: { machine: job.machine.id, date: '2026-11-01' },
    })
    expect(found(job, 'kerf-measured')).toEqual([])
    const { kerfMm } = job.operations[cut] as unknown as { kerfMm: number }
    expect(found(withMaterial({ layers: [{ ...layer, curves: [curve(kerfMm + 0.01)] }] }), 'kerf-measured')).toEqual([])
    const wider = withMaterial({ layers: [{ ...layer, curves: [curve(0.31)] }] })
    const [note] = found(wider, 'kerf-measured')
    expect(note.message).toContain('0.31 mm were measured')
    expect(note.fixes[0].patches).toEqual([{ path: ['operations', cut, 'kerfMm'], value: 0.31 }])
  })
})
