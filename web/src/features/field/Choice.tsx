import { MenuItem, TextField } from '@mui/material'

interface Props {
  readonly label: string
  readonly value: string
  readonly choices: readonly (readonly [value: string, words: string])[]
  readonly onChoose: (value: string) => void
  readonly testId: string
}

/** One of some words, chosen from a list. */
export function Choice({ label, value, choices, onChoose, testId }: Props) {
  return (
    <TextField
      select
      fullWidth
      size="small"
      margin="dense"
      label={label}
      value={value}
      onChange={(event) => onChoose(event.target.value)}
      data-testid={testId}
    >
      {choices.map(([each, words]) => (
        <MenuItem key={each} value={each}>
          {words}
        </MenuItem>
      ))}
    </TextField>
  )
}
