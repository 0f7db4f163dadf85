import { describe, expect, it } from 'vitest'
import { wattsAt } from '../machine/machine.ts'
import { recipeSchema } from '../reading/catalogue-schema.ts'
import { borrowed } from './borrow.ts'
import { MACHINES, MATERIALS } from './catalogue.ts'
import { standingOf } from './evidence.ts'
import { lineDose, type Material } from './material.ts'
import { inThickness, untriedMaterial } from './new-material.ts'
import { readRecipesTable, recipesTable } from './recipes-table.ts'

const [bench, corner] = MACHINES
const on = (id: string): Material => MATERIALS.find((each) => each.id === id)!
const cutDose = (recipe: { power: number; speedMmS: number; passes: number }): number =>
  recipe.passes * lineDose(wattsAt(bench, recipe.power), recipe.speedMmS)

describe('a recipe that is borrowed', () => {
  it('for a thickness between two lies between them, and says so', () => {
    const recipe = borrowed(on('birch-ply-4'), 'cut', bench, MATERIALS, MACHINES)!
    expect(recipe).toMatchObject({ borrowedFrom: '3 mm and 6 mm', machine: 'bench-60', air: true, mayBeOff: 0.08 })
    expect(recipeSchema.validate({ ...recipe, id: 'x' }, { convert: false }).error).toBeUndefined()
    const [three, six] = ['birch-ply-3', 'birch-ply-6'].map((id) => on(id).recipes.find((each) => each.id === `${id}-cut`)!)
    expect(cutDose(recipe)).toBeGreaterThan(cutDose(three) * 1.1)
    expect(cutDose(recipe)).toBeLessThan(cutDose(six) * 0.9)
    expect(standingOf(recipe)).toEqual({ kind: 'borrowed', from: '3 mm and 6 mm', mayBeOff: 0.08 })
    // On a straight line over the thickness, within what a dial shows.
    const wanted = cutDose(three) + (cutDose(six) - cutDose(three)) / 3
    expect(Math.abs(cutDose(recipe) / wanted - 1)).toBeLessThan(0.02)
  })

  it('further out is less sure; for what marks a surface the dose stays', () => {
    const thick = inThickness(on('birch-ply-6'), 10, 'birch-ply-10')
    const recipe = borrowed(thick, 'cut', bench, MATERIALS, MACHINES)!
    expect(recipe.mayBeOff!).toBeGreaterThan(0.25)
    expect(cutDose(recipe)).toBeGreaterThan(cutDose(on('birch-ply-6').recipes[0]))
    const picture = borrowed(on('birch-ply-4'), 'picture', bench, MATERIALS, MACHINES)!
    expect(picture).toMatchObject({ power: 0.32, speedMmS: 300, intervalMm: 0.127, mayBeOff: 0.08 })
  })

  it('from another machine keeps its dose within what this one can', () => {
    const recipe = borrowed(on('birch-ply-6'), 'cut', corner, MATERIALS, MACHINES)!
    expect(recipe.borrowedFrom).toContain(bench.name)
    expect(recipe.mayBeOff!).toBeGreaterThan(0.15)
    expect(recipe.power).toBeLessThanOrEqual(1)
    const dose = recipe.passes * lineDose(wattsAt(corner, recipe.power), recipe.speedMmS)
    expect(Math.abs(dose / cutDose(on('birch-ply-6').recipes[0]) - 1)).toBeLessThan(0.03)
    expect(recipe.speedMmS).toBeGreaterThanOrEqual(1)
  })

  it('is none where there is nothing like it, or nothing that was proven', () => {
    expect(borrowed(on('slate-5'), 'cut', bench, MATERIALS, MACHINES)).toBeUndefined()
    expect(borrowed(untriedMaterial('new'), 'cut', bench, MATERIALS, MACHINES)).toBeUndefined()
    const guessed = MATERIALS.map((each) => ({ ...each, recipes: each.recipes.map((one) => ({ ...one, evidence: [] })) }))
    expect(borrowed(on('birch-ply-4'), 'cut', bench, guessed, MACHINES)).toBeUndefined()
  })
})

describe('a material in another thickness', () => {
  it('is the same on its face; its layers grow, a coating does not', () => {
    const ply = inThickness(on('birch-ply-6'), 12, 'p')
    expect(ply.layers.map(({ thicknessMm }) => thicknessMm)).toEqual([2.4, 7.2, 2.4])
    expect(ply.cutDose.from).toBeCloseTo(10.8, 6)
    expect(ply).toMatchObject({ untried: true, recipes: [], family: 'birch-ply' })
    const lid = inThickness(on('tin-lid-03'), 0.6, 'l')
    expect(lid.layers.map(({ thicknessMm }) => thicknessMm)).toEqual([0.03, 0.57])
    expect(lid.layers[0].liftDose).toEqual(on('tin-lid-03').layers[0].liftDose)
  })
})

describe('a table of recipes', () => {
  it('has a line for each, and gives them back', () => {
    const { recipes, troubles } = readRecipesTable(recipesTable(MATERIALS), MATERIALS, () => 'new')
    expect(troubles).toEqual([])
    for (const { material, recipe } of recipes) expect(recipe).toEqual(on(material).recipes.find(({ id }) => id === recipe.id))
  })

  it.each([
    [
      'semicolons and commas',
      'material;thickness mm;process;machine;power %;speed mm/s;interval mm\nbirch ply;4;picture;bench-60;32,5;300;0,127',
    ],
    [
      'tabs and another order',
      'speed mm/s\tpower %\tmachine\tprocess\tmaterial\tinterval mm\n300\t32.5\tbench-60\tpicture\tbirch-ply-4\t0.127',
    ],
  ])('with %s', (_, text) => {
    const { recipes, troubles } = readRecipesTable(text, MATERIALS, () => 'new')
    expect(troubles).toEqual([])
    expect(recipes).toEqual([
      {
        material: 'birch-ply-4',
        recipe: expect.objectContaining({ id: 'new', power: 0.325, speedMmS: 300, passes: 1, intervalMm: 0.127, evidence: [] }),
      },
    ])
    expect(standingOf(recipes[0].recipe).kind).toBe('borrowed')
  })

  it('with gaps says at the row what is expected', () => {
    const head = 'material,thickness mm,process,machine,power %,speed mm/s,passes\n'
    const { recipes, troubles } = readRecipesTable(
      `${head}Oak,3,cut,bench-60,50,10,1\nBirch ply,3,carve,bench-60,50,10,1\nBirch ply,3,cut,,50,10,1\nBirch ply,3,cut,bench-60,,10,1\nBirch ply,3,cut,bench-60,50,fast,1\nBirch ply,3,cut,bench-60,150,10,1\nBirch ply,3,cut,bench-60,50,10,1`,
      MATERIALS,
      () => 'new',
    )
    expect(recipes).toHaveLength(1)
    expect(troubles.map(({ message }) => message)).toEqual([
      'Row 2: there is no material “Oak” of 3 mm in the shop.',
      'Row 3: “carve” is no process: picture, relief, area, cut, score.',
      'Row 4: it says no machine.',
      'Row 5: “” under “power %” is no number between 0 and 100.',
      'Row 6: “fast” under “speed mm/s” is no number between 0.1 and 10000.',
      'Row 7: “150” under “power %” is no number between 0 and 100.',
    ])
    expect(() => readRecipesTable('a,b\n1,2', MATERIALS, () => '')).toThrow('Not there: material, process, machine')
  })
})
