// @vitest-environment happy-dom
import { MACHINES } from '@neotaxis/core'
import { fireEvent, screen, waitFor } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { describe, expect, it, vi } from 'vitest'
import { atShop } from '../testing/at-shop.ts'
import { type Answer, restingDesk, shown, tellDesks } from '../testing/fake-server.tsx'
import MachinesPage from './MachinesPage.tsx'

// Nothing is computed here, nor painted.
vi.mock('../workers/engine.ts', () => ({ compareWithBurn: () => new Promise(() => {}), onWorkerDeath: () => () => {} }))

const { serve, sent } = atShop()

describe('machines', () => {
  it('show how they stand, are connected and disconnected, and say why not', async () => {
    serve({
      'POST /machines/bench-60/connect': {
        refuse: 502,
        message: 'Nothing answers at tcp://127.0.0.1:1. Is the machine switched on?',
      },
      'POST /machines/bench-60/disconnect': undefined,
    })
    tellDesks({ ...restingDesk, state: 'lost', trouble: 'The connection to the machine was lost.' })
    shown(<MachinesPage />)
    const user = userEvent.setup()
    expect((await screen.findByTestId('machine-bench-60')).textContent).toContain('not connected')
    await user.click(screen.getByRole('button', { name: 'Connect' }))
    expect(await screen.findByText(/Is the machine switched on/)).toBeTruthy()
    tellDesks(restingDesk)
    expect(screen.getByTestId('machine-bench-60').textContent).toContain('ready')
    await user.click(screen.getByRole('button', { name: 'Disconnect' }))
    await waitFor(() =>
      expect(sent().map(({ path }) => path)).toEqual(['/machines/bench-60/connect', '/machines/bench-60/disconnect']),
    )
  })

  it('are changed on the version that is shown, and say so where somebody else was quicker', async () => {
    let answer: Answer = { machine: MACHINES[0] }
    serve({ 'PUT /machines/bench-60': () => answer })
    tellDesks(restingDesk)
    shown(<MachinesPage />)
    const user = userEvent.setup()
    const name = (await screen.findByLabelText('Name')) as HTMLInputElement
    await user.clear(name)
    await user.type(name, 'Bench by the window{Enter}')
    await waitFor(() => expect(sent()).toHaveLength(1))
    expect(sent()[0].body).toMatchObject({ machine: { id: 'bench-60', name: 'Bench by the window' }, base: MACHINES[0].version })
    answer = { refuse: 409, message: 'Something is done with this machine now: change its profile when it stands.' }
    const address = screen.getByLabelText('Address')
    await user.type(address, 'tcp://10.0.0.9:4400{Enter}')
    expect(await screen.findByText(/change its profile when it stands/)).toBeTruthy()
  })

  it('are taken away in two presses, duplicated without their address, and brought in from a file', async () => {
    serve({ 'PUT /machines': { machine: MACHINES[0] }, 'DELETE /machines': undefined })
    tellDesks(restingDesk)
    shown(<MachinesPage />)
    const user = userEvent.setup()
    await user.click(await screen.findByTestId('duplicate'))
    await waitFor(() => expect(sent()).toHaveLength(1))
    expect(sent()[0]).toMatchObject({
      path: '/machines/bench-60-2',
      body: { base: null, machine: { address: '', name: 'Bench laser 60 W (copy)' } },
    })
    const file = new File([JSON.stringify({ ...MACHINES[0], id: 'annex', name: 'Annex' })], 'annex.machine.json')
    fireEvent.change(screen.getByLabelText('Machine profile'), { target: { files: [file] } })
    await waitFor(() => expect(sent()).toHaveLength(2))
    expect(sent()[1].path).toBe('/machines/annex')
    fireEvent.change(screen.getByLabelText('Machine profile'), { target: { files: [new File(['{'], 'broken.json')] } })
    expect(await screen.findByText('broken.json is no machine profile.')).toBeTruthy()
    fireEvent.click(screen.getByTestId('machine-corner-20'))
    await user.click(await screen.findByRole('button', { name: 'Take away' }))
    await user.click(screen.getByRole('button', { name: 'Really take it away' }))
    await waitFor(() => expect(sent().at(-1)).toMatchObject({ method: 'DELETE', path: '/machines/corner-20' }))
  })
})
