/** A program by its lines, counted from 1, without blank ones and comments. It can be read from any line, many times. */
export interface Program {
  lines(from: number): Iterable<string>
}

/** A line without comment and blanks around it; empty where nothing is left. */
const bare = (line: string): string => {
  const end = line.indexOf(';')
  const text = (end < 0 ? line : line.slice(0, end)).trim()
  return text.includes('(') ? text.replace(/\([^)]*\)/g, '').trim() : text
}

/** Lines as they are counted. @param from the first one that is wanted, 1 for all */
export function* programLines(raw: Iterable<string>, from = 1): Generator<string> {
  let number = 0
  for (const line of raw) {
    const text = bare(line)
    if (text !== '' && ++number >= from) yield text
  }
}

export const programOf = (text: string): Program => {
  const lines = [...programLines(text.split('\n'))]
  return {
    *lines(from) {
      for (let i = from - 1; i < lines.length; i++) yield lines[i]
    },
  }
}
