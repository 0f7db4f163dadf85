// @vitest-environment happy-dom
// A workpiece that turns: chosen, measured by calliper or tape, and flat again.
import { circumferenceMm, faceSize, type JobDocument, mainPiece } from '@neotaxis/core'
import { onRectangle, sampleJob, squarePicture } from '@neotaxis/core/testing/sample-job'
import { act, screen } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { beforeEach, expect, it, vi } from 'vitest'
import { useSelector } from '../../store/hooks.ts'
import { jobOnScreen } from '../../store/job-on-screen.ts'
import { opened } from '../../store/job-slice.ts'
import { store } from '../../store/store.ts'
import { atShop } from '../../testing/at-shop.ts'
import { shown } from '../../testing/fake-server.tsx'
import { ShapeFields } from '../bar/ShapeFields.tsx'

vi.mock('../../workers/engine.ts', () => ({ onWorkerDeath: () => () => {}, fileRings: vi.fn(), outlineAsFace: vi.fn() }))
const { serve } = atShop()

function Fields() {
  const job = useSelector((state) => state.job.document) as JobDocument
  return <ShapeFields job={job} onDraw={() => {}} />
}

beforeEach(() => {
  serve({})
  const job = onRectangle(sampleJob({ picture: squarePicture(20, 5) }), { widthMm: 200, heightMm: 100 })
  act(() => void store.dispatch(opened({ id: `r${Math.random()}`, revision: 0, document: job, edits: [], unsent: [] })))
})

const choose = async (testId: string, name: RegExp): Promise<void> => {
  await userEvent.click(screen.getByTestId(testId).querySelector('[role=combobox]')!)
  await userEvent.click(await screen.findByRole('option', { name }))
}
const typed = async (label: string, text: string): Promise<void> => {
  const field = screen.getByRole('textbox', { name: label })
  await userEvent.clear(field)
  await userEvent.type(field, `${text}{Enter}`)
}
const job = () => jobOnScreen()!

it('is chosen as it is measured, and its face is once around high', async () => {
  shown(<Fields />)
  await choose('workpiece-shape', /Round, turning/)
  expect(mainPiece(job()).surface).toEqual({ kind: 'cylinder', diameterMm: 73 })
  expect(faceSize(mainPiece(job())).heightMm).toBeCloseTo(circumferenceMm(73), 3)
  expect(job().machine.turns?.device.name).toBe('Roller bed')
  await typed('Diameter', '60')
  expect(faceSize(mainPiece(job())).heightMm).toBeCloseTo(circumferenceMm(60), 3)
  await typed('Once around', '251.3')
  expect(job().machine.turns?.diameterMm).toBeCloseTo(79.99, 2)
  await typed('Length of its face', '140')
  expect(faceSize(mainPiece(job())).widthMm).toBe(140)
  expect(screen.getByText(/35.810 steps a mm/)).toBeTruthy()
  await choose('rotary-device', /Chuck/)
  expect(job().machine.turns?.device.drive.kind).toBe('chuck')
  await choose('workpiece-shape', /Rectangle/)
  expect(mainPiece(job()).surface).toEqual({ kind: 'flat' })
  expect(job().machine.turns).toBeUndefined()
  expect(job().machine.axes.y.travelMm).toBe(400)
})

it('says why a device does not hold it, and leaves it as it was', async () => {
  shown(<Fields />)
  await choose('workpiece-shape', /Round, turning/)
  await typed('Diameter', '300')
  expect((await screen.findByRole('alert')).textContent).toContain('from Ø 15 to Ø 120 mm')
  expect(job().machine.turns?.diameterMm).toBe(73)
})
