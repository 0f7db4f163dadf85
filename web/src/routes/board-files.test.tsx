// @vitest-environment happy-dom
// Files that are dropped on the board together: each gets its turn, whatever became of the one before.
import { MACHINES, MATERIALS } from '@neotaxis/core'
import { act, cleanup, fireEvent, screen, waitFor } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { Route, Routes, useLocation } from 'react-router'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { type Asked, fakeServer, fillBrowser, shown } from '../testing/fake-server.tsx'
import { BoardPage } from './BoardPage.tsx'

vi.mock('../features/proposals/ProposalChooser.tsx', () => ({
  default: ({
    name,
    place,
    drawn,
    onClose,
    onMade,
  }: {
    name: string
    place?: string
    drawn?: { text: string }
    onClose(): void
    onMade(id: string): void
  }) => (
    <div role="dialog">
      {`${drawn ? `writes ${drawn.text}` : name}${place ? ` (${place})` : ''}`}
      <button type="button" onClick={() => onMade(`job of ${name}`)}>
        take it
      </button>
      <button type="button" onClick={onClose}>
        none
      </button>
    </div>
  ),
}))
vi.mock('../features/draw/written-into.ts', () => ({
  plainText: (text: string) =>
    Promise.resolve({
      facts: { asset: 'e'.repeat(64), widthPx: 0, heightPx: 0, hasAlpha: false },
      drawn: { kind: 'text', text },
    }),
  writtenInto: (job: object, text: string) => Promise.resolve({ ...job, writes: text }),
}))

let asked: Asked[]
const facts = { asset: 'a'.repeat(64), widthPx: 10, heightPx: 10, hasAlpha: false }
/** What the server says to a file, by what is in it. */
let answers: Record<string, unknown>
const Where = () => <div data-testid="where">{useLocation().pathname}</div>
const show = (state?: object): void => {
  shown(
    <>
      <Where />
      <Routes>
        <Route path="/" element={<BoardPage />} />
        <Route path="*" element={null} />
      </Routes>
    </>,
    state ? { state } : '/',
  )
}
const file = (name: string, text = name) => new File([text], name)
const drop = async (...files: readonly File[]): Promise<void> => {
  const input = document.querySelector('input[type=file]') as HTMLInputElement
  await act(async () => void fireEvent.change(input, { target: { files } }))
}
const dialog = async (words: string): Promise<void> =>
  void (await waitFor(() => expect(screen.getByRole('dialog').textContent).toContain(words)))
const press = (name: string) => userEvent.click(screen.getByRole('button', { name }))

beforeEach(() => {
  fillBrowser()
  answers = {}
  asked = fakeServer({
    'GET /jobs?search=': { jobs: [] },
    'POST /assets': async (body) => {
      const text = await (body as Blob).text()
      return (answers[text] ?? { ...facts }) as object
    },
    'GET /materials': { materials: MATERIALS },
    'GET /machines': { machines: MACHINES },
    'POST /jobs': { id: 'written', name: 'written' },
    'PATCH /stock/pane-1': {},
    'POST /jobs/file': { id: 'opened', name: 'opened' },
    'POST /jobs/program': { id: 'read', name: 'read' },
  })
})
afterEach(() => {
  cleanup()
  vi.unstubAllGlobals()
})

describe('one file', () => {
  it('becomes a job, which is opened', async () => {
    show()
    await drop(file('heron.png'))
    await dialog('heron.png')
    expect(screen.getByRole('dialog').textContent).not.toContain('of 1')
    await press('take it')
    expect(screen.getByTestId('where').textContent).toBe('/jobs/job of heron.png/compose')
  })

  it('that cannot be read leaves the board as it was, with the reason and its name', async () => {
    answers.broken = { refuse: 422, message: 'This picture ends in the middle.' }
    show()
    await drop(file('broken.png', 'broken'))
    expect(await screen.findByText('broken.png: This picture ends in the middle.')).toBeTruthy()
    expect(screen.queryByRole('dialog')).toBeNull()
    await drop(file('heron.png'))
    await dialog('heron.png')
  })

  it('of text is written', async () => {
    show()
    await drop(file('names.txt', '  Skerry Light \n'))
    await dialog('writes Skerry Light')
    await press('none')
    expect(screen.queryByRole('dialog')).toBeNull()
  })
})

describe('a text that is pasted', () => {
  it('is a job with it, which is opened', async () => {
    show()
    const event = new Event('paste', { bubbles: true })
    Object.assign(event, { clipboardData: { files: [], getData: () => 'Oyster beds' } })
    // What takes it comes with the page. Pasted in `waitFor` it would be pasted again by whatever it changes.
    await act(async () => {})
    act(() => void window.dispatchEvent(event))
    await waitFor(() => expect(screen.getByTestId('where').textContent).toBe('/jobs/written/compose'))
    const [{ body }] = asked.filter(({ method, path }) => method === 'POST' && path === '/jobs')
    expect(body).toMatchObject({ job: { name: 'Oyster beds', writes: 'Oyster beds', placements: {}, order: [] } })
  })
})

describe('a text that is pasted before it is known what the shop has', () => {
  it('is a job as soon as that is known, once', async () => {
    show()
    const event = new Event('paste', { bubbles: true })
    Object.assign(event, { clipboardData: { files: [], getData: () => 'Oyster beds' } })
    act(() => void window.dispatchEvent(event))
    expect(asked.filter(({ method, path }) => method === 'POST' && path === '/jobs')).toEqual([])
    await waitFor(() => expect(screen.getByTestId('where').textContent).toBe('/jobs/written/compose'))
    expect(asked.filter(({ method, path }) => method === 'POST' && path === '/jobs')).toHaveLength(1)
  })
})

describe('several files', () => {
  it('come one after the other, with their number; the board is there after the last', async () => {
    show()
    await drop(file('a.png'), file('b.svg'), file('c.stl'))
    await dialog('a.png (1 of 3)')
    await press('take it')
    await dialog('b.svg (2 of 3)')
    await press('none')
    await dialog('c.stl (3 of 3)')
    await press('take it')
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull())
    expect(screen.getByTestId('where').textContent).toBe('/')
    expect(screen.queryByRole('dialog')).toBeNull()
  })

  it('are not lost where one of them cannot be read', async () => {
    answers.broken = { refuse: 422, message: 'This picture ends in the middle.' }
    show()
    await drop(file('broken.png', 'broken'), file('b.png'), file('c.png'))
    expect(await screen.findByText('broken.png: This picture ends in the middle.')).toBeTruthy()
    await dialog('b.png (2 of 3)')
    await press('none')
    await dialog('c.png (3 of 3)')
  })

  it('with a job file, a program and a text among them are all taken, and none leads away from the others', async () => {
    show()
    await drop(file('old.neotaxis'), file('cut.nc'), file('names.txt', 'Mara'), file('last.png'))
    await dialog('writes Mara')
    const paths = asked.filter(({ method }) => method === 'POST').map(({ path }) => path.replace(/\?.*/, ''))
    expect(paths).toEqual(['/jobs/file', '/jobs/program'])
    await press('none')
    await dialog('last.png (4 of 4)')
    expect(screen.getByTestId('where').textContent).toBe('/')
  })

  it('that are dropped while others wait come after them', async () => {
    show()
    await drop(file('a.png'), file('b.png'))
    await dialog('a.png (1 of 2)')
    await drop(file('c.png'))
    await dialog('a.png (1 of 3)')
    await press('none')
    await dialog('b.png (2 of 3)')
    await press('none')
    await dialog('c.png (3 of 3)')
  })
})

describe('what is looked for', () => {
  it('is what was typed last, in whatever order the answers come', async () => {
    const waiting: Record<string, (jobs: object) => void> = {}
    asked = fakeServer({
      'GET /jobs?search=': (_body, path) => {
        const words = new URL(path, 'http://shop').searchParams.get('search')!
        if (words === '') return { jobs: [] }
        return new Promise((resolve) => {
          waiting[words] = (jobs) => resolve({ jobs } as object)
        })
      },
    })
    show()
    const field = await screen.findByRole('textbox')
    fireEvent.change(field, { target: { value: 'her' } })
    await waitFor(() => expect(waiting.her).toBeDefined())
    fireEvent.change(field, { target: { value: 'heron' } })
    await waitFor(() => expect(waiting.heron).toBeDefined())
    await act(async () => waiting.heron([]))
    await act(async () =>
      waiting.her([{ id: 'x', name: 'Her Majesty', revision: 1, workpiece: { widthMm: 1, heightMm: 1, thicknessMm: 1 } }]),
    )
    expect(screen.queryByText('Her Majesty')).toBeNull()
  })
})
