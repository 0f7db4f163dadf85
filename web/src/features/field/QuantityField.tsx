import { Box, InputBase, Tooltip } from '@mui/material'
import type { Range } from '@neotaxis/core'
import { useId } from 'react'
import { Row } from '../../parts/Row.tsx'
import { Label, Wrong } from '../../parts/words.tsx'
import { TYPE, WEIGHT } from '../../theme/tokens.ts'
import type { Measure } from './measures.ts'
import { outside, spanOf } from './refusal.ts'
import { useTyped } from './use-typed.ts'

interface Props {
  readonly label: string
  readonly value: number
  readonly as: Measure
  readonly range: Range
  readonly hint?: string
  /** Why a value within the range cannot be, in a sentence. */
  readonly refuses?: (value: number) => string | undefined
  readonly onCommit: (value: number) => void
}

/**
 * A value with its unit: type, Enter takes it, Escape leaves it. Arrow keys step. What cannot be is refused here, with
 * the range, and nothing is changed.
 */
export function QuantityField({ label, value, as, range, hint, refuses, onCommit }: Props) {
  const id = useId()
  const { min, max } = range
  const { unit, step } = as
  const beyond = outside(label, as, range)
  const wrong = (to: number): string | null => beyond(to) ?? refuses?.(to) ?? null
  const { input, text, open, error, now, type, take, put, key } = useTyped(value, as, onCommit, wrong)
  return (
    <Box sx={{ borderBottom: 1, borderColor: error ? 'error.main' : 'divider' }}>
      <Row align="baseline" line>
        <Tooltip describeChild title={hint ?? `${spanOf(as, range)}. Enter takes it, Escape leaves it.`} placement="left">
          <Label htmlFor={id} grow>
            {label}
          </Label>
        </Tooltip>
        <InputBase
          id={id}
          inputRef={input}
          value={text}
          error={error !== null}
          onChange={(event) => type(event.target.value)}
          onFocus={(event) => event.target.select()}
          onBlur={take}
          onKeyDown={(event) => {
            key(event)
            if (event.key !== 'ArrowUp' && event.key !== 'ArrowDown') return
            event.preventDefault()
            const next = now() + (event.key === 'ArrowUp' ? step : -step) * (event.shiftKey ? 10 : 1)
            put(Math.min(max, Math.max(min, Number(next.toFixed(6)))))
          }}
          inputProps={
            {
              'aria-describedby': error ? `${id}-error` : undefined,
              inputMode: 'decimal',
              'data-typed': open ? 'yes' : 'no',
            } as object
          }
          sx={{ width: 86, '& input': { textAlign: 'right', fontWeight: WEIGHT.strong, fontSize: TYPE.name, p: 0, height: 30 } }}
        />
        <Box component="span" sx={{ color: 'text.secondary', minWidth: 42, fontSize: TYPE.small }}>
          {unit}
        </Box>
      </Row>
      {error && (
        <Wrong id={`${id}-error`} role="alert" bottom="tight">
          {error}
        </Wrong>
      )}
    </Box>
  )
}
