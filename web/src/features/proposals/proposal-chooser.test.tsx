// @vitest-environment happy-dom
// What a picture could become, while it is worked out: later wishes count, trouble is told, one press makes one job.
import { FIRST_RULES, type JobDocument, MACHINES, MATERIALS, materialOf } from '@neotaxis/core'
import { sampleJob, squarePicture } from '@neotaxis/core/testing/sample-job'
import { act, cleanup, screen, waitFor } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { type Asked, fakeServer, fillBrowser, forgetShop, shown } from '../../testing/fake-server.tsx'
import type { ProposalCard } from '../../workers/shared.ts'
import ProposalChooser from './ProposalChooser.tsx'

interface Wish {
  readonly material: { readonly id: string }
  readonly machine: { readonly id: string }
  readonly workpiece: { readonly widthMm: number; readonly heightMm: number; readonly thicknessMm: number }
  readonly size?: { readonly widthMm: number }
  readonly rules?: readonly object[]
}
const { engine, wishes } = vi.hoisted(() => {
  const wishes: {
    wish: Wish
    onCard: (card: unknown) => void
    answer: (cards: unknown) => void
    fail: (cause: Error) => void
  }[] = []
  const engine = {
    proposals: (wish: Wish, onCard: (card: unknown) => void) =>
      new Promise((answer, fail) => wishes.push({ wish, onCard, answer, fail })),
    caughtByRules: vi.fn(async () => [
      { rule: { id: 'r', name: 'red is cut' }, shapes: 3 },
      { rule: undefined, shapes: 2 },
    ]),
    cancelWork: vi.fn(),
    progressNow: () => 0.4,
  }
  return { engine, wishes }
})
vi.mock('../../workers/engine.ts', () => engine)

const job = sampleJob({ picture: squarePicture(20, 5) })
const card = (id: string, change: Partial<ProposalCard> = {}): ProposalCard => ({
  id,
  title: `Title of ${id}`,
  detail: 'dark parts burned',
  job,
  seconds: 75,
  findings: [],
  picture: { rgba: new Uint8ClampedArray(4), widthPx: 1, heightPx: 1 },
  ...change,
})
const facts = { asset: 'a'.repeat(64), widthPx: 640, heightPx: 480, hasAlpha: true }
const drawing = { ...facts, drawing: { widthMm: 30, heightMm: 20, shapes: 5, notices: ['Two pictures in it are left out.'] } }
let asked: Asked[]
const told = { onClose: vi.fn(), onMade: vi.fn() }
const serve = (more: Parameters<typeof fakeServer>[0] = {}): void => {
  const catalogue = { 'GET /materials': { materials: MATERIALS }, 'GET /machines': { machines: MACHINES } }
  asked = fakeServer({
    ...catalogue,
    'GET /import-rules': { rules: FIRST_RULES },
    'POST /jobs': { id: 'made', name: 'made' },
    ...more,
  })
}
const newest = async (count: number) => {
  await waitFor(() => expect(wishes).toHaveLength(count))
  return wishes[count - 1]
}
const answer = async (index: number, ...cards: readonly ProposalCard[]): Promise<void> =>
  act(async () => wishes[index].answer(cards))
const made = (): JobDocument[] =>
  asked.filter(({ method }) => method === 'POST').map(({ body }) => (body as { job: JobDocument }).job)

beforeEach(() => {
  fillBrowser()
  forgetShop()
  vi.stubGlobal('ImageData', class {})
  wishes.length = 0
  engine.cancelWork.mockReset()
  for (const each of Object.values(told)) each.mockReset()
  serve()
})
afterEach(() => {
  cleanup()
  vi.unstubAllGlobals()
})

describe('what a picture could become', () => {
  it('is asked for the material and machine that are shown, and stands there when it comes', async () => {
    shown(<ProposalChooser name="gull.png" facts={facts} {...told} />)
    expect((await newest(1)).wish).toMatchObject({
      material: { id: 'birch-ply-3' },
      machine: { id: 'bench-60' },
      workpiece: { widthMm: 300, heightMm: 200, thicknessMm: 3 },
    })
    expect(screen.getByRole('progressbar')).toBeTruthy()
    expect(screen.getByText('640 × 480 px, with transparency')).toBeTruthy()
    await answer(0, card('engraved'), card('cut', { seconds: 6 }))
    expect(screen.queryByRole('progressbar')).toBeNull()
    expect(screen.getByTestId('proposal-engraved').textContent).toContain('Title of engraved1:15dark parts burned')
    expect(screen.getByTestId('proposal-cut').textContent).toContain('1 picture → 2 cut')
  })

  it('stands there card by card, to be taken while others are worked out; keys take the first when all are there', async () => {
    shown(<ProposalChooser name="gull.png" facts={facts} {...told} />)
    const { onCard } = await newest(1)
    await act(async () => onCard(card('engraved')))
    expect(screen.getByTestId('proposal-engraved')).not.toBe(document.activeElement)
    expect(screen.getByRole('progressbar', { name: 'Working out more proposals' })).toBeTruthy()
    expect(screen.getByTestId('decide-later')).toHaveProperty('disabled', true)
    await act(async () => onCard(card('cut')))
    expect(screen.getAllByTestId(/^proposal-/)).toHaveLength(2)
    await answer(0, card('engraved'), card('cut'))
    expect(screen.queryByRole('progressbar')).toBeNull()
    expect(screen.getByTestId('proposal-engraved')).toBe(document.activeElement)
    // Another wish: what was there is of the past, and so is what it still tells.
    await userEvent.clear(screen.getByRole('textbox', { name: 'Artwork' }))
    await userEvent.type(screen.getByRole('textbox', { name: 'Artwork' }), '80{Enter}')
    await newest(2)
    await act(async () => onCard(card('late')))
    expect(screen.queryAllByTestId(/^proposal-/)).toHaveLength(0)
    await userEvent.click(screen.getByText('Leave it out'))
    expect(told.onClose).toHaveBeenCalledTimes(1)
  })

  it('of a PDF with several pages is that of another page by its number', async () => {
    const onPage = vi.fn()
    const pdf = { ...drawing, pdf: { page: 1, pages: 4 } }
    shown(<ProposalChooser name="chart.pdf" facts={pdf} onPage={onPage} {...told} />)
    const page = screen.getByRole('textbox', { name: 'Page of 4' })
    await userEvent.clear(page)
    await userEvent.type(page, '3{Enter}')
    expect(onPage).toHaveBeenCalledWith(3)
    cleanup()
    shown(<ProposalChooser name="chart.pdf" facts={{ ...pdf, pdf: { page: 1, pages: 1 } }} onPage={onPage} {...told} />)
    expect(screen.queryByTestId('pdf-page')).toBeNull()
  })

  it('tells what it asks and what stops it, and keeps notes to itself', async () => {
    shown(<ProposalChooser name="gull.png" facts={facts} {...told} />)
    await newest(1)
    const finding = (severity: string) => ({ id: severity, kind: 'thin', severity, message: `this ${severity}`, fixes: [] })
    await answer(0, card('engraved', { findings: ['note', 'ask', 'stop'].map(finding) as never }))
    const text = screen.getByTestId('proposal-engraved').textContent
    expect(text).toContain('this ask')
    expect(text).toContain('this stop')
    expect(text).not.toContain('this note')
  })

  it('is that of the last wish: an earlier answer that comes later is not shown', async () => {
    shown(<ProposalChooser name="gull.png" facts={facts} {...told} />)
    await newest(1)
    await answer(0, card('first'))
    const size = screen.getByRole('textbox', { name: 'Artwork' })
    await userEvent.clear(size)
    await userEvent.type(size, '80{Enter}')
    expect((await newest(2)).wish.size).toEqual({ widthMm: 80 })
    expect(screen.queryByTestId('proposal-first')).toBeNull()
    await userEvent.clear(screen.getByRole('textbox', { name: 'Workpiece' }))
    await userEvent.type(screen.getByRole('textbox', { name: 'Workpiece' }), '250{Enter}')
    expect((await newest(3)).wish).toMatchObject({ workpiece: { widthMm: 250 }, size: { widthMm: 80 } })
    await answer(2, card('newest'))
    await answer(1, card('late'))
    expect(screen.getByTestId('proposal-newest')).toBeTruthy()
    expect(screen.queryByTestId('proposal-late')).toBeNull()
  })

  it('of no kind is said in the sentence that it has, and can be left', async () => {
    shown(<ProposalChooser name="gull.png" facts={facts} {...told} />)
    const { fail } = await newest(1)
    await act(async () => fail(new Error('This picture is white all over.')))
    expect(screen.getByRole('alert').textContent).toBe('This picture is white all over.')
    expect(screen.queryByRole('progressbar')).toBeNull()
    await userEvent.click(screen.getByRole('button', { name: 'Leave it out' }))
    expect(engine.cancelWork).toHaveBeenCalledOnce()
    expect(told.onClose).toHaveBeenCalledOnce()
  })
})

describe('one of them', () => {
  it('becomes one job, however often it is pressed', async () => {
    let release: (() => void) | undefined
    serve({ 'POST /jobs': () => new Promise((resolve) => (release = () => resolve({ id: 'made', name: 'made' }))) })
    shown(<ProposalChooser name="gull.png" facts={facts} {...told} />)
    await newest(1)
    await answer(0, card('engraved'), card('cut'))
    await userEvent.click(screen.getByTestId('proposal-engraved'))
    for (const id of ['engraved', 'cut']) expect((screen.getByTestId(`proposal-${id}`) as HTMLButtonElement).disabled).toBe(true)
    await waitFor(() => expect(release).toBeDefined())
    await act(async () => release?.())
    expect(made()).toEqual([job])
    expect(told.onMade).toHaveBeenCalledExactlyOnceWith('made')
  })

  it('can be pressed again where the server could not make it', async () => {
    serve({ 'POST /jobs': { refuse: 507, message: 'The disk of the server is full.' } })
    shown(<ProposalChooser name="gull.png" facts={facts} {...told} />)
    await newest(1)
    await answer(0, card('engraved'))
    await userEvent.click(screen.getByTestId('proposal-engraved'))
    expect((await screen.findByRole('alert')).textContent).toBe('The disk of the server is full.')
    expect((screen.getByTestId('proposal-engraved') as HTMLButtonElement).disabled).toBe(false)
    expect(told.onMade).not.toHaveBeenCalled()
  })

  it('goes into the job that it is brought into, whose material and workpiece hold', async () => {
    const onChosen = vi.fn()
    shown(<ProposalChooser name="gull.png" facts={facts} into={job} onClose={told.onClose} onChosen={onChosen} />)
    expect((await newest(1)).wish).toMatchObject({
      material: materialOf(job),
      machine: job.machine,
      workpiece: { widthMm: 300, heightMm: 200, thicknessMm: 3, outline: { kind: 'rect' } },
    })
    expect(screen.queryByLabelText('Material')).toBeNull()
    await answer(0, card('engraved'))
    await userEvent.click(screen.getByTestId('proposal-engraved'))
    expect(onChosen).toHaveBeenCalledExactlyOnceWith(job)
    expect(made()).toEqual([])
  })
})

describe('a decision', () => {
  it('can wait: the artwork comes in as it is, and nothing is burned', async () => {
    shown(<ProposalChooser name="gull.png" facts={facts} {...told} />)
    await newest(1)
    expect((screen.getByTestId('decide-later') as HTMLButtonElement).disabled).toBe(true)
    await answer(0, card('engraved'))
    await userEvent.click(screen.getByTestId('decide-later'))
    await waitFor(() => expect(told.onMade).toHaveBeenCalledOnce())
    expect(made()[0]).toMatchObject({ order: [], operations: {}, placements: job.placements })
    expect(Object.keys(made()[0].nodes)).toEqual(['source'])
  })

  it('is made by Enter: the first proposal has the focus when it comes, and no key throws the drop away', async () => {
    shown(<ProposalChooser name="gull.png" facts={facts} {...told} />)
    await newest(1)
    await answer(0, card('engraved'), card('cut'))
    expect(document.activeElement).toBe(screen.getByTestId('proposal-engraved'))
    await userEvent.keyboard('{Tab}{Enter}')
    await waitFor(() => expect(told.onMade).toHaveBeenCalledOnce())
    expect(told.onClose).not.toHaveBeenCalled()
  })

  it('leaves the focus to who types a size meanwhile', async () => {
    shown(<ProposalChooser name="gull.png" facts={facts} {...told} />)
    await newest(1)
    await userEvent.type(screen.getByRole('textbox', { name: 'Artwork' }), '8')
    await answer(0, card('engraved'))
    expect(document.activeElement).toBe(screen.getByRole('textbox', { name: 'Artwork' }))
  })

  it('is told where it lies, and whether all become one job', async () => {
    const onTogether = vi.fn()
    const at = { xMm: 12, yMm: 7 }
    shown(
      <ProposalChooser
        name="gull.png"
        facts={facts}
        into={job}
        at={at}
        widthMm={33}
        place="2 of 3"
        together={false}
        onTogether={onTogether}
        later={false}
        onClose={told.onClose}
        onChosen={vi.fn()}
      />,
    )
    expect((await newest(1)).wish).toMatchObject({ into: job, at, size: { widthMm: 33 } })
    expect(screen.getByText('What becomes of “gull.png”? (2 of 3)')).toBeTruthy()
    expect(screen.queryByTestId('decide-later')).toBeNull()
    await userEvent.click(screen.getByLabelText('All of them into one job'))
    expect(onTogether).toHaveBeenCalledExactlyOnceWith(true)
  })
})

describe('a drawing', () => {
  it('is sorted by the rules of the shop: what each caught is told, and what its reader left out', async () => {
    shown(<ProposalChooser name="plan.svg" facts={drawing} {...told} />)
    expect((await newest(1)).wish.rules).toEqual(FIRST_RULES)
    expect((await screen.findByTestId('caught')).textContent).toContain('3 · red is cut2 · caught by no rule')
    expect(screen.getByText('Two pictures in it are left out.')).toBeTruthy()
    expect(screen.getByText('a drawing of 5 shapes, 30.0 × 20.0 mm')).toBeTruthy()
  })

  it('is sorted by the first rules where those of the shop cannot be had', async () => {
    serve({ 'GET /import-rules': { refuse: 503, message: 'The database is away.' } })
    shown(<ProposalChooser name="plan.svg" facts={drawing} {...told} />)
    expect((await newest(1)).wish.rules).toEqual(FIRST_RULES)
  })

  it('that was made here by numbers is not sorted', async () => {
    const drawn = { kind: 'rectangle', widthMm: 30, heightMm: 20, radiusMm: 0 } as never
    shown(<ProposalChooser name="plate" facts={drawing} drawn={drawn} {...told} />)
    expect((await newest(1)).wish.rules).toBeUndefined()
    expect(asked.some(({ path }) => path === '/import-rules')).toBe(false)
  })
})
