// @vitest-environment happy-dom
// Sheets and fields that change the job or the shop: what is chosen or typed is one named edit, or one request.
import { type Drawn, FIRST_RULES, faceSize, type JobDocument, MACHINES, MATERIALS, mainPiece, materialOf } from '@neotaxis/core'
import { sampleJob, squarePicture } from '@neotaxis/core/testing/sample-job'
import { act, cleanup, fireEvent, screen, waitFor, within } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { type ReactNode, useState } from 'react'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { useSelector } from '../store/hooks.ts'
import { closed, opened } from '../store/job-slice.ts'
import { store } from '../store/store.ts'
import { lengthUnitChosen } from '../store/view-slice.ts'
import { type Asked, fakeServer, fillBrowser, forgetShop, shown } from '../testing/fake-server.tsx'
import { MachineSheet } from './bar/MachineSheet.tsx'
import { WorkpieceSheet } from './bar/WorkpieceSheet.tsx'
import { GroupFields } from './details/GroupFields.tsx'
import { SizeDetails } from './details/SizeDetails.tsx'
import { DrawnFields } from './draw/DrawnFields.tsx'
import { FIRST } from './draw/first-numbers.ts'
import { ImportRulesSheet } from './proposals/ImportRulesSheet.tsx'

const { measured } = vi.hoisted(() => ({ measured: { answers: [] as ((box: object) => void)[] } }))
vi.mock('../workers/engine.ts', () => ({
  // How much room a text takes: answered when the test says so.
  drawnFile: () => new Promise((resolve) => measured.answers.push((box) => resolve({ box, svg: '', looks: [], notices: [] }))),
  fontAxes: async () => [],
  outlineView: async () => ({ paths: [] }),
  draw: async () => undefined,
  forecast: async () => false,
  measure: async () => undefined,
  cancelWork: () => {},
  progressNow: () => 0,
  onWorkerDeath: () => () => {},
}))

const document = sampleJob({ picture: squarePicture(20, 5) })
const now = (): JobDocument => store.getState().job.document!
const names = () => store.getState().job.history.done.map(({ name }) => name)
const WithJob = ({ children }: { readonly children: (job: JobDocument) => ReactNode }) => {
  const job = useSelector((state) => state.job.document)
  return job && children(job)
}
let asked: Asked[]

beforeEach(() => {
  fillBrowser()
  forgetShop()
  measured.answers.length = 0
  asked = fakeServer({
    'GET /materials': { materials: MATERIALS },
    'GET /machines': { machines: MACHINES },
    'GET /fonts': { fonts: [{ asset: 'f'.repeat(64), name: 'Slab, bold', shipped: true }] },
  })
  store.dispatch(lengthUnitChosen('mm'))
  store.dispatch(opened({ id: 'j', revision: 0, document, edits: [], unsent: [] }))
})
afterEach(() => {
  cleanup()
  act(() => void store.dispatch(closed()))
  vi.unstubAllGlobals()
})

const user = userEvent.setup()
async function type(label: string, text: string): Promise<void> {
  const field = screen.getByRole('textbox', { name: label })
  await user.clear(field)
  await user.type(field, `${text}{Enter}`)
}
async function choose(field: HTMLElement, option: string | RegExp): Promise<void> {
  fireEvent.mouseDown(within(field).getByRole('combobox'))
  await user.click(await screen.findByRole('option', { name: option }))
}

describe('the workpiece', () => {
  const show = () =>
    shown(<WithJob>{(job) => <WorkpieceSheet job={job} id="j1" anchor={window.document.body} onClose={() => {}} />}</WithJob>)

  it('has a size and a place, in the unit that is chosen', async () => {
    show()
    await type('Width', '250')
    await type('Thickness', '1/8in')
    await type('From the left', '10*3')
    expect(mainPiece(now())).toMatchObject({ outline: { kind: 'rect', widthMm: 250 }, thicknessMm: 3.175, pose: { xMm: 30 } })
    expect(names()).toEqual(['workpiece width', 'workpiece thickness', 'workpiece on the bed'])
  })

  it('of another material brings its recipes and its thickness', async () => {
    show()
    await waitFor(() => expect(asked.map(({ path }) => path)).toContain('/materials'))
    await choose(screen.getByLabelText('Material').closest('.MuiTextField-root') as HTMLElement, /^Cast acrylic, 3 mm/)
    expect(materialOf(now()).id).toBe('cast-acrylic-3')
    expect(now().operations.cut.recipe).toBe('cast-acrylic-3-cut')
    expect(names()[0]).toMatch(/^material Cast acrylic/)
  })

  it('keeps what it has where a number is none', async () => {
    show()
    await type('Width', 'wide')
    expect(screen.getByRole('alert').textContent).toContain('is not a length')
    expect(now()).toBe(document)
  })
})

describe('the machine of a job', () => {
  it('is another one with a press: the workpiece lies in its middle, and nothing is said where it is the same', async () => {
    const onClose = vi.fn()
    shown(<WithJob>{(job) => <MachineSheet job={job} anchor={window.document.body} onClose={onClose} />}</WithJob>)
    await user.click(await screen.findByText(MACHINES[0].name))
    expect(names()).toEqual([])
    const other = MACHINES[1]
    await user.click(screen.getByText(other.name))
    expect(onClose).toHaveBeenCalledTimes(2)
    expect(now().machine.id).toBe(other.id)
    expect(mainPiece(now()).pose.xMm).toBe(Math.max(0, (other.axes.x.travelMm - faceSize(mainPiece(now())).widthMm) / 2))
  })
})

describe('the size of what is selected', () => {
  it('keeps its ratio, or not, from the point that stays', async () => {
    const box = { x0: 100, y0: 50, x1: 140, y1: 90 }
    shown(<WithJob>{(job) => <SizeDetails job={job} node="dots" box={box} />}</WithJob>)
    expect(screen.getByText('Size, its middle stays')).toBeTruthy()
    await type('Width', '80')
    expect(now().placements.source).toMatchObject({ widthMm: 80, heightMm: 80 })
    await user.click(screen.getByLabelText('Keep the ratio'))
    await type('Height', '20')
    expect(now().placements.source.widthMm).toBe(80)
    expect(names()).toEqual(['width', 'height'])
  })
})

describe('groups', () => {
  const two: JobDocument = {
    ...document,
    nodes: { ...document.nodes, second: { ...document.nodes.source, name: 'second.png' } as never },
    placements: { ...document.placements, second: { of: 'second', on: 'piece', xMm: 0, yMm: 0, widthMm: 10, heightMm: 10 } },
  }

  it('are made and left by name', async () => {
    store.dispatch(opened({ id: 'g', revision: 0, document: two, edits: [], unsent: [] }))
    shown(<WithJob>{(job) => <GroupFields job={job} node="edge" />}</WithJob>)
    await choose(screen.getByTestId('group-with'), 'second.png')
    expect(screen.getByTestId('group-mates').textContent).toContain('second.png')
    expect(names()).toEqual(['group with second.png'])
    await user.click(screen.getByTestId('ungroup'))
    expect(screen.queryByTestId('group-mates')).toBeNull()
    expect(now().groups ?? {}).toEqual({})
  })

  it('are not offered where there is nothing to go with', () => {
    shown(<WithJob>{(job) => <GroupFields job={job} node="edge" />}</WithJob>)
    expect(screen.queryByTestId('group-with')).toBeNull()
  })
})

describe('what is drawn by numbers', () => {
  const seen: Drawn[] = []
  const Drawing = ({ first }: { readonly first: Drawn }) => {
    const [drawn, setDrawn] = useState(first)
    seen.push(drawn)
    return <DrawnFields drawn={drawn} job={undefined} onChange={setDrawn} />
  }
  const show = (first: Drawn): void => {
    seen.length = 0
    shown(<Drawing first={first} />)
  }
  const last = () => seen.at(-1) as unknown as Record<string, unknown>

  it('has the numbers of its kind, and repeats in rows or around a circle', async () => {
    show(FIRST.star)
    await type('Points', '7')
    await type('Across its corners', '44')
    await choose(screen.getByTestId('draw-repeat'), 'around a circle')
    await type('Copies', '9')
    expect(last()).toMatchObject({ kind: 'star', points: 7, diameterMm: 44, repeat: { kind: 'round', count: 9 } })
    await choose(screen.getByTestId('draw-repeat'), 'once')
    expect(last().repeat).toBeUndefined()
  })

  it('is numbers in a row, with room for the longest; words that are typed while that is measured stay', async () => {
    show(FIRST.text)
    await choose(screen.getByTestId('draw-series'), 'numbers in a row')
    await waitFor(() => expect(measured.answers).toHaveLength(1))
    const words = screen.getByTestId('draw-text')
    await user.clear(words)
    await user.type(words, 'Berth {{}')
    await user.tab()
    await type('Capitals', '9')
    await act(async () => measured.answers[0]({ x0: 0, y0: 0, x1: 40, y1: 8 }))
    await waitFor(() => expect(last().series).toBeDefined())
    expect(last()).toMatchObject({ text: 'Berth {}', capMm: 9 })
    expect((last().series as { entries: string[] }).entries).toHaveLength(12)
    await type('To', '3')
    await waitFor(() => expect((last().series as { entries: string[] }).entries).toEqual(['01', '02', '03']))
    expect(screen.getByTestId('series-facts').textContent).toContain('3 texts: 01, 02, 03')
  })

  it('is a column of a table; a table that is none is said by its name', async () => {
    show(FIRST.text)
    const give = (name: string, text: string) =>
      act(async () => void fireEvent.change(screen.getByTestId('series-file'), { target: { files: [new File([text], name)] } }))
    await give('boats.csv', 'berth,boat\nN 1,Tern\nN 2,Eider\n')
    await waitFor(() => expect(measured.answers).toHaveLength(1))
    await act(async () => measured.answers[0]({ x0: 0, y0: 0, x1: 40, y1: 8 }))
    await waitFor(() => expect((last().series as { entries: string[] }).entries).toEqual(['N 1', 'N 2']))
    await choose(screen.getByTestId('series-column'), 'boat')
    await waitFor(() => expect((last().series as { entries: string[] }).entries).toEqual(['Tern', 'Eider']))
    await give('empty.csv', '')
    expect((await screen.findByRole('alert')).textContent).toContain('empty.csv')
    expect((last().series as { entries: string[] }).entries).toEqual(['Tern', 'Eider'])
  })

  it('is written with another font, and stands where it is told to', async () => {
    show(FIRST.text)
    await waitFor(() => expect(asked.map(({ path }) => path)).toContain('/fonts'))
    await choose(screen.getByTestId('draw-font'), 'Slab, bold')
    await choose(screen.getByTestId('draw-along'), 'over the top of a circle')
    await type('Circle of', '55')
    expect(last()).toMatchObject({
      font: { kind: 'file', name: 'Slab, bold' },
      along: { kind: 'circle', at: 'top', diameterMm: 55 },
    })
  })
})

describe('import rules', () => {
  it('are changed, put in order and kept for the shop; what each caught is shown', async () => {
    asked = fakeServer({ 'PUT /import-rules': (body) => body as object })
    const onSaved = vi.fn()
    const [first, second] = FIRST_RULES
    const caught = [{ rule: first, shapes: 4 }] as never
    shown(<ImportRulesSheet rules={FIRST_RULES} caught={caught} onClose={() => {}} onSaved={onSaved} />)
    expect(screen.getByTestId(`caught-${first.id}`).textContent).toBe('4 here')
    await user.click(screen.getByRole('button', { name: 'Rule 2 earlier' }))
    const name = screen.getByLabelText('Rule 1')
    await user.clear(name)
    await user.type(name, 'Red is cut')
    const [stroke] = screen.getAllByLabelText('Its stroke')
    await user.clear(stroke)
    await user.type(stroke, 'red{Enter}')
    expect(await screen.findByText('A paint is any, none or #rrggbb.')).toBeTruthy()
    await user.click(screen.getByTestId('save-rules'))
    expect(onSaved).not.toHaveBeenCalled()
    await user.clear(stroke)
    await user.type(stroke, '#FF0000{Enter}')
    await waitFor(() => expect(screen.queryByText('A paint is any, none or #rrggbb.')).toBeNull())
    await user.click(screen.getByRole('button', { name: `Take rule ${FIRST_RULES.length} out` }))
    await user.click(screen.getByTestId('save-rules'))
    await waitFor(() => expect(onSaved).toHaveBeenCalled())
    const { rules } = asked[0].body as { rules: { id: string; name: string; stroke: string }[] }
    expect(rules.map(({ id }) => id)).toEqual([second.id, first.id, ...FIRST_RULES.slice(2, -1).map(({ id }) => id)])
    expect(rules[0]).toMatchObject({ name: 'Red is cut', stroke: '#ff0000' })
  })

  it('are refused with the reason, and stay open to be mended', async () => {
    asked = fakeServer({ 'PUT /import-rules': { refuse: 400, message: 'A rule needs a name.' } })
    const onSaved = vi.fn()
    shown(<ImportRulesSheet rules={FIRST_RULES} caught={undefined} onClose={() => {}} onSaved={onSaved} />)
    await user.click(screen.getByTestId('save-rules'))
    expect(await screen.findByText('A rule needs a name.')).toBeTruthy()
    expect(onSaved).not.toHaveBeenCalled()
    await user.click(screen.getByRole('button', { name: 'A rule before these' }))
    expect((screen.getByLabelText('Rule 1') as HTMLInputElement).value).toBe('New rule')
    await user.click(screen.getByRole('button', { name: 'As they were first' }))
    expect((screen.getByLabelText('Rule 1') as HTMLInputElement).value).toBe(FIRST_RULES[0].name)
  })
})
