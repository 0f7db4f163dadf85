// @vitest-environment happy-dom
// The camera on the page: calibrated step by step, its photo under the job, what was found in it taken as workpieces.
import type { MachineCamera } from '@neotaxis/contract'
import {
  type Calibration,
  MACHINES,
  mainPiece,
  mainPieceId,
  pathFromRing,
  ROTARIES,
  type SeenBlank,
  withRound,
} from '@neotaxis/core'
import { sampleJob, squarePicture } from '@neotaxis/core/testing/sample-job'
import { act, screen, waitFor } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { jobOnScreen } from '../../store/job-on-screen.ts'
import { opened } from '../../store/job-slice.ts'
import { store } from '../../store/store.ts'
import { atShop } from '../../testing/at-shop.ts'
import { shown } from '../../testing/fake-server.tsx'
import { runCommand } from '../bar/commands.ts'
import { CameraCard } from '../machines/CameraCard.tsx'
import { lookForBlanks, photographBed, putPhotoAway } from './bed-photo.ts'
import { PhotoBar } from './PhotoBar.tsx'
import { agoOf } from './photo-words.ts'

const work = vi.hoisted(() => ({
  take: vi.fn(),
  bed: vi.fn(),
  board: vi.fn(),
  calibrate: vi.fn(),
  marks: vi.fn(),
  blanks: vi.fn(),
  code: vi.fn(),
}))
// What looks at photos is tested on its own.
vi.mock('./camera-work.ts', () => ({ cameraWork: () => work, codeIn: () => work.code(), endCameraWork: () => {} }))
vi.mock('../../workers/engine.ts', () => ({ onWorkerDeath: () => () => {} }))

const calibration: Calibration = {
  camera: {
    widthPx: 800,
    heightPx: 600,
    focalPx: 700,
    axisPx: [400, 300],
    lens: { kind: 'brown', k1: -0.2, k2: 0.05, p1: 0, p2: 0 },
    turn: [0, 0, 0],
    shift: [-300, -200, 600],
  },
  rmsMm: 0.03,
  p95Mm: 0.06,
  worst: { mm: 0.1, x: 20, y: 20 },
  spots: 494,
  heights: [0.3, 15],
  errors: Array.from({ length: 13 * 9 }, (_, i) => ({ x: 50 * (i % 13), y: 50 * Math.floor(i / 13), mm: 0.04 })),
  fixed: [
    [-15, -15],
    [615, -15],
  ],
}
const bare: MachineCamera = {
  address: 'http://127.0.0.1:1/photo.jpg',
  simulated: true,
  calibration: null,
  calibratedAt: null,
  empty: null,
  emptyAt: null,
}
const camera: MachineCamera = { ...bare, calibration, calibratedAt: new Date().toISOString() }
const AT = '/machines/bench-60/camera'
const { serve, sent } = atShop()

const blankAt = (x: number, y: number, w: number, h: number, more: Partial<SeenBlank> = {}): SeenBlank => ({
  edge: pathFromRing(Float64Array.of(x, y, x + w, y, x + w, y + h, x, y + h)),
  holes: [],
  areaMm2: w * h,
  cutOff: false,
  faint: 0,
  ...more,
})

beforeEach(() => {
  for (const each of Object.values(work)) each.mockReset()
  work.take.mockResolvedValue({ widthPx: 800, heightPx: 600 })
  work.bed.mockResolvedValue({ close: () => {} })
  work.marks.mockImplementation(async (_camera: unknown, places: readonly (readonly [number, number])[]) =>
    places.map((known) => ({ known, found: known })),
  )
})
afterEach(() => act(() => putPhotoAway()))

describe('the camera of a machine', () => {
  it('is calibrated step by step: looked at before it is kept', async () => {
    let known = bare
    serve({
      [`GET ${AT}`]: () => ({ camera: known }),
      [`POST ${AT}/photo`]: {},
      [`POST ${AT}/under`]: undefined,
      [`PUT ${AT}`]: (body) => {
        known = { ...camera, calibration: (body as { calibration: Calibration }).calibration }
        return { camera: known }
      },
    })
    work.board.mockImplementation(async (_board: unknown, _first: unknown, heightMm: number) => ({
      heightMm,
      spots: Array.from({ length: 247 }, (_, i) => ({ x: i, y: i, u: i, v: i })),
    }))
    work.calibrate.mockResolvedValue(calibration)
    shown(<CameraCard machine={MACHINES[0]} />)
    const user = userEvent.setup()
    expect((await screen.findByTestId('camera-card')).textContent).toContain('Not calibrated yet')
    await user.click(screen.getByTestId('calibrate'))
    expect(screen.getByTestId('work-out-lens')).toHaveProperty('disabled', true)
    await user.click(screen.getByTestId('photograph-board'))
    expect(await screen.findByText(/at 0.3 mm: 247 of 247 dots seen/)).toBeTruthy()
    await user.click(screen.getByTestId('photograph-board'))
    expect(await screen.findByText(/at 15.0 mm: 247 of 247/)).toBeTruthy()
    await user.click(screen.getByTestId('work-out-lens'))
    expect((await screen.findByTestId('calibration-found')).textContent).toContain('off by 0.06 mm')
    expect(sent().some(({ method }) => method === 'PUT')).toBe(false)
    await user.click(screen.getByTestId('keep-calibration'))
    expect((await screen.findByTestId('camera-told')).textContent).toContain('0.060 mm at most')
    expect(sent().find(({ method }) => method === 'PUT')?.body).toMatchObject({ calibration: { p95Mm: 0.06 } })
  })

  it('says what a photo lacks, and keeps what was photographed before', async () => {
    serve({ [`GET ${AT}`]: { camera: bare }, [`POST ${AT}/photo`]: {}, [`POST ${AT}/under`]: undefined })
    work.board.mockRejectedValue(new Error('There is no board of dots in this photo.'))
    shown(<CameraCard machine={MACHINES[0]} />)
    const user = userEvent.setup()
    await user.click(await screen.findByTestId('calibrate'))
    await user.click(screen.getByTestId('photograph-board'))
    expect(await screen.findByText('There is no board of dots in this photo.')).toBeTruthy()
  })

  it('is given an address where none ships', async () => {
    serve({ [`GET ${AT}`]: { camera: null }, [`PUT ${AT}`]: { camera: { ...bare, simulated: false } } })
    shown(<CameraCard machine={MACHINES[0]} />)
    const field = await screen.findByLabelText('Photos at')
    await userEvent.type(field, 'http://192.168.1.9/still.jpg')
    await userEvent.tab()
    await waitFor(() => expect(sent()).toHaveLength(1))
    expect(sent()[0].body).toEqual({ address: 'http://192.168.1.9/still.jpg' })
  })
})

describe('the photo of the bed', () => {
  const job = sampleJob({ picture: squarePicture(20, 5) })
  const open = (): void =>
    act(() => void store.dispatch(opened({ id: `c${Math.random()}`, revision: 0, document: job, edits: [], unsent: [] })))
  const photographed = async (): Promise<void> => {
    await act(async () => void (await photographBed(job)))
  }

  it('says when it was taken and how far it is off, and what was found becomes workpieces', async () => {
    serve({ [`GET ${AT}`]: { camera }, [`POST ${AT}/photo`]: {} })
    work.blanks.mockResolvedValue([
      blankAt(100, 80, 120, 60),
      blankAt(300, 80, 120.2, 60.1),
      blankAt(560, 300, 40, 60, { cutOff: true }),
      blankAt(100, 250, 70, 50, { faint: 0.2 }),
    ])
    open()
    shown(<PhotoBar job={job} />)
    await photographed()
    expect(screen.getByTestId('photo-facts').textContent).toContain('just now')
    expect(screen.getByTestId('photo-facts').textContent).toContain('0.06 mm')
    await act(async () => lookForBlanks(3))
    const found = screen.getByTestId('blanks-found')
    expect(found.textContent).toContain('like 1')
    expect(found.textContent).toContain('reaches beyond what is seen')
    expect(found.textContent).toContain('look at its edge')
    // What is only seen in part is not meant by itself.
    expect(screen.getByTestId('take-blanks').textContent).toContain('These 3')
    const user = userEvent.setup()
    await user.click(screen.getAllByRole('checkbox')[3])
    await user.click(screen.getByTestId('take-blanks'))
    const made = jobOnScreen()!
    expect(Object.keys(made.workpieces)).toHaveLength(2)
    expect(made.workpieces[mainPieceId(job)].outline).toMatchObject({
      kind: 'rect',
      widthMm: expect.closeTo(120, 0),
      heightMm: expect.closeTo(60, 0),
    })
    expect(made.workpieces[mainPieceId(job)].pose).toMatchObject({ xMm: expect.closeTo(100, 0), yMm: expect.closeTo(80, 0) })
    expect(screen.queryByTestId('blanks-found')).toBeNull()
  })

  it('is only looked at before a run: nothing is looked for in it, and it goes again', async () => {
    work.code.mockResolvedValue('QX7K2M')
    serve({ [`GET ${AT}`]: { camera }, [`POST ${AT}/photo`]: {} })
    open()
    shown(<PhotoBar job={job} isLook />)
    await act(async () => runCommand('bed-photo'))
    expect(await screen.findByTestId('photo-facts')).toBeTruthy()
    expect(screen.queryByTestId('find-blanks')).toBeNull()
    expect(screen.queryByTestId('photo-code')).toBeNull()
    work.blanks.mockClear()
    await act(async () => runCommand('bed-photo-find'))
    expect(work.blanks).not.toHaveBeenCalled()
    await userEvent.click(screen.getByTestId('photo-away'))
    expect(screen.queryByTestId('photo-bar')).toBeNull()
  })

  it('says what stands in the way: no camera, none calibrated, one that was knocked, one that shows nothing', async () => {
    let answer: object = { camera: null }
    serve({ [`GET ${AT}`]: () => answer, [`POST ${AT}/photo`]: {} })
    open()
    shown(<PhotoBar job={job} />)
    await photographed()
    expect(screen.getByTestId('photo-trouble').textContent).toContain('There is no camera')
    answer = { camera: bare }
    await photographed()
    expect(screen.getByTestId('photo-trouble').textContent).toContain('not calibrated')
    answer = { camera }
    work.marks.mockImplementation(async (_camera: unknown, places: readonly (readonly [number, number])[]) =>
      places.map(([x, y]) => ({ known: [x, y], found: [x + 3, y + 2] })),
    )
    await photographed()
    expect(screen.getByTestId('photo-camera-moved').textContent).toContain('knocked')
    work.blanks.mockResolvedValue([])
    await act(async () => lookForBlanks(3))
    expect(screen.getByTestId('photo-trouble').textContent).toContain('Nothing was found on the bed')
    work.take.mockResolvedValue({ widthPx: 800, heightPx: 450 })
    await photographed()
    expect(screen.getByTestId('photo-trouble').textContent).toContain('another shape')
    await userEvent.click(screen.getByTestId('photo-away'))
    expect(screen.queryByTestId('photo-bar')).toBeNull()
  })

  it('takes no photo of what turns: it says why, and asks no camera', async () => {
    const round = withRound(sampleJob({ picture: squarePicture(20, 4) }), ROTARIES.rollers, 80, 120)
    shown(<PhotoBar job={round} />)
    await act(async () => void (await photographBed(round)))
    expect(screen.getByTestId('photo-trouble').textContent).toContain('turns in a rotary')
    expect(work.take).not.toHaveBeenCalled()
  })

  it('shows by a code what of the shelf lies there, and takes it', async () => {
    const item = {
      id: 's1',
      code: 'QX7K2M',
      name: 'offcut of the shutter',
      kind: 'offcut',
      material: 'birch-ply-3',
      thicknessMm: 3,
      outline: { kind: 'rect', widthMm: 150, heightMm: 90 },
      keepOuts: {},
      marks: {},
      areaMm2: 13_500,
      count: 1,
      shelf: 'rack A',
      note: '',
      photo: null,
      recipe: null,
      jig: 'j7',
      cents: 300,
    }
    work.code.mockResolvedValue('QX7K2M')
    serve({ [`GET ${AT}`]: { camera }, [`POST ${AT}/photo`]: {}, 'GET /stock/code/QX7K2M': item })
    open()
    shown(<PhotoBar job={job} />)
    await photographed()
    expect((await screen.findByTestId('take-code')).textContent).toBe('Take it')
    expect(screen.getByTestId('photo-code').textContent).toContain('offcut of the shutter')
    expect(screen.getByRole('link', { name: 'Open its jig' }).getAttribute('href')).toBe('/jobs/j7/compose')
    await userEvent.click(screen.getByTestId('take-code'))
    expect(mainPiece(jobOnScreen()!)).toMatchObject({ stock: { id: 's1', cents: 300 }, outline: { kind: 'rect', widthMm: 150 } })
  })

  it('says of a code that is not on the shelf what it is', async () => {
    work.code.mockResolvedValue('https://saltmere.example/ferry')
    serve({
      [`GET ${AT}`]: { camera },
      [`POST ${AT}/photo`]: {},
      'GET /stock/code/': { refuse: 404, message: 'Nothing on the shelf has this code.' },
    })
    open()
    shown(<PhotoBar job={job} />)
    await photographed()
    await waitFor(() => expect(screen.getByTestId('photo-code').textContent).toContain('nothing on the shelf has it'))
  })

  it('grows old in words', () => {
    expect([3, 40, 300, 9000].map((s) => agoOf(1000 * s))).toEqual(['just now', '40 s ago', '5 min ago', '3 h ago'])
  })
})
