import { LONGEST_TEXT, type TextSpec } from '@neotaxis/core'
import { FIRST } from './first-numbers.ts'

/** A text in plain letters. @throws Error with a sentence where it is too long: nothing of it is left out unsaid */
export function plainLetters(text: string): TextSpec {
  if (text.length > LONGEST_TEXT)
    throw new Error(`This text has ${text.length} letters; at most ${LONGEST_TEXT} are written. Bring it in in parts.`)
  return { ...(FIRST.text as TextSpec), text }
}
