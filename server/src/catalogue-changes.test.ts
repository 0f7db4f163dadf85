import type { CatalogueChange } from '@neotaxis/contract'
import {
  MATERIALS,
  type Material,
  type MeasuredCurve,
  type Recipe,
  readRecipesTable,
  recipesTable,
  standingOf,
} from '@neotaxis/core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { openShop, type Shop } from './testing/shop.ts'

let shop: Shop
beforeAll(async () => {
  shop = await openShop({ name: 'catalogue' })
})
afterAll(() => shop.end())

const LID = 'tin-lid-03'
const materials = async (): Promise<Material[]> => (await shop.ask.get('/api/materials').expect(200)).body.materials
const lid = async (): Promise<Material> => (await materials()).find(({ id }) => id === LID)!
const history = async (id = LID): Promise<CatalogueChange[]> =>
  (await shop.ask.get(`/api/materials/${id}/history`).expect(200)).body.changes

const recipe: Recipe = {
  id: 'lid-area',
  process: 'area',
  name: 'lacquer off the lid',
  machine: 'bench-60',
  lens: 'l50',
  power: 0.3,
  speedMmS: 200,
  passes: 1,
  intervalMm: 0.06,
  air: false,
  evidence: [
    {
      kind: 'trial',
      date: '2026-11-20',
      set: { power: 0.3, speedMmS: 200, passes: 1, intervalMm: 0.06, air: false },
      answer: 'yes',
    },
  ],
}
const bring = (...recipes: { material: string; recipe: Recipe }[]) => shop.ask.post('/api/recipes').send({ recipes })

const curve = (id: string, top: number): MeasuredCurve => ({
  id,
  quantity: 'tone',
  points: [0, 0.5, 1, 2].map((input) => ({ input, readings: [(top * input) / 2] })),
  conditions: { material: LID, machine: 'bench-60', date: '2026-11-20' },
})

describe('the catalogue', () => {
  it('takes a new material, and changes it only for who saw it as it is', async () => {
    const made = { ...(await lid()), id: 'lid-two', name: 'Another lid', recipes: [] }
    const { body } = await shop.ask.put('/api/materials/lid-two').send({ material: made, base: null }).expect(200)
    expect(body.material).toMatchObject({ id: 'lid-two', version: 1 })
    await shop.ask.put('/api/materials/lid-two').send({ material: made, base: null }).expect(409)
    const first = await shop.ask
      .put('/api/materials/lid-two')
      .send({ material: { ...made, name: 'First' }, base: 1 })
      .expect(200)
    expect(first.body.material.version).toBe(2)
    const late = await shop.ask
      .put('/api/materials/lid-two')
      .send({ material: { ...made, name: 'Late' }, base: 1 })
      .expect(409)
    expect(late.body.message).toContain('changed by somebody else')
    expect((await materials()).find(({ id }) => id === 'lid-two')!.name).toBe('First')
    const thin = { ...made, layers: made.layers.slice(1) }
    await shop.ask.put('/api/materials/lid-two').send({ material: thin, base: 2 }).expect(400)
    await shop.ask.delete('/api/materials/lid-two').expect(204)
    await shop.ask.delete('/api/materials/lid-two').expect(404)
    expect((await history('lid-two')).map(({ what }) => what)).toEqual(['taken out of the shop', 'changed', 'put into the shop'])
  })

  it('brings back how something was before a change: a material, a recipe with what was found since, and what was taken out', async () => {
    const made = { ...(await lid()), id: 'lid-three', name: 'Third lid', recipes: [] }
    const put = (name: string, base: number | null) =>
      shop.ask
        .put('/api/materials/lid-three')
        .send({ material: { ...made, name }, base })
        .expect(200)
    const latest = async () => (await history('lid-three'))[0]
    const back = async (number: number, code = 200) =>
      (await shop.ask.post('/api/materials/lid-three/before').send({ number }).expect(code)).body
    await put('Third lid', null)
    expect(await latest()).toMatchObject({ goesBack: false })
    expect((await back((await latest()).number, 409)).message).toContain('nothing before')
    await put('Renamed', 1)
    const renamed = await latest()
    expect((await back(renamed.number)).material).toMatchObject({ name: 'Third lid', version: 3 })
    // That is a change of its own.
    expect((await back((await latest()).number)).material).toMatchObject({ name: 'Renamed', version: 4 })
    const own = { ...recipe, id: 'third-area' }
    await bring({ material: 'lid-three', recipe: own }).expect(204)
    const [first] = own.evidence
    await shop.ask
      .put('/api/recipes/third-area')
      .send({ ...own, power: 0.5, evidence: [first, { ...first, date: '2026-11-24' }] })
      .expect(200)
    const { material } = await back((await latest()).number)
    expect(material.recipes[0].power).toBe(0.3)
    expect(material.recipes[0].evidence).toHaveLength(2)
    await shop.ask.delete('/api/materials/lid-three').expect(204)
    const again = (await back((await latest()).number)).material
    expect(again).toMatchObject({ name: 'Renamed', recipes: [{ id: 'third-area', power: 0.3 }] })
    await back(1, 404)
    await shop.ask.delete('/api/materials/lid-three').expect(204)
  })

  it('takes recipes that are new, adds evidence to those that are there, and keeps what was', async () => {
    await bring({ material: LID, recipe }).expect(204)
    expect((await lid()).recipes).toEqual([recipe])
    const other: Recipe = {
      ...recipe,
      power: 0.35,
      evidence: [{ kind: 'trial', date: '2026-11-22', set: { ...recipe.evidence[0].set, power: 0.35 }, answer: 'no' }],
    }
    await bring({ material: LID, recipe: other }).expect(204)
    const [kept] = (await lid()).recipes
    expect(kept.power).toBe(0.35)
    expect(kept.evidence).toHaveLength(2)
    await bring({ material: 'no-such', recipe }).expect(404)
    await bring({ material: 'birch-ply-3', recipe }).expect(409)
    await shop.ask.delete('/api/recipes/lid-area').expect(204)
    expect((await lid()).recipes).toEqual([])
    await shop.ask.delete('/api/recipes/lid-area').expect(404)
    expect((await history()).map(({ what, recipe: of }) => [of, what])).toEqual([
      ['lid-area', '“lacquer off the lid” was taken away'],
      ['lid-area', '“lacquer off the lid”: 30 % → 35 %, 1 more in its evidence'],
      ['lid-area', '“lacquer off the lid” is new, proven'],
    ])
  })

  it('takes nothing of a list of which one cannot be taken', async () => {
    await bring({ material: LID, recipe }, { material: 'no-such', recipe: { ...recipe, id: 'other' } }).expect(404)
    expect((await lid()).recipes).toEqual([])
  })

  it('keeps what is measured in the place of what was measured before, however many measure at once', async () => {
    const before = (await lid()).version
    await shop.ask
      .post(`/api/materials/${LID}/curves`)
      .send({ curve: curve('a', 0.5), layer: 0 })
      .expect(201)
    await shop.ask
      .post(`/api/materials/${LID}/curves`)
      .send({ curve: curve('b', 0.8), layer: 0 })
      .expect(201)
    expect((await lid()).layers[0].curves!.map(({ id }) => id)).toEqual(['b'])
    const depth = { ...curve('c', 0.2), quantity: 'depth' as const }
    await Promise.all(
      [depth, { ...depth, id: 'd', quantity: 'kerf' as const }, curve('e', 0.9)].map((each) =>
        shop.ask.post(`/api/materials/${LID}/curves`).send({ curve: each, layer: 0 }).expect(201),
      ),
    )
    const now = await lid()
    expect(now.layers[0].curves!.map(({ id }) => id).sort()).toEqual(['c', 'd', 'e'])
    expect(now.version).toBe(before + 5)
    await shop.ask.post(`/api/materials/${LID}/curves`).send({ curve: depth, layer: 7 }).expect(400)
    await shop.ask
      .post(`/api/materials/${LID}/curves`)
      .send({ curve: { ...depth, points: [depth.points[0]] }, layer: 0 })
      .expect(400)
  })

  it('is written as a table, and read from one', async () => {
    const all = await materials()
    const table = recipesTable(all)
    expect(table.split('\n')).toHaveLength(1 + all.flatMap(({ recipes }) => recipes).length)
    let next = 0
    const { recipes, troubles } = readRecipesTable(table, all, () => `new-${next++}`)
    expect(troubles).toEqual([])
    await shop.ask.post('/api/recipes').send({ recipes }).expect(204)
    // What a table brings is no proof of itself, and takes none away.
    const proven = (list: readonly Material[]) =>
      list.flatMap(({ recipes: own }) => own).filter((one) => standingOf(one).kind === 'proven').length
    expect(proven(await materials())).toBe(proven(MATERIALS))
  })
})
