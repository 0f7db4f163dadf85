// @vitest-environment happy-dom
// Artwork that comes into a job: files wait for their turn, whatever is drawn or taken from the library meanwhile.
import type { JobDocument } from '@neotaxis/core'
import { sampleJob, squarePicture } from '@neotaxis/core/testing/sample-job'
import { act, cleanup, fireEvent, screen, waitFor } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { useSelector } from '../../store/hooks.ts'
import { closed, opened, undone } from '../../store/job-slice.ts'
import { store } from '../../store/store.ts'
import { fakeServer, fillBrowser, shown } from '../../testing/fake-server.tsx'
import { BringIn } from './BringIn.tsx'

const other = sampleJob({ picture: squarePicture(20, 5), widthMm: 25, xMm: 5, yMm: 5 })
vi.mock('../proposals/ProposalChooser.tsx', () => ({
  default: ({
    name,
    at,
    onClose,
    onChosen,
  }: {
    name: string
    at?: object
    onClose(): void
    onChosen(made: JobDocument): void
  }) => (
    <div role="dialog">
      {name}
      <button type="button" onClick={() => onChosen({ ...other, placements: { source: { ...other.placements.source, ...at } } })}>
        take it
      </button>
      <button type="button" onClick={onClose}>
        none
      </button>
    </div>
  ),
}))
const facts = { asset: 'd'.repeat(64), widthPx: 10, heightPx: 10, hasAlpha: false }
const written: { drawn: object; at: object }[] = []
vi.mock('../draw/use-make-drawn.ts', () => ({
  useMakeDrawn: () => (drawn: object, at: object) => Promise.resolve(void written.push({ drawn, at })),
}))
vi.mock('../draw/text-middle.ts', () => ({
  textInTheMiddle: (_: JobDocument, text: string) => Promise.resolve({ drawn: { kind: 'text', text }, at: { xMm: 30, yMm: 20 } }),
}))

const document = sampleJob({ picture: squarePicture(20, 5) })
const now = (): JobDocument => store.getState().job.document!
const Shown = () => {
  const job = useSelector((state) => state.job.document)
  return job && <BringIn job={job}>the stage</BringIn>
}
const file = (name: string, text = name) => new File([text], name)
const drop = async (...files: readonly File[]): Promise<void> => {
  await act(async () => void fireEvent.change(screen.getByTestId('bring-in-file'), { target: { files } }))
}
const dialog = async (words: string): Promise<void> =>
  void (await waitFor(() => expect(screen.getByRole('dialog').textContent).toContain(words)))
const press = async (name: string) => userEvent.click(await screen.findByRole('button', { name }))

beforeEach(() => {
  written.length = 0
  fillBrowser()
  fakeServer({
    'POST /assets': async (body) => {
      const text = await (body as Blob).text()
      return text === 'broken' ? { refuse: 422, message: 'This picture ends in the middle.' } : facts
    },
  })
  store.dispatch(opened({ id: `j${Math.random()}`, revision: 0, document, edits: [], unsent: [] }))
})
afterEach(() => {
  cleanup()
  act(() => void store.dispatch(closed()))
  vi.unstubAllGlobals()
})

describe('a file that is brought in', () => {
  it('becomes part of the job by one edit, beside what is there', async () => {
    shown(<Shown />)
    await drop(file('gull.png'))
    await dialog('gull.png')
    await press('take it')
    expect(Object.keys(now().nodes)).toHaveLength(2 * Object.keys(document.nodes).length)
    expect(now().order).toHaveLength(4)
    for (const [id, node] of Object.entries(document.nodes)) expect(now().nodes[id]).toEqual(node)
    act(() => void store.dispatch(undone()))
    expect(now()).toEqual(document)
  })

  it('that none of the proposals fits changes nothing', async () => {
    shown(<Shown />)
    await drop(file('gull.png'))
    await dialog('gull.png')
    await press('none')
    expect(screen.queryByRole('dialog')).toBeNull()
    expect(now()).toBe(document)
    // It is not thrown away: one press brings it back.
    expect(screen.getByText('“gull.png” was left out.')).toBeTruthy()
    await press('Bring it back')
    await dialog('gull.png')
    await press('take it')
    expect(Object.keys(now().placements)).toHaveLength(2)
  })

  it('that cannot be read is told by its name, and the next one comes', async () => {
    shown(<Shown />)
    await drop(file('broken.png', 'broken'), file('gull.png'))
    expect(await screen.findByText('broken.png: This picture ends in the middle.')).toBeTruthy()
    await dialog('gull.png')
  })
})

describe('a job that was begun to draw in it', () => {
  it('asks what is drawn, once', async () => {
    shown(<Shown />, { state: { draws: true } })
    await screen.findByTestId('draw-here-star')
    await userEvent.keyboard('{Escape}')
    await waitFor(() => expect(screen.queryByTestId('draw-here-star')).toBeNull())
    await userEvent.click(screen.getByTestId('draw-here'))
    await screen.findByTestId('draw-here-arc')
  })
})

describe('what is pasted', () => {
  const paste = (data: { files?: readonly File[]; text?: string }, target: EventTarget = window): void => {
    const event = new Event('paste', { bubbles: true })
    Object.assign(event, { clipboardData: { files: data.files ?? [], getData: () => data.text ?? '' } })
    act(() => void target.dispatchEvent(event))
  }

  it('is a file where it is one, and words to be written where it is not', async () => {
    shown(<Shown />)
    paste({ files: [file('gull.png')] })
    await dialog('gull.png')
    await press('none')
    paste({ text: '  Skerry Light ' })
    await waitFor(() => expect(written).toEqual([{ drawn: { kind: 'text', text: 'Skerry Light' }, at: { xMm: 30, yMm: 20 } }]))
  })

  it('is left alone where somebody types, where a sheet is open, and where it is nothing', async () => {
    shown(
      <>
        <input aria-label="a field" />
        <Shown />
      </>,
    )
    paste({ text: 'Skerry' }, screen.getByLabelText('a field'))
    paste({ text: '   ' })
    expect(written).toEqual([])
    paste({ files: [file('gull.png')] })
    await dialog('gull.png')
    paste({ text: 'Skerry' })
    expect(written).toEqual([])
  })
})
