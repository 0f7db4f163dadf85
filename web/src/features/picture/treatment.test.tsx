// @vitest-environment happy-dom
// The stack of a picture: steps are added where people work with them, opened, changed, switched off and taken away; facts arrive later.
import { checkJob, type JobDocument, pictureNode, type TreatmentStep } from '@neotaxis/core'
import { sampleJob, squarePicture } from '@neotaxis/core/testing/sample-job'
import { act, cleanup, fireEvent, screen } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import fc from 'fast-check'
import { useState } from 'react'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { useSelector } from '../../store/hooks.ts'
import { closed, opened, undone } from '../../store/job-slice.ts'
import { store } from '../../store/store.ts'
import { fakeServer, fillBrowser, shown } from '../../testing/fake-server.tsx'
import type { BenchFacts } from '../../workers/shared.ts'
import { newFraming, newStep, placeOf, STEP_ORDER } from './new-steps.ts'
import { STEP_NAMES, stepWords } from './step-words.ts'
import { type Card, type Hands, TreatmentStack } from './TreatmentStack.tsx'

// A chart draws on a canvas, which is not there.
vi.mock('react-chartjs-2', () => {
  const nothing = () => null
  return { Bar: nothing, Line: nothing, Scatter: nothing, Chart: nothing }
})

const document = sampleJob({ picture: squarePicture(200, 50) })
const now = (): JobDocument => store.getState().job.document!
const dots = () => pictureNode(now(), 'dots')
const framing = () => (now().nodes.source as { framing: readonly { kind: string; on: boolean }[] }).framing
const kinds = (): string[] => dots().order.map((id) => dots().steps[id].kind)
const facts: BenchFacts = {
  columns: 100,
  rows: 100,
  coverage: 0.4,
  wantedTone: 0.4,
  haze: 0,
  histogram: new Uint32Array(256).fill(3),
  step: { before: 0.412, after: 0.287 },
  program: { lines: 1, bytes: 1 },
  depthMm: null,
}

let hands: Hands
function Stack({ facts: known }: { readonly facts?: BenchFacts }) {
  const job = useSelector((state) => state.job.document)
  const [card, setCard] = useState<Card | null>(null)
  const [held, setHeld] = useState<Hands>({ sampling: null, mask: null, keepRatio: false })
  hands = held
  return (
    job && (
      <TreatmentStack
        job={job}
        rested={job}
        node="dots"
        operationId="engrave"
        card={card}
        onCard={setCard}
        hands={held}
        onHands={(change) => setHeld((before) => ({ ...before, ...change }))}
        facts={known}
      />
    )
  )
}

beforeEach(() => {
  fillBrowser()
  fakeServer({ 'GET /treatments': { treatments: [] } })
  store.dispatch(opened({ id: `j${Math.random()}`, revision: 0, document, edits: [], unsent: [] }))
})
afterEach(() => {
  cleanup()
  act(() => void store.dispatch(closed()))
  vi.unstubAllGlobals()
})

const add = async (kind: string): Promise<void> => {
  await userEvent.click(screen.getByTestId('add-step'))
  await userEvent.click(screen.getByTestId(`add-${kind}`))
}
/** Presses the head of a card. */
const press = (name: string): Promise<void> => userEvent.click(screen.getByTestId(`card-${name.toLowerCase().split(/[ ,]/)[0]}`))

describe('a step that is added', () => {
  it('goes to its place in the order in which people work, whatever is added first', async () => {
    shown(<Stack />)
    for (const kind of ['posterise', 'levels', 'clean', 'flatten']) await add(kind)
    expect(kinds()).toEqual(['flatten', 'levels', 'clean', 'posterise'])
  })

  it('is open, and what was open before is closed', async () => {
    shown(<Stack />)
    await add('contrast')
    await add('sharpen')
    expect(screen.getByTestId('card-sharpen').getAttribute('aria-expanded')).toBe('true')
    expect(screen.getByTestId('card-brightness').getAttribute('aria-expanded')).toBe('false')
    expect(screen.queryByRole('slider', { name: 'Contrast' })).toBeNull()
  })

  it('brings a mask of its own and a brush, where it takes away what a mask covers; both go with one undo', async () => {
    shown(<Stack />)
    await add('clear')
    const [id] = dots().order
    const mask = (dots().steps[id] as { mask?: string }).mask!
    expect(dots().masks[mask]).toMatchObject({ name: 'mask 1', parts: {} })
    expect(hands.mask).toMatchObject({ tool: 'brush', add: true })
    act(() => void store.dispatch(undone()))
    expect(dots().masks).toEqual({})
    expect(dots().order).toEqual([])
  })

  it('goes to the original where it is framing, and begins inside the picture', async () => {
    shown(<Stack />)
    await add('crop')
    expect(framing()).toHaveLength(1)
    expect(framing()[0]).toMatchObject({ kind: 'crop', x: 18, y: 18, width: 264, height: 264 })
    expect(dots().order).toEqual([])
    // The next one is framed from what the first leaves.
    await add('straighten')
    expect((framing()[1] as unknown as { corners: number[] }).corners[4]).toBe(Math.round(264 * 0.92))
  })

  it('is one that a job file may hold, of every kind, in any order', () => {
    fc.assert(
      fc.property(fc.shuffledSubarray([...STEP_ORDER], { minLength: 1 }), (wanted) => {
        const order: TreatmentStep['kind'][] = []
        for (const kind of wanted) order.splice(placeOf(kind, order), 0, kind)
        expect(order).toEqual(STEP_ORDER.filter((kind) => wanted.includes(kind)))
        const steps = Object.fromEntries(order.map((kind) => [kind, newStep(kind, 'm')]))
        const masks = { m: { name: 'mask 1', feather: 0, parts: {}, order: [] } }
        const nodes = { ...document.nodes, dots: { ...pictureNode(document, 'dots'), steps, order, masks } }
        expect(() => checkJob({ ...document, nodes })).not.toThrow()
        for (const kind of order) expect(stepWords(steps[kind])).not.toBe('')
      }),
    )
  })

  it('of framing is one that a job file may hold, whatever the size of the picture', () => {
    const kinds = ['crop', 'straighten', 'turn', 'mirror'] as const
    fc.assert(
      fc.property(
        fc.constantFrom(...kinds),
        fc.integer({ min: 8, max: 9000 }),
        fc.integer({ min: 8, max: 9000 }),
        (kind, w, h) => {
          const step = newFraming(kind, { widthPx: w, heightPx: h })
          const source = { ...document.nodes.source, widthPx: w, heightPx: h, framing: [step] }
          expect(() => checkJob({ ...document, nodes: { ...document.nodes, source } })).not.toThrow()
          if (step.kind === 'crop') {
            expect(step.x + step.width).toBeLessThanOrEqual(w)
            expect(step.y + step.height).toBeLessThanOrEqual(h)
          }
        },
      ),
    )
  })
})

describe('a step that is there', () => {
  it('is left out and done again, and comes back where it was', async () => {
    shown(<Stack />)
    await add('levels')
    await add('posterise')
    const user = userEvent.setup()
    await user.click(screen.getByLabelText('Levels is done'))
    expect(Object.values(dots().steps).find(({ kind }) => kind === 'levels')?.on).toBe(false)
    expect(kinds()).toEqual(['levels', 'posterise'])
    await user.click(screen.getByLabelText('Levels is done'))
    expect(Object.values(dots().steps).every(({ on }) => on)).toBe(true)
  })

  it('goes away from its open card, and an undo brings it back with its values', async () => {
    shown(<Stack />)
    await add('posterise')
    const tones = screen.getByRole('textbox', { name: 'Tones' })
    await userEvent.clear(tones)
    await userEvent.type(tones, '7{Enter}')
    await userEvent.click(screen.getByTestId('remove-step'))
    expect(dots().order).toEqual([])
    act(() => void store.dispatch(undone()))
    expect(Object.values(dots().steps)).toMatchObject([{ kind: 'posterise', levels: 7 }])
  })

  it('says what it does in its head, in the words of its values', async () => {
    shown(<Stack />)
    await add('posterise')
    await press('Posterise')
    expect(screen.getByText('4 tones')).toBeTruthy()
  })

  it.each(STEP_ORDER.filter((kind) => !['invert', 'clear', 'curve', 'posterise', 'flatten'].includes(kind)))(
    'of kind %s is changed with its sliders: shown at once, one edit when it rests',
    async (kind) => {
      shown(<Stack />)
      await add(kind)
      const [id] = dots().order
      const before = dots().steps[id]
      const edits = store.getState().job.pending.length
      const slider = screen.getAllByRole('slider').at(-1)!
      fireEvent.change(slider, { target: { value: slider.getAttribute('max') } })
      expect(dots().steps[id]).not.toEqual(before)
      expect(store.getState().job.pending.length).toBeLessThanOrEqual(edits + 1)
      expect(screen.getByTestId(`card-${STEP_NAMES[kind].toLowerCase().split(/[ ,]/)[0]}`).textContent).toContain(
        stepWords(dots().steps[id]),
      )
    },
  )
})

describe('what is computed of a step', () => {
  it('is shown when it arrives, before and after, and not before', async () => {
    const view = shown(<Stack />)
    await add('clean')
    expect(screen.queryByTestId('step-coverage')).toBeNull()
    cleanup()
    void view
    shown(<Stack facts={facts} />)
    await press('Clean')
    expect(screen.getByTestId('step-coverage').textContent).toBe('Area with marks: 41.2 % before, 28.7 % after')
  })

  it('takes the hand off the picture when another card is opened', async () => {
    shown(<Stack facts={facts} />)
    await add('levels')
    await userEvent.click(screen.getByTestId('sample-ink'))
    expect(hands.sampling).toBe('ink')
    await userEvent.click(screen.getByTestId('sample-ink'))
    expect(hands.sampling).toBeNull()
    await userEvent.click(screen.getByTestId('sample-paper'))
    await press('Dots')
    expect(hands.sampling).toBeNull()
  })

  it('numbers the cards from top to bottom, with framing above grey and dots last', async () => {
    shown(<Stack />)
    await add('turn')
    await add('levels')
    const numbers = screen.getAllByTestId(/^card-/).map((head) => head.textContent?.match(/\d/)?.[0])
    expect(numbers).toEqual(['1', '2', '3', '4'])
    expect(screen.getByTestId('card-turn').textContent).toContain('90° clockwise')
  })
})
