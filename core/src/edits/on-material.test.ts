import { describe, expect, it } from 'vitest'
import { checkFindings } from '../findings/check.ts'
import type { JobDocument } from '../job/document/document.ts'
import { applyPatches } from '../job/patches/edit.ts'
import { MACHINES, MATERIALS } from '../material/catalogue.ts'
import { processOf } from '../process/table.ts'
import { proposalsFor } from '../proposals/proposals-for.ts'
import { checkJob } from '../reading/check-job.ts'
import { sampleJob, squarePicture, supplyWith } from '../testing/sample-job.ts'
import { withOperation } from './change.ts'
import { given, processesFor, processesInstead } from './give-process.ts'
import { onMachine, onMaterial } from './on-material.ts'

const picture = squarePicture(20, 5)
const supply = supplyWith(picture)
const sample = sampleJob({ picture })
const material = (id: string) => MATERIALS.find((each) => each.id === id)!
const clean = (job: JobDocument): JobDocument => checkJob(JSON.parse(JSON.stringify(job)))
const recipes = MATERIALS[0].recipes.filter(({ machine }) => machine === sample.machine.id)
/** A job whose operations follow the recipes of birch. */
const following = clean(
  ['engrave', 'cut'].reduce((job, id) => {
    const { process, of } = job.operations[id]
    return withOperation(
      job,
      id,
      processOf(job.operations[id]).fromRecipe(of, MATERIALS[0], job.machine) && {
        ...processOf({ process }).fromRecipe(of, MATERIALS[0], job.machine),
      },
    )
  }, sample),
)

describe('another material', () => {
  it('gives its values to what followed a recipe, and leaves what had departed as it was', () => {
    expect(recipes.length).toBeGreaterThan(1)
    const own = withOperation(following, 'cut', { power: 0.71 })
    const job = clean(onMaterial(own, material('cast-acrylic-3')))
    expect(job.operations.cut).toMatchObject({ power: 0.71, recipe: 'cast-acrylic-3-cut', keptFrom: MATERIALS[0].name })
    expect(clean(onMaterial(following, material('cast-acrylic-3'))).operations.cut).toMatchObject({
      recipe: 'cast-acrylic-3-cut',
      power: 0.62,
    })
    expect(clean(onMaterial(following, material('cast-acrylic-3'))).operations.cut.keptFrom).toBeUndefined()
  })

  it('is found where settings stay, until somebody sets them or takes the recipe', () => {
    const kept = (job: JobDocument) => checkFindings(job, supply).filter(({ kind }) => kind === 'kept-settings')
    const job = clean(onMaterial(withOperation(following, 'cut', { power: 0.71 }), material('cast-acrylic-3')))
    const [finding] = kept(job)
    expect(finding).toMatchObject({ operation: 'cut', severity: 'ask' })
    expect(finding.message).toContain(MATERIALS[0].name)
    expect(kept(withOperation(job, 'cut', { speedMmS: 9 }))).toEqual([])
    const taken = applyPatches(job, finding.fixes[0].patches)
    expect(taken.operations.cut.power).toBe(0.62)
    expect(kept(clean(taken))).toEqual([])
  })

  it('that knows nothing keeps the settings, and says whose they are; the machine lies in the middle of its bed', () => {
    const job = clean(onMachine(following, MACHINES[2]))
    const unknown = ['engrave', 'cut'].filter((id) => job.operations[id].recipe === undefined)
    for (const id of unknown) expect(job.operations[id].keptFrom).toBe(MATERIALS[0].name)
    expect(job.workpieces.piece.pose.xMm).toBe(0)
  })
})

describe('what no dose cuts', () => {
  const brass = clean(onMaterial(following, material('lacquered-brass-1')))

  it('is not offered, not proposed, and refused with the reason', () => {
    expect(processesFor(brass, ['edge'])).not.toContain('cut')
    expect(processesFor(following, ['edge'])).toContain('cut')
    expect(processesInstead(brass, 'engrave')).not.toContain('cut')
    expect(() => given(brass, ['edge'], 'cut')).toThrow(/is not cut by Bench laser 60 W: full power at 1 mm\/s/)
    const facts = { name: 'a.png', asset: 'a'.repeat(64), widthPx: 30, heightPx: 30, hasAlpha: false }
    const settings = {
      workpiece: { widthMm: 100, heightMm: 80, thicknessMm: 1 },
      material: material('lacquered-brass-1'),
      machine: MACHINES[0],
    }
    const made = proposalsFor(facts, settings, supply)
    expect(made.length).toBeGreaterThan(0)
    for (const { job } of made) for (const { process } of Object.values(job.operations)) expect(process).not.toBe('cut')
  })

  it('is told of a job that has it all the same', () => {
    const found = checkFindings(brass, supply).find(({ id }) => id === 'too-weak:cut')
    expect(found).toMatchObject({ severity: 'ask', fixes: [] })
    expect(found?.message).toContain('900 begin to cut')
  })
})
