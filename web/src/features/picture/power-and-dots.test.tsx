// @vitest-environment happy-dom
// Dots, resolution and power of a picture: what belongs together is changed together, and comes later where it is worked out.
import { type JobDocument, type PictureOperation, pictureNode, preparedSize } from '@neotaxis/core'
import { sampleJob, squarePicture } from '@neotaxis/core/testing/sample-job'
import { act, cleanup, screen } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { useSelector } from '../../store/hooks.ts'
import { closed, opened, undone } from '../../store/job-slice.ts'
import { store } from '../../store/store.ts'
import { fillBrowser, shown } from '../../testing/fake-server.tsx'
import { DotsControls } from './DotsControls.tsx'
import { ReliefControls } from './ReliefControls.tsx'
import { ResolutionSheet } from './ResolutionSheet.tsx'

const { cues } = vi.hoisted(() => ({ cues: [] as ((found: unknown) => void)[] }))
vi.mock('../../workers/engine.ts', () => ({ heightCues: () => new Promise((answer) => cues.push(answer)) }))

const document = sampleJob({ picture: squarePicture(200, 50), engrave: { intervalMm: 0.1 } })
const now = (): JobDocument => store.getState().job.document!
const burn = (): PictureOperation => now().operations.engrave as PictureOperation
const dots = () => pictureNode(now(), 'dots').dots
function Shown({ part }: { readonly part: 'dots' | 'relief' | 'resolution' }) {
  const job = useSelector((state) => state.job.document)
  if (!job) return null
  const operation = job.operations.engrave as PictureOperation
  if (part === 'dots') return <DotsControls job={job} node="dots" operation={operation} />
  if (part === 'relief') return <ReliefControls job={job} id="engrave" operation={operation} />
  return <ResolutionSheet job={job} operationId="engrave" operation={operation} />
}
const type = async (label: string, text: string): Promise<void> => {
  const field = screen.getByRole('textbox', { name: label })
  await userEvent.clear(field)
  await userEvent.type(field, `${text}{Enter}`)
}

beforeEach(() => {
  fillBrowser()
  cues.length = 0
  store.dispatch(opened({ id: `d${Math.random()}`, revision: 0, document, edits: [], unsent: [] }))
})
afterEach(() => {
  cleanup()
  act(() => void store.dispatch(closed()))
  vi.unstubAllGlobals()
})

describe('dots', () => {
  const choose = async (words: string): Promise<void> => {
    await userEvent.click(screen.getByTestId('kernel').querySelector('[role=combobox]')!)
    await userEvent.click(await screen.findByRole('option', { name: words }))
  }

  it('have what belongs to their kind: rows there and back, a ruling and an angle, or nothing', async () => {
    shown(<Shown part="dots" />)
    await choose('Stucki')
    await userEvent.click(screen.getByLabelText('Rows there and back'))
    expect(dots()).toMatchObject({ kernel: 'stucki', serpentine: !pictureNode(document, 'dots').dots.serpentine })
    expect(screen.queryByRole('slider', { name: 'Ruling' })).toBeNull()
    await choose('Clustered dot')
    expect(screen.queryByLabelText('Rows there and back')).toBeNull()
    expect(screen.getByRole('slider', { name: 'Ruling' })).toBeTruthy()
    await choose('Grey as power')
    expect(screen.queryByRole('slider', { name: 'Ruling' })).toBeNull()
  })

  it('as prepared: one pixel is one dot, in the same middle, and one undo brings the size back', async () => {
    shown(<Shown part="dots" />)
    await userEvent.click(screen.getByLabelText('As prepared: one pixel, one dot'))
    const place = now().placements.source
    expect(place).toMatchObject(preparedSize(now(), 'dots', burn().intervalMm))
    expect(place.widthMm).toBeCloseTo(30, 6)
    const before = document.placements.source
    expect(place.xMm + place.widthMm / 2).toBeCloseTo(before.xMm + before.widthMm / 2, 3)
    expect(place.yMm + place.heightMm / 2).toBeCloseTo(before.yMm + before.heightMm / 2, 3)
    act(() => void store.dispatch(undone()))
    expect(now()).toEqual(document)
  })
})

describe('resolution', () => {
  it('is an interval or dots an inch, and power follows so that the dose stays', async () => {
    shown(<Shown part="resolution" />)
    await userEvent.click(screen.getByTestId('resolution'))
    await type('Interval', '0.05')
    const dose = ({ power, intervalMm, speedMmS }: PictureOperation): number => power / (intervalMm * speedMmS)
    expect(burn().intervalMm).toBe(0.05)
    expect(dose(burn())).toBeCloseTo(dose(document.operations.engrave as PictureOperation), 3)
    await userEvent.click(screen.getByLabelText('Keep the dose: power follows'))
    const { power } = burn()
    await type('Dots an inch', '254')
    expect(burn()).toMatchObject({ intervalMm: 0.1, power })
  })
})

describe('grey as power', () => {
  it('never has a weakest mark over the strongest', async () => {
    shown(<Shown part="relief" />)
    await type('Weakest', '20')
    await type('Strongest', '15')
    expect(burn()).toMatchObject({ power: 0.15, minPower: 0.15 })
    await type('Weakest', '40')
    expect(screen.getByRole('alert').textContent).toContain('Weakest goes from')
    expect(burn().minPower).toBe(0.15)
  })

  it('has a share of power for each pass: those that go take theirs along', async () => {
    shown(<Shown part="relief" />)
    await type('Passes', '3')
    await type('Pass 3', '40')
    expect(burn()).toMatchObject({ passes: 3, passPowers: [1, 1, 0.4] })
    await type('Passes', '2')
    expect(burn()).toMatchObject({ passes: 2, passPowers: [1, 1] })
    expect(screen.queryByRole('textbox', { name: 'Pass 3' })).toBeNull()
  })

  it('says what speaks for a height map when that is known', async () => {
    shown(<Shown part="relief" />)
    expect(screen.queryByTestId('height-cues')).toBeNull()
    await act(async () => cues[0]({ likely: false, reasons: ['it has sharp edges', 'few greys'] }))
    expect(screen.getByTestId('height-cues').textContent).toBe(
      'This does not look like a height map: it has sharp edges; few greys.',
    )
  })
})
