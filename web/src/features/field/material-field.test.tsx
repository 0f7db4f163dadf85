// @vitest-environment happy-dom
import { MATERIALS } from '@neotaxis/core'
import { cleanup, screen } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { afterEach, expect, it, vi } from 'vitest'
import { shown } from '../../testing/fake-server.tsx'
import { MaterialField } from './MaterialField.tsx'

afterEach(cleanup)

it('is chosen by some letters and Enter; what must never be lasered stands last, with the reason', async () => {
  const onChoose = vi.fn()
  shown(<MaterialField materials={MATERIALS} value="birch-ply-3" onChoose={onChoose} />)
  const field = screen.getByRole('combobox', { name: 'Material' }) as HTMLInputElement
  expect(field.value).toBe('Birch ply, 3 mm')
  await userEvent.click(field)
  const options = screen.getAllByRole('option').map(({ textContent }) => textContent)
  expect(options).toHaveLength(MATERIALS.length)
  expect(options.at(-1)).toContain('must never be lasered')
  await userEvent.clear(field)
  await userEvent.type(field, 'lime{Enter}')
  expect(onChoose.mock.calls.map(([{ id }]) => id)).toEqual(['lime-wood-12'])
})

it('can be chosen anew where the shop has it no more', async () => {
  const onChoose = vi.fn()
  shown(<MaterialField materials={MATERIALS} value="gone" onChoose={onChoose} />)
  await userEvent.type(screen.getByRole('combobox', { name: 'Material' }), 'grey{Enter}')
  expect(onChoose.mock.calls.map(([{ id }]) => id)).toEqual(['grey-card-1'])
})
