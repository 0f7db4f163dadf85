import type { Repeat } from '@neotaxis/core'
import { Choice } from '../field/Choice.tsx'
import { CountField, LengthField } from '../field/quantities.tsx'

const LENGTH = { min: 0.1, max: 10_000 }

interface Props {
  readonly repeat: Repeat | undefined
  readonly onChange: (repeat: Repeat | undefined) => void
}

/** How often something is drawn, and where its copies stand. */
export function RepeatFields({ repeat, onChange }: Props) {
  return (
    <>
      <Choice
        label="How often"
        testId="draw-repeat"
        value={repeat?.kind ?? 'once'}
        options={{ once: 'once', grid: 'in rows and columns', round: 'around a circle' }}
        onChoose={(kind) =>
          onChange(
            kind === 'grid'
              ? { kind, columns: 3, rows: 2, pitchXMm: 70, pitchYMm: 50 }
              : kind === 'round'
                ? { kind, count: 12, diameterMm: 120 }
                : undefined,
          )
        }
      />
      {repeat?.kind === 'grid' && (
        <>
          <CountField
            label="Columns"
            value={repeat.columns}
            range={{ min: 1, max: 200 }}
            onCommit={(columns) => onChange({ ...repeat, columns })}
          />
          <CountField
            label="Rows"
            value={repeat.rows}
            range={{ min: 1, max: 25 }}
            onCommit={(rows) => onChange({ ...repeat, rows })}
          />
          <LengthField
            label="Pitch across"
            value={repeat.pitchXMm}
            range={LENGTH}
            digits={2}
            onCommit={(pitchXMm) => onChange({ ...repeat, pitchXMm })}
          />
          <LengthField
            label="Pitch down"
            value={repeat.pitchYMm}
            range={LENGTH}
            digits={2}
            onCommit={(pitchYMm) => onChange({ ...repeat, pitchYMm })}
          />
        </>
      )}
      {repeat?.kind === 'round' && (
        <>
          <CountField
            label="Copies"
            value={repeat.count}
            range={{ min: 1, max: 360 }}
            onCommit={(count) => onChange({ ...repeat, count })}
          />
          <LengthField
            label="Circle of"
            value={repeat.diameterMm}
            range={LENGTH}
            digits={2}
            onCommit={(diameterMm) => onChange({ ...repeat, diameterMm })}
          />
        </>
      )}
    </>
  )
}
