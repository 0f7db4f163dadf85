import { formatLengthNumber, fromMmPerSecond, LengthError, parseLength, type Range, toMmPerSecond } from '@neotaxis/core'
import { useSelector } from '../../store/hooks.ts'
import { QuantityField } from './QuantityField.tsx'

interface Props {
  readonly label: string
  readonly value: number
  readonly range: Range
  readonly hint?: string
  readonly onCommit: (value: number) => void
}

export function readNumber(text: string): number {
  const value = Number(text.trim().replace(',', '.').replace(/%$/, ''))
  if (text.trim() === '' || !Number.isFinite(value)) throw new Error(`“${text.trim()}” is not a number.`)
  return value
}

/** A length in the operator's unit; `digits` more than usual where it is small. */
export function LengthField({ range, digits, step, ...rest }: Props & { readonly digits?: number; readonly step?: number }) {
  const unit = useSelector((state) => state.view.lengthUnit)
  const shown = digits === undefined ? undefined : unit === 'in' ? digits + 2 : digits
  return (
    <QuantityField
      {...rest}
      unit={unit}
      show={(value) => formatLengthNumber(value, unit, shown)}
      read={(text) => {
        try {
          return parseLength(text, unit)
        } catch (cause) {
          throw cause instanceof LengthError ? cause : new Error('This is not a length.')
        }
      }}
      min={range.min}
      max={range.max}
      step={step ?? (unit === 'in' ? 1.27 : 1)}
    />
  )
}

export function SpeedField({ range, ...rest }: Props) {
  const unit = useSelector((state) => state.view.speedUnit)
  return (
    <QuantityField
      {...rest}
      unit={unit}
      show={(value) => String(Number(fromMmPerSecond(value, unit).toFixed(unit === 'in/s' ? 3 : 1)))}
      read={(text) => toMmPerSecond(readNumber(text), unit)}
      min={range.min}
      max={range.max}
      step={toMmPerSecond(1, unit)}
    />
  )
}

export function PercentField({ range, ...rest }: Props) {
  return (
    <QuantityField
      {...rest}
      unit="%"
      show={(value) => String(Number((value * 100).toFixed(1)))}
      read={(text) => readNumber(text) / 100}
      min={range.min}
      max={range.max}
      step={0.01}
    />
  )
}

/** A number: whole, unless it is said how many digits stand behind the point. */
export function CountField({
  range,
  unit = '',
  digits = 0,
  ...rest
}: Props & { readonly unit?: string; readonly digits?: number }) {
  return (
    <QuantityField
      {...rest}
      unit={unit}
      show={(value) => String(Number(value.toFixed(digits)))}
      read={(text) => Number(readNumber(text).toFixed(digits))}
      min={range.min}
      max={range.max}
      step={10 ** -Math.min(1, digits)}
    />
  )
}

/** An angle in degrees, clockwise. */
export function DegreesField({ range, ...rest }: Props) {
  return (
    <QuantityField
      {...rest}
      unit="°"
      show={(value) => String(Number(value.toFixed(3)))}
      read={(text) => readNumber(text.replace(/°\s*$/, ''))}
      min={range.min}
      max={range.max}
      step={1}
    />
  )
}
