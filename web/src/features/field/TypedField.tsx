import { InputAdornment, TextField } from '@mui/material'
import type { Written } from './measures.ts'
import { useTyped } from './use-typed.ts'

interface Props<T> {
  readonly label: string
  readonly value: T
  readonly as: Written<T>
  readonly onTake: (value: T) => void
  /** Why what was taken cannot stay, in a sentence. */
  readonly refused?: string
  readonly hint?: string
  readonly wide?: boolean
  /** px, where it stands in no grid */
  readonly width?: number
  readonly testId?: string
}

/** A value in a box of its own: Enter or leaving it takes what was typed, Escape leaves it. */
export function TypedField<T>({ label, value, as, onTake, refused, hint, wide = false, width, testId }: Props<T>) {
  const { input, text, error, type, take, key } = useTyped(value, as, onTake)
  const wrong = error ?? refused
  return (
    <TextField
      size="small"
      label={label}
      inputRef={input}
      value={text}
      error={wrong !== undefined}
      helperText={wrong ?? hint}
      onChange={(event) => type(event.target.value)}
      onBlur={take}
      onKeyDown={key}
      sx={wide ? { gridColumn: 'span 2', minWidth: 260 } : { width }}
      slotProps={{
        input: { endAdornment: as.unit ? <InputAdornment position="end">{as.unit}</InputAdornment> : undefined },
        htmlInput: { 'data-testid': testId },
      }}
    />
  )
}
