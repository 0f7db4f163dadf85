// @vitest-environment happy-dom

import { ThemeProvider } from '@mui/material'
import type { JobBrief } from '@neotaxis/contract'
import { cleanup, render, screen } from '@testing-library/react'
import { Provider } from 'react-redux'
import { MemoryRouter } from 'react-router'
import { afterEach, expect, it } from 'vitest'
import { store } from '../../store/store.ts'
import { makeTheme } from '../../theme/theme.ts'
import { tellDay } from '../field/told.ts'
import { JobCard } from './JobCard.tsx'

afterEach(cleanup)

const job: JobBrief = {
  id: 'j1',
  name: 'Net tag',
  revision: 3,
  branchOf: null,
  updatedAt: '2026-11-20T10:00:00.000Z',
  trouble: null,
  workpiece: { widthMm: 60, heightMm: 40, thicknessMm: 3 },
  material: 'Birch ply',
  machine: 'Bench laser',
  card: { content: 'a'.repeat(64), seconds: 95, stop: 0, ask: 0, note: 1 },
}
const shown = (change: Partial<JobBrief>): string => {
  render(
    <Provider store={store}>
      <ThemeProvider theme={makeTheme('light')}>
        <MemoryRouter>
          <JobCard job={{ ...job, ...change }} onCopy={() => {}} onRemove={() => {}} />
        </MemoryRouter>
      </ThemeProvider>
    </Provider>,
  )
  return screen.getByTestId('card-j1').textContent ?? ''
}

it('a job says when it was run; changed since, it is ready again; what cannot run says so', () => {
  const ranAt = '2026-11-21T08:30:00.000Z'
  expect(shown({})).toContain('ready')
  cleanup()
  expect(shown({ ranAt })).toContain(`run ${tellDay(ranAt)}`)
  cleanup()
  expect(shown({ ranAt, updatedAt: '2026-11-22T08:30:00.000Z' })).toContain('ready')
  cleanup()
  expect(shown({ ranAt, card: { ...job.card!, stop: 1 } })).toContain('cannot run yet')
})
