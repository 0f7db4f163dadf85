import { Box, InputBase, Tooltip } from '@mui/material'
import { useEffect, useId, useRef, useState } from 'react'
import { understood } from './understood.ts'

export interface QuantityFieldProps {
  readonly label: string
  readonly value: number
  readonly unit: string
  /** The value as it is shown, without unit. */
  readonly show: (value: number) => string
  /** Reads what was typed; throws an error whose message is a sentence. */
  readonly read: (text: string) => number
  readonly min: number
  readonly max: number
  /** How far the arrow keys go. */
  readonly step: number
  readonly hint?: string
  readonly onCommit: (value: number) => void
}

/**
 * A value with its unit: type, Enter takes it, Escape leaves it. Arrow keys step. What cannot be is refused here, with
 * the range, and nothing is changed.
 */
export function QuantityField({ label, value, unit, show, read, min, max, step, hint, onCommit }: QuantityFieldProps) {
  const id = useId()
  const [text, setText] = useState<string | null>(null)
  const [error, setError] = useState<string | null>(null)
  const input = useRef<HTMLInputElement>(null)
  // What was taken here and has not come back yet: a busy page may take its time.
  const sent = useRef<number | null>(null)
  const commit = (next: number): void => {
    sent.current = next
    onCommit(next)
  }
  // A value changed elsewhere replaces what was not taken yet, unless somebody is typing here: that is never erased.
  // biome-ignore lint/correctness/useExhaustiveDependencies: it runs when the value has changed
  useEffect(() => {
    sent.current = null
    if (document.activeElement === input.current) return
    setText(null)
    setError(null)
  }, [value])
  const take = (typed: string): boolean => {
    const now = sent.current ?? value
    if (typed.trim() === show(now)) {
      setText(null)
      setError(null)
      return true
    }
    const next = understood(read, typed)
    const outside = typeof next === 'number' && (next < min - 1e-9 || next > max + 1e-9)
    if (typeof next === 'string' || outside) {
      setError(outside ? `${label} goes from ${show(min)} to ${show(max)} ${unit}.` : String(next))
      return false
    }
    setText(null)
    setError(null)
    if (Math.abs(next - now) > 1e-9) commit(next)
    return true
  }
  return (
    <Box sx={{ borderBottom: 1, borderColor: error ? 'error.main' : 'divider' }}>
      <Box sx={{ display: 'flex', alignItems: 'baseline', minHeight: 36, gap: 1 }}>
        <Tooltip
          describeChild
          title={hint ?? `${show(min)} to ${show(max)} ${unit}. Enter takes it, Escape leaves it.`}
          placement="left"
        >
          <Box component="label" htmlFor={id} sx={{ flex: 1 }}>
            {label}
          </Box>
        </Tooltip>
        <InputBase
          id={id}
          inputRef={input}
          value={text ?? show(value)}
          error={error !== null}
          onChange={(event) => setText(event.target.value)}
          onFocus={(event) => event.target.select()}
          onBlur={() => {
            if (text !== null) take(text)
          }}
          onKeyDown={(event) => {
            if (event.key === 'Enter' && (text === null || take(text))) input.current?.select()
            // Where something was typed it is left; where nothing was, the sheet that it stands in closes.
            if (event.key === 'Escape' && (text !== null || error !== null)) {
              setText(null)
              setError(null)
              event.stopPropagation()
            }
            if (event.key === 'ArrowUp' || event.key === 'ArrowDown') {
              event.preventDefault()
              setText(null)
              setError(null)
              const next = (sent.current ?? value) + (event.key === 'ArrowUp' ? step : -step) * (event.shiftKey ? 10 : 1)
              commit(Math.min(max, Math.max(min, Number(next.toFixed(6)))))
            }
          }}
          inputProps={
            {
              'aria-describedby': error ? `${id}-error` : undefined,
              inputMode: 'decimal',
              'data-typed': text === null ? 'no' : 'yes',
            } as object
          }
          sx={{ width: 104, '& input': { textAlign: 'right', fontWeight: 700, fontSize: 17, p: 0, height: 30 } }}
        />
        <Box component="span" sx={{ color: 'text.secondary', minWidth: 42, fontSize: 13 }}>
          {unit}
        </Box>
      </Box>
      {error && (
        <Box id={`${id}-error`} role="alert" sx={{ color: 'error.main', fontSize: 12.5, pb: 0.5 }}>
          {error}
        </Box>
      )}
    </Box>
  )
}
