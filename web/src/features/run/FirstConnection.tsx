import { Box, Button, Dialog, DialogActions, DialogContent, DialogTitle, Typography } from '@mui/material'
import type { DeskLive } from '@neotaxis/contract'
import { type Machine, type SettingDifference, withSettings } from '@neotaxis/core'
import { useEffect, useState } from 'react'
import { machineOrders } from '../../api/orders.ts'
import { Words } from '../../parts/words.tsx'
import { isLinked } from '../live/desk-words.ts'
import { useDoing } from './use-doing.ts'

interface Props {
  readonly machine: Machine
  readonly desk: DeskLive
  readonly open: boolean
  readonly onClose: () => void
  /** The profile was changed to what the machine says. */
  readonly onProfile?: (machine: Machine) => void
}

type Step = 'settings' | 'dark' | 'flash' | 'darkAgain' | 'inverted' | 'dead' | 'done'

/** The first time with a machine: its settings against the profile, then proof that its beam goes off. */
export function FirstConnection({ machine, desk, open, onClose, onProfile }: Props) {
  const doing = useDoing()
  const [step, setStep] = useState<Step>('settings')
  const [told, setTold] = useState<{ settings: Record<string, number>; differences: readonly SettingDifference[] }>()
  useEffect(() => {
    if (!open) return
    setStep('settings')
    void doing(async () => setTold(await machineOrders.settings(machine.id)))
  }, [open, machine.id, doing])
  const number = (value: number): string => String(Number(value.toFixed(4)))
  const pulsing = desk.state === 'pulsing'
  const answer = (question: string, detail: string, yes: [string, () => void], no: [string, () => void]) => (
    <>
      <DialogContent>
        <Words size="title" weight="strong" bottom="snug">
          {question}
        </Words>
        <Typography>{detail}</Typography>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Later</Button>
        <Button variant="outlined" onClick={no[1]} size="large" data-testid="check-no">
          {no[0]}
        </Button>
        <Button variant="contained" onClick={yes[1]} disabled={pulsing} size="large" data-testid="check-yes">
          {yes[0]}
        </Button>
      </DialogActions>
    </>
  )
  const pulse = async (): Promise<void> => {
    if (!(await doing(() => machineOrders.pulse(machine.id, 0.05, 3)))) return
    setStep('flash')
  }
  return (
    <Dialog open={open} onClose={onClose} maxWidth="sm" fullWidth>
      <DialogTitle>First connection: {machine.name}</DialogTitle>
      {step === 'settings' && (
        <>
          <DialogContent>
            <Words bottom="snug">1 of 2 · What the machine says of itself, against its profile here.</Words>
            {!told && <Typography>Asking …</Typography>}
            {told?.differences.length === 0 && <Words weight="strong">They agree in everything that was told.</Words>}
            {told && told.differences.length > 0 && (
              <Box
                component="table"
                sx={{
                  width: '100%',
                  borderCollapse: 'collapse',
                  '& td, & th': {
                    textAlign: 'left',
                    py: 0.6,
                    pr: 2,
                    borderBottom: 1,
                    borderColor: 'divider',
                    verticalAlign: 'top',
                  },
                }}
              >
                <thead>
                  <tr>
                    <th>setting</th>
                    <th>profile</th>
                    <th>machine</th>
                    <th>if it stays</th>
                  </tr>
                </thead>
                <tbody>
                  {told.differences.map((difference) => (
                    <tr key={difference.name}>
                      <td>{difference.name}</td>
                      <td>{number(difference.profile)}</td>
                      <td>
                        <b>{number(difference.machine)}</b>
                      </td>
                      <td>{difference.effect}</td>
                    </tr>
                  ))}
                </tbody>
              </Box>
            )}
          </DialogContent>
          <DialogActions>
            <Button onClick={onClose}>Later</Button>
            {told && told.differences.length > 0 && (
              <Button
                variant="outlined"
                onClick={() =>
                  void doing(async () => {
                    const { machine: kept } = await machineOrders.save(
                      withSettings(machine, new Map(Object.entries(told.settings))),
                      machine.version,
                    )
                    onProfile?.(kept)
                    setTold({ ...told, differences: [] })
                  })
                }
              >
                Take the machine's
              </Button>
            )}
            <Button
              variant="contained"
              disabled={!told || !isLinked(desk)}
              onClick={() => setStep('dark')}
              data-testid="check-next"
            >
              Go on
            </Button>
          </DialogActions>
        </>
      )}
      {step === 'dark' &&
        answer(
          'Is the beam off now?',
          '2 of 2 · Some controllers are wired the wrong way round: the beam is on when it should be off. Put a scrap under the head, close the lid, and look. Nothing must burn.',
          ['It is dark', () => void pulse()],
          ['It burns', () => setStep('inverted')],
        )}
      {step === 'flash' &&
        answer(
          'Did it flash a few times, weakly?',
          'The beam is switched on at 5 % three times, for 0.06 s each. A mark on the scrap counts too.',
          ['It flashed', () => setStep('darkAgain')],
          ['Nothing came', () => setStep('dead')],
        )}
      {step === 'darkAgain' &&
        answer(
          'Is it dark again?',
          'The pulses are over. The head stands still and must not burn.',
          [
            'It is dark',
            () =>
              void doing(async () => {
                await machineOrders.check(machine.id)
                setStep('done')
              }),
          ],
          ['It burns', () => setStep('inverted')],
        )}
      {(step === 'inverted' || step === 'dead') && (
        <>
          <DialogContent>
            <Words role="alert" size="title" weight="strong">
              {step === 'inverted'
                ? 'Switch the machine off at its main switch now.'
                : 'The beam does not come when it is asked for.'}
            </Words>
            <Words top="snug">
              {step === 'inverted'
                ? 'Its beam is on when it is told to be off: the signal to the source is inverted. Turn the polarity in the controller, or have its wiring changed. Nothing is run on it until this test passes.'
                : 'Key switch, interlocks, water and lid are the usual reasons; or 5 % lies below the power at which the source wakes up. Try again after looking.'}
            </Words>
          </DialogContent>
          <DialogActions>
            <Button onClick={onClose}>Close</Button>
            <Button variant="outlined" onClick={() => setStep('dark')}>
              Try again
            </Button>
          </DialogActions>
        </>
      )}
      {step === 'done' && (
        <>
          <DialogContent>
            <Words size="title" weight="strong">
              This machine may run.
            </Words>
            <Words top="snug">
              Its settings are known, and its beam goes off when it should. The check is written down with your name.
            </Words>
          </DialogContent>
          <DialogActions>
            <Button variant="contained" onClick={onClose} data-testid="check-done">
              Done
            </Button>
          </DialogActions>
        </>
      )}
    </Dialog>
  )
}
