import { Slider } from '@mui/material'
import { useEffect, useState } from 'react'
import { type Change, useChange } from '../use-edit.ts'

interface Props {
  readonly label: string
  readonly value: number
  readonly min: number
  readonly max: number
  readonly step: number
  readonly text: (value: number) => string
  readonly change: (value: number) => Change
  readonly name: (value: number) => string
}

/** A value that is followed live while it is dragged, and becomes one edit when it rests. */
export function ValueSlider({ label, value, min, max, step, text, change, name }: Props) {
  const { show, finish } = useChange()
  // Under the finger the slider follows at once, whatever the page is busy with.
  const [held, setHeld] = useState<number | null>(null)
  // biome-ignore lint/correctness/useExhaustiveDependencies: the value has arrived
  useEffect(() => setHeld(null), [value])
  return (
    <Slider
      size="small"
      aria-label={label}
      value={Math.min(max, Math.max(min, held ?? value))}
      min={min}
      max={max}
      step={step}
      getAriaValueText={text}
      valueLabelDisplay="auto"
      valueLabelFormat={text}
      onChange={(_, next) => {
        setHeld(next as number)
        show(change(next as number))
      }}
      onChangeCommitted={(_, next) => finish(name(next as number))}
      sx={{ display: 'block', mx: 'auto', width: 'calc(100% - 14px)', py: 1.6 }}
    />
  )
}
