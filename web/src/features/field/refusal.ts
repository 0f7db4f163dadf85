import type { Range } from '@neotaxis/core'
import type { FieldError } from 'react-hook-form'
import type { Measure, Written } from './measures.ts'

/** Why a value of a form cannot stay, in a sentence; limits in the field's own unit. */
export function refusal<T>(error: FieldError | undefined, as: Written<T>): string | undefined {
  if (!error) return undefined
  const said = error.types?.[error.type]
  const limit = typeof said === 'string' ? Number(said) : undefined
  const told = limit === undefined ? '' : `${as.show(limit as T)} ${as.unit}`.trim()
  switch (error.type) {
    case 'number.max':
      return `It goes up to ${told}.`
    case 'number.min':
      return `It begins at ${told}.`
    case 'number.greater':
      return `It is more than ${told}.`
    case 'number.integer':
      return 'A whole number.'
    case 'string.empty':
    case 'any.required':
      return 'This is needed.'
    case 'string.max':
      return `At most ${said} characters.`
    default: {
      const text = error.message ?? 'This cannot be.'
      return `${text[0].toUpperCase()}${text.slice(1)}${text.endsWith('.') ? '' : '.'}`
    }
  }
}

/** Whether a value lies outside of what it can be: “Width goes from 1.0 to 500.0 mm.” */
export const outside =
  (label: string, as: Measure, { min, max }: Range) =>
  (value: number): string | null =>
    value < min - 1e-9 || value > max + 1e-9 ? `${label} goes from ${spanOf(as, { min, max })}.` : null

/** “1.0 to 500.0 mm”. */
export const spanOf = ({ show, unit }: Measure, { min, max }: Range): string => `${show(min)} to ${show(max)} ${unit}`.trim()
