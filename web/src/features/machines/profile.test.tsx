// @vitest-environment happy-dom
// All that is known of a machine: each value is saved as it is left, against the version that was seen.
import type { DeskLive } from '@neotaxis/contract'
import { MACHINES, type Machine } from '@neotaxis/core'
import { cleanup, screen, waitFor, within } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { type Asked, fakeServer, fillBrowser, restingDesk, shown, wrapped } from '../../testing/fake-server.tsx'
import { MachineProfile } from './MachineProfile.tsx'

const machine: Machine = MACHINES[0]
const scanHead = MACHINES.find((one) => one.head.kind === 'mirrors')!
let asked: Asked[]
let version = machine.version
const told = { onDuplicate: vi.fn(), onExport: vi.fn(), onRemove: vi.fn() }
const show = (of: Machine = machine, desk: DeskLive | undefined = { ...restingDesk, machine: of.id }) =>
  shown(<MachineProfile machine={of} desk={desk} {...told} />)
const puts = () => asked.filter(({ method }) => method === 'PUT').map(({ body }) => body as { machine: Machine; base: number })
const saved = (): Machine[] => puts().map((body) => body.machine)
const type = async (label: string | RegExp, text: string, within_: HTMLElement = document.body): Promise<void> => {
  const field = within(within_).getByLabelText(label)
  await userEvent.clear(field)
  await userEvent.type(field, text)
  await userEvent.tab()
}

beforeEach(() => {
  fillBrowser()
  for (const each of Object.values(told)) each.mockReset()
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

describe('a value of a machine', () => {
  const values: readonly (readonly [string, string, (saved: Machine) => unknown, unknown])[] = [
    ['Full power', '57', (m) => m.watts, 57],
    ['S of full power', '255', (m) => m.fullPowerS, 255],
    ['Rise time', '0,25', (m) => m.riseTimeS, 0.00025],
    ['Bed, left to right', '610', (m) => m.axes, { ...machine.axes, x: { ...machine.axes.x, travelMm: 610 } }],
    ['Bed, front to rear', '410', (m) => m.axes, { ...machine.axes, y: { ...machine.axes.y, travelMm: 410 } }],
    ['Top speed x', '450', (m) => m.axes, { ...machine.axes, x: { ...machine.axes.x, speedMmS: 450 } }],
    ['Acceleration y', '2500', (m) => m.axes, { ...machine.axes, y: { ...machine.axes.y, accelerationMmS2: 2500 } }],
    ['Line takes', '11.5', (m) => m.lineBytesS, 11_500],
    ['Moves looked ahead', '32', (m) => m.plannerDepth, 32],
  ]
  it.each(values)('%s is kept in the unit of the core, and nothing else is changed', async (label, text, read, expected) => {
    show()
    await type(label, text)
    await waitFor(() => expect(saved()).toHaveLength(1))
    expect(read(saved()[0])).toEqual(expected)
    expect(puts()[0].base).toBe(machine.version)
    const { id, name, lenses, head } = saved()[0]
    expect({ id, name, lenses, head }).toEqual({ id: machine.id, name: machine.name, lenses: machine.lenses, head: machine.head })
  })

  it('that is no number stays in its field with a word, and Escape brings the old one back', async () => {
    show()
    const field = screen.getByLabelText('Full power') as HTMLInputElement
    const before = field.value
    await userEvent.clear(field)
    await userEvent.type(field, 'much{Enter}')
    expect(screen.getByText('“much” is not a number.')).toBeTruthy()
    expect(field.value).toBe('much')
    await userEvent.type(field, '{Escape}')
    expect(field.value).toBe(before)
    expect(screen.queryByText('“much” is not a number.')).toBeNull()
    expect(saved()).toEqual([])
  })

  it('that somebody else changed since is not written over: the sentence is told, and the old value stands', async () => {
    fakeServer({ 'PUT /machines/': { refuse: 409, message: 'Jon Hale changed this machine since.', code: 'conflict' } })
    show()
    await type('Full power', '12')
    expect(await screen.findByText('Jon Hale changed this machine since.')).toBeTruthy()
    await waitFor(() => expect((screen.getByLabelText('Full power') as HTMLInputElement).value).toBe(String(machine.watts)))
  })
})

describe('values that belong together', () => {
  const delays = async (least: string, most: string): Promise<void> => {
    await type('Jump delay, least', least)
    await type('Jump delay, most', most)
  }
  it('are kept as soon as they agree: what contradicts the others waits with the reason', async () => {
    show(scanHead)
    const { least, most } = (scanHead.head as { jumpDelayS: { least: number; most: number } }).jumpDelayS
    await type('Jump delay, least', String(most * 1000 + 1))
    expect(await screen.findByText('The most delay is no less than the least.')).toBeTruthy()
    expect(saved()).toEqual([])
    await type('Jump delay, most', String(most * 1000 + 2))
    await waitFor(() => expect(saved()).toHaveLength(1))
    expect(screen.queryByText('The most delay is no less than the least.')).toBeNull()
    expect(saved()[0].head).toMatchObject({
      jumpDelayS: { least: expect.closeTo(most + 0.001, 9), most: expect.closeTo(most + 0.002, 9) },
    })
    await delays(String(least * 1000), String(most * 1000))
    await waitFor(() => expect(saved()).toHaveLength(3))
    expect(saved()[2].head).toEqual(scanHead.head)
  })

  it('that are beyond what a machine can have say how far they go, in the unit of the field', async () => {
    show(scanHead)
    await type('Mark delay', '2000')
    expect(await screen.findByText('It goes up to 1000 ms.')).toBeTruthy()
    await type('Bed, left to right', '40in')
    await type('Name', ' ')
    expect(await screen.findByText('This is needed.')).toBeTruthy()
    expect(saved()).toEqual([])
    await type('Name', 'Galvo')
    await type('Mark delay', '0.3')
    await waitFor(() => expect(saved()).toHaveLength(1))
    expect(saved()[0]).toMatchObject({ name: 'Galvo', axes: { x: { travelMm: 1016 } }, head: { markDelayS: 0.0003 } })
  })

  it('are saved one change on the other, and what is typed meanwhile stays', async () => {
    show()
    await type('Full power', '57')
    await type('S of full power', '255')
    const name = screen.getByLabelText('Name') as HTMLInputElement
    await userEvent.clear(name)
    await userEvent.type(name, 'Half a na')
    await waitFor(() => expect(puts()).toHaveLength(2))
    expect(puts().map(({ base }) => base)).toEqual([machine.version, machine.version + 1])
    expect(saved()[1]).toMatchObject({ watts: 57, fullPowerS: 255, name: machine.name })
    expect(name.value).toBe('Half a na')
  })
})

describe('a profile that somebody else changes meanwhile', () => {
  it('shows their value, also of what was saved here before, and keeps what waits here', async () => {
    const at = (of: Machine) => <MachineProfile machine={of} desk={undefined} {...told} />
    const { rerender } = shown(at(scanHead))
    await type('Full power', '57')
    await waitFor(() => expect(saved()).toHaveLength(1))
    await type('Mark delay', '2000')
    const theirs = { ...scanHead, watts: 33, hasAir: !scanHead.hasAir, version: machine.version + 2 }
    rerender(wrapped(at(theirs), '/'))
    await waitFor(() => expect((screen.getByLabelText('Full power') as HTMLInputElement).value).toBe('33'))
    expect((screen.getByLabelText('Mark delay') as HTMLInputElement).value).toBe('2000')
    await type('Mark delay', '0.3')
    await waitFor(() => expect(saved()).toHaveLength(2))
    expect(puts()[1].base).toBe(theirs.version)
    expect(saved()[1]).toMatchObject({ watts: 33, hasAir: theirs.hasAir, head: { markDelayS: 0.0003 } })
  })
})

describe('the power curve', () => {
  it('is read as it is written, in any order', async () => {
    show()
    await type('Power curve', '100: 57, 10%: 0, 50: 26')
    await waitFor(() => expect(saved()).toHaveLength(1))
    // The day is kept: curves that are older were measured with another power.
    expect(saved()[0].powerRead).toBe(new Date().toISOString().slice(0, 10))
    expect(saved()[0].powerCurve).toEqual([
      { power: 0.1, watts: 0 },
      { power: 0.5, watts: 26 },
      { power: 1, watts: 57 },
    ])
  })

  it.each(['10', 'x: 3', '0: 3', '120: 3', '10: -1'])('refuses “%s” and says how it is written', async (text) => {
    show()
    await type('Power curve', text)
    expect(screen.getByText('Write it as 10: 0, 50: 26, 100: 57.')).toBeTruthy()
    expect(saved()).toEqual([])
  })
})

describe('the kind of a machine', () => {
  it('shows what a scan head has instead of acceleration', () => {
    show(scanHead)
    expect(screen.queryByLabelText('Acceleration x')).toBeNull()
    expect(screen.getByLabelText('Jump delay, least')).toBeTruthy()
  })

  it('brings delays of mirrors when it becomes a scan head, and takes them away again', async () => {
    show()
    await userEvent.click(screen.getByLabelText('Kind'))
    await userEvent.click(screen.getByRole('option', { name: 'scan head' }))
    await waitFor(() => expect(saved()).toHaveLength(1))
    expect(saved()[0].head).toMatchObject({ kind: 'mirrors', jumpDelayS: { least: 0.0001 } })
    cleanup()
    show(scanHead)
    await userEvent.click(screen.getByLabelText('Kind'))
    await userEvent.click(screen.getByRole('option', { name: 'moving head' }))
    await waitFor(() => expect(saved()).toHaveLength(2))
    expect(saved()[1].head).toEqual({ kind: 'gantry', junctionDeviationMm: 0.01 })
  })
})

describe('lenses', () => {
  it('are changed one by one, fitted, and added with a name of their own', async () => {
    show()
    const group = screen.getByRole('region', { name: 'Lenses' })
    await userEvent.click(within(group).getByRole('button', { name: 'Add a lens' }))
    await waitFor(() => expect(saved()).toHaveLength(1))
    const ids = saved()[0].lenses.map(({ id }) => id)
    expect(new Set(ids).size).toBe(machine.lenses.length + 1)
    const other = within(group).queryAllByRole('button', { name: 'fit' })
    expect(other).toHaveLength(machine.lenses.length)
    const [focal] = within(group).getAllByLabelText('Focal length')
    await userEvent.clear(focal)
    await userEvent.type(focal, '63.5{Enter}')
    await waitFor(() => expect(saved()).toHaveLength(2))
    expect(saved()[1].lenses[0].focalLengthMm).toBe(63.5)
    expect(saved()[1].lenses.slice(1)).toEqual(saved()[0].lenses.slice(1))
  })
})

describe('what is done with a machine', () => {
  it('is taken away only when it is said twice', async () => {
    show()
    await userEvent.click(screen.getByRole('button', { name: 'Take away' }))
    expect(told.onRemove).not.toHaveBeenCalled()
    await userEvent.click(screen.getByRole('button', { name: 'Really take it away' }))
    expect(told.onRemove).toHaveBeenCalledOnce()
  })

  it('is connected where it has an address, and disconnected where it is connected', async () => {
    show(machine, { ...restingDesk, machine: machine.id, state: 'off', report: null, checked: false })
    expect((screen.getByRole('button', { name: 'First connection' }) as HTMLButtonElement).disabled).toBe(true)
    await userEvent.click(screen.getByRole('button', { name: 'Connect' }))
    await waitFor(() => expect(asked.at(-1)?.path).toBe(`/machines/${machine.id}/connect`))
    cleanup()
    show(machine, { ...restingDesk, machine: machine.id, state: 'off', address: '', report: null })
    expect((screen.getByRole('button', { name: 'Connect' }) as HTMLButtonElement).disabled).toBe(true)
    cleanup()
    show()
    await userEvent.click(screen.getByRole('button', { name: 'Disconnect' }))
    await waitFor(() => expect(asked.at(-1)?.path).toBe(`/machines/${machine.id}/disconnect`))
  })

  it('is told where the server refuses it', async () => {
    fakeServer({ 'POST /machines/': { refuse: 409, message: 'It is running: stop it first.' } })
    show()
    await userEvent.click(screen.getByRole('button', { name: 'Disconnect' }))
    expect(await screen.findByText('It is running: stop it first.')).toBeTruthy()
  })

  it('says what is wrong with the connection rather than that it was checked', () => {
    show(machine, { ...restingDesk, machine: machine.id, trouble: 'It sends what cannot be read.' })
    expect(screen.getByText('It sends what cannot be read.')).toBeTruthy()
    expect(screen.queryByText('settings compared, beam seen to go off')).toBeNull()
  })
})
