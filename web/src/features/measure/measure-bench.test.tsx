// @vitest-environment happy-dom
// What came out on a card: typed, pasted, read from a photo, asked about; and what becomes of it.
import { cellInput, cellsOf, evenSteps, type JobDocument, MACHINES, MATERIALS, trialCard, withReadings } from '@neotaxis/core'
import { act, cleanup, fireEvent, screen, waitFor, within } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { useSelector } from '../../store/hooks.ts'
import { closed, opened } from '../../store/job-slice.ts'
import { store } from '../../store/store.ts'
import { type Asked, fakeServer, fillBrowser, shown } from '../../testing/fake-server.tsx'
import { MeasureBench } from './MeasureBench.tsx'

const { drawn } = vi.hoisted(() => ({ drawn: [] as { points: number }[] }))
vi.mock('../../workers/engine.ts', () => ({ onWorkerDeath: () => () => {}, progressNow: () => 0, cancelWork: () => {} }))
vi.mock('react-chartjs-2', () => ({
  Scatter: ({ data }: { data: { datasets: { data: object[] }[] } }) => {
    drawn.push({ points: data.datasets[0].data.length })
    return null
  },
}))

const { job: card } = trialCard(
  {
    process: 'area',
    isFor: 'relief',
    across: { setting: 'power', values: evenSteps(0.2, 0.8, 4) },
    down: { setting: 'speedMmS', values: [300, 150, 75] },
  },
  { material: MATERIALS[4], machine: MACHINES[0], workpiece: { widthMm: 120, heightMm: 90, thicknessMm: 12 } },
)
const from = { job: 'own', operation: 'relief' }
const blank: JobDocument = { ...card, trial: { ...card.trial!, from } }
const depth = (job: JobDocument, cell: string): number => Number((0.5 * (cellInput(job, cell, 'depth')! - 0.15)).toFixed(3))
const full = cellsOf(blank.trial!).reduce((job, cell) => withReadings(job, cell, { depth: [depth(blank, cell)] }), blank)

let asked: Asked[]
const now = (): JobDocument => store.getState().job.document!
const sent = (method: string, path: string) => asked.filter((one) => one.method === method && one.path === path)

function Shown() {
  const job = useSelector((state) => state.job.document)
  return job && <MeasureBench job={job} />
}
function show(document: JobDocument): void {
  store.dispatch(opened({ id: `j${Math.random()}`, revision: 0, document, edits: [], unsent: [] }))
  shown(<Shown />)
}

beforeEach(() => {
  fillBrowser()
  drawn.length = 0
  asked = fakeServer({
    'GET /materials': { materials: MATERIALS },
    'GET /machines': { machines: MACHINES },
    'GET /machines/bench-60/camera': { camera: null },
    'POST /materials/lime-wood-12/curves': { material: MATERIALS[4] },
    'POST /recipes': undefined,
    'PUT /machines/bench-60': { machine: MACHINES[0] },
    'POST /jobs/': { status: 'saved', revision: 1, edits: [] },
  })
})
afterEach(() => {
  cleanup()
  act(() => void store.dispatch(closed()))
  vi.unstubAllGlobals()
})

describe('readings of a card', () => {
  it('are typed cell by cell: Enter goes on to the next, several have a stroke between them', async () => {
    show(blank)
    const fields = screen.getAllByRole('textbox').filter((field) => field.getAttribute('aria-label')?.startsWith('depth at'))
    expect(fields).toHaveLength(12)
    await userEvent.click(fields[0])
    await userEvent.keyboard('0.31/0,33{Enter}')
    expect(now().trial!.readings!['cell-1-1']).toEqual({ depth: [0.31, 0.33] })
    expect(document.activeElement).toBe(fields[1])
    await userEvent.keyboard('deep{Enter}')
    expect(fields[1].getAttribute('aria-invalid')).toBe('true')
    expect(now().trial!.readings!['cell-1-2']).toBeUndefined()
    await userEvent.keyboard('{Escape}')
    expect(fields[1].getAttribute('aria-invalid')).toBe('false')
    expect(screen.getByText('A curve is drawn from four cells on.')).toBeTruthy()
    expect(screen.getByTestId('keep-curve')).toHaveProperty('disabled', true)
  })

  it('come from a table: what cannot be taken is told at its row', async () => {
    show(blank)
    const input = screen.getByTestId('readings-file')
    const text = 'power %;speed mm/s;depth mm\n20;300;0,1\n40;300;0,2\n60;300;0,3\n80;300;0,4\n90;300;0,5'
    fireEvent.change(input, { target: { files: [new File([text], 'depths.csv', { type: 'text/csv' })] } })
    expect(await screen.findByText(/Read: 4 cells; not read: 1 row. Row 6: “90” is not tried on this card/)).toBeTruthy()
    expect(now().trial!.readings!['cell-1-4']).toEqual({ depth: [0.4] })
    expect(screen.getByTestId('curve-facts')).toBeTruthy()
  })

  it('become the curve of the material, one press', async () => {
    show(full)
    expect(drawn.at(-1)).toEqual({ points: 12 })
    expect(within(screen.getByTestId('curve-facts')).getByText('Begins at')).toBeTruthy()
    await userEvent.click(screen.getByTestId('keep-curve'))
    await waitFor(() => expect(sent('POST', '/materials/lime-wood-12/curves')).toHaveLength(1))
    const { curve, layer } = sent('POST', '/materials/lime-wood-12/curves')[0].body as {
      curve: { points: object[] }
      layer: number
    }
    expect(layer).toBe(0)
    expect(curve).toMatchObject({ quantity: 'depth', scattered: true, conditions: { machine: 'bench-60' } })
    expect(curve.points).toHaveLength(12)
  })

  it('that lie far off are asked about, and can be left out', async () => {
    show(withReadings(full, 'cell-2-2', { depth: [9] }))
    const trouble = screen.getByTestId('reading-trouble')
    expect(trouble.textContent).toContain('over what its neighbours say')
    await userEvent.click(within(trouble).getByRole('button', { name: 'Leave it out' }))
    expect(now().trial!.leftOut).toEqual(['cell-2-2'])
    expect(screen.queryByTestId('reading-trouble')).toBeNull()
    await userEvent.click(screen.getByRole('button', { name: 'Count it' }))
    expect(now().trial!.leftOut).toEqual([])
  })

  it('of watts become the power of the machine', async () => {
    const power = cellsOf(blank.trial!).reduce(
      (job, cell) => withReadings(job, cell, { watts: [55 * job.operations[cell].power] }),
      blank,
    )
    show(power)
    await userEvent.click(screen.getByTestId('measure-watts'))
    await userEvent.click(screen.getByTestId('keep-curve'))
    await waitFor(() => expect(sent('PUT', '/machines/bench-60')).toHaveLength(1))
    const { machine } = sent('PUT', '/machines/bench-60')[0].body as { machine: { powerCurve: object[]; powerRead: string } }
    expect(machine.powerCurve[0]).toEqual({ power: 0.2, watts: 11 })
    expect(machine.powerRead).toMatch(/^\d{4}-\d{2}-\d{2}$/)
  })
})

describe('the best cell', () => {
  it('is starred, and becomes the recipe of the process that was tried for', async () => {
    show(full)
    await userEvent.click(within(screen.getByTestId('cell-2-3')).getByRole('button', { name: /came out best/ }))
    expect(now().trial!.best).toBe('cell-2-3')
    const name = screen.getByLabelText('Name of the recipe')
    await userEvent.clear(name)
    await userEvent.type(name, 'lime, 1 mm deep')
    await userEvent.click(screen.getByTestId('keep-best'))
    await waitFor(() => expect(sent('POST', '/recipes')).toHaveLength(1))
    const [{ material, recipe }] = (sent('POST', '/recipes')[0].body as { recipes: { material: string; recipe: object }[] })
      .recipes
    expect(material).toBe('lime-wood-12')
    expect(recipe).toMatchObject({
      id: 'lime-wood-12-relief',
      process: 'relief',
      name: 'lime, 1 mm deep',
      power: 0.6,
      speedMmS: 150,
    })
    expect(await screen.findByTestId('back-to-job')).toBeTruthy()
    await userEvent.click(within(screen.getByTestId('cell-2-3')).getByRole('button', { name: /came out best/ }))
    expect(now().trial!.best).toBeUndefined()
  })
})
