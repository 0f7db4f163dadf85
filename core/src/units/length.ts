/** Units of length an operator types or reads. Everything inside the core is in millimetres. */
export type LengthUnit = 'mm' | 'in'

export const MM_PER_INCH = 25.4

const MM_PER: Record<string, number> = {
  mm: 1,
  cm: 10,
  m: 1000,
  in: MM_PER_INCH,
  inch: MM_PER_INCH,
  '"': MM_PER_INCH,
  '″': MM_PER_INCH,
}

/** A typed value that could not be read; `message` is a sentence for the operator. */
export class LengthError extends Error {}

/**
 * Reads a typed length: a number with an optional unit, or simple arithmetic with + − × ÷ and brackets.
 * A number without a unit counts in `unit`; `2.5in`, `1/4in`, `120/2`, `(25 + 1in) * 2`, `12,5` are understood.
 * @returns millimetres
 * @throws LengthError with a sentence for the operator
 */
export function parseLength(text: string, unit: LengthUnit = 'mm'): number {
  const tokens = tokenise(text)
  if (tokens.length === 0) throw new LengthError('Type a length, for example 120 or 2.5in.')
  let at = 0
  const peek = () => tokens[at]
  const fail = (): never => {
    throw new LengthError(`“${text.trim()}” is not a length. Try 120, 2.5in or 120/2.`)
  }
  // A value is a number together with how many times it was multiplied by a length: 0 plain, 1 length.
  type Value = { amount: number; length: boolean; unit?: number }
  const asLength = (value: Value): number => (value.length ? value.amount : value.amount * MM_PER[unit])
  const factor = (): Value => {
    const token = tokens[at++]
    if (token === '-') {
      const value = factor()
      return { ...value, amount: -value.amount }
    }
    if (token === '(') {
      const value = sum()
      if (tokens[at++] !== ')') fail()
      return { amount: value.amount, length: value.length }
    }
    if (token === undefined || !/^[\d.]/.test(token)) fail()
    const amount = Number(token)
    if (!Number.isFinite(amount)) fail()
    const next = peek()
    if (next !== undefined && next in MM_PER) {
      at++
      return { amount: amount * MM_PER[next], length: true, unit: MM_PER[next] }
    }
    return { amount, length: false }
  }
  const product = (): Value => {
    let value = factor()
    for (let op = peek(); op === '*' || op === '/'; op = peek()) {
      at++
      const right = factor()
      if (op === '*') {
        if (value.length && right.length) throw new LengthError('A length times a length is an area, not a length.')
        value = { amount: value.amount * right.amount, length: value.length || right.length }
      } else {
        if (right.amount === 0) throw new LengthError('Nothing can be divided by zero.')
        // “1/4in” is a quarter of an inch: the unit stands behind the whole fraction.
        if (right.length && !value.length) {
          if (right.unit === undefined) fail()
          value = { amount: (value.amount * right.unit! ** 2) / right.amount, length: true }
          continue
        }
        value = { amount: value.amount / right.amount, length: value.length && !right.length }
      }
    }
    return value
  }
  const sum = (): Value => {
    let value = product()
    for (let op = peek(); op === '+' || op === '-'; op = peek()) {
      at++
      const right = product()
      if (!value.length && !right.length)
        value = { amount: op === '+' ? value.amount + right.amount : value.amount - right.amount, length: false }
      else value = { amount: op === '+' ? asLength(value) + asLength(right) : asLength(value) - asLength(right), length: true }
    }
    return value
  }
  const result = asLength(sum())
  if (at !== tokens.length) fail()
  if (!Number.isFinite(result)) fail()
  return result
}

function tokenise(text: string): string[] {
  const clean = text
    .trim()
    .toLowerCase()
    .replace(/(\d),(\d)/g, '$1.$2')
    .replace(/[−–]/g, '-')
    .replace(/×/g, '*')
    .replace(/÷/g, '/')
  const tokens = clean.match(/\d+\.?\d*(?:e-?\d+)?|\.\d+|mm|cm|inch|in|m|["″]|[-+*/()]|\S/g) ?? []
  return tokens
}

/** Decimals that show a length to about a hundredth of a millimetre at most. */
const decimals: Record<LengthUnit, number> = { mm: 1, in: 3 }

/** A length for reading, without its unit: `168.0`, `6.614`. @param mm millimetres @param digits decimals, or the unit's usual */
export function formatLengthNumber(mm: number, unit: LengthUnit, digits = decimals[unit]): string {
  const value = mm / MM_PER[unit]
  const shown = value.toFixed(digits)
  return Number(shown) === 0 ? (0).toFixed(digits) : shown
}

/** A length for reading with its unit: `168.0 mm`, `6.614 in`. @param mm millimetres */
export function formatLength(mm: number, unit: LengthUnit, digits?: number): string {
  return `${formatLengthNumber(mm, unit, digits)} ${unit}`
}
