import type { Machine, Operation } from '@neotaxis/core'
import { SwitchRow } from '../../parts/SwitchRow.tsx'
import { CountField } from '../field/quantities.tsx'

interface Props {
  readonly machine: Machine
  readonly operation: Operation
  readonly set: (name: string, change: Partial<Operation>) => void
}

/** Frequency and width of the pulses, of a source where they can be set. */
export function PulseFields({ machine: { pulses }, operation: { pulseHz, pulseNs }, set }: Props) {
  if (!pulses) return null
  const { hz, ns } = pulses
  return (
    <>
      <SwitchRow
        label="Pulses are set"
        on={pulseHz !== undefined}
        onSwitch={(on) =>
          set(on ? 'pulses are set' : 'pulses as the source stands', {
            pulseHz: on ? hz.min : undefined,
            pulseNs: on && ns ? ns.max : undefined,
          })
        }
      />
      {pulseHz !== undefined && (
        <CountField
          label="Pulses"
          unit="kHz"
          digits={2}
          value={pulseHz / 1000}
          range={{ min: hz.min / 1000, max: hz.max / 1000 }}
          onCommit={(v) => set('pulse frequency', { pulseHz: Math.round(v * 1000) })}
        />
      )}
      {pulseNs !== undefined && ns && (
        <CountField
          label="Pulse width"
          unit="ns"
          digits={1}
          value={pulseNs}
          range={ns}
          onCommit={(v) => set('pulse width', { pulseNs: v })}
        />
      )}
    </>
  )
}
