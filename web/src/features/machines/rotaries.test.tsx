// @vitest-environment happy-dom
// What something round turns in: its values are kept, and a test turn corrects its steps.
import type { DeskLive } from '@neotaxis/contract'
import { MACHINES, type Machine, ROTARIES } from '@neotaxis/core'
import { cleanup, fireEvent, screen, waitFor, within } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { type Asked, fakeServer, fillBrowser, restingDesk, shown } from '../../testing/fake-server.tsx'
import { MachineProfile } from './MachineProfile.tsx'

const machine: Machine = MACHINES[0]
const scanHead = MACHINES.find((one) => one.head.kind === 'mirrors')!
let asked: Asked[]
let version = machine.version
const show = (of: Machine = machine, desk: Partial<DeskLive> = {}) =>
  shown(
    <MachineProfile
      machine={of}
      desk={{ ...restingDesk, machine: of.id, ...desk }}
      onDuplicate={() => {}}
      onExport={() => {}}
      onRemove={() => {}}
    />,
  )
const saved = (): Machine[] =>
  asked.filter(({ method }) => method === 'PUT').map(({ body }) => (body as { machine: Machine }).machine)
const type = async (label: string, text: string, inside: HTMLElement): Promise<void> => {
  const field = within(inside).getByLabelText(label)
  await userEvent.clear(field)
  await userEvent.type(field, text)
  await userEvent.tab()
}

beforeEach(() => {
  fillBrowser()
  version = machine.version
  asked = fakeServer({
    'PUT /machines/': (body) => ({ machine: { ...(body as { machine: Machine }).machine, version: ++version } }),
    'POST /machines/': undefined,
  })
})
afterEach(() => {
  cleanup()
  vi.unstubAllGlobals()
})

it('are kept with the machine, each value as it is left; what contradicts itself is told', async () => {
  show()
  const rollers = screen.getByTestId('rotary-roller')
  expect(rollers.textContent).toContain('35.810 steps/mm')
  await type('Roller', '60', rollers)
  await waitFor(() => expect(saved()).toHaveLength(1))
  expect(saved()[0].rotaries).toEqual({
    rollers: { ...ROTARIES.rollers, drive: { kind: 'roller', rollerMm: 60, stepsPerTurn: 7200 } },
  })
  await type('Holds from Ø', '200', screen.getByTestId('rotary-roller'))
  await screen.findByText(/These values contradict each other.*holds from a larger diameter/)
  expect(saved()).toHaveLength(1)
})

it('get another one, which is a chuck until it is said to be rollers', async () => {
  show()
  fireEvent.click(screen.getByTestId('add-rotary'))
  await waitFor(() => expect(saved()).toHaveLength(1))
  expect(saved()[0].rotaries).toEqual({ 'rotary-2': { ...ROTARIES.chuck, name: 'Another chuck' } })
})

it('are tested by one turn, and their steps corrected by what lies between two marks', async () => {
  show(machine, { state: 'idle', link: 'linked' } as Partial<DeskLive>)
  fireEvent.click(screen.getByTestId('test-roller'))
  const dialog = await screen.findByRole('dialog')
  await type('Its diameter', '80', dialog)
  expect(dialog.textContent).toContain('251.33 mm of its surface')
  expect(screen.getByTestId('take-steps')).toHaveProperty('disabled', true)
  // 2 % too far: 5.03 mm.
  await type('Beyond the first mark', '5.0265', dialog)
  expect(screen.getByTestId('turn-result').textContent).toContain('2.00 % off: 7200 steps become 7058.8')
  fireEvent.click(screen.getByTestId('take-steps'))
  await waitFor(() => expect(saved()).toHaveLength(1))
  const { drive } = saved()[0].rotaries!.rollers
  expect(drive.stepsPerTurn).toBeCloseTo(7200 / 1.02, 1)
})

it('are none of a scan head', () => {
  show(scanHead)
  expect(screen.queryByTestId('rotary-roller')).toBeNull()
})
