// @vitest-environment happy-dom
// Who is new is led through a first job, and may leave it at any point; help is there for every screen.
import type { RunLive } from '@neotaxis/contract'
import { cleanup, fireEvent, screen } from '@testing-library/react'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { store } from '../../store/store.ts'
import { guided } from '../../store/view-slice.ts'
import { fakeServer, fillBrowser, shown } from '../../testing/fake-server.tsx'
import { Help } from '../help/Help.tsx'
import { helpOf } from '../help/screens.ts'
import { Guide, GuideOffer } from './Guide.tsx'
import { GUIDE_STEPS, guideStep } from './guide-words.ts'

beforeEach(() => {
  fillBrowser()
  fakeServer({})
  store.dispatch(guided('offered'))
})
afterEach(() => {
  cleanup()
  vi.unstubAllGlobals()
})

describe('a first job', () => {
  it('is offered on the board, led through, and left at any point', () => {
    shown(
      <>
        <Guide />
        <GuideOffer />
      </>,
    )
    expect(screen.queryByTestId('guide')).toBeNull()
    fireEvent.click(screen.getByTestId('guide-begin'))
    expect(screen.getByTestId('guide').textContent).toContain(`First job, 1 of ${GUIDE_STEPS}`)
    expect(screen.getByTestId('guide-picture')).toBeTruthy()
    expect(screen.queryByTestId('guide-offer')).toBeNull()
    fireEvent.click(screen.getByTestId('guide-leave'))
    expect(screen.queryByTestId('guide')).toBeNull()
    expect(screen.queryByTestId('guide-offer')).toBeNull()
  })

  it('is not offered again to who does not want it', () => {
    shown(<GuideOffer />)
    fireEvent.click(screen.getByRole('button', { name: 'No, thank you' }))
    expect(screen.queryByTestId('guide-offer')).toBeNull()
    expect(store.getState().view.guide).toBe('left')
  })

  it('says what comes next, by the screen and by what the machine does', () => {
    const run = (phase: RunLive['phase']) => ({ phase }) as RunLive
    expect(guideStep('/jobs', null, true)).toMatchObject({ at: 1, offers: 'picture' })
    expect(guideStep('/jobs/a/compose', null, true)).toMatchObject({ at: 3, offers: 'run' })
    expect(guideStep('/jobs/a/picture', null, true).at).toBe(3)
    expect(guideStep('/jobs/a/run', null, true)).toMatchObject({ at: 4 })
    expect(guideStep('/jobs/a/run', run('running'), true).at).toBe(5)
    expect(guideStep('/jobs/a/run', run('done'), true)).toMatchObject({ at: 6, offers: 'end' })
    expect(guideStep('/journal', null, true).at).toBe(6)
    // Of a real machine it is never said that nothing can happen.
    expect(guideStep('/jobs/a/run', null, true).says).toContain('nothing can happen')
    expect(guideStep('/jobs/a/run', null, false).says).toMatch(/real: stay with it/)
    expect(guideStep('/jobs/a/run', run('running'), false).says).not.toContain('60 ×')
  })
})

describe('help', () => {
  it('is there by “?” wherever nobody types, and has words for every screen', () => {
    shown(
      <>
        <input aria-label="typed" />
        <Help />
      </>,
    )
    fireEvent.keyDown(screen.getByLabelText('typed'), { key: '?' })
    expect(screen.queryByTestId('help')).toBeNull()
    fireEvent.keyDown(document.body, { key: '?' })
    expect(screen.getByTestId('help').textContent).toContain('Jobs')
    fireEvent.click(screen.getByRole('button', { name: 'Close' }))
    const paths = ['/jobs', '/jobs/a/compose', '/jobs/a/picture/n', '/jobs/a/outline', '/jobs/a/run', '/jobs/a/measure']
    const shop = ['/journal', '/library', '/materials', '/stock', '/machines', '/people']
    const names = [...paths, ...shop].map((path) => helpOf(path).name)
    expect(new Set(names).size).toBe(paths.length + shop.length)
  })
})
