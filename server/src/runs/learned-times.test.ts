// What the journal says of how long a machine really takes: from runs that came to their end, and of this machine alone.
import { afterAll, beforeAll, expect, it } from 'vitest'
import { Run } from '../models/runs.ts'
import { openShop, type Shop } from '../testing/shop.ts'

let shop: Shop
beforeAll(async () => {
  shop = await openShop({ name: 'learned' })
})
afterAll(() => shop.end())

let count = 0
const ran = (seconds: number, told: number, more: { readonly phase?: string; readonly machineId?: string } = {}) =>
  Run.create({
    id: `run${count++}`,
    jobId: null,
    jobRevision: null,
    parentId: null,
    machineId: 'bench-60',
    name: 'Run',
    operator: 'Mara',
    phase: 'done',
    reason: '',
    document: '{}',
    brief: '{}',
    scope: '{}',
    answers: '[]',
    place: null,
    lines: 10,
    estimateSeconds: told,
    seconds,
    operations: JSON.stringify([{ id: 'cut', kind: 'cut', seconds: told, travelMm: 0, burnMm: 0 }]),
    bounds: null,
    looks: '{}',
    closing: '[]',
    rating: null,
    note: '',
    photo: null,
    startedAt: new Date(),
    endedAt: new Date(),
    ...more,
  })

it('is learned from runs that came to their end; a run that stood still says nothing of the machine', async () => {
  const asked = async (id = 'bench-60') => (await shop.ask.get(`/api/machines/${id}/times`).expect(200)).body.learned
  expect(await asked()).toBeNull()
  for (let i = 0; i < 9; i++) await ran(105 + 10.5 * i, 100 + 10 * i)
  await ran(900, 120)
  await ran(300, 100, { phase: 'stopped' })
  await ran(200, 100, { machineId: 'corner-20' })
  const learned = await asked()
  expect(learned).toMatchObject({ processes: ['cut'], runs: 10 })
  expect(learned.factors[0]).toBeCloseTo(1.05, 3)
  expect(await asked('corner-20')).toBeNull()
  expect(await asked('nothing-here')).toBeNull()
})
