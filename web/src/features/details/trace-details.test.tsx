// @vitest-environment happy-dom
// How a picture is traced, while its colours are looked for and its numbers are worked out.
import { type JobDocument, type TraceNode, withNode } from '@neotaxis/core'
import { sampleJob, squarePicture } from '@neotaxis/core/testing/sample-job'
import { act, cleanup, screen } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { showsNow } from '../../stage/in-view.ts'
import { useSelector } from '../../store/hooks.ts'
import { closed, edited, opened } from '../../store/job-slice.ts'
import { store } from '../../store/store.ts'
import { fillBrowser, shown } from '../../testing/fake-server.tsx'
import { TraceDetails } from './TraceDetails.tsx'

const { engine, palettes } = vi.hoisted(() => {
  const palettes: { answer: (found: unknown) => void; fail: (cause: Error) => void }[] = []
  const never = () => new Promise(() => {})
  const engine = {
    draw: never,
    forecast: never,
    measure: never,
    cancelWork: () => {},
    progressNow: () => 0,
    onWorkerDeath: () => () => {},
    tracePalette: () => new Promise((answer, fail) => palettes.push({ answer, fail })),
  }
  return { engine, palettes }
})
vi.mock('../../workers/engine.ts', () => engine)

const document = sampleJob({ picture: squarePicture(20, 5) })
const now = (): JobDocument => store.getState().job.document!
const edge = (): TraceNode => now().nodes.edge as TraceNode
function Shown({ id }: { readonly id: string }) {
  const job = useSelector((state) => state.job.document)
  return job && <TraceDetails job={job} id={id} node={job.nodes[id] as TraceNode} />
}
const mode = async (words: RegExp): Promise<void> => {
  await userEvent.click(screen.getByTestId('trace-mode').querySelector('[role=combobox]')!)
  await userEvent.click(await screen.findByRole('option', { name: words }))
}
const COLOURS = { colours: [{ l: 0.2, a: 0, b: 0, name: 'dark' }] }

beforeEach(() => {
  fillBrowser()
  palettes.length = 0
  store.dispatch(opened({ id: `t${Math.random()}`, revision: 0, document, edits: [], unsent: [] }))
})
afterEach(() => {
  cleanup()
  act(() => void store.dispatch(closed()))
  vi.unstubAllGlobals()
})

describe('what is traced', () => {
  it('is strokes as lines, and outlines again: without what only outlines have', async () => {
    shown(<Shown id="edge" />)
    expect(screen.getByRole('textbox', { name: 'Smoothing' })).toBeTruthy()
    await mode(/lines to score/)
    expect(edge().mode).toBe('centreline')
    expect(screen.queryByRole('textbox', { name: 'Smoothing' })).toBeNull()
    expect(screen.queryByRole('textbox', { name: 'Specks under' })).toBeNull()
    await mode(/to cut along/)
    expect(edge().mode).toBeUndefined()
  })

  it('stays as it is until its colours are found', async () => {
    shown(<Shown id="edge" />)
    await mode(/side by side/)
    expect(edge()).toEqual(document.nodes.edge)
    expect(palettes).toHaveLength(1)
  })

  it('is what was chosen last, though the colours come later', async () => {
    shown(<Shown id="edge" />)
    await mode(/side by side/)
    await mode(/lines to score/)
    await act(async () => palettes[0].answer(COLOURS))
    expect(edge().mode).toBe('centreline')
  })

  it('is not changed behind somebody who has gone to another outline', async () => {
    const { rerender } = shown(<Shown id="edge" />)
    void rerender
    await mode(/side by side/)
    cleanup()
    await act(async () => palettes[0].answer(COLOURS))
    expect(edge()).toEqual(document.nodes.edge)
  })

  it('has no colours where they cannot be told, which is said', async () => {
    shown(<Shown id="edge" />)
    await mode(/side by side/)
    await act(async () => palettes[0].fail(new Error('This picture is gone.')))
    expect(await screen.findByText('This picture is gone.')).toBeTruthy()
    expect(edge()).toEqual(document.nodes.edge)
  })
})

describe('a band of tones', () => {
  const type = async (label: string, text: string): Promise<void> => {
    const field = screen.getByRole('textbox', { name: label })
    await userEvent.clear(field)
    await userEvent.type(field, `${text}{Enter}`)
  }

  it('begins below the threshold, keeps below it, and goes', async () => {
    shown(<Shown id="edge" />)
    await userEvent.click(screen.getByLabelText('Only a band of tones'))
    expect(edge().above).toBeCloseTo(0.3, 9)
    await type('Threshold', '20')
    expect(edge()).toMatchObject({ threshold: 0.2, above: 0.19 })
    await userEvent.click(screen.getByLabelText('Only a band of tones'))
    expect(edge().above).toBeUndefined()
  })

  it('is never above its threshold, whatever somebody else does meanwhile', async () => {
    act(() => void store.dispatch(edited('band', withNode(now(), 'edge', { above: 0.4 }))))
    shown(<Shown id="edge" />)
    act(() => void store.dispatch(edited('threshold', withNode(now(), 'edge', { threshold: 0.9, above: 0.8 }))))
    await type('Threshold', '50')
    expect(edge().above).toBeLessThan(0.5)
  })

  it('is the ink of a page where that is wanted, its ruled lines kept or not', async () => {
    shown(<Shown id="edge" />)
    await userEvent.click(screen.getByLabelText('Ink of a page only'))
    expect(edge()).toMatchObject({ ink: { ruled: true, from: 0.5 }, threshold: 0.5 })
    await userEvent.click(screen.getByLabelText('Ruled lines away'))
    expect(edge().ink).toEqual({ ruled: false, from: 0.5 })
    await userEvent.click(screen.getByLabelText('Ink of a page only'))
    expect(edge().ink).toBeUndefined()
    expect(screen.queryByLabelText('Ruled lines away')).toBeNull()
  })

  it('begins a zone where the picture is seen', async () => {
    const place = now().placements.source
    const { xMm, yMm } = Object.values(now().workpieces)[0].pose
    // The stage shows the right half of the upper half of it.
    const forget = showsNow({
      standing: [1, 0, 0, 1, 0, 0],
      view: { x: xMm + place.xMm + place.widthMm / 2, y: yMm + place.yMm, scale: 4 },
      size: { width: 2 * place.widthMm, height: 2 * place.heightMm },
    })
    shown(<Shown id="edge" />)
    await userEvent.click(screen.getByLabelText('Only in a zone of the picture'))
    const { x, y, width, height } = edge().zone!
    expect([x, y, x + width, y + height].map((v) => Number(v.toFixed(3)))).toEqual([0.575, 0.075, 0.925, 0.425])
    forget()
  })

  it('has a zone of the picture where that is wanted', async () => {
    shown(<Shown id="edge" />)
    await userEvent.click(screen.getByLabelText('Only in a zone of the picture'))
    expect(edge().zone).toEqual({ x: 0.15, y: 0.15, width: 0.7, height: 0.7 })
    await userEvent.click(screen.getByLabelText('Only in a zone of the picture'))
    expect(edge().zone).toBeUndefined()
  })
})
