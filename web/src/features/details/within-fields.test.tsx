// @vitest-environment happy-dom
// Artwork that is kept within an edge: which one is read without opening the choice; taken back, all of it is there again.
import { edgeOf, type JobDocument } from '@neotaxis/core'
import { sampleJob, squarePicture } from '@neotaxis/core/testing/sample-job'
import { act, cleanup, fireEvent, screen } from '@testing-library/react'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { useSelector } from '../../store/hooks.ts'
import { closed, opened } from '../../store/job-slice.ts'
import { store } from '../../store/store.ts'
import { fakeServer, fillBrowser, shown } from '../../testing/fake-server.tsx'
import { WithinFields } from './WithinFields.tsx'

const job = sampleJob({ picture: squarePicture(40, 5) })
const now = (): JobDocument => store.getState().job.document!

function Shown() {
  const document = useSelector((state) => state.job.document)
  return document && <WithinFields job={document} id="dots" />
}

beforeEach(() => {
  fillBrowser()
  fakeServer({ 'POST /jobs/': { status: 'saved', revision: 1, edits: [] } })
  store.dispatch(opened({ id: 'j', revision: 0, document: job, edits: [], unsent: [] }))
  shown(<Shown />)
})
afterEach(() => {
  cleanup()
  act(() => void store.dispatch(closed()))
  vi.unstubAllGlobals()
})

it('says which edge it is, how far inside, and how it fades; and lets go of it', () => {
  expect(edgeOf(now(), 'dots')).toBeUndefined()
  fireEvent.click(screen.getByTestId('keep-within'))
  expect(edgeOf(now(), 'dots')).toMatchObject({ marginMm: 2 })
  expect(screen.getByTestId('within-edge').textContent).toContain('of the workpiece')
  const fade = screen.getByRole('textbox', { name: 'Fades over' })
  fireEvent.change(fade, { target: { value: '12' } })
  fireEvent.keyDown(fade, { key: 'Enter' })
  expect(edgeOf(now(), 'dots')).toMatchObject({ marginMm: 2, fadeMm: 12 })
  fireEvent.click(screen.getByTestId('keep-whole'))
  expect(edgeOf(now(), 'dots')).toBeUndefined()
})
