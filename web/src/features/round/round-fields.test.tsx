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

it('tapers where somebody says so: by both ends, by side or height, with the tilt that levels it; its ends are named', async () => {
  shown(<Fields />)
  await choose('workpiece-shape', /Round, turning/)
  await choose('rotary-device', /Chuck/)
  await typed('Length of its face', '100')
  await choose('side', /tapered/)
  expect(mainPiece(job()).surface).toMatchObject({ kind: 'cone', leftMm: 73, rightMm: 54.75 })
  await typed('Diameter at the left', '80')
  await typed('Diameter at the right', '60')
  expect(mainPiece(job()).surface).toMatchObject({ leftMm: 80, rightMm: 60 })
  expect(faceSize(mainPiece(job()))).toMatchObject({ widthMm: 100, heightMm: expect.closeTo(circumferenceMm(80), 3) })
  // sin α = 10 / 100; the height of a side of 100 mm is 99.5 mm.
  expect(screen.getByText(/Tilt it by 5.7°/)).toBeTruthy()
  await typed('Height', '120')
  expect(faceSize(mainPiece(job())).widthMm).toBeCloseTo(Math.hypot(120, 10), 3)
  await typed('Diameter at the right', '80')
  expect((await screen.findByRole('alert')).textContent).toContain('it is a cylinder')
  await choose('lip', /at the left/)
  await choose('held', /at the right/)
  expect(mainPiece(job()).surface).toMatchObject({ lip: 'left', held: 'right' })
  await choose('side', /straight/)
  expect(mainPiece(job()).surface).toMatchObject({ kind: 'cylinder', diameterMm: 80, lip: 'left' })
})

it('is stepped or bellied where somebody measures it from place to place', async () => {
  shown(<Fields />)
  await choose('workpiece-shape', /Round, turning/)
  await choose('rotary-device', /Chuck/)
  await typed('Length of its face', '100')
  await choose('side', /stepped or bellied/)
  await userEvent.click(screen.getByTestId('add-diameter'))
  const middle = () => screen.getAllByRole('textbox', { name: 'Ø' })[1]
  await userEvent.clear(middle())
  await userEvent.type(middle(), '90{Enter}')
  expect(mainPiece(job()).surface).toEqual({
    kind: 'profile',
    places: [
      { alongMm: 0, diameterMm: 73 },
      { alongMm: 50, diameterMm: 90 },
      { alongMm: 100, diameterMm: 54.75 },
    ],
  })
  expect(faceSize(mainPiece(job())).heightMm).toBeCloseTo(circumferenceMm(90), 3)
  await userEvent.click(screen.getByRole('button', { name: 'Take diameter 2 away' }))
  expect(faceSize(mainPiece(job())).heightMm).toBeCloseTo(circumferenceMm(73), 3)
})

it('is curved under the head where somebody says so: by its crown or its radius, either way', async () => {
  shown(<Fields />)
  await userEvent.click(screen.getByRole('switch', { name: 'Its face is curved' }))
  // 200 mm wide, a twentieth of that higher in the middle.
  expect(mainPiece(job()).surface).toEqual({ kind: 'flat', arch: { across: 'x', radiusMm: 505 } })
  await typed('Crown over its edges', '20')
  expect(mainPiece(job()).surface).toMatchObject({ arch: { radiusMm: 260 } })
  await typed('Radius', '300')
  expect(mainPiece(job()).surface).toMatchObject({ arch: { radiusMm: 300 } })
  expect(screen.getByText(/Sharp 48\.\d mm to each side of its crown/)).toBeTruthy()
  await userEvent.click(screen.getByRole('combobox', { name: 'It falls away' }))
  await userEvent.click(await screen.findByRole('option', { name: 'from rear to front' }))
  expect(mainPiece(job()).surface).toMatchObject({ arch: { across: 'y' } })
  await userEvent.click(screen.getByRole('switch', { name: 'Its face is curved' }))
  expect(mainPiece(job()).surface).toEqual({ kind: 'flat' })
})
