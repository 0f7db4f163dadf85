// @vitest-environment happy-dom
// Fields of a text and its series, while letters are read, room is worked out and outlines are made: what was chosen last counts.
import type { TextSpec } from '@neotaxis/core'
import { sampleJob, squarePicture } from '@neotaxis/core/testing/sample-job'
import { act, cleanup, fireEvent, screen, waitFor } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { useState } from 'react'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { fakeServer, fillBrowser, shown } from '../../testing/fake-server.tsx'
import { RepeatFields } from './RepeatFields.tsx'
import { TextFields } from './TextFields.tsx'

interface Wait {
  readonly of: unknown
  answer(value: unknown): void
  fail(cause: Error): void
}
const { engine, rooms, outlines } = vi.hoisted(() => {
  const rooms: Wait[] = []
  const outlines: Wait[] = []
  const wait = (list: Wait[], of: unknown) => new Promise((answer, fail) => list.push({ of, answer, fail }))
  const engine = {
    fontAxes: () => Promise.resolve([]),
    drawnFile: (wish: unknown) => wait(rooms, wish),
    outlineView: (_job: unknown, id: string) => wait(outlines, id),
  }
  return { engine, rooms, outlines }
})
vi.mock('../../workers/engine.ts', () => engine)

const plain: TextSpec = {
  kind: 'text',
  text: 'Berth {}',
  font: { kind: 'strokes' },
  capMm: 10,
  letterMm: 0,
  lineShare: 1.6,
  align: 'left',
} as TextSpec
const job = sampleJob({ picture: squarePicture(20, 5) })
let text: TextSpec
function Fields({ begin }: { readonly begin: TextSpec }) {
  const [now, setNow] = useState(begin)
  text = now
  return <TextFields text={now} job={job} onChange={setNow} />
}
const show = (begin: Partial<TextSpec> = {}) => shown(<Fields begin={{ ...plain, ...begin } as TextSpec} />)
const choose = async (testId: string, words: string | RegExp): Promise<void> => {
  await userEvent.click(screen.getByTestId(testId).querySelector('[role=combobox]')!)
  await userEvent.click(await screen.findByRole('option', { name: words }))
}
const type = async (label: string, value: string): Promise<void> => {
  const field = screen.getByRole('textbox', { name: label })
  await userEvent.clear(field)
  await userEvent.type(field, `${value}{Enter}`)
}
const box = (widthMm: number, heightMm: number) => ({ box: { x0: 0, y0: 0, x1: widthMm, y1: heightMm } })

beforeEach(() => {
  fillBrowser()
  rooms.length = 0
  outlines.length = 0
  fakeServer({ 'GET /fonts': { fonts: [{ asset: 'f'.repeat(64), name: 'Slab', shipped: true }] } })
})
afterEach(() => {
  cleanup()
  vi.unstubAllGlobals()
})

describe('values of a text', () => {
  it('that are typed one after the other are all kept, with the words that were not taken yet', async () => {
    show()
    fireEvent.change(screen.getByTestId('draw-text'), { target: { value: 'Mole {}' } })
    await type('Capitals', '12')
    await type('Letter gap', '-0.5')
    await waitFor(() => expect(text).toMatchObject({ text: 'Mole {}', capMm: 12, letterMm: -0.5 }))
  })

  it('stay where a font is chosen while they are typed', async () => {
    show()
    await choose('draw-font', 'Slab')
    await type('Capitals', '7')
    expect(text).toMatchObject({ font: { kind: 'file', name: 'Slab' }, capMm: 7 })
  })
})

describe('a text along an outline', () => {
  it('stands on it when it is made', async () => {
    show()
    await choose('draw-along', 'along “edge”')
    expect(outlines[0].of).toBe('edge')
    await act(async () => outlines[0].answer({ paths: [], reports: {} }))
    expect(text.along).toMatchObject({ kind: 'path' })
  })

  it('stands on what was chosen last, though the outline comes later', async () => {
    show()
    await choose('draw-along', 'along “edge”')
    await choose('draw-along', 'over the top of a circle')
    await act(async () => outlines[0].answer({ paths: [], reports: {} }))
    expect(text.along).toMatchObject({ kind: 'circle', at: 'top' })
  })

  it('that cannot be made is told, and the text stays straight', async () => {
    show()
    await choose('draw-along', 'along “edge”')
    await act(async () => outlines[0].fail(new Error('This picture is gone.')))
    expect(await screen.findByText('This picture is gone.')).toBeTruthy()
    expect(text.along).toBeUndefined()
  })
})

describe('a text for each of many', () => {
  it('has numbers in a row, with room for the longest and a capital between', async () => {
    show()
    await choose('draw-series', 'numbers in a row')
    expect(rooms[0].of).toMatchObject({ text: 'Berth 01' })
    await act(async () => rooms[0].answer(box(30.2, 9.8)))
    expect(text.series).toMatchObject({ columns: 3, pitchXMm: 41, pitchYMm: 20 })
    expect(text.series?.entries).toHaveLength(12)
    expect(screen.getByTestId('series-facts').textContent).toContain('12 texts: 01, 02, 03 … 12')
  })

  it('has the numbers that were typed last, in whatever order their room is known', async () => {
    show()
    await choose('draw-series', 'numbers in a row')
    await type('To', '24')
    expect(rooms).toHaveLength(2)
    await act(async () => rooms[1].answer(box(30, 10)))
    expect(text.series?.entries).toHaveLength(24)
    await act(async () => rooms[0].answer(box(99, 99)))
    expect(text.series?.entries).toHaveLength(24)
    expect(text.series?.pitchXMm).toBe(40)
  })

  it('is one text again where that was chosen while room was worked out', async () => {
    show()
    await choose('draw-series', 'numbers in a row')
    await choose('draw-series', 'one text')
    await act(async () => rooms[0].answer(box(30, 10)))
    expect(text.series).toBeUndefined()
  })

  it('says why there is none where its letters cannot be drawn', async () => {
    show()
    await choose('draw-series', 'numbers in a row')
    await act(async () => rooms[0].fail(new Error('This font has no digits.')))
    expect(screen.getByRole('alert').textContent).toBe('This font has no digits.')
    expect(text.series).toBeUndefined()
    // The next try is a new one.
    await choose('draw-series', 'numbers in a row')
    expect(screen.queryByRole('alert')).toBeNull()
    await act(async () => rooms[1].answer(box(30, 10)))
    expect(text.series?.entries).toHaveLength(12)
  })

  it('keeps its pitch when other numbers are chosen, and takes columns and pitch as they are typed', async () => {
    show()
    await choose('draw-series', 'numbers in a row')
    await act(async () => rooms[0].answer(box(30, 10)))
    await type('Side by side', '4')
    await type('Pitch across', '55.5')
    await type('To', '8')
    expect(rooms).toHaveLength(1)
    expect(text.series).toMatchObject({ columns: 4, pitchXMm: 55.5, pitchYMm: 20 })
    expect(text.series?.entries).toHaveLength(8)
  })

  it('has a column of a table, and another one; a file that is none is told by its name', async () => {
    show()
    const input = screen.getByTestId('series-file') as HTMLInputElement
    const give = async (name: string, content: string) => {
      await act(async () => void fireEvent.change(input, { target: { files: [new File([content], name)] } }))
    }
    await give('crew.csv', 'name,boat\nMara,Heron\nTobin,Tern\nEbba,Gull\n')
    await waitFor(() => expect(rooms).toHaveLength(1))
    await act(async () => rooms[0].answer(box(30, 10)))
    expect(text.series?.entries).toEqual(['Mara', 'Tobin', 'Ebba'])
    await choose('series-column', 'boat')
    expect(text.series?.entries).toEqual(['Heron', 'Tern', 'Gull'])
    await give('nothing.csv', '')
    await waitFor(() => expect(screen.getByRole('alert').textContent).toContain('nothing.csv'))
    expect(text.series?.entries).toEqual(['Heron', 'Tern', 'Gull'])
  })
})

describe('copies of a shape', () => {
  const onChange = vi.fn()
  beforeEach(() => onChange.mockReset())

  it('stand in rows and columns, around a circle, or there is one', async () => {
    shown(<RepeatFields repeat={undefined} onChange={onChange} />)
    await choose('draw-repeat', 'in rows and columns')
    expect(onChange).toHaveBeenLastCalledWith({ kind: 'grid', columns: 3, rows: 2, pitchXMm: 70, pitchYMm: 50 })
    await choose('draw-repeat', 'around a circle')
    expect(onChange).toHaveBeenLastCalledWith({ kind: 'round', count: 12, diameterMm: 120 })
  })

  it('change by what is typed, within what can be drawn', async () => {
    shown(<RepeatFields repeat={{ kind: 'grid', columns: 3, rows: 2, pitchXMm: 70, pitchYMm: 50 }} onChange={onChange} />)
    await type('Rows', '5')
    expect(onChange).toHaveBeenLastCalledWith({ kind: 'grid', columns: 3, rows: 5, pitchXMm: 70, pitchYMm: 50 })
    onChange.mockReset()
    await type('Columns', '900')
    expect(screen.getByRole('alert').textContent).toContain('Columns goes from')
    expect(onChange).not.toHaveBeenCalled()
  })
})
