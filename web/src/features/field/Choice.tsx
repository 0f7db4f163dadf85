import { MenuItem, TextField } from '@mui/material'

interface Props<T extends string> {
  readonly label: string
  readonly value: T
  readonly options: Readonly<Record<T, string>>
  readonly onChoose: (value: T) => void
  readonly testId?: string
}

/** One of a few words. */
export function Choice<T extends string>({ label, value, options, onChoose, testId }: Props<T>) {
  return (
    <TextField
      select
      fullWidth
      size="small"
      label={label}
      value={value}
      onChange={(event) => onChoose(event.target.value as T)}
      margin="dense"
      data-testid={testId}
    >
      {Object.entries<string>(options).map(([key, words]) => (
        <MenuItem key={key} value={key}>
          {words}
        </MenuItem>
      ))}
    </TextField>
  )
}
