import type { DeskLive } from '../../api/runs.ts'
import { useSelector } from '../../store/hooks.ts'

/** How one machine stands now; undefined while nothing was told. */
export const useDesk = (machine: string): DeskLive | undefined =>
  useSelector((state) => state.live.machines.find((desk) => desk.machine === machine))

/** What a machine does, in a word or two; hot where the beam may be on. */
export function deskSays(desk: DeskLive | undefined): { readonly text: string; readonly hot: boolean } {
  if (!desk || desk.link === 'off') return { text: desk?.address === '' ? 'no connection' : 'not connected', hot: false }
  if (desk.link === 'connecting') return { text: 'connecting', hot: false }
  if (desk.silent) return { text: 'does not answer', hot: true }
  if (desk.activity === 'frame') return { text: 'framing', hot: true }
  if (desk.activity === 'pulse') return { text: 'pulses', hot: true }
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
