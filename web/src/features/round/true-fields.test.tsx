// @vitest-environment happy-dom
// Faces that taper or curve: artwork true to its shape there, and a radius measured at three places.
import { type JobDocument, mainPiece, placeOf, ROTARIES, sagittaMm, withArch, withRound } from '@neotaxis/core'
import { sampleJob, squarePicture } from '@neotaxis/core/testing/sample-job'
import { act, fireEvent, screen } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { beforeEach, expect, it, vi } from 'vitest'
import { useSelector } from '../../store/hooks.ts'
import { jobOnScreen } from '../../store/job-on-screen.ts'
import { opened } from '../../store/job-slice.ts'
import { store } from '../../store/store.ts'
import { atShop } from '../../testing/at-shop.ts'
import { shown } from '../../testing/fake-server.tsx'
import { ArchFields } from '../bar/ArchFields.tsx'
import { TrueFields } from './TrueFields.tsx'

vi.mock('../../workers/engine.ts', () => ({ onWorkerDeath: () => () => {} }))
const { serve } = atShop()
const flat = sampleJob({ picture: squarePicture(40, 0), widthMm: 40 })
const now = (): JobDocument => jobOnScreen()!

function Fields() {
  const job = useSelector((state) => state.job.document) as JobDocument
  return (
    <>
      <TrueFields job={job} node="source" />
      {mainPiece(job).surface.kind === 'flat' && <ArchFields job={job} />}
    </>
  )
}
function open(document: JobDocument): void {
  act(() => void store.dispatch(opened({ id: `a${Math.random()}`, revision: 0, document, edits: [], unsent: [] })))
  shown(<Fields />)
}

beforeEach(() => serve({}))

it('offers nothing where a face is flat', () => {
  open(flat)
  expect(screen.queryByTestId('true-to-face')).toBeNull()
})

it('keeps the shape of artwork on a taper, and lets it follow again', () => {
  open(withRound(flat, ROTARIES.chuck, { leftMm: 40, rightMm: 60 }, 120))
  expect(screen.getByText(/drawn as at Ø 60 mm/)).toBeTruthy()
  fireEvent.click(screen.getByLabelText('True to shape on the taper'))
  expect(placeOf(now(), 'source').trueToFace).toBe(true)
  fireEvent.click(screen.getByLabelText('True to shape on the taper'))
  expect(placeOf(now(), 'source').trueToFace).toBeUndefined()
})

it('keeps its size on a curve, whose radius three heights tell, tilted or not', async () => {
  const user = userEvent.setup()
  open(withArch(flat, { across: 'x', radiusMm: 600 }))
  fireEvent.click(screen.getByLabelText('True to size on the curve'))
  expect(placeOf(now(), 'source').trueToFace).toBe(true)
  fireEvent.click(screen.getByTestId('three-heights'))
  // Over 300 mm it stands 30 mm over its edges; one of them is 20 mm higher than the other: it lies tilted.
  for (const [label, mm] of [
    ['Height in the middle', '40'],
    ['Height at the other edge', '20'],
  ] as const) {
    await user.clear(screen.getByLabelText(label))
    await user.type(screen.getByLabelText(label), `${mm}{Enter}`)
  }
  const { surface } = mainPiece(now())
  const radius = surface.kind === 'flat' ? (surface.arch?.radiusMm ?? 0) : 0
  expect(radius).toBeCloseTo(392.4, 1)
  expect(sagittaMm(radius, 150)).toBeCloseTo(30, 0)
})
