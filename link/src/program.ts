import type { Mark } from './marks.ts'

/** A program by its lines, counted from 1, without blank ones and comments. It can be read from any line, many times. */
export interface Program {
  /** How many lines it has. */
  readonly count: number
  lines(from: number): Iterable<string>
  /** Places from which its modes are known; none where it is short. */
  readonly marks?: readonly Mark[]
}

/** A line without comment and blanks around it; empty where nothing is left. */
const bare = (line: string): string => {
  if (!line.includes(';') && !line.includes('(')) return line.trim()
  // What stands in the other kind of comment begins none.
  return line.replace(/\([^)]*(?:\)|$)|;.*/g, '').trim()
}

/** Lines as they are counted. @param skip so many of them are left out at the beginning */
export function* programLines(raw: Iterable<string>, skip = 0): Generator<string> {
  let number = 0
  for (const line of raw) {
    const text = bare(line)
    if (text !== '' && ++number > skip) yield text
  }
}

export const programOf = (text: string): Program => {
  const lines = [...programLines(text.split('\n'))]
  return {
    count: lines.length,
    *lines(from) {
      for (let i = from - 1; i < lines.length; i++) yield lines[i]
    },
  }
}
