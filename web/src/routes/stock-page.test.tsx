// @vitest-environment happy-dom

import { MACHINES, MATERIALS } from '@neotaxis/core'
import { screen, waitFor, within } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { describe, expect, it, vi } from 'vitest'
import { monthsBack } from '../features/stock/months.ts'
import { store } from '../store/store.ts'
import { atShop } from '../testing/at-shop.ts'
import { shown } from '../testing/fake-server.tsx'
import StockPage from './StockPage.tsx'

// Nothing is computed here, nor painted.
vi.mock('../workers/engine.ts', () => ({
  fileRings: () => Promise.resolve([Float64Array.of(0, 0, 40, 0, 40, 30)]),
  onWorkerDeath: () => () => {},
}))
vi.mock('react-chartjs-2', () => ({ Bar: () => null }))

const { serve, sent } = atShop()

const item = (id: string, change: object = {}) => ({
  id,
  code: `CODE${id.toUpperCase()}2`,
  kind: 'sheet',
  name: `sheet ${id}`,
  material: 'birch-ply-3',
  thicknessMm: 3,
  outline: { kind: 'rect', widthMm: 600, heightMm: 400 },
  keepOuts: {},
  marks: {},
  count: 3,
  shelf: 'rack A',
  note: '',
  photo: null,
  recipe: null,
  jig: null,
  cents: 1450,
  areaMm2: 240_000,
  updatedAt: '2026-11-27T08:00:00.000Z',
  ...change,
})
const rates = { currency: 'kr', machineHourCents: 60_000, handHourCents: 80_000, runMinutes: 4 }
const use = {
  id: 'u',
  stockId: 'a',
  runId: 'r',
  name: 'Tide plate',
  material: 'Birch ply',
  areaMm2: 5200,
  cents: 320,
  note: '',
  at: '2026-11-27T09:00:00.000Z',
}

function serveShelf(
  stock: object[] = [item('a'), item('b', { kind: 'blank', name: 'slate round', material: 'slate-5', count: 0 })],
) {
  let kept = stock as ReturnType<typeof item>[]
  serve({
    'GET /stock': () => ({ stock: kept }),
    'GET /stock/uses': () => ({ uses: [use] }),
    'GET /stock/months': { months: [{ month: '2026-11', material: 'Birch ply', areaMm2: 5200, cents: 320, runs: 1 }] },
    'GET /rates': { rates },
    'PUT /rates': (body) => body,
    'GET /materials': { materials: MATERIALS },
    'GET /machines': { machines: MACHINES },
    'GET /jobs': { jobs: [] },
    'PATCH /stock/a': (body) => {
      kept = kept.map((each) => (each.id === 'a' ? { ...each, ...(body as object) } : each))
      return kept[0]
    },
    'POST /stock': (body) => {
      const made = item(`new${kept.length}`, body as object)
      kept = [...kept, made]
      return made
    },
    'POST /assets': { asset: 'a'.repeat(64), widthPx: 1, heightPx: 1, hasAlpha: true },
    'POST /stock/uses/u/back': () => undefined,
    'DELETE /stock/a': () => {
      kept = kept.filter(({ id }) => id !== 'a')
      return undefined
    },
  })
}

describe('the shelf', () => {
  it('is found through by words, by kind and by a code as it was typed', async () => {
    serveShelf()
    shown(<StockPage />, '/stock')
    const user = userEvent.setup()
    expect(await screen.findByTestId('stock-sheet a')).toBeTruthy()
    expect(screen.getByTestId('stock-slate round').textContent).toContain('none left')
    const find = screen.getByTestId('find-stock')
    await user.type(find, 'codea-2')
    expect(screen.queryByTestId('stock-slate round')).toBeNull()
    expect(screen.getByTestId('stock-sheet a')).toBeTruthy()
    await user.clear(find)
    await user.click(screen.getByText('blanks'))
    expect(screen.queryByTestId('stock-sheet a')).toBeNull()
    await user.type(find, 'nothing like it')
    expect(screen.getByText('Nothing like that lies on the shelf.')).toBeTruthy()
  })

  it('tells what was taken of a piece, and takes it back', async () => {
    serveShelf()
    shown(<StockPage />, '/stock?piece=a')
    const about = await screen.findByRole('complementary', { name: 'About sheet a' })
    expect(await within(about).findByText('Tide plate')).toBeTruthy()
    expect(within(about).getByTestId('stock-code').textContent).toBe('CODEA2')
    await userEvent.click(within(about).getByText('Take back'))
    await waitFor(() => expect(sent().some(({ path }) => path === '/stock/uses/u/back')).toBe(true))
  })

  it('is changed word by word; a job is begun on a piece of it', async () => {
    serveShelf()
    shown(<StockPage />, '/stock?piece=a')
    const user = userEvent.setup()
    const shelf = await screen.findByTestId('shelf')
    await user.clear(shelf)
    await user.type(shelf, 'under the stairs{Enter}')
    expect(sent().at(-1)?.body).toEqual({ shelf: 'under the stairs' })
    await user.click(screen.getByLabelText('It has a grain'))
    await waitFor(() => expect(sent().at(-1)?.body).toEqual({ grainDeg: 0 }))
    await user.click(screen.getByTestId('begin-on'))
    expect(store.getState().view.begunStock).toMatchObject({ id: 'a', cents: 1450 })
  })

  it('takes sheets by a press and odd blanks as drawings; what is put away can be brought back', async () => {
    serveShelf([])
    shown(<StockPage />, '/stock')
    expect(await screen.findByText('Nothing is on the shelf yet')).toBeTruthy()
    const user = userEvent.setup()
    await waitFor(() => expect((screen.getByTestId('keep-stock') as HTMLButtonElement).disabled).toBe(false))
    await user.click(screen.getByTestId('keep-stock'))
    await waitFor(() => expect(sent().at(-1)?.body).toMatchObject({ kind: 'sheet', count: 1 }))
    await user.upload(screen.getByTestId('stock-file'), new File(['<svg/>'], 'puffin.svg', { type: 'image/svg+xml' }))
    await waitFor(() => expect(sent().at(-1)?.body).toMatchObject({ kind: 'blank', name: 'puffin', outline: { kind: 'rings' } }))
  })

  it('says what time costs, in the currency of the shop', async () => {
    serveShelf()
    shown(<StockPage />, '/stock')
    const field = (await screen.findByLabelText('An hour of the machine')) as HTMLInputElement
    await waitFor(() => expect(field.value).toBe('600.00'))
    await userEvent.clear(field)
    await userEvent.type(field, '450,5{Enter}')
    await waitFor(() => expect(sent().at(-1)?.body).toEqual({ rates: { ...rates, machineHourCents: 45_050 } }))
  })
})

describe('months', () => {
  it('go back over the turn of the year', () => {
    expect(monthsBack('2027-02', 4)).toEqual(['2026-11', '2026-12', '2027-01', '2027-02'])
  })
})
