import type { DeskLive, DeskState } from '@neotaxis/contract'

/** Whether its connection stands. */
export const isLinked = ({ state }: DeskLive): boolean => !['off', 'connecting', 'lost', 'looking'].includes(state)

/** Whether it is in the middle of something that can be stopped. */
export const isBusy = ({ state }: DeskLive): boolean => !['off', 'connecting', 'lost', 'idle'].includes(state)

const STATE_SAYS: Readonly<Partial<Record<DeskState, { readonly text: string; readonly hot: boolean }>>> = {
  connecting: { text: 'connecting', hot: false },
  looking: { text: 'lost, looking for it', hot: true },
  framing: { text: 'framing', hot: true },
  pulsing: { text: 'pulses', hot: true },
  preparing: { text: 'preparing', hot: false },
  starting: { text: 'starting', hot: true },
  stopping: { text: 'stopping', hot: true },
}

/** What a machine does, in a word or two; hot where the beam may be on. */
export function deskSays(desk: DeskLive | undefined): { readonly text: string; readonly hot: boolean } {
  if (!desk || desk.state === 'off' || desk.state === 'lost')
    return { text: desk?.address === '' ? 'no connection' : 'not connected', hot: false }
  if (desk.silent) return { text: 'does not answer', hot: true }
  const says = STATE_SAYS[desk.state]
  if (says) return says
  const state = desk.report?.state

  if (state === 'run') return { text: desk.report && desk.report.beam > 0 ? 'beam on' : 'moving', hot: true }
  const names: Record<string, string> = {
    idle: 'ready',
    hold: 'held',
    pause: 'waits',
    armed: 'armed',
    lid: 'lid open',
    alarm: 'home it',
    emergency: 'emergency stop',
  }
  return { text: names[state ?? ''] ?? 'connected', hot: state === 'armed' }
}
