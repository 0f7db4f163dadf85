import { RANGES } from '@neotaxis/core'
import { PercentField } from './quantities.tsx'

interface Props {
  readonly passes: number
  /** Share of the power in each; what is missing is full. */
  readonly powers: readonly number[]
  readonly onChange: (name: string, powers: readonly number[]) => void
}

/** More passes than this are alike. */
const MOST = 8

/** The power of each pass, where there are several: the last may be a weak one that cleans. */
export function PassPowers({ passes, powers, onChange }: Props) {
  if (passes < 2 || passes > MOST) return null
  return Array.from({ length: passes }, (_, pass) => (
    <PercentField
      // biome-ignore lint/suspicious/noArrayIndexKey: passes have no other name
      key={pass}
      label={`Pass ${pass + 1}`}
      value={powers[pass] ?? 1}
      range={RANGES.power}
      hint="Share of the power in this pass: the last may be a weak one that cleans."
      onCommit={(share) =>
        onChange(
          `pass ${pass + 1} at ${Math.round(share * 100)} %`,
          Array.from({ length: passes }, (__, i) => (i === pass ? share : (powers[i] ?? 1))),
        )
      }
    />
  ))
}
