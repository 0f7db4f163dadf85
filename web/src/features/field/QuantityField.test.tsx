// @vitest-environment happy-dom
import { cleanup, screen } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { afterEach, expect, it, vi } from 'vitest'
import { shown, wrapped } from '../../testing/fake-server.tsx'
import { lengthIn } from './measures.ts'
import { QuantityField } from './QuantityField.tsx'
import { CountField } from './quantities.tsx'

afterEach(cleanup)

function setup() {
  const onCommit = vi.fn()
  const at = (value: number) => (
    <QuantityField label="Width" value={value} as={lengthIn('mm')} range={{ min: 1, max: 500 }} onCommit={onCommit} />
  )
  const { rerender } = shown(at(120))
  const arrives = (value: number): void => rerender(wrapped(at(value)))
  return { onCommit, arrives, field: screen.getByRole('textbox', { name: 'Width' }) as HTMLInputElement, user: userEvent.setup() }
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
  expect(field.value).toBe('120.0')
  await user.type(field, '{ArrowUp}')
  expect(onCommit).toHaveBeenLastCalledWith(121)
})

it('lets Escape through where nothing was typed, so that the sheet around it closes', async () => {
  const { field, user } = setup()
  const heard: string[] = []
  const listen = (event: KeyboardEvent): void => void heard.push(event.key)
  document.addEventListener('keydown', listen)
  await user.click(field)
  await user.keyboard('7{Escape}')
  expect(heard).toEqual(['7'])
  await user.keyboard('{Escape}')
  expect(heard).toEqual(['7', 'Escape'])
  document.removeEventListener('keydown', listen)
})

it('keeps what is being typed, whatever value arrives meanwhile; where nobody types it shows what arrives', async () => {
  const { onCommit, arrives, field, user } = setup()
  await user.clear(field)
  await user.type(field, '130{Enter}')
  // Left and entered again while the page still shows what was before: that is not taken back.
  await user.tab()
  expect(onCommit).toHaveBeenCalledTimes(1)
  await user.clear(field)
  await user.type(field, '140')
  arrives(130)
  expect(field.value).toBe('140')
  await user.type(field, '{Enter}')
  expect(onCommit).toHaveBeenLastCalledWith(140)
  arrives(140)
  await user.clear(field)
  await user.type(field, '15')
  arrives(90)
  expect(field.value).toBe('15')
  await user.type(field, '0{Enter}')
  expect(onCommit).toHaveBeenLastCalledWith(150)
  arrives(150)
  await user.tab()
  arrives(90)
  expect(field.value).toBe('90.0')
})

it('goes back to the value before, though the page still shows it', async () => {
  const { onCommit, field, user } = setup()
  await user.clear(field)
  await user.type(field, '130{Enter}')
  await user.clear(field)
  await user.type(field, '120{Enter}')
  expect(onCommit).toHaveBeenLastCalledWith(120)
})

it('keeps the digits of a number that is not whole, and whole ones whole', async () => {
  const onCommit = vi.fn()
  const range = { min: 0, max: 100 }
  shown(
    <>
      <CountField label="Area" unit="mm²" digits={2} value={0.8} range={range} onCommit={onCommit} />
      <CountField label="Sides" value={6} range={range} onCommit={onCommit} />
    </>,
  )
  const user = userEvent.setup()
  const area = screen.getByRole('textbox', { name: 'Area' }) as HTMLInputElement
  expect(area.value).toBe('0.8')
  await user.clear(area)
  await user.type(area, '0.35{Enter}')
  expect(onCommit).toHaveBeenLastCalledWith(0.35)
  const sides = screen.getByRole('textbox', { name: 'Sides' })
  await user.clear(sides)
  await user.type(sides, '7.4{Enter}')
  expect(onCommit).toHaveBeenLastCalledWith(7)
})
