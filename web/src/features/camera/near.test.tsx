// @vitest-environment happy-dom
// The camera at the head: measured by one dot, sent to the marks of a workpiece; and blanks that are corrected by hand.
import type { MachineCamera } from '@neotaxis/contract'
import {
  type Camera,
  closeCamera,
  edgeNodes,
  faceSize,
  type HeadSight,
  MACHINES,
  mainPiece,
  mapped,
  middleOf,
  pathFromRing,
  poseMap,
  sightOf,
  type Workpiece,
} from '@neotaxis/core'
import { sampleJob, squarePicture } from '@neotaxis/core/testing/sample-job'
import { act, screen } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import type { Spot } from '../../stage/tool.ts'
import { atShop } from '../../testing/at-shop.ts'
import { restingDesk, shown, tellDesks } from '../../testing/fake-server.tsx'
import { CloseCamera } from '../machines/CloseCamera.tsx'
import { FindPiece } from '../run/FindPiece.tsx'
import {
  type BedPhoto,
  chooseBlanks,
  lookForBlanks,
  photographBed,
  putPhotoAway,
  takeHand,
  uncorrect,
  useBedPhoto,
} from './bed-photo.ts'
import { blankTool } from './blank-tool.ts'

type Point = readonly [number, number]

const work = vi.hoisted(() => ({
  take: vi.fn(),
  bed: vi.fn(),
  blanks: vi.fn(),
  code: vi.fn(),
  marks: vi.fn(),
  loneMark: vi.fn(),
  closeCamera: vi.fn(),
  nearMark: vi.fn(),
  nearCorner: vi.fn(),
}))
const near = vi.hoisted(() => ({ photo: vi.fn() }))
vi.mock('./camera-work.ts', () => ({ cameraWork: () => work, codeIn: () => work.code(), endCameraWork: () => {} }))
vi.mock('./near-photo.ts', () => ({ nearPhoto: near.photo }))
vi.mock('../../workers/engine.ts', () => ({ onWorkerDeath: () => () => {} }))

const SIZE = { widthPx: 1296, heightPx: 972 }
/** How it hangs, which nobody on the page knows. */
const truth: Camera = {
  ...SIZE,
  focalPx: 2460,
  axisPx: [650, 484],
  lens: { kind: 'brown', k1: -0.2, k2: 0, p1: 0, p2: 0 },
  turn: [0.004, -0.003, 0.02],
  shift: [-39, 5, 60],
}
const machine = MACHINES[0]
const camera: MachineCamera = {
  address: 'http://127.0.0.1:1/photo.jpg',
  simulated: false,
  calibration: null,
  calibratedAt: null,
  empty: null,
  emptyAt: null,
}
const AT = `/machines/${machine.id}%40head/camera`
const { serve, sent } = atShop()
let head: Point = [0, 0]

beforeEach(() => {
  for (const each of [...Object.values(work), near.photo]) each.mockReset()
  near.photo.mockImplementation(async (_machine: unknown, place: Point) => {
    head = place
    return { head, size: SIZE }
  })
  work.closeCamera.mockImplementation(async (size: typeof SIZE, sights: readonly HeadSight[], mark: Point) =>
    closeCamera(size, sights, mark),
  )
})

describe('the camera at the head', () => {
  const mark: Point = [machine.axes.x.travelMm / 2, machine.axes.y.travelMm / 2]
  const show = async (): Promise<ReturnType<typeof userEvent.setup>> => {
    serve({ [`GET ${AT}`]: { camera }, [`PUT ${AT}`]: { camera } })
    tellDesks({ ...restingDesk, machine: machine.id })
    shown(<CloseCamera machine={machine} />)
    const user = userEvent.setup()
    await user.click(await screen.findByTestId('measure-close'))
    return user
  }

  it('is measured by one dot that it sees from many places, and kept when it was looked at', async () => {
    work.loneMark.mockImplementation(async () => {
      const [u, v] = sightOf(truth).seen(mark[0] - head[0], mark[1] - head[1], 0)!
      return { u, v }
    })
    const user = await show()
    await user.click(screen.getByTestId('look-close'))
    await user.click(await screen.findByTestId('keep-close', undefined, { timeout: 20_000 }))
    expect(near.photo.mock.calls.length).toBe(38)
    const { calibration } = sent()[0].body as { calibration: { camera: Camera; p95Mm: number } }
    expect(calibration.p95Mm).toBeLessThan(0.001)
    const [found, really] = [middleOf(calibration.camera), middleOf(truth)]
    expect(found[0]).toBeCloseTo(really[0], 2)
    expect(found[1]).toBeCloseTo(really[1], 2)
  }, 40_000)

  it('keeps what was known where it sees something else than the dot', async () => {
    // Something that does not go as the head goes.
    work.loneMark.mockResolvedValueOnce({ u: 600, v: 480 })
    work.loneMark.mockResolvedValueOnce({ u: 480, v: 470 })
    work.loneMark.mockResolvedValueOnce({ u: 500, v: 100 })
    const user = await show()
    await user.click(screen.getByTestId('look-close'))
    expect((await screen.findByTestId('close-trouble')).textContent).toContain('more than one dark mark')
    work.loneMark.mockRejectedValue(new Error('No mark is seen under the camera at the head.'))
    await user.click(screen.getByTestId('look-close'))
    expect((await screen.findByText(/No mark is seen/)).textContent).toBeTruthy()
    expect(sent()).toEqual([])
  })

  it('goes to the marks of a workpiece, tells what it did not see, and how large the print came out', async () => {
    const sample = sampleJob({ picture: squarePicture(20, 5) })
    const id = Object.keys(sample.workpieces)[0]
    const marks = { a: { xMm: 5, yMm: 5 }, b: { xMm: 45, yMm: 5 }, c: { xMm: 45, yMm: 35 }, d: { xMm: 5, yMm: 35 } }
    const piece: Workpiece = {
      ...mainPiece(sample),
      outline: { kind: 'rect', widthMm: 60, heightMm: 50 },
      marks,
      pose: { xMm: 100, yMm: 80 },
    }
    const job = { ...sample, machine, workpieces: { [id]: piece } }
    /** Where the marks really lie: 1 % larger, and turned. */
    const map = poseMap({ xMm: 101, yMm: 79.5, deg: 1.5 }, faceSize(piece))
    const places = Object.values(marks).map(({ xMm, yMm }) => mapped(map, 1.01 * xMm, 1.01 * yMm))
    let hidden: number | undefined = 3
    work.nearMark.mockImplementation(async (_camera: unknown, expected: Point) => {
      const k = places.findIndex(([x, y]) => Math.hypot(x - head[0] - expected[0], y - head[1] - expected[1]) < 7)
      return k < 0 || k === hidden ? undefined : [places[k][0] - head[0], places[k][1] - head[1]]
    })
    const calibration = {
      camera: truth,
      rmsMm: 0.004,
      p95Mm: 0.008,
      worst: { mm: 0.01, x: 1, y: 1 },
      spots: 38,
      heights: [0],
      errors: [],
    }
    serve({ [`GET ${AT}`]: { camera: { ...camera, calibration } }, [`GET /machines/${machine.id}/camera`]: { camera: null } })
    shown(<FindPiece job={job} onBed={[0, 0]} />)
    const user = userEvent.setup()
    await user.click(screen.getByTestId('find-piece'))
    await user.click(await screen.findByTestId('find-near'))
    expect((await screen.findByRole('alert')).textContent).toContain('Place 4 is not seen')
    expect((await screen.findByTestId('print-larger')).textContent).toContain('1.00 % larger')
    hidden = undefined
    await user.click(screen.getByTestId('find-near'))
    expect((await screen.findByTestId('found-piece')).textContent).toContain('turned by 1.50°')
    // Corners are not gone to where there are marks.
    expect(work.nearCorner).not.toHaveBeenCalled()
  })
})

describe('a blank that was found', () => {
  const job = sampleJob({ picture: squarePicture(20, 5) })
  let now: BedPhoto
  function Reading() {
    const { photo } = useBedPhoto()
    if (photo) now = photo
    return null
  }
  const spot = (x: number, y: number): Spot => ({
    x,
    y,
    px: 0,
    py: 0,
    scale: 3,
    shift: false,
    alt: false,
    ctrl: false,
    touch: false,
  })
  const at = { map: [1, 0, 0, 1, 0, 0] } as never

  beforeEach(async () => {
    const calibration = {
      camera: truth,
      rmsMm: 0,
      p95Mm: 0.05,
      worst: { mm: 0, x: 0, y: 0 },
      spots: 40,
      heights: [0],
      errors: [],
    }
    serve({ 'GET /machines': { camera: { ...camera, calibration } }, 'POST /machines': {} })
    work.take.mockResolvedValue(SIZE)
    work.bed.mockResolvedValue({ close: () => {} })
    const edge = pathFromRing(Float64Array.of(100, 80, 220, 80, 220, 140, 100, 140))
    work.blanks.mockResolvedValue([{ edge, holes: [], areaMm2: 7200, cutOff: false, faint: 0 }])
    shown(<Reading />)
    await act(async () => void (await photographBed(job)))
    await act(async () => lookForBlanks(3))
    act(() => chooseBlanks([0]))
  })
  afterEach(() => act(() => putPhotoAway()))

  it('is corrected by its nodes, and as it was again', () => {
    act(() => takeHand('nodes'))
    const [first] = blankTool(now).grips!
    expect(first.at).toEqual([100, 80])
    const hold = first.hold(spot(100, 80))
    act(() => hold.move!(spot(90, 75), { dx: -10, dy: -5 }))
    act(() => hold.end!(spot(90, 75), true))
    expect(edgeNodes(now.blanks[0].seen.edge)[0]).toEqual([90, 75])
    expect(now.blanks[0].piece.outline.kind).toBe('rings')
    act(() => blankTool(now).grips![0].nudge!(1, 0, true))
    expect(edgeNodes(now.blanks[0].seen.edge)[0][0]).toBeCloseTo(91, 9)
    act(() => blankTool(now).grips![1].remove!())
    expect(edgeNodes(now.blanks[0].seen.edge)).toHaveLength(3)
    for (let i = 0; i < 3; i++) act(() => uncorrect())
    expect(now.blanks[0].piece.outline).toMatchObject({ kind: 'rect', widthMm: expect.closeTo(120, 1) })
    expect(now.before).toEqual([])
  })

  it('is corrected by painting: a hole in its middle, and a strip beside it', () => {
    act(() => takeHand('take'))
    const hole = blankTool(now).press!(spot(150, 110), at)!
    act(() => hole.move!(spot(160, 110), { dx: 10, dy: 0 }))
    expect(now.stroke?.halfMm).toBe(3)
    act(() => hole.end!(spot(160, 110), true))
    expect(Object.keys(now.blanks[0].piece.keepOuts)).toHaveLength(1)
    expect(now.stroke).toBeUndefined()
    act(() => takeHand('add'))
    const strip = blankTool(now).press!(spot(215, 110), at)!
    act(() => strip.move!(spot(240, 110), { dx: 25, dy: 0 }))
    act(() => strip.end!(spot(240, 110), true))
    expect(now.blanks[0].seen.areaMm2).toBeGreaterThan(7200)
    // Given up, nothing changes.
    const before = now.blanks
    const given = blankTool(now).press!(spot(150, 90), at)!
    act(() => given.cancel!())
    expect(now.blanks).toBe(before)
    act(() => takeHand('choose'))
    expect(blankTool(now).name).toBe('blanks')
  })
})
