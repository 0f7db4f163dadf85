import AddIcon from '@mui/icons-material/Add'
import RemoveIcon from '@mui/icons-material/Remove'
import { IconButton } from '@mui/material'
import { type Operation, RANGES, type RunChange } from '@neotaxis/core'
import { Row } from '../../parts/Row.tsx'
import { Words } from '../../parts/words.tsx'
import { useSelector } from '../../store/hooks.ts'
import { numberOf, PERCENT, relativeTo, speedIn } from '../field/measures.ts'
import { TypedField } from '../field/TypedField.tsx'

interface Props {
  readonly operation: Operation
  readonly change: RunChange
  readonly onChange: (change: RunChange) => void
}

/** What the buttons go by: a twentieth of full power, a tenth of the speed. */
const STEP = { power: 0.05, speed: 1.1 }

/** Power, speed and passes for one run only: by buttons that gloves can press, typed, or in per cent of what they are (“+20 %”). */
export function ChangeFields({ operation, change, onChange }: Props) {
  const unit = useSelector((state) => state.view.speedUnit)
  const { power = operation.power, speedMmS = operation.speedMmS, passes = operation.passes } = change
  const held = (name: 'power' | 'speedMmS' | 'passes', value: number): void => {
    const { min, max } = RANGES[name]
    const within = Math.min(max, Math.max(name === 'power' ? 0.01 : min, value))
    onChange({ power, speedMmS, passes, [name]: name === 'passes' ? Math.round(within) : Number(within.toFixed(4)) })
  }
  const rows = [
    {
      name: 'Power',
      key: 'power',
      value: power,
      as: PERCENT,
      otherwise: operation.power,
      by: (d: number) => power + d * STEP.power,
    },
    {
      name: 'Speed',
      key: 'speedMmS',
      value: speedMmS,
      as: speedIn(unit),
      otherwise: operation.speedMmS,
      by: (d: number) => speedMmS * STEP.speed ** d,
    },
    { name: 'Passes', key: 'passes', value: passes, as: numberOf(), otherwise: operation.passes, by: (d: number) => passes + d },
  ] as const
  return (
    <>
      {rows.map(({ name, key, value, as, otherwise, by }) => (
        <Row key={key} gap="tight" top="tight">
          <IconButton aria-label={`Less ${name.toLowerCase()}`} onClick={() => held(key, by(-1))} size="large">
            <RemoveIcon fontSize="small" />
          </IconButton>
          <Words grow as="div">
            <TypedField
              label={name}
              value={value}
              as={relativeTo(as, otherwise)}
              onTake={(to) => held(key, to)}
              testId={`change-${key}`}
            />
          </Words>
          <IconButton aria-label={`More ${name.toLowerCase()}`} onClick={() => held(key, by(1))} size="large">
            <AddIcon fontSize="small" />
          </IconButton>
        </Row>
      ))}
    </>
  )
}
