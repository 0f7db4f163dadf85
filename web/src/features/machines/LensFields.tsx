import { Box, Button } from '@mui/material'
import type { Machine } from '@neotaxis/core'
import { useController, useFieldArray, useFormContext } from 'react-hook-form'
import { useSelector } from '../../store/hooks.ts'
import { lengthIn, WORDS } from '../field/measures.ts'
import { ProfileField, useKeepProfile } from './profile-form.tsx'

/** The lenses that belong to a machine, and which of them is fitted. */
export function LensFields() {
  const { control } = useFormContext<Machine>()
  const { fields, append } = useFieldArray({ control, name: 'lenses', keyName: 'row' })
  const { field: fitted } = useController<Machine, 'lens'>({ name: 'lens' })
  const keep = useKeepProfile()
  const mm = lengthIn(
    useSelector((state) => state.view.lengthUnit),
    3,
  )
  const add = (): void => {
    const { row: _, ...like } = fields[0]
    const id = `l${Math.max(0, ...fields.map((one) => Number(/\d+$/.exec(one.id)?.[0] ?? 0))) + 1}`
    append({ ...like, id, name: 'Another lens' }, { shouldFocus: false })
    keep()
  }
  return (
    <>
      {fields.map(({ row, id }, i) => (
        <Box
          key={row}
          sx={{
            gridColumn: '1 / -1',
            display: 'grid',
            gridTemplateColumns: 'repeat(auto-fit, minmax(120px, 1fr))',
            gap: 1.2,
            alignItems: 'start',
          }}
        >
          <ProfileField name={`lenses.${i}.name`} label="Lens" as={WORDS} />
          <ProfileField name={`lenses.${i}.focalLengthMm`} label="Focal length" as={mm} />
          <ProfileField name={`lenses.${i}.spotMm`} label="Spot" as={mm} />
          <ProfileField name={`lenses.${i}.depthOfFocusMm`} label="Depth of focus ±" as={mm} />
          <Button
            variant={id === fitted.value ? 'contained' : 'outlined'}
            aria-pressed={id === fitted.value}
            onClick={() => {
              fitted.onChange(id)
              keep()
            }}
            sx={{ minWidth: 92 }}
          >
            {id === fitted.value ? 'fitted' : 'fit'}
          </Button>
        </Box>
      ))}
      <Button onClick={add} sx={{ justifySelf: 'start' }}>
        Add a lens
      </Button>
    </>
  )
}
