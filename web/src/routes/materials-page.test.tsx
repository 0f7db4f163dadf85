// @vitest-environment happy-dom

import { MATERIALS, type Material, type Recipe } from '@neotaxis/core'
import { fireEvent, screen, waitFor, within } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { describe, expect, it, vi } from 'vitest'
import { atShop } from '../testing/at-shop.ts'
import { shown } from '../testing/fake-server.tsx'
import MaterialsPage from './MaterialsPage.tsx'

const { firstCardOn } = vi.hoisted(() => ({ firstCardOn: vi.fn() }))
vi.mock('../workers/engine.ts', () => ({ firstCardOn, onWorkerDeath: () => () => {} }))
vi.mock('react-chartjs-2', () => ({ Scatter: () => null }))

const { serve, sent } = atShop()

function serveMaterials(change: (all: readonly Material[]) => readonly Material[] = (all) => all): void {
  let kept = change(MATERIALS)
  const put = (body: unknown) => {
    const { material } = body as { material: Material }
    const made = { ...material, version: material.version + 1 }
    kept = [...kept.filter(({ id }) => id !== material.id), made]
    return { material: made }
  }
  serve({
    'GET /materials': () => ({ materials: kept }),
    'GET /materials/': {
      changes: [{ number: 1, at: '2026-11-28T10:00:00.000Z', by: 'Ebba', what: 'depth measured, 10 points', recipe: null }],
    },
    'PUT /materials/': put,
    'DELETE /materials/': undefined,
    'DELETE /recipes/': undefined,
    'POST /recipes': undefined,
    'POST /assets': { asset: 'a'.repeat(64), widthPx: 1, heightPx: 1, hasAlpha: false },
    'POST /jobs': { id: 'card', name: 'Trial' },
  })
  shown(<MaterialsPage />)
}
const open = async (id: string): Promise<HTMLElement> => {
  await userEvent.click(await screen.findByTestId(`material-${id}`))
  return screen.getByRole('complementary')
}
const bodies = <T,>(method: string, path: string): T[] =>
  sent().flatMap((one) => (one.method === method && one.path.startsWith(path) ? [one.body as T] : []))

describe('the materials of the shop', () => {
  it('tell what is proven, borrowed, not tried, and never lasered, and are found by it', async () => {
    serveMaterials()
    expect((await screen.findByTestId('material-birch-ply-3')).textContent).toContain('3 of 4 recipes proven')
    expect(screen.getByTestId('material-pvc-sheet-3').textContent).toContain('must never be lasered')
    expect(screen.getByTestId('material-tin-lid-03').textContent).toContain('no recipes yet')
    await userEvent.click(screen.getByRole('button', { name: 'never lasered' }))
    expect(screen.queryByTestId('material-birch-ply-3')).toBeNull()
    expect(screen.getByTestId('material-synthetic-leather-1')).toBeTruthy()
    await userEvent.click(screen.getByRole('button', { name: 'never lasered' }))
    fireEvent.change(screen.getByTestId('find-material'), { target: { value: 'tinplate' } })
    expect(screen.getByTestId('material-tin-lid-03')).toBeTruthy()
    expect(screen.queryByTestId('material-slate-5')).toBeNull()
    const about = await open('tin-lid-03')
    expect(within(about).queryByRole('alert')).toBeNull()
  })

  it('that must never be lasered say why, and cannot be tried', async () => {
    serveMaterials()
    const about = await open('pvc-sheet-3')
    expect(within(about).getByRole('alert').textContent).toContain('hydrogen chloride')
    expect(within(about).queryByTestId('try-material')).toBeNull()
  })

  it('list what a recipe rests on; taken away it can be brought back', async () => {
    serveMaterials()
    const about = await open('birch-ply-3')
    const card = within(about).getByTestId('recipe-birch-ply-3-cut')
    expect(card.dataset.standing).toBe('proven')
    await userEvent.click(within(card).getByRole('button', { name: 'What it rests on (14)' }))
    expect(within(card).getAllByText(/as it should · 68 % · 12 mm\/s/)).toHaveLength(14)
    await userEvent.click(within(card).getByRole('button', { name: 'Take away' }))
    await waitFor(() =>
      expect(sent().some(({ method, path }) => method === 'DELETE' && path === '/recipes/birch-ply-3-cut')).toBe(true),
    )
    await userEvent.click(await screen.findByRole('button', { name: 'Bring it back' }))
    await waitFor(() =>
      expect(bodies<{ recipes: { recipe: Recipe }[] }>('POST', '/recipes')[0].recipes[0].recipe.evidence).toHaveLength(14),
    )
  })

  it('lend recipes to those that have none, with how far they may be off', async () => {
    serveMaterials()
    const about = await open('birch-ply-4')
    expect(within(about).getAllByText(/scaled from 3 mm and 6 mm, may be 8 % off/).length).toBeGreaterThan(0)
    await userEvent.click(within(about).getByTestId('borrow-bench-60-cut'))
    await waitFor(() => expect(bodies('POST', '/recipes')).toHaveLength(1))
    const [{ recipes }] = bodies<{ recipes: { material: string; recipe: Recipe }[] }>('POST', '/recipes')
    expect(recipes[0]).toMatchObject({ material: 'birch-ply-4', recipe: { borrowedFrom: '3 mm and 6 mm', mayBeOff: 0.08 } })
  })

  it('are changed field by field, on the version that was seen', async () => {
    serveMaterials()
    const about = await open('tin-lid-03')
    await userEvent.click(within(about).getByTestId('material-tab-facts'))
    expect(within(about).getByRole('img', { name: /lacquer lifts from 1.3 to 2.4.*harms tinplate from 3.2/ })).toBeTruthy()
    const harms = within(about).getByRole('textbox', { name: 'Harms from' })
    await userEvent.clear(harms)
    await userEvent.type(harms, '2.9{Enter}')
    await waitFor(() => expect(bodies('PUT', '/materials/tin-lid-03')).toHaveLength(1))
    const [{ material, base }] = bodies<{ material: Material; base: number }>('PUT', '/materials/tin-lid-03')
    expect(base).toBe(1)
    expect(material.layers[0].harmsBelow).toBe(2.9)
    const from = within(about).getAllByRole('textbox', { name: 'Lifts from' })[0]
    await userEvent.clear(from)
    await userEvent.type(from, '9{Enter}')
    expect(within(about).getByText('It begins below 2.4 J/mm².')).toBeTruthy()
    await userEvent.click(within(about).getByTestId('material-tab-safety'))
    const smoke = within(about).getByLabelText('Its smoke')
    await userEvent.clear(smoke)
    await userEvent.type(smoke, 'of old paint{Enter}')
    await waitFor(() =>
      expect(bodies<{ material: Material }>('PUT', '/materials/tin-lid-03').at(-1)!.material.fumes).toBe('of old paint'),
    )
    await userEvent.click(within(about).getByTestId('material-tab-changes'))
    expect(await within(about).findByText('depth measured, 10 points')).toBeTruthy()
  })

  it('that are new begin with a card of trials', async () => {
    serveMaterials()
    await screen.findByTestId('material-slate-5')
    await userEvent.click(screen.getByTestId('new-material'))
    const about = screen.getByRole('complementary')
    expect(await within(about).findByText('Nobody has tried it yet')).toBeTruthy()
    const [{ material, base }] = bodies<{ material: Material; base: null }>('PUT', '/materials/new-')
    expect(base).toBeNull()
    firstCardOn.mockResolvedValue({ job: { name: 'card' }, files: ['<svg/>'] })
    await userEvent.click(within(about).getByTestId('try-material'))
    await userEvent.click(screen.getByTestId('first-bench-60-area'))
    await waitFor(() => expect(bodies('POST', '/jobs')).toHaveLength(1))
    expect(firstCardOn.mock.calls[0][0]).toMatchObject({ id: material.id })
    expect(firstCardOn.mock.calls[0][2]).toBe('area')
  })

  it('take recipes in from a table; what cannot be taken is told at its row', async () => {
    serveMaterials()
    await screen.findByTestId('material-slate-5')
    const text =
      'material;thickness mm;process;machine;power %;speed mm/s\nSlate;5;score;bench-60;40;80\nOak;3;cut;bench-60;40;10'
    fireEvent.change(screen.getByTestId('recipes-file'), {
      target: { files: [new File([text], 'ours.csv', { type: 'text/csv' })] },
    })
    expect(
      await screen.findByText(/Taken from “ours.csv”: 1 recipe; not taken: 1 row. Row 3: there is no material “Oak”/),
    ).toBeTruthy()
    expect(bodies<{ recipes: object[] }>('POST', '/recipes')[0].recipes).toHaveLength(1)
    fireEvent.change(screen.getByTestId('recipes-file'), {
      target: { files: [new File([JSON.stringify({ materials: [{ ...MATERIALS[0], id: 'ours' }] })], 'ours.json')] },
    })
    expect(await screen.findByText(/Taken: 1 new material, 4 recipes/)).toBeTruthy()
    fireEvent.change(screen.getByTestId('recipes-file'), { target: { files: [new File(['{"a":'], 'bad.json')] } })
    expect(await screen.findByText(/This file is damaged/)).toBeTruthy()
  })
})
