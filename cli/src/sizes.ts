import { parseLength } from '@neotaxis/core'
import { UsageError } from './io.ts'

/** Lengths with × or x between them, each may have a unit; empty ones are left out. */
export function sizes(name: string, text: string, most: number): (number | undefined)[] {
  const parts = text.toLowerCase().split(/[x×]/)
  if (parts.length < 2 || parts.length > most) throw new UsageError(`--${name} is written like 300x200, not ${text}.`)
  return parts.map((part) => {
    if (part.trim() === '') return undefined
    try {
      const mm = parseLength(part)
      if (!(mm > 0)) throw new Error()
      return mm
    } catch {
      throw new UsageError(`--${name}: “${part}” is not a length above 0.`)
    }
  })
}
