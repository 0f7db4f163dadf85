// @vitest-environment happy-dom

import { ThemeProvider } from '@mui/material'
import type { JobBrief } from '@neotaxis/contract'
import { cleanup, render, screen } from '@testing-library/react'
import { afterEach, expect, it } from 'vitest'
import { makeTheme } from '../../theme/theme.ts'
import { TroubledCard } from './TroubledCard.tsx'

afterEach(cleanup)

it('a job that cannot be brought up says why, that it stays as it was, and is saved as a file', () => {
  const job = {
    id: 'old',
    name: 'Net tag',
    trouble: 'The job does not hold together: “kind” is a process that this version does not know.',
  }
  render(
    <ThemeProvider theme={makeTheme('light')}>
      <TroubledCard job={job as JobBrief} />
    </ThemeProvider>,
  )
  expect(screen.getByText('Net tag')).toBeTruthy()
  expect(screen.getByTestId('card-old').textContent).toContain('does not know. It stays as it was.')
  expect(screen.getByRole('link', { name: 'Save it as a file' }).getAttribute('href')).toBe('/api/jobs/old/file')
})
