// @vitest-environment happy-dom
// A text on a line, while its line is changed, taken back and changed again.
import { type DrawingNode, type JobDocument, placedOn, type TextSpec } from '@neotaxis/core'
import { sampleJob, squarePicture } from '@neotaxis/core/testing/sample-job'
import { act, cleanup, waitFor } from '@testing-library/react'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { closed, edited, opened, undone } from '../../store/job-slice.ts'
import { store } from '../../store/store.ts'
import { fillBrowser, shown } from '../../testing/fake-server.tsx'
import { useTextFollows } from './use-text-follows.ts'

const { redraw, outlineView } = vi.hoisted(() => ({
  redraw: vi.fn(),
  outlineView: vi.fn(async () => ({
    paths: [{ closed: false, kinds: Uint8Array.of(0), points: Float64Array.of(0, 20, 80, 20) }],
    reports: {},
  })),
}))
vi.mock('./redraw.ts', () => ({ redraw }))
vi.mock('../../workers/engine.ts', () => ({ outlineView }))

const bare = sampleJob({ picture: squarePicture(20, 5) })
const spec: TextSpec = {
  kind: 'text',
  text: 'Tide',
  font: { kind: 'strokes' },
  capMm: 4,
  letterMm: 0,
  lineShare: 1.6,
  align: 'middle',
  along: { kind: 'path', data: 'M0 0L40 0', on: placedOn(bare, 'edge', 10, 10) },
}
const text: DrawingNode = { kind: 'drawing', name: 'Tide', asset: 'b'.repeat(64), widthMm: 12, heightMm: 4, drawn: spec }
const job: JobDocument = {
  ...bare,
  nodes: { ...bare.nodes, text },
  placements: {
    ...bare.placements,
    text: { of: 'text', on: bare.placements.source.on, xMm: 5, yMm: 6, widthMm: 12, heightMm: 4 },
  },
}
const now = (): JobDocument => store.getState().job.base!
const names = (): string[] => store.getState().job.pending.map(({ kind, name }) => (kind === 'edit' ? name : kind))
const scaled = (by: number): JobDocument => {
  const { source } = now().placements
  const place = { ...source, widthMm: source.widthMm * by, heightMm: source.heightMm * by }
  return { ...now(), placements: { ...now().placements, source: place } }
}
function Follows() {
  useTextFollows()
  return null
}

beforeEach(() => {
  fillBrowser()
  redraw.mockReset()
  outlineView.mockClear()
  redraw.mockImplementation(async (_before: unknown, drawn: unknown) => ({
    as: { drawn, asset: 'c'.repeat(64), widthMm: 14, heightMm: 4, looks: [], origin: { before: [0, 0], after: [0, 0] } },
    notices: [],
  }))
  store.dispatch(opened({ id: `t${Math.random()}`, revision: 0, document: job, edits: [], unsent: [] }))
})
afterEach(() => {
  cleanup()
  act(() => void store.dispatch(closed()))
  vi.unstubAllGlobals()
})

describe('a text whose line is changed', () => {
  it('is set anew on it, once; taken back it stays taken back', async () => {
    shown(<Follows />)
    act(() => void store.dispatch(edited('wider', scaled(2))))
    await waitFor(() => expect(names()).toEqual(['wider', 'the text follows its line']))
    expect((now().nodes.text as DrawingNode).asset).toBe('c'.repeat(64))
    expect((now().nodes.text as DrawingNode).drawn).toMatchObject({ along: { on: { node: 'edge' } } })
    act(() => void store.dispatch(undone()))
    act(() => void store.dispatch(undone()))
    expect(now()).toEqual(job)
    await act(async () => {})
    expect(outlineView).toHaveBeenCalledTimes(1)
    expect(redraw).toHaveBeenCalledTimes(1)
    // What is changed next is followed again.
    act(() => void store.dispatch(edited('wider', scaled(2))))
    await waitFor(() => expect(redraw).toHaveBeenCalledTimes(2))
  })

  it('goes along in the same edit where the line is only moved', async () => {
    shown(<Follows />)
    const { source } = now().placements
    const moved = { ...now(), placements: { ...now().placements, source: { ...source, xMm: source.xMm + 7 } } }
    act(() => void store.dispatch(edited('moved', moved)))
    expect(now().placements.text.xMm).toBe(12)
    expect(names()).toEqual(['moved'])
    act(() => void store.dispatch(undone()))
    expect(now().placements.text.xMm).toBe(5)
    expect(redraw).not.toHaveBeenCalled()
  })

  it('is left as it is with a sentence where it cannot be set', async () => {
    redraw.mockRejectedValue(new Error('Its font is not here.'))
    const { findByText } = shown(<Follows />)
    act(() => void store.dispatch(edited('wider', scaled(2))))
    expect(await findByText('Its font is not here.')).toBeTruthy()
    expect((now().nodes.text as DrawingNode).asset).toBe('b'.repeat(64))
  })
})
