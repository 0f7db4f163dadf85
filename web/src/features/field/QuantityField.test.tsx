// @vitest-environment happy-dom
import { parseLength } from '@neotaxis/core'
import { cleanup, render, screen } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { afterEach, expect, it, vi } from 'vitest'
import { QuantityField } from './QuantityField.tsx'

afterEach(cleanup)

function setup() {
  const onCommit = vi.fn()
  render(
    <QuantityField
      label="Width"
      unit="mm"
      value={120}
      show={(v) => v.toFixed(1)}
      read={(text) => parseLength(text)}
      min={1}
      max={500}
      step={1}
      onCommit={onCommit}
    />,
  )
  return { onCommit, field: screen.getByRole('textbox', { name: 'Width' }), user: userEvent.setup() }
}

it('takes what is typed on Enter, with units and arithmetic', async () => {
  const { onCommit, field, user } = setup()
  await user.clear(field)
  await user.type(field, '2.5in*2{Enter}')
  expect(onCommit).toHaveBeenCalledWith(127)
})

it('refuses what is out of range, says the range, and changes nothing', async () => {
  const { onCommit, field, user } = setup()
  await user.clear(field)
  await user.type(field, '900{Enter}')
  expect(onCommit).not.toHaveBeenCalled()
  expect(screen.getByRole('alert').textContent).toBe('Width goes from 1.0 to 500.0 mm.')
})

it('leaves the value on Escape, and steps with the arrow keys', async () => {
  const { onCommit, field, user } = setup()
  await user.clear(field)
  await user.type(field, 'nonsense{Escape}')
  expect((field as HTMLInputElement).value).toBe('120.0')
  await user.type(field, '{ArrowUp}')
  expect(onCommit).toHaveBeenLastCalledWith(121)
})
