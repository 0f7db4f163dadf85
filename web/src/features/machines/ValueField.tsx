import { InputAdornment, TextField } from '@mui/material'
import { useState } from 'react'

interface Props {
  readonly label: string
  readonly value: string | number
  readonly unit?: string
  readonly hint?: string
  readonly wide?: boolean
  readonly onValue?: (value: number) => void
  /** May throw an error whose message is a sentence. */
  readonly onText?: (text: string) => void
}

const shown = (value: string | number): string => (typeof value === 'number' ? String(Number(value.toFixed(5))) : value)

/** A value of a profile: Enter or leaving the field takes it, Escape leaves it. */
export function ValueField({ label, value, unit, hint, wide = false, onValue, onText }: Props) {
  const [text, setText] = useState<string | null>(null)
  const [error, setError] = useState('')
  const take = (): void => {
    if (text === null || text === shown(value)) {
      setText(null)
      return
    }
    try {
      if (onText) onText(text.trim())
      else {
        const next = Number(text.trim().replace(',', '.'))
        if (text.trim() === '' || !Number.isFinite(next)) throw new Error('Not a number.')
        onValue?.(next)
      }
      setError('')
      setText(null)
    } catch (cause) {
      setError(cause instanceof Error ? cause.message : 'This cannot be read.')
    }
  }
  return (
    <TextField
      size="small"
      label={label}
      value={text ?? shown(value)}
      error={error !== ''}
      helperText={error || hint}
      onChange={(event) => setText(event.target.value)}
      onBlur={take}
      onKeyDown={(event) => {
        if (event.key === 'Enter') take()
        if (event.key === 'Escape') {
          setText(null)
          setError('')
        }
      }}
      sx={wide ? { gridColumn: 'span 2', minWidth: 260 } : undefined}
      slotProps={{ input: { endAdornment: unit ? <InputAdornment position="end">{unit}</InputAdornment> : undefined } }}
    />
  )
}
