// @vitest-environment happy-dom
// A variable font is set by its axes; any other has none.
import type { FontChoice } from '@neotaxis/core'
import { act, cleanup, screen } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { useState } from 'react'
import { afterEach, expect, it, vi } from 'vitest'
import { fillBrowser, shown } from '../../testing/fake-server.tsx'
import { AxesFields } from './AxesFields.tsx'

const weight = { tag: 'wght', name: 'Weight', least: 100, usual: 400, most: 900 }
const engine = vi.hoisted(() => ({ onWorkerDeath: () => () => {}, fontAxes: vi.fn() }))
vi.mock('../../workers/engine.ts', () => engine)
engine.fontAxes.mockImplementation((asset: string) => Promise.resolve(asset.startsWith('v') ? [weight] : []))
afterEach(cleanup)
fillBrowser()

let now: FontChoice
function Field({ asset }: { readonly asset: string }) {
  const [font, setFont] = useState<Extract<FontChoice, { kind: 'file' }>>({ kind: 'file', asset, name: 'Font' })
  now = font
  return <AxesFields font={font} onChange={setFont} />
}

it('is as bold as it is set, and as it is by itself again at its usual', async () => {
  shown(<Field asset="v1" />)
  const user = userEvent.setup()
  const field = await screen.findByLabelText('Weight')
  await user.clear(field)
  await user.type(field, '700{Enter}')
  expect(now).toMatchObject({ axes: { wght: 700 } })
  await user.clear(field)
  await user.type(field, '400{Enter}')
  expect(now).toEqual({ kind: 'file', asset: 'v1', name: 'Font' })
})

it('has nothing to set where a font has no axes', async () => {
  shown(<Field asset="p1" />)
  // It was asked, and has answered.
  await act(async () => void (await engine.fontAxes.mock.results.at(-1)?.value))
  expect(engine.fontAxes).toHaveBeenLastCalledWith('p1')
  expect(screen.queryByLabelText('Weight')).toBeNull()
})
