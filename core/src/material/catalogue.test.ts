import { describe, expect, it } from 'vitest'
import { bringUpMaterial } from '../job/upgrade/material-layers.ts'
import { machineSchema, materialSchema, recipeSchema } from '../reading/catalogue-schema.ts'
import { MACHINES, MATERIALS } from './catalogue.ts'
import { standingOf } from './evidence.ts'
import { topLayer } from './material.ts'

describe('what ships', () => {
  it('is data that holds together', () => {
    for (const material of MATERIALS)
      expect(materialSchema.validate(material, { convert: false }).error, material.id).toBeUndefined()
    for (const machine of MACHINES) expect(machineSchema.validate(machine, { convert: false }).error, machine.id).toBeUndefined()
    expect(new Set(MATERIALS.map(({ id }) => id)).size).toBe(MATERIALS.length)
  })

  it('is proven by what is listed, never by a number', () => {
    const recipes = MATERIALS.flatMap(({ recipes }) => recipes)
    expect(recipes.flatMap(({ evidence }) => evidence).every(({ kind }) => kind === 'trial')).toBe(true)
    expect(standingOf(recipes.find(({ id }) => id === 'birch-ply-3-cut')!)).toMatchObject({ kind: 'proven', times: 14 })
    const kinds = new Set(recipes.map((recipe) => standingOf(recipe).kind))
    expect([...kinds].sort()).toEqual(['borrowed', 'guessed', 'proven'])
  })

  it('names a layer that the beam meets first', () => {
    const glass = MATERIALS.find(({ id }) => id === 'float-glass-4')!
    expect(glass.layers.map(({ name }) => name)).toEqual(['lacquer', 'glass'])
    expect(topLayer(glass).curves?.length).toBeGreaterThan(0)
  })
})

describe('a material that was stored before it had layers', () => {
  const { layers, recipes, ...rest } = MATERIALS[0]
  const [{ markDose, curves }] = layers
  const old = (proof: unknown) => {
    const { evidence: _e, borrowedFrom: _b, ...recipe } = recipes[1]
    return { ...rest, markDose, curves, recipes: [{ ...recipe, proof }] }
  }

  it.each([
    [
      { kind: 'proven', times: 14 },
      { kind: 'proven', times: 14, failed: 0 },
    ],
    [
      { kind: 'borrowed', from: 'the quay' },
      { kind: 'borrowed', from: 'the quay' },
    ],
    [{ kind: 'guessed' }, { kind: 'guessed' }],
    [{ kind: 'proven', times: 0 }, { kind: 'guessed' }],
  ])('comes up with %o', (proof, standing) => {
    const up = bringUpMaterial(old(proof)) as (typeof MATERIALS)[number]
    expect(materialSchema.validate(up, { convert: false }).error).toBeUndefined()
    expect(topLayer(up)).toEqual({ ...layers[0], name: up.name })
    expect(standingOf(up.recipes[0])).toEqual(standing)
    expect(bringUpMaterial(up)).toEqual(up)
  })

  it('stays as it is where it is none, for the schema to refuse', () => {
    for (const value of [null, 7, [], { recipes: 3 }, { recipes: [null] }, { ...old({ kind: 'proven', times: 'many' }) }])
      expect(materialSchema.validate(bringUpMaterial(value)).error).toBeDefined()
  })

  it('is refused where its layers are not as thick as it is, or a dose window is empty', () => {
    const thin = { ...MATERIALS[0], layers: [{ ...layers[0], thicknessMm: 1 }] }
    expect(materialSchema.validate(thin).error?.message).toBe('the layers of “Birch ply” are together not as thick as it is')
    const empty = { ...MATERIALS[0], layers: [{ ...layers[0], markDose: { from: 1, to: 1 } }] }
    expect(materialSchema.validate(empty).error).toBeDefined()
    const many = { ...recipes[1], evidence: [{ kind: 'earlier', times: 1e12, set: {} }] }
    expect(recipeSchema.validate(many).error).toBeDefined()
  })
})
