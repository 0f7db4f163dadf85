// @vitest-environment happy-dom
// What is done at a machine by hand: each press is one order, and what goes wrong is said.
import type { DeskLive } from '@neotaxis/contract'
import { faceSize, MACHINES, mainPiece, mapped, placesToFind, poseMap } from '@neotaxis/core'
import { sampleJob, squarePicture } from '@neotaxis/core/testing/sample-job'
import { act, cleanup, fireEvent, screen, waitFor } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { closed, opened } from '../../store/job-slice.ts'
import { store } from '../../store/store.ts'
import {
  type Answer,
  type Asked,
  fakeServer,
  fillBrowser,
  forgetShop,
  restingDesk,
  shown,
  tellDesks,
  wrapped,
} from '../../testing/fake-server.tsx'
import { StopAnywhere } from '../live/StopAnywhere.tsx'
import { keepStopPlace, useOwnStop } from '../live/stop-place.ts'
import { Connection } from './Connection.tsx'
import { FindPiece } from './FindPiece.tsx'
import { FirstConnection } from './FirstConnection.tsx'
import { FRAME_START, Framing } from './Framing.tsx'
import { HeadControls } from './HeadControls.tsx'
import { Nudge } from './Nudge.tsx'
import { PieceByHead } from './PieceByHead.tsx'
import { SimulatedPanel } from './SimulatedPanel.tsx'

const job = sampleJob({ picture: squarePicture(20, 5) })
let asked: Asked[]
const orders = () =>
  asked.filter(({ method }) => method !== 'GET').map(({ path, body }) => [path.replace('/machines/bench-60/', ''), body])
const desk = (change: Partial<DeskLive> = {}): DeskLive => ({ ...restingDesk, ...change })
const press = (id: string) => act(async () => void fireEvent.click(screen.getByTestId(id)))

beforeEach(() => {
  fillBrowser()
  forgetShop()
  asked = fakeServer({
    'POST /machines': undefined,
    'POST /runs': undefined,
    'GET /materials': { materials: [] },
    'GET /machines': { machines: MACHINES },
  })
  store.dispatch(opened({ id: 'j', revision: 0, document: job, edits: [], unsent: [] }))
})
afterEach(() => {
  cleanup()
  store.dispatch(closed())
  tellDesks()
  vi.unstubAllGlobals()
})

describe('the head', () => {
  it('goes a step a press, or as long as it is held', async () => {
    shown(<HeadControls job={job} desk={desk()} />)
    await press('jog-right')
    await press('jog-rear')
    expect(orders()).toEqual([
      ['jog', { dx: 10, dy: 0, dz: 0, speedMmS: 80 }],
      ['jog', { dx: 0, dy: 10, dz: 0, speedMmS: 80 }],
    ])
    asked.length = 0
    fireEvent.click(screen.getByRole('button', { name: 'held' }))
    fireEvent.pointerDown(screen.getByTestId('jog-right'))
    await act(async () => void fireEvent.pointerUp(screen.getByTestId('jog-right')))
    expect(orders()).toEqual([
      ['jog', { dx: 5000, dy: 0, dz: 0, speedMmS: 80 }],
      ['jog-end', undefined],
    ])
  })

  it.each(['framing', 'running', 'stopping', 'preparing', 'lost'] as const)(
    'cannot be moved while the machine is %s',
    (state) => {
      shown(<HeadControls job={job} desk={desk({ state })} />)
      for (const id of ['jog-right', 'jog-rear', 'home'])
        expect((screen.getByTestId(id) as HTMLButtonElement).disabled).toBe(true)
    },
  )

  it('says where it is, and tells the job where the workpiece lies', async () => {
    shown(<HeadControls job={job} desk={desk()} />)
    expect(screen.getByTestId('head-place').textContent).toBe('X 12.0 · Y 30.0 · Z 3.0 mm')
    await press('origin-top-left')
    expect(mainPiece(store.getState().job.document!).pose).toEqual({ xMm: 12, yMm: job.machine.axes.y.travelMm - 30 })
  })
})

describe('the workpiece by the head', () => {
  const onBed = async (x: number, y: number, view: { rerender: (ui: React.ReactElement) => void }): Promise<void> => {
    view.rerender(wrapped(<PieceByHead job={job} onBed={[x, y]} />))
    await press('touch-take')
  }

  it('becomes what its places say, which are taken one by one, and taken back', async () => {
    const view = shown(<PieceByHead job={job} onBed={[10, 20]} />)
    await press('touch-piece')
    expect(screen.getByTestId('touching').textContent).toContain('Go to one corner')
    await onBed(10, 20, view)
    expect(screen.getByTestId('touching').textContent).toContain('the corner opposite')
    await onBed(10.2, 20, view)
    expect(screen.getByRole('alert').textContent).toContain('on one line')
    expect((screen.getByTestId('touch-apply') as HTMLButtonElement).disabled).toBe(true)
    fireEvent.click(screen.getByRole('button', { name: 'Back' }))
    await onBed(110, 95.5, view)
    expect(screen.getByTestId('touched').textContent).toContain('100.0 × 75.5 mm, at 10.0, 20.0 mm')
    await press('touch-apply')
    expect(mainPiece(store.getState().job.document!)).toMatchObject({
      outline: { kind: 'rect', widthMm: 100, heightMm: 75.5 },
      pose: { xMm: 10, yMm: 20 },
    })
    expect(screen.getByTestId('touch-piece')).toBeTruthy()
  })

  it('begins with the place under the head, where that is one of its corners', async () => {
    const view = shown(<PieceByHead job={job} onBed={[10, 20]} />)
    await press('touch-first')
    expect(screen.getByTestId('touching').textContent).toContain('the corner opposite')
    await onBed(60, 50, view)
    expect(screen.getByTestId('touched').textContent).toContain('50.0 × 30.0 mm, at 10.0, 20.0 mm')
  })

  it('takes nothing where the head does not know where it is', async () => {
    shown(<PieceByHead job={job} onBed={undefined} />)
    expect(screen.queryByTestId('touch-first')).toBeNull()
    await press('touch-piece')
    expect((screen.getByTestId('touch-take') as HTMLButtonElement).disabled).toBe(true)
    expect(screen.getByTestId('touching').textContent).toContain('home it first')
  })
})

describe('a workpiece that lies somewhere else', () => {
  it('is found by two of its corners: moved and turned, with how far they are off', async () => {
    const view = shown(<FindPiece job={job} onBed={undefined} />)
    await press('find-piece')
    const { widthMm, heightMm } = faceSize(mainPiece(job))
    const truth = { xMm: 70, yMm: 90, deg: 4 }
    for (const i of [0, 2]) {
      const at = mapped(poseMap(truth, { widthMm, heightMm }), ...placesToFind(mainPiece(job))[i])
      view.rerender(wrapped(<FindPiece job={job} onBed={at} />))
      await press(`find-place-${i}`)
      await press('find-take')
    }
    expect(screen.getByTestId('found-piece').textContent).toContain('turned by 4.00°')
    await press('find-apply')
    const { pose } = mainPiece(store.getState().job.document!)
    expect([pose.xMm, pose.yMm, pose.deg]).toEqual([expect.closeTo(70, 2), expect.closeTo(90, 2), expect.closeTo(4, 2)])
  })
})

describe('framing and focus', () => {
  it('are set by shape, rounds, speed and a weak beam; pulses end with the same button', async () => {
    const onHow = vi.fn()
    const onPulse = vi.fn()
    const view = shown(<Framing how={FRAME_START} onHow={onHow} pulsing={false} disabled={false} onPulse={onPulse} />)
    fireEvent.click(screen.getByRole('button', { name: 'hull' }))
    fireEvent.click(screen.getByRole('button', { name: 'again and again' }))
    expect(onHow.mock.calls.map(([how]) => [how.shape, how.loop])).toEqual([
      ['hull', false],
      ['bounds', true],
    ])
    await press('pulse')
    expect(onPulse).toHaveBeenCalledWith(0.04)
    view.unmount()
    shown(<Framing how={FRAME_START} onHow={onHow} pulsing disabled onPulse={onPulse} />)
    expect(screen.getByTestId('pulse').textContent).toBe('Stop pulses')
    expect((screen.getByTestId('pulse') as HTMLButtonElement).disabled).toBe(false)
  })
})

describe('nudging', () => {
  it('changes speed or power by a tenth, within what can be', async () => {
    const report = { ...restingDesk.report!, speedShare: 100, powerShare: 200 }
    shown(<Nudge runId="r1" report={report} />)
    await act(async () => void fireEvent.click(screen.getByRole('button', { name: 'Less speed' })))
    await act(async () => void fireEvent.click(screen.getByRole('button', { name: 'More power' })))
    expect(asked.map(({ body }) => body)).toEqual([
      { speed: 0.9, power: 2 },
      { speed: 1, power: 2 },
    ])
  })
})

describe('the connection', () => {
  it('is made with a press, and says what is missing', async () => {
    shown(<Connection desk={desk({ state: 'lost', trouble: 'Nothing answers at tcp://127.0.0.1:1.' })} onCheck={() => {}} />)
    expect(screen.getByText('Nothing answers at tcp://127.0.0.1:1.')).toBeTruthy()
    await press('connect')
    expect(orders()).toEqual([['connect', undefined]])
    cleanup()
    shown(<Connection desk={desk({ state: 'off', address: '' })} onCheck={() => {}} />)
    expect(screen.getByText(/has no address/)).toBeTruthy()
    cleanup()
    const onCheck = vi.fn()
    shown(<Connection desk={desk({ checked: false })} onCheck={onCheck} />)
    await press('first-connection')
    expect(onCheck).toHaveBeenCalled()
    cleanup()
    shown(<Connection desk={desk({ report: { ...restingDesk.report!, state: 'alarm' } })} onCheck={() => {}} />)
    expect(screen.getByRole('alert').textContent).toContain('does not know where its head is')
  })

  it('is proved the first time: settings against the profile, dark, flashes, dark again', async () => {
    asked = fakeServer({
      'GET /machines/bench-60/settings': {
        settings: { 'speed.x': 500 },
        differences: [{ name: 'speed.x', profile: 600, machine: 500, effect: 'times are too short' }],
      },
      'POST /machines/bench-60': undefined,
      'PUT /machines/bench-60': { machine: MACHINES[0] },
    })
    const onProfile = vi.fn()
    const onClose = vi.fn()
    const first = (change: Partial<DeskLive> = {}) => (
      <FirstConnection
        machine={MACHINES[0]}
        desk={desk({ checked: false, ...change })}
        open
        onClose={onClose}
        onProfile={onProfile}
      />
    )
    shown(first())
    expect(await screen.findByText('times are too short')).toBeTruthy()
    await userEvent.setup().click(screen.getByRole('button', { name: 'Take the machine’s'.replace('’', "'") }))
    await waitFor(() => expect(onProfile).toHaveBeenCalled())
    await press('check-next')
    expect(screen.getByText('Is the beam off now?')).toBeTruthy()
    await press('check-yes')
    expect(await screen.findByText('Did it flash a few times, weakly?')).toBeTruthy()
    await press('check-yes')
    expect(screen.getByText('Is it dark again?')).toBeTruthy()
    expect(orders().map(([path]) => path)).toEqual(['/machines/bench-60', 'pulse'])
    await press('check-yes')
    expect(await screen.findByText('This machine may run.')).toBeTruthy()
    expect(orders().at(-1)![0]).toBe('check')
  })

  it('is not proved where it burns when it should not: it says to switch the machine off', async () => {
    asked = fakeServer({ 'GET /machines/bench-60/settings': { settings: {}, differences: [] }, 'POST /machines': undefined })
    shown(<FirstConnection machine={MACHINES[0]} desk={desk()} open onClose={() => {}} onProfile={() => {}} />)
    await waitFor(() => expect((screen.getByTestId('check-next') as HTMLButtonElement).disabled).toBe(false))
    await press('check-next')
    await press('check-no')
    expect(screen.getByRole('alert').textContent).toContain('main switch now')
    expect(orders()).toEqual([])
  })

  it('says why the pulses do not come', async () => {
    let pulse: Answer = { refuse: 409, message: 'The machine is homing: stop that first.' }
    asked = fakeServer({
      'GET /machines/bench-60/settings': { settings: {}, differences: [] },
      'POST /machines/bench-60/pulse': () => pulse,
    })
    shown(<FirstConnection machine={MACHINES[0]} desk={desk()} open onClose={() => {}} onProfile={() => {}} />)
    await waitFor(() => expect((screen.getByTestId('check-next') as HTMLButtonElement).disabled).toBe(false))
    await press('check-next')
    await press('check-yes')
    expect(await screen.findByText('The machine is homing: stop that first.')).toBeTruthy()
    expect(screen.getByText('Is the beam off now?')).toBeTruthy()
    pulse = undefined
    await press('check-yes')
    await press('check-no')
    expect(screen.getByRole('alert').textContent).toContain('does not come')
  })
})

describe('the outside of a simulated machine', () => {
  it('has its button, lid, emergency stop and clock', async () => {
    asked = fakeServer({ 'POST /machines/bench-60/panel': { lid: false, times: 10, watts: 0 } })
    shown(<SimulatedPanel desk={desk({ simulated: true })} />)
    await waitFor(() => expect(screen.getByRole('button', { name: '10 × time' }).getAttribute('aria-pressed')).toBe('true'))
    await press('panel-press')
    await press('panel-lid')
    await act(async () => void fireEvent.click(screen.getByRole('button', { name: 'Emergency' })))
    await act(async () => void fireEvent.click(screen.getByRole('button', { name: '60 × time' })))
    expect(asked.slice(1).map(({ body }) => body)).toEqual([
      { do: 'press' },
      { do: 'lid', open: true },
      { do: 'emergency', pressed: true },
      { do: 'pace', times: 60 },
    ])
  })

  it('has its lens in reach of a hand where the machine does not move it', async () => {
    asked = fakeServer({ 'POST /machines/bench-60/panel': { lid: false, times: 10, watts: 0 } })
    shown(<SimulatedPanel desk={desk({ simulated: true })} lens={17.5} />)
    const field = screen.getByRole('textbox', { name: 'Lens at' })
    expect((field as HTMLInputElement).value).toContain('17.5')
    await press('panel-lens')
    expect(asked.at(-1)?.body).toEqual({ do: 'focus', mm: 17.5 })
  })
})

describe('Stop on every screen', () => {
  const busy = desk({ state: 'framing', holder: 'Tobin' })

  it('is there while a machine does anything but move by hand, names it, and stops it', async () => {
    shown(<StopAnywhere />, '/jobs')
    expect(screen.queryByTestId('stop-bench-60')).toBeNull()
    tellDesks(desk({ state: 'jogging', holder: 'Tobin' }))
    expect(screen.queryByTestId('stop-bench-60')).toBeNull()
    for (const state of [
      'homing',
      'framing',
      'pulsing',
      'preparing',
      'starting',
      'running',
      'holding',
      'looking',
      'stopping',
    ] as const) {
      tellDesks(desk({ state, holder: 'Tobin' }))
      expect(screen.getByTestId('stop-bench-60'), state).toBeTruthy()
    }
    await waitFor(() => expect(screen.getByTestId('stop-bench-60').textContent).toBe('Stop Bench laser 60 W'))
    await press('stop-bench-60')
    expect(orders()).toEqual([['stop', undefined]])
  })

  it('is pressed by Shift Escape for all that are busy, and says what to do where it fails', async () => {
    asked = fakeServer({
      'POST /machines': { refuse: 404, message: 'There is no such machine.' },
      'GET /materials': { materials: [] },
      'GET /machines': { machines: MACHINES },
    })
    shown(<StopAnywhere />, '/journal')
    tellDesks(busy, { ...busy, machine: 'scan-20' })
    await act(async () => void fireEvent.keyDown(document.body, { key: 'Escape', shiftKey: true }))
    expect(asked.filter(({ method }) => method === 'POST').map(({ path }) => path)).toEqual([
      '/machines/bench-60/stop',
      '/machines/scan-20/stop',
    ])
    expect(await screen.findAllByText('There is no such machine. Use the stop at the machine.')).toHaveLength(2)
  })

  it('leaves a screen that has its own to that one, but not the other machines; it stands in the bar where there is one', () => {
    function RunScreen() {
      useOwnStop('bench-60')
      return <div data-testid="bar" ref={keepStopPlace} />
    }
    const { rerender } = shown(
      <>
        <RunScreen />
        <StopAnywhere />
      </>,
      '/jobs/j/run',
    )
    tellDesks(busy, { ...busy, machine: 'scan-20' })
    expect(screen.queryByTestId('stop-bench-60')).toBeNull()
    expect(screen.getByTestId('bar').contains(screen.getByTestId('stop-scan-20'))).toBe(true)
    // The screen is gone, whatever became of it: the stop is there.
    rerender(wrapped(<StopAnywhere />, '/jobs/j/run'))
    expect(screen.getByTestId('stop-bench-60')).toBeTruthy()
  })
})
