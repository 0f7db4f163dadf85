import DeleteIcon from '@mui/icons-material/DeleteOutlined'
import { Button, IconButton } from '@mui/material'
import type { RoundProfile } from '@neotaxis/core'
import { Row } from '../../parts/Row.tsx'
import { useSelector } from '../../store/hooks.ts'
import { lengthIn } from '../field/measures.ts'
import { TypedField } from '../field/TypedField.tsx'

interface Props {
  readonly places: RoundProfile
  readonly lengthMm: number
  readonly onChange: (name: string, places: RoundProfile) => void
}

/** Diameters along something stepped or bellied, as a calliper tells them from place to place. */
export function ProfileFields({ places, lengthMm, onChange }: Props) {
  const mm = lengthIn(useSelector((state) => state.view.lengthUnit))
  const set = (i: number, change: Partial<RoundProfile[number]>): void =>
    onChange(
      'diameter at a place',
      places.map((place, k) => (k === i ? { ...place, ...change } : place)).sort((a, b) => a.alongMm - b.alongMm),
    )
  const add = (): void => {
    // Half way where it is farthest from one to the next.
    const gaps = places.slice(1).map(({ alongMm }, i) => alongMm - places[i].alongMm)
    const at = gaps.indexOf(Math.max(...gaps))
    const middle = {
      alongMm: (places[at].alongMm + places[at + 1].alongMm) / 2,
      diameterMm: (places[at].diameterMm + places[at + 1].diameterMm) / 2,
    }
    onChange('a diameter more', [...places.slice(0, at + 1), middle, ...places.slice(at + 1)])
  }
  return (
    <>
      {places.map(({ alongMm, diameterMm }, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: places have no name
        <Row key={i} gap="snug" top="snug">
          <TypedField
            label="At"
            value={alongMm}
            as={mm}
            width={130}
            onTake={(at) => set(i, { alongMm: Math.max(0, Math.min(lengthMm, at)) })}
          />
          <TypedField label="Ø" value={diameterMm} as={mm} width={130} onTake={(next) => set(i, { diameterMm: next })} />
          <IconButton
            size="small"
            aria-label={`Take diameter ${i + 1} away`}
            disabled={places.length < 3}
            onClick={() => onChange('a diameter less', places.toSpliced(i, 1))}
          >
            <DeleteIcon fontSize="small" />
          </IconButton>
        </Row>
      ))}
      <Button size="small" fullWidth onClick={add} data-testid="add-diameter">
        Another diameter
      </Button>
    </>
  )
}
