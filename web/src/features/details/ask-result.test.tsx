// @vitest-environment happy-dom
// Settings by what shall come out, and recipes by how well they are known.
import {
  type Evidence,
  type JobDocument,
  MACHINES,
  MATERIALS,
  type Material,
  type Recipe as RecipeType,
  trialCard,
  withOperation,
} from '@neotaxis/core'
import { act, cleanup, screen, waitFor, within } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import type { ComponentType } from 'react'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { useSelector } from '../../store/hooks.ts'
import { closed, opened } from '../../store/job-slice.ts'
import { store } from '../../store/store.ts'
import { fakeServer, fillBrowser, shown } from '../../testing/fake-server.tsx'
import { AskResult } from './AskResult.tsx'
import { Recipe } from './Recipe.tsx'

const { secondsWith } = vi.hoisted(() => ({ secondsWith: vi.fn() }))
vi.mock('../../workers/engine.ts', () => ({
  secondsWith,
  onWorkerDeath: () => () => {},
  progressNow: () => 0,
  cancelWork: () => {},
}))

type Of = ComponentType<{ readonly job: JobDocument; readonly id: string }>
const CELL = 'cell-1-1'
const on = (id: string): Material => MATERIALS.find((each) => each.id === id)!
const jobOf = (process: 'area' | 'cut', material: Material): JobDocument => {
  const { job } = trialCard(
    { process, across: { setting: 'power', values: [0.5] } },
    { material, machine: MACHINES[0], workpiece: { widthMm: 90, heightMm: 90, thicknessMm: material.thicknessMm } },
  )
  const { trial: _, ...plain } = job
  return plain
}
const now = (): JobDocument => store.getState().job.document!
function Shown({ of: Part }: { readonly of: Of }) {
  const job = useSelector((state) => state.job.document)
  return job && <Part job={job} id={CELL} />
}
function show(document: JobDocument, of: Of, materials: readonly Material[] = MATERIALS): void {
  fakeServer({
    'GET /materials': { materials },
    'GET /machines': { machines: MACHINES },
    'POST /jobs/': { status: 'saved', revision: 1, edits: [] },
  })
  store.dispatch(opened({ id: `j${Math.random()}`, revision: 0, document, edits: [], unsent: [] }))
  shown(<Shown of={of} />)
}

beforeEach(() => {
  fillBrowser()
  secondsWith.mockImplementation((_job: JobDocument, _id: string, changes: readonly object[]) =>
    Promise.resolve(changes.map((_, i) => 60 * (i + 1))),
  )
})
afterEach(() => {
  cleanup()
  act(() => void store.dispatch(closed()))
  vi.unstubAllGlobals()
})

describe('a result that is asked for', () => {
  it('comes in several ways, each with its time and how sure it is; one press takes it', async () => {
    show(jobOf('area', on('lime-wood-12')), AskResult)
    await userEvent.click(screen.getByTestId('ask-result'))
    const depth = screen.getByLabelText('Depth wanted')
    await userEvent.clear(depth)
    await userEvent.type(depth, '1,2')
    const way = screen.getByTestId('way-speed-stays')
    await waitFor(() => expect(way.textContent).toContain('2:00'))
    expect(way.textContent).toMatch(/sure to \d %/)
    const before = now().operations[CELL]
    await userEvent.click(way)
    expect(now().operations[CELL].speedMmS).toBe(before.speedMmS)
    expect(now().operations[CELL].power).not.toBe(before.power)
    await waitFor(() => expect(screen.queryByTestId('asked-result')).toBeNull())
  })

  it('that nothing is known of says what to do', async () => {
    show(jobOf('area', on('cast-acrylic-3')), AskResult)
    await userEvent.click(screen.getByTestId('ask-result'))
    expect(screen.getByRole('alert').textContent).toContain('burn a step wedge on scrap')
    await userEvent.clear(screen.getByLabelText('Depth wanted'))
    expect(screen.getByRole('alert').textContent).toContain('a number of mm above 0')
  })

  it('of a cut is through', async () => {
    show(jobOf('cut', on('birch-ply-3')), AskResult)
    await userEvent.click(screen.getByTestId('ask-result'))
    expect(screen.getByText('cut through')).toBeTruthy()
    expect(screen.getByTestId('way-quickest')).toBeTruthy()
  })
})

describe('a recipe', () => {
  const ply = on('birch-ply-3')
  const cut = ply.recipes.find(({ id }) => id === 'birch-ply-3-cut')!
  const following = (material: Material, recipe: RecipeType): JobDocument => {
    const { power, speedMmS, passes, air, kerfMm } = recipe
    return withOperation(jobOf('cut', material), CELL, { recipe: recipe.id, power, speedMmS, passes, air, kerfMm } as never)
  }
  const withCut = (change: Partial<RecipeType>): Material => ({
    ...ply,
    recipes: ply.recipes.map((each) => (each.id === cut.id ? { ...each, ...change } : each)),
  })

  it('that failed three times is no longer proven, and looks so', () => {
    const { power, speedMmS, passes, air } = cut
    const failed: Evidence[] = ['24', '25', '26'].map((day) => ({
      kind: 'trial',
      date: `2026-11-${day}`,
      set: { power, speedMmS, passes, air },
      answer: 'no',
    }))
    const doubtful = withCut({ evidence: [...cut.evidence, ...failed] })
    show(following(doubtful, cut), Recipe, [doubtful])
    expect(screen.getByTestId('recipe').textContent).toMatch(/failed 3 times in a row, last on .*; it had worked 14 times/)
  })

  it('that the shop changed since is taken by one press', async () => {
    const newer = { ...withCut({ speedMmS: 9 }), version: ply.version + 1 }
    show(following(ply, cut), Recipe, [newer])
    await userEvent.click(await screen.findByTestId('shop-knows-more'))
    expect(now().operations[CELL].speedMmS).toBe(9)
    expect(screen.queryByTestId('shop-knows-more')).toBeNull()
  })

  it('is borrowed where there is none: it says from where, and how far it may be off', async () => {
    show(jobOf('cut', on('birch-ply-4')), Recipe)
    const block = screen.getByTestId('recipe')
    expect(block.textContent).toContain('No recipe')
    await userEvent.click(await within(block).findByTestId('borrow'))
    expect(block.textContent).toContain('borrowed from 3 mm and 6 mm, not proven here; may be 8 % off')
    expect(now().operations[CELL].recipe).toBe('birch-ply-4-cut-lent')
  })
})
