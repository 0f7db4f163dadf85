import { type AreaOperation, type CutOperation, RANGES, type ScoreOperation } from '@neotaxis/core'
import { PassPowers } from '../features/field/PassPowers.tsx'
import { CountField, LengthField, PercentField } from '../features/field/quantities.tsx'
import type { ProcessFieldsProps } from './process-page.ts'

/** How lines and edges are followed: power at corners where they have some, and what differs from pass to pass. */
export function FollowFields({ job, operation, set, corners = true }: ProcessFieldsProps & { readonly corners?: boolean }) {
  const {
    leastPower = 0,
    power,
    passes,
    passPowers = [],
    focusStepMm = 0,
    restS = 0,
  } = operation as CutOperation | ScoreOperation | AreaOperation
  const { machine } = job
  return (
    <>
      {corners && machine.head.kind === 'gantry' && (
        <PercentField
          label="Kept at corners"
          value={leastPower}
          range={{ min: 0, max: Math.max(power, leastPower) }}
          hint="Power follows the speed down at corners, but not below this. 0: all the way."
          onCommit={(v) => set('least power', { leastPower: v === 0 ? undefined : v })}
        />
      )}
      <PassPowers passes={passes} powers={passPowers} onChange={(name, powers) => set(name, { passPowers: powers })} />
      {passes > 1 && machine.axes.z && (
        <LengthField
          label="Deeper each pass"
          value={focusStepMm}
          range={RANGES.focusStepMm}
          digits={2}
          step={0.1}
          hint="The lens follows into the cut by this much from pass to pass."
          onCommit={(v) => set('focus step', { focusStepMm: v === 0 ? undefined : v })}
        />
      )}
      {passes > 1 && (
        <CountField
          label="Rest between passes"
          unit="s"
          digits={1}
          value={restS}
          range={RANGES.restS}
          hint="The machine stands dark so long, and the material cools."
          onCommit={(v) => set('rest between passes', { restS: v === 0 ? undefined : v })}
        />
      )}
    </>
  )
}
