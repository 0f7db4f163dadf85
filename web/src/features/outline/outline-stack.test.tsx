// @vitest-environment happy-dom
// How an outline is made: steps are added, changed and taken away; what each did arrives later and stands on its card.
import { type CleanNode, cleanerOf, type JobDocument, type OutlineStep, withOutlineStep } from '@neotaxis/core'
import { sampleJob, squarePicture } from '@neotaxis/core/testing/sample-job'
import { act, cleanup, screen } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { useSelector } from '../../store/hooks.ts'
import { closed, opened, undone } from '../../store/job-slice.ts'
import { store } from '../../store/store.ts'
import { fakeServer, fillBrowser, shown } from '../../testing/fake-server.tsx'
import type { OutlineView } from '../../workers/shared.ts'
import { OutlineStack } from './OutlineStack.tsx'
import { MENU_STEPS, newOutlineStep, outlineStepWords } from './outline-words.ts'

vi.mock('../../workers/engine.ts', () => ({
  onWorkerDeath: () => () => {},
  progressNow: () => 0,
  cancelWork: () => {},
  draw: () => new Promise(() => {}),
  forecast: () => new Promise(() => {}),
  measure: () => new Promise(() => {}),
}))

const sample = sampleJob({ picture: squarePicture(20, 5) })
const document: JobDocument = { ...sample, nodes: { ...sample.nodes, other: { ...sample.nodes.edge, name: 'other' } } }
const now = (): JobDocument => store.getState().job.document!
const cleaner = (of: string) => now().nodes[cleanerOf(now(), of)!] as CleanNode
const kinds = (of: string): string[] => cleaner(of).order.map((id) => cleaner(of).steps[id].kind)
const onNode = vi.fn()
function Stack({ node, view }: { readonly node: string; readonly view: OutlineView }) {
  const job = useSelector((state) => state.job.document)
  return job && <OutlineStack job={job} node={node} view={view} onNode={onNode} />
}
const nothing: OutlineView = { paths: [], reports: {} }
const add = async (what: string): Promise<void> => {
  await userEvent.click(screen.getByTestId('add-outline-step'))
  await userEvent.click(screen.getByTestId(what))
}
/** Opens a job whose traced edge has these steps already. @returns the node that holds them, and their ids */
function withSteps(...steps: readonly OutlineStep[]): { readonly id: string; readonly ids: readonly string[] } {
  let job = document
  const ids = steps.map((step, i) => {
    job = withOutlineStep(job, cleanerOf(job, 'clean') ? 'clean' : 'edge', step, { step: `s${i}`, node: 'clean' })
    return `s${i}`
  })
  act(() => void store.dispatch(opened({ id: `o${Math.random()}`, revision: 0, document: job, edits: [], unsent: [] })))
  return { id: 'clean', ids }
}

beforeEach(() => {
  fillBrowser()
  fakeServer({ 'GET /materials': { materials: [] }, 'GET /machines': { machines: [] } })
  onNode.mockReset()
  act(() => void store.dispatch(opened({ id: `j${Math.random()}`, revision: 0, document, edits: [], unsent: [] })))
})
afterEach(() => {
  cleanup()
  act(() => void store.dispatch(closed()))
  vi.unstubAllGlobals()
})

describe('what an outline is made of', () => {
  it('stands from its picture down, one card for each stage', () => {
    shown(<Stack node="around" view={nothing} />)
    expect(screen.getByTestId('card-trace').textContent).toBe('Trace1edge')
    expect(screen.getByTestId('card-at').textContent).toBe('At a distance2around')
  })

  it('opens one stage at a time', async () => {
    shown(<Stack node="around" view={nothing} />)
    await userEvent.click(screen.getByTestId('card-trace'))
    await userEvent.click(screen.getByTestId('card-at'))
    expect(screen.getByTestId('card-trace').getAttribute('aria-expanded')).toBe('false')
    expect(screen.getByTestId('card-at').getAttribute('aria-expanded')).toBe('true')
    expect(screen.getByRole('textbox', { name: 'Distance' })).toBeTruthy()
  })
})

describe('a step that is added', () => {
  it.each(MENU_STEPS)('of kind %s makes the cleaned outline, goes to it, and is one undo', async (kind) => {
    shown(<Stack node="edge" view={nothing} />)
    await add(`add-${kind}`)
    expect(onNode).toHaveBeenCalledOnce()
    const [made] = onNode.mock.calls[0] as [string]
    expect(now().nodes[made]).toMatchObject({ kind: 'clean', from: 'edge' })
    expect(kinds(made)).toEqual([kind])
    // What was made from the edge is made from the cleaned edge.
    expect(now().nodes.around).toMatchObject({ from: made })
    act(() => void store.dispatch(undone()))
    expect(now()).toEqual(document)
  })

  it('goes after those that are there, and the page stays where it is', async () => {
    const { id } = withSteps(newOutlineStep('specks'))
    shown(<Stack node={id} view={nothing} />)
    await add('add-simplify')
    expect(kinds(id)).toEqual(['specks', 'simplify'])
    expect(onNode).not.toHaveBeenCalled()
    expect(screen.getByRole('textbox', { name: 'Off at most' })).toBeTruthy()
  })

  it('may be an outline at a distance, or a combination with another one', async () => {
    shown(<Stack node="edge" view={nothing} />)
    await add('add-offset')
    const [offset] = onNode.mock.calls[0] as [string]
    expect(now().nodes[offset]).toMatchObject({ kind: 'offset', from: 'edge', distanceMm: 3 })
    await add('combine-other')
    const [both] = onNode.mock.calls[1] as [string]
    expect(now().nodes[both]).toMatchObject({ kind: 'combine', from: 'edge', with: 'other', op: 'subtract' })
  })
})

describe('a step that is there', () => {
  it('is left out and done again from its head', async () => {
    const { id } = withSteps(newOutlineStep('fill'))
    shown(<Stack node={id} view={nothing} />)
    await userEvent.click(screen.getByLabelText('Fill holes is done'))
    expect(cleaner(id).steps.s0.on).toBe(false)
    await userEvent.click(screen.getByLabelText('Fill holes is done'))
    expect(cleaner(id).steps.s0.on).toBe(true)
  })

  it('goes away, and the outline with the last one: the page goes to what it was made from', async () => {
    const { id } = withSteps(newOutlineStep('specks'), newOutlineStep('join'))
    shown(<Stack node={id} view={nothing} />)
    await userEvent.click(screen.getByTestId('card-join'))
    await userEvent.click(screen.getByTestId('remove-step'))
    expect(kinds(id)).toEqual(['specks'])
    expect(onNode).not.toHaveBeenCalled()
    await userEvent.click(screen.getByTestId('card-specks'))
    await userEvent.click(screen.getByTestId('remove-step'))
    expect(onNode).toHaveBeenCalledWith('edge')
    expect(now().nodes.around).toMatchObject({ from: 'edge' })
  })

  const fields: readonly (readonly [OutlineStep, string, string, Partial<Record<string, number>>])[] = [
    [newOutlineStep('specks'), 'Smaller than', '2.5', { areaMm2: 2.5 }],
    [newOutlineStep('fill'), 'Holes up to', '9', { areaMm2: 9 }],
    [newOutlineStep('join'), 'Gaps up to', '1,25', { gapMm: 1.25 }],
    [newOutlineStep('doubles'), 'Nearer than', '0.12', { withinMm: 0.12 }],
    [newOutlineStep('simplify'), 'Off at most', '0.2', { toleranceMm: 0.2 }],
  ]
  it.each(fields)('%o has its value in “%s”', async (step, label, text, change) => {
    const { id } = withSteps(step)
    shown(<Stack node={id} view={nothing} />)
    await userEvent.click(screen.getByTestId(/^card-(specks|fill|join|double|fewer)/))
    const field = screen.getByRole('textbox', { name: label })
    await userEvent.clear(field)
    await userEvent.type(field, `${text}{Enter}`)
    expect(cleaner(id).steps.s0).toEqual({ ...step, ...change })
  })
})

describe('what a step did', () => {
  const report = { removed: 12, fewerNodes: 340, offMm: 0.0421 } as OutlineView['reports'][string]
  it('stands on its card when it is known', () => {
    const { id } = withSteps(newOutlineStep('specks'), newOutlineStep('simplify'))
    const { rerender } = shown(<Stack node={id} view={nothing} />)
    expect(screen.getByTestId('card-specks').textContent).not.toContain('gone')
    cleanup()
    void rerender
    shown(<Stack node={id} view={{ paths: [], reports: { s0: report, s1: report } }} />)
    expect(screen.getByTestId('card-specks').textContent).toContain('under 1 mm² · 12 gone')
    expect(screen.getByTestId('card-fewer').textContent).toContain('340 nodes fewer · 0.042 mm off')
  })

  it('is its trouble, where it has one, and nothing else', () => {
    const trouble = { ...report, trouble: 'The stretch is not there any more.' } as typeof report
    for (const kind of MENU_STEPS)
      expect(outlineStepWords(newOutlineStep(kind), 'mm', trouble)).toBe('The stretch is not there any more.')
  })
})
