/** Why a line is refused: `error:N`. */
export const ERRORS = {
  1: 'a word without a number',
  2: 'a word that this machine does not know',
  3: 'a move without a speed',
  4: 'outside the bed',
  5: 'an arc whose ends do not fit its centre',
  6: 'locked: reset, then home',
  7: 'the lid is open',
  8: 'the line is too long',
  9: 'not while it moves',
  10: 'the emergency stop is pressed',
  11: 'the program was broken off by a reset: begin again',
} as const

export type ErrorNumber = keyof typeof ERRORS

export class LineError extends Error {
  readonly number: ErrorNumber
  constructor(number: ErrorNumber) {
    super(ERRORS[number])
    this.number = number
  }
}

/** The longest line that is taken, bytes. */
export const MAX_LINE = 120

/** One word of a line: a letter and its number. */
export interface Word {
  readonly letter: string
  readonly value: number
}

/** Words of a line, comments and blanks left out. @throws LineError */
export function readWords(line: string): Word[] {
  if (line.length > MAX_LINE) throw new LineError(8)
  const text = line
    .replace(/\([^)]*\)/g, '')
    .replace(/;.*$/, '')
    .replace(/\s+/g, '')
    .toUpperCase()
  const words: Word[] = []
  for (let at = 0; at < text.length; ) {
    const found = /^([A-Z])([-+]?(?:\d+\.?\d*|\.\d+))/.exec(text.slice(at))
    if (!found) throw new LineError(/^[A-Z]/.test(text.slice(at)) ? 1 : 2)
    words.push({ letter: found[1], value: Number(found[2]) })
    at += found[0].length
  }
  return words
}
