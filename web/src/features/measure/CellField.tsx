import { QUANTITY_WORDS, type TrialQuantity, typedNumber } from '@neotaxis/core'
import { type ClipboardEvent, useState } from 'react'
import { Reading } from './card-parts.tsx'

interface Props {
  readonly label: string
  readonly quantity: TrialQuantity
  readonly readings: readonly number[]
  readonly onRead: (readings: readonly number[]) => void
  readonly onPaste: (event: ClipboardEvent) => void
  readonly onFocus: () => void
}

/** Readings of one cell as they are typed; undefined where one is no number. */
function typedReadings(text: string, per: number): readonly number[] | undefined {
  if (text.trim() === '') return []
  const values = text.split('/').map((each) => typedNumber(each, /^\s*\d*,\d+\s*$/.test(each)))
  return values.every((value) => value !== undefined && value >= 0) ? values.map((value) => value! / per) : undefined
}

/** One reading, or several with strokes between them. Enter takes it and goes on to the next cell; Escape leaves it. */
export function CellField({ label, quantity, readings, onRead, onPaste, onFocus }: Props) {
  const { per } = QUANTITY_WORDS[quantity]
  const shown = readings.map((value) => String(Number((value * per).toPrecision(4)))).join('/')
  const [text, setText] = useState<string | null>(null)
  const typed = text === null ? readings : typedReadings(text, per)
  const take = (): boolean => {
    if (typed === undefined) return false
    if (text !== null && text.trim() !== shown) onRead(typed)
    setText(null)
    return true
  }
  return (
    <Reading
      value={text ?? shown}
      wrong={typed === undefined}
      aria-label={label}
      aria-invalid={typed === undefined}
      title={typed === undefined ? 'This is no number of 0 or more' : undefined}
      inputMode="decimal"
      onChange={(event) => setText(event.target.value)}
      onFocus={(event) => {
        event.target.select()
        onFocus()
      }}
      onBlur={take}
      onPaste={onPaste}
      onKeyDown={(event) => {
        if (event.key === 'Escape') setText(null)
        if (event.key !== 'Enter' || !take()) return
        const all = [...(event.currentTarget.closest('[role=group]')?.querySelectorAll('input') ?? [])]
        all[(all.indexOf(event.currentTarget) + (event.shiftKey ? -1 : 1) + all.length) % all.length]?.focus()
      }}
    />
  )
}
