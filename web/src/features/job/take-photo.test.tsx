// @vitest-environment happy-dom
// On a touch screen the camera of the device is at hand; with a mouse it is not in the way.
import { cleanup, screen } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { afterEach, expect, it, vi } from 'vitest'
import { shown } from '../../testing/fake-server.tsx'
import { TakePhoto } from './TakePhoto.tsx'

const pointer = (coarse: boolean): void => {
  vi.stubGlobal('matchMedia', (query: string) => ({
    matches: coarse && query.includes('coarse'),
    media: query,
    addEventListener: () => {},
    removeEventListener: () => {},
    addListener: () => {},
    removeListener: () => {},
  }))
}
afterEach(() => {
  cleanup()
  vi.unstubAllGlobals()
})

it('takes a photo by the camera on the back, as a file that is dropped', async () => {
  pointer(true)
  const taken: string[] = []
  shown(<TakePhoto onFiles={(files) => taken.push(...files.map(({ name }) => name))} />)
  expect(screen.getByLabelText('Take a photo')).toBeTruthy()
  const input = screen.getByTestId('photo-file')
  expect([input.getAttribute('capture'), input.getAttribute('accept')]).toEqual(['environment', 'image/*'])
  await userEvent.setup().upload(input, new File(['x'], 'note.jpg', { type: 'image/jpeg' }))
  expect(taken).toEqual(['note.jpg'])
})

it('is not there where a mouse points', () => {
  pointer(false)
  shown(<TakePhoto onFiles={() => {}} />)
  expect(screen.queryByLabelText('Take a photo')).toBeNull()
})
