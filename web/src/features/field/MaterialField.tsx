import { Autocomplete, TextField } from '@mui/material'
import type { Material } from '@neotaxis/core'
import { Words } from '../../parts/words.tsx'

interface Props {
  readonly materials: readonly Material[]
  /** Its id. */
  readonly value: string | undefined
  readonly onChoose: (material: Material) => void
  /** px; absent: as wide as there is room */
  readonly width?: number
}

const named = ({ name, thicknessMm }: Material): string => `${name}, ${thicknessMm} mm`

/** A material of the shop: a few letters and Enter, or from the list. What must never be lasered stands last, with the reason. */
export function MaterialField({ materials, value, onChoose, width }: Props) {
  // One that the shop has no more is none of them: another can be chosen.
  const chosen = materials.find(({ id }) => id === value) ?? (null as never)
  return (
    <Autocomplete
      size="small"
      disableClearable
      autoHighlight
      selectOnFocus
      handleHomeEndKeys
      options={[...materials].sort((a, b) => Number(a.forbidden !== undefined) - Number(b.forbidden !== undefined))}
      value={chosen}
      getOptionLabel={named}
      isOptionEqualToValue={(a, b) => a.id === b.id}
      onChange={(_, next) => onChoose(next)}
      noOptionsText="No such material in the shop"
      style={{ width: width ?? '100%' }}
      renderOption={({ key, ...props }, option) => (
        <li key={option.id} {...props}>
          <span>
            {named(option)}
            {option.forbidden !== undefined && (
              <Words size="small" tone="wrong">
                must never be lasered
              </Words>
            )}
          </span>
        </li>
      )}
      renderInput={(params) => <TextField {...params} label="Material" margin={width === undefined ? 'dense' : 'none'} />}
    />
  )
}
