// @vitest-environment happy-dom
// Slots of a card, measured with the camera at the head: from cell to cell; where none shows its slot, that is told.
import type { MachineCamera } from '@neotaxis/contract'
import {
  type Calibration,
  type Camera,
  faceSize,
  type JobDocument,
  MACHINES,
  MATERIALS,
  mainPiece,
  mapped,
  middleOf,
  poseMap,
  slotPlaces,
  trialCard,
  withPiece,
} from '@neotaxis/core'
import { act, cleanup, fireEvent, screen, waitFor } from '@testing-library/react'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { useSelector } from '../../store/hooks.ts'
import { closed, opened } from '../../store/job-slice.ts'
import { store } from '../../store/store.ts'
import { fakeServer, fillBrowser, shown } from '../../testing/fake-server.tsx'
import { MeasureBench } from './MeasureBench.tsx'

type Point = readonly [number, number]
const work = vi.hoisted(() => ({ nearSlot: vi.fn() }))
const near = vi.hoisted(() => ({ photo: vi.fn() }))
vi.mock('../camera/camera-work.ts', () => ({ cameraWork: () => work, codeIn: () => undefined, endCameraWork: () => {} }))
vi.mock('../camera/near-photo.ts', () => ({ nearPhoto: near.photo }))
vi.mock('../../workers/engine.ts', () => ({ onWorkerDeath: () => () => {}, progressNow: () => 0, cancelWork: () => {} }))
vi.mock('react-chartjs-2', () => ({ Scatter: () => null }))

const camera: Camera = {
  widthPx: 1296,
  heightPx: 972,
  focalPx: 2460,
  axisPx: [650, 484],
  lens: { kind: 'brown', k1: -0.2, k2: 0, p1: 0, p2: 0 },
  turn: [0, 0, 0],
  shift: [-39, 5, 60],
}
const atHead = (calibration: Calibration | null): MachineCamera => ({
  address: 'http://127.0.0.1:1/photo.jpg',
  simulated: true,
  calibration,
  calibratedAt: calibration && '2026-10-01T10:00:00.000Z',
  empty: null,
  emptyAt: null,
})
const { job: straight } = trialCard(
  { process: 'cut', isFor: 'cut', across: { setting: 'speedMmS', values: [6, 9, 12] }, settings: { kerfMm: 0 } },
  { material: MATERIALS[0], machine: MACHINES[0], workpiece: { widthMm: 120, heightMm: 60, thicknessMm: 3 } },
)
const turned = withPiece(straight, { pose: { xMm: 200, yMm: 120, deg: 90 } })
const now = (): JobDocument => store.getState().job.document!

function Shown() {
  const job = useSelector((state) => state.job.document)
  return job && <MeasureBench job={job} />
}
function show(calibration: Calibration | null): void {
  fakeServer({
    'GET /materials': { materials: MATERIALS },
    'GET /machines': { machines: MACHINES },
    'GET /machines/bench-60/camera': { camera: null },
    'GET /machines/bench-60@head/camera': { camera: atHead(calibration) },
    'GET /machines/bench-60%40head/camera': { camera: atHead(calibration) },
    'POST /jobs/': { status: 'saved', revision: 1, edits: [] },
  })
  store.dispatch(opened({ id: `j${Math.random()}`, revision: 0, document: turned, edits: [], unsent: [] }))
  shown(<Shown />)
}

beforeEach(() => {
  fillBrowser()
  near.photo.mockReset()
  work.nearSlot.mockReset()
  // The head stops a hair beside where it was sent.
  near.photo.mockImplementation(async (_machine: unknown, [x, y]: Point) => ({ head: [x + 0.01, y - 0.02], size: camera }))
})
afterEach(() => {
  cleanup()
  act(() => void store.dispatch(closed()))
  vi.unstubAllGlobals()
})

it('the places of its slots turn with the card: the middle of the front side of each cell', () => {
  const places = slotPlaces(turned)
  const map = poseMap(mainPiece(turned).pose, faceSize(mainPiece(turned)))
  for (const { cell, at, along } of places) {
    const { xMm, yMm, widthMm, heightMm } = turned.placements[turned.operations[cell].at?.[0] ?? cell]
    const wanted = mapped(map, xMm + widthMm / 2, yMm + heightMm)
    expect(Math.hypot(at[0] - wanted[0], at[1] - wanted[1])).toBeLessThan(1e-9)
    expect([Math.round(along[0]), Math.round(along[1])]).toEqual([0, 1])
  }
  expect(places).toHaveLength(3)
})

it('each is gone to and looked at where the head stood; what shows none is told and keeps nothing', async () => {
  const widths = [0.2112, undefined, 0.1904]
  work.nearSlot.mockImplementation(async () => {
    const widthMm = widths[near.photo.mock.calls.length - 1]
    return widthMm === undefined ? undefined : { widthMm, spreadMm: 0.002 }
  })
  show({ camera, p95Mm: 0.01 } as Calibration)
  const button = await screen.findByTestId('read-slots')
  await waitFor(() => expect((button as HTMLButtonElement).disabled).toBe(false))
  await act(async () => void fireEvent.click(button))
  expect(await screen.findByText(/Measured: 2 slots. Not seen: 1/)).toBeTruthy()
  expect(Object.values(now().trial!.readings!)).toEqual([{ kerf: [0.211] }, { kerf: [0.19] }])
  const [mx, my] = middleOf(camera)
  slotPlaces(turned).forEach(({ at }, i) => {
    const [, sent, lens] = near.photo.mock.calls[i]
    expect(Math.hypot(sent[0] + mx - at[0], sent[1] + my - at[1])).toBeLessThan(1e-9)
    expect(lens).toBe(3)
    const [, seen] = work.nearSlot.mock.calls[i] as [Camera, Point]
    expect(seen[0]).toBeCloseTo(mx - 0.01, 9)
    expect(seen[1]).toBeCloseTo(my + 0.02, 9)
  })
})

it('waits for its calibration', async () => {
  show(null)
  expect(((await screen.findByTestId('read-slots')) as HTMLButtonElement).disabled).toBe(true)
})
