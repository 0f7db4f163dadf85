// @vitest-environment happy-dom
import { ThemeProvider } from '@mui/material'
import {
  type JobDocument,
  MACHINES,
  MATERIALS,
  materialOf,
  onMachine,
  onMaterial,
  propose,
  ResultCache,
  SAME,
  withOperation,
} from '@neotaxis/core'
import { act, cleanup, render, screen } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import type { ReactNode } from 'react'
import { Provider } from 'react-redux'
import { MemoryRouter } from 'react-router'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { showing } from '../stage/layer.ts'
import { useSelector } from '../store/hooks.ts'
import { acknowledged, closed, opened, saveRefused, serverAway } from '../store/job-slice.ts'
import { store } from '../store/store.ts'
import { lengthUnitChosen, selected } from '../store/view-slice.ts'
import { makeTheme } from '../theme/theme.ts'
import { changedSettings, toldOfChange } from './bar/changed-settings.ts'
import { COMMANDS, onCommand, runCommand, runKey } from './bar/commands.ts'
import { Foldable } from './bar/Foldable.tsx'
import { SaveState } from './bar/SaveState.tsx'
import { DimensionLines } from './compose/DimensionLines.tsx'
import { Details } from './details/Details.tsx'
import { LineageShelf } from './lineage/LineageShelf.tsx'

// What arrives of the workers is tested in `details/results.test.tsx`; here each answers that something newer came.
vi.mock('../workers/engine.ts', () => ({
  draw: async () => undefined,
  forecast: async () => false,
  measure: async () => undefined,
  cancelWork: () => {},
  progressNow: () => 0,
  onWorkerDeath: () => () => {},
}))

const picture = { widthPx: 20, heightPx: 20, samples: new Uint8Array(400).fill(80), full: 255 }
const facts = { name: 'gauge.png', asset: 'a'.repeat(64), widthPx: 20, heightPx: 20, hasAlpha: false }
const settings = { workpiece: { widthMm: 60, heightMm: 40, thicknessMm: 3 }, material: MATERIALS[0], machine: MACHINES[0] }
const document: JobDocument = propose(facts, picture, settings, { cache: new ResultCache(), picture: () => picture })[1].job

const theme = makeTheme('light')
const show = (children: ReactNode) =>
  render(
    <Provider store={store}>
      <ThemeProvider theme={theme}>
        <MemoryRouter>{children}</MemoryRouter>
      </ThemeProvider>
    </Provider>,
  )
const WithJob = ({ children }: { readonly children: (job: JobDocument) => ReactNode }) => {
  const job = useSelector((state) => state.job.document)
  return job && children(job)
}
const now = (): JobDocument => store.getState().job.document!

beforeEach(() => {
  store.dispatch(opened({ id: 'j', revision: 0, document, edits: [], unsent: [] }))
  store.dispatch(selected({ kind: 'operation', id: 'cut' }))
  store.dispatch(lengthUnitChosen('mm'))
})
afterEach(() => {
  cleanup()
  store.dispatch(closed())
})

describe('details', () => {
  it('change the selected operation, each value an edit with its name', async () => {
    show(<WithJob>{(job) => <Details job={job} />}</WithJob>)
    const user = userEvent.setup()
    const type = async (label: string, text: string): Promise<void> => {
      const field = screen.getByRole('textbox', { name: label })
      await user.clear(field)
      await user.type(field, `${text}{Enter}`)
    }
    await type('Power', '55')
    await type('Speed', '20')
    await type('Passes', '2')
    await type('Distance', '1/4in')
    expect(now().operations.cut).toMatchObject({ power: 0.55, speedMmS: 20, passes: 2 })
    expect(now().nodes.around).toMatchObject({ distanceMm: 6.35, name: 'edge + 6.35 mm' })
    expect(store.getState().job.history.done.map(({ name }) => name)).toEqual([
      'power 55 %',
      'speed',
      '2 passes',
      'distance 6.3 mm',
    ])
  })

  it('say where the settings come from, that they left it, and lead back', async () => {
    show(<WithJob>{(job) => <Details job={job} />}</WithJob>)
    const user = userEvent.setup()
    expect(screen.getByText(/^proven 14 times, last on /)).toBeTruthy()
    const power = screen.getByRole('textbox', { name: 'Power' })
    await user.clear(power)
    await user.type(power, '90{Enter}')
    expect(screen.getByText('changed here')).toBeTruthy()
    await user.click(screen.getByRole('button', { name: 'Back to the recipe' }))
    expect(now().operations.cut).toMatchObject({ power: 0.68, speedMmS: 12 })
    expect(screen.getByText(/^proven 14 times, last on /)).toBeTruthy()
  })

  it('show lengths in inches when inches are chosen, and store millimetres', async () => {
    act(() => void store.dispatch(lengthUnitChosen('in')))
    show(<WithJob>{(job) => <Details job={job} />}</WithJob>)
    const field = screen.getByRole('textbox', { name: 'Distance' }) as HTMLInputElement
    expect(field.value).toBe('0.1181')
    const user = userEvent.setup()
    await user.clear(field)
    await user.type(field, '0.5{Enter}')
    expect(now().nodes.around).toMatchObject({ distanceMm: 12.7 })
  })

  it('tell of the whole job when nothing is selected', () => {
    act(() => void store.dispatch(selected(null)))
    show(<WithJob>{(job) => <Details job={job} />}</WithJob>)
    expect(screen.getByText('The whole job')).toBeTruthy()
    expect(screen.getByText('2 Cut of edge + 3 mm')).toBeTruthy()
  })
})

describe('dimension lines', () => {
  const box = { x0: 10, y0: 8, x1: 50, y1: 32 }
  const size = { width: 800, height: 600 }
  const at = showing(SAME, { standing: SAME, view: { x: 0, y: 0, scale: 10 }, size, ratio: 1 })
  const lines = () => show(<WithJob>{(job) => <DimensionLines job={job} node="around" box={box} at={at} />}</WithJob>)
  const typed = async (label: string, text: string): Promise<void> => {
    const user = userEvent.setup()
    await user.click(screen.getByRole('button', { name: new RegExp(`^${label} `) }))
    const field = screen.getByRole('textbox', { name: label })
    await user.clear(field)
    await user.type(field, text)
  }

  it('move the artwork so that the margin is what was typed', async () => {
    lines()
    const before = now().placements.source
    await typed('Margin right', '4{Enter}')
    expect(now().placements.source.xMm - before.xMm).toBeCloseTo(6, 6)
    await typed('Margin top', '2*5{Enter}')
    expect(now().placements.source.yMm - before.yMm).toBeCloseTo(2, 6)
  })

  it('size it with the ratio kept', async () => {
    lines()
    const before = now().placements.source
    await typed('Width', '74{Enter}')
    const after = now().placements.source
    // 40 mm wide with 6 mm of offset: what scales goes from 34 to 68.
    expect(after.widthMm / before.widthMm).toBeCloseTo(2, 4)
    expect(after.heightMm / before.heightMm).toBeCloseTo(2, 4)
  })

  it('refuse what is no length or out of range, at the number, and change nothing', async () => {
    lines()
    const before = now()
    await typed('Width', 'wide{Enter}')
    expect(screen.getByRole('alert').textContent).toContain('is not a length')
    await userEvent.setup().keyboard('{Escape}')
    await typed('Width', '90000{Enter}')
    expect(screen.getByRole('alert').textContent).toBe('Width goes from 0.5 to 10000.0 mm.')
    expect(now()).toBe(before)
  })
})

describe('the lineage shelf', () => {
  it('shows each node with how it was made, and what uses it; a click selects it', async () => {
    show(<WithJob>{(job) => <LineageShelf job={job} />}</WithJob>)
    const items = screen.getAllByRole('treeitem')
    expect(items.map((item) => item.getAttribute('aria-level'))).toEqual(['1', '2', '2', '3'])
    expect(items[3].textContent).toContain('outermost, 3.0 mm')
    expect(items[3].getAttribute('aria-selected')).toBe('true')
    await userEvent.setup().click(items[2])
    expect(store.getState().view.selection).toEqual({ kind: 'node', id: 'edge' })
  })
})

describe('the state of saving', () => {
  it('says what is kept here while the server is away, and why something was refused', () => {
    show(<SaveState />)
    const text = (): string => screen.getByTestId('save-state').textContent!
    expect(text()).toBe('saved')
    act(() => void store.dispatch(acknowledged({ jobId: 'j', base: 0, revision: 1, edits: [], at: Date.now() })))
    expect(text()).toBe('saved')
    act(() => void store.dispatch(serverAway(undefined)))
    expect(text()).toBe('server away · 0 changes kept here')
    act(() => void store.dispatch(saveRefused('The job does not hold together.')))
    expect(text()).toBe('not saved')
  })
})

describe('another material', () => {
  it('tells what another machine changes, operation by operation', () => {
    expect(changedSettings(document, document)).toEqual([])
    expect(changedSettings(document, onMachine(document, document.machine))).toEqual([])
    const finer = withOperation(document, 'engrave', { intervalMm: 0.05, power: 0.4 } as never)
    expect(changedSettings(document, finer)[0]).toMatch(/interval [\d.]+ → 0.05 mm, power [\d.]+ → 40 %/)
  })

  it('brings its recipes and its thickness', () => {
    const acrylic = MATERIALS.find(({ id }) => id === 'cast-acrylic-3')!
    const job = onMaterial(document, acrylic)
    expect(job.operations.cut).toMatchObject({ recipe: 'cast-acrylic-3-cut', power: 0.62, speedMmS: 10 })
    expect(materialOf(job).id).toBe('cast-acrylic-3')
    const none = onMaterial({ ...document, machine: MACHINES[1] }, acrylic)
    expect(none.operations.cut.recipe).toBeUndefined()
  })

  it('says what stays as it was, because somebody had changed it', () => {
    const acrylic = MATERIALS.find(({ id }) => id === 'cast-acrylic-3')!
    const own = withOperation(document, 'cut', { recipe: 'birch-ply-3-cut', power: 0.71 })
    const told = toldOfChange(own, onMaterial(own, acrylic), acrylic.name)
    expect(told.at(-1)).toBe('Kept as it was, because it had left its recipe or none is known: 2 Cut.')
  })
})

describe('commands', () => {
  const press = (key: string, more: Partial<KeyboardEventInit> = {}, target: HTMLElement = window.document.body): boolean => {
    const event = new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true, ...more })
    Object.defineProperty(event, 'target', { value: target })
    runKey(event)
    return event.defaultPrevented
  }

  it('have names and keys of which no two mean the same', () => {
    expect(new Set(COMMANDS.map(({ id }) => id)).size).toBe(COMMANDS.length)
    const keys = COMMANDS.flatMap(({ keys: shown }) => (shown ? [shown] : []))
    expect(new Set(keys).size).toBe(keys.length)
  })

  it('run on their key, but never out of a text that is being typed', () => {
    const done: string[] = []
    const end = onCommand({ undo: () => done.push('undo'), 'view-whole': () => done.push('whole') })
    expect(press('z', { ctrlKey: true })).toBe(true)
    expect(press('w')).toBe(true)
    expect(press('q')).toBe(false)
    const field = window.document.createElement('input')
    expect(press('w', {}, field)).toBe(false)
    expect(press('z', { ctrlKey: true }, field)).toBe(false)
    // A switch or a slider holds no text, nor does a field in which nothing is typed.
    const box = window.document.createElement('input')
    box.type = 'checkbox'
    expect(press('z', { ctrlKey: true }, box)).toBe(true)
    field.dataset.typed = 'no'
    expect(press('z', { ctrlKey: true }, field)).toBe(true)
    end()
    expect(press('w')).toBe(false)
    expect(done).toEqual(['undo', 'whole', 'undo', 'undo'])
  })
})

describe('a panel', () => {
  it('is folded to its edge and back, by its button and by a command; this browser remembers', () => {
    show(
      <Foldable name="details" side="right" area="details">
        <p>what it holds</p>
      </Foldable>,
    )
    expect(screen.getByText('what it holds')).toBeTruthy()
    act(() => screen.getByTestId('fold-details').click())
    expect(screen.queryByText('what it holds')).toBeNull()
    expect(JSON.parse(localStorage.getItem('neotaxis.view')!).folded).toEqual(['details'])
    expect(screen.getByTestId('fold-details').getAttribute('aria-expanded')).toBe('false')
    act(() => runCommand('fold-details'))
    expect(screen.getByText('what it holds')).toBeTruthy()
  })
})
