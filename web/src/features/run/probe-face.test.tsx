// @vitest-environment happy-dom
// An uneven face is probed place by place; where Stop ends it, nothing is changed.
import { type JobDocument, mainPiece, withArch, withHeights } from '@neotaxis/core'
import { sampleJob, squarePicture } from '@neotaxis/core/testing/sample-job'
import { act, cleanup, fireEvent, screen, waitFor } from '@testing-library/react'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { useSelector } from '../../store/hooks.ts'
import { jobOnScreen } from '../../store/job-on-screen.ts'
import { closed, opened } from '../../store/job-slice.ts'
import { store } from '../../store/store.ts'
import { type Asked, fakeServer, fillBrowser, forgetShop, shown } from '../../testing/fake-server.tsx'
import { UnevenFields } from '../bar/UnevenFields.tsx'
import { ProbeFace } from './ProbeFace.tsx'

const flat = sampleJob({ picture: squarePicture(20, 5) })
let asked: Asked[]
let touch: () => unknown

function Page() {
  const job = useSelector((state) => state.job.document) as JobDocument
  const { surface } = mainPiece(job)
  if (surface.kind !== 'flat') return null
  return (
    <>
      <UnevenFields job={job} surface={surface} />
      {surface.heights && <ProbeFace job={job} heights={surface.heights} canMove />}
    </>
  )
}

beforeEach(() => {
  fillBrowser()
  forgetShop()
  asked = fakeServer({ 'POST /machines/bench-60/go': undefined, 'POST /machines/bench-60/probe': () => touch() })
  store.dispatch(
    opened({
      id: 'j',
      revision: 0,
      document: withHeights(flat, { columns: 3, rows: 2, mm: [0, 0, 0, 0, 0, 0] }),
      edits: [],
      unsent: [],
    }),
  )
  shown(<Page />)
})
afterEach(() => {
  cleanup()
  store.dispatch(closed())
  vi.unstubAllGlobals()
})

const surface = () => mainPiece(jobOnScreen()!).surface

it('is switched on with a grid, probed there and back, and as thick as its highest place', async () => {
  let k = 0
  touch = () => ({ thicknessMm: [3, 3.4, 2.9, 0, 3.1, 3.2][k++] })
  expect(screen.getByTestId('heights').textContent).toContain('Not measured yet')
  await act(async () => void fireEvent.click(screen.getByTestId('probe-face')))
  await waitFor(() => expect(screen.getByTestId('face-probed').textContent).toContain('3.40 mm thick'))
  // The second row goes back: its places come in the order 5, 4, 3; one of them lies beside the piece.
  expect(surface()).toEqual({ kind: 'flat', heights: { columns: 3, rows: 2, mm: [-0.4, 0, -0.5, -0.2, -0.3, -0.5] } })
  expect(mainPiece(jobOnScreen()!).thicknessMm).toBe(3.4)
  const ways = asked.filter(({ path }) => path.endsWith('/go')).map(({ body }) => body as { x: number; y: number })
  expect(ways).toHaveLength(6)
  // 300 × 200 mm at 150, 100 mm of a bed that is counted from its front: 3 mm inside.
  expect(ways[0]).toMatchObject({ x: 153, y: 297 })
  expect(ways[3]).toMatchObject({ x: 447, y: 103 })
  expect(screen.getByTestId('heights').textContent).toContain('0.50 mm under its highest')
  fireEvent.click(screen.getByLabelText('The lens follows its face'))
  expect(surface()).toMatchObject({ follows: true })
  fireEvent.click(screen.getByLabelText('Its face is uneven'))
  expect(surface()).toEqual({ kind: 'flat', follows: true })
})

it('keeps what it has where the machine was stopped on the way', async () => {
  const before = surface()
  let k = 0
  touch = () => {
    if (k++ === 2) throw new Error('It was stopped.')
    return { thicknessMm: 3 }
  }
  await act(async () => void fireEvent.click(screen.getByTestId('probe-face')))
  await waitFor(() => expect(asked.filter(({ path }) => path.endsWith('/probe'))).toHaveLength(3))
  expect(surface()).toEqual(before)
})

it('is burned in strips where it is curved and the machine does not move its lens, and not otherwise', () => {
  const show = (change: (job: JobDocument) => JobDocument): void =>
    act(() => {
      store.dispatch(opened({ id: 'j', revision: 0, document: change(flat), edits: [], unsent: [] }))
    })
  const arched = (job: JobDocument): JobDocument => withArch(job, { radiusMm: 300, across: 'x' })
  show(arched)
  expect(screen.queryByTestId('in-strips')).toBeNull()
  show((job) => {
    const { z: _, ...axes } = job.machine.axes
    return arched({ ...job, machine: { ...job.machine, axes } })
  })
  fireEvent.click(screen.getByLabelText('In strips, with a pause for each focus'))
  expect(surface()).toMatchObject({ strips: true })
  fireEvent.click(screen.getByLabelText('In strips, with a pause for each focus'))
  expect(surface()).toEqual({ kind: 'flat', arch: { radiusMm: 300, across: 'x' } })
})

it('takes its heights from a table of a gauge, and says of one that is none what is wrong', async () => {
  const give = (text: string) =>
    act(
      async () =>
        void fireEvent.change(screen.getByTestId('heights-file'), { target: { files: [new File([text], 'slab.csv')] } }),
    )
  await give('12,5;12,4;12\n12;11,9;high')
  expect((await screen.findByRole('alert')).textContent).toBe('Row 2, place 3: “high” is no height in mm.')
  expect(surface()).toMatchObject({ heights: { columns: 3, rows: 2, mm: [0, 0, 0, 0, 0, 0] } })
  await give('12,5;12,4\n12;11,9\n12;12')
  await waitFor(() =>
    expect(surface()).toMatchObject({ heights: { columns: 2, rows: 3, mm: [0, -0.1, -0.5, -0.6, -0.5, -0.5] } }),
  )
  expect(mainPiece(jobOnScreen()!).thicknessMm).toBe(12.5)
  expect(screen.queryByRole('alert')).toBeNull()
  expect(screen.getByTestId('heights').textContent).toContain('its lowest place lies 0.60 mm under its highest')
})
