/// <reference path="./bidi-js.d.ts" />
import bidiFactory from 'bidi-js'

/** A stretch of a line that runs one way, in the order in which it is seen. */
export interface Run {
  readonly text: string
  readonly isRightToLeft: boolean
}

const bidi = bidiFactory()

/** Nothing in a line that runs from right to left: Hebrew, Arabic and their kin, and marks that turn. */
const ONE_WAY =
  /^[^\u0590-\u08ff\u200f\u202a-\u202e\u2066-\u2069\ufb1d-\ufdff\ufe70-\ufeff\u{10800}-\u{10fff}\u{1e800}-\u{1efff}]*$/u

/** The runs of a line as they are seen from left to right (Unicode Bidirectional Algorithm, UAX 9). */
export function runsOf(line: string): Run[] {
  if (ONE_WAY.test(line)) return line === '' ? [] : [{ text: line, isRightToLeft: false }]
  const { levels } = bidi.getEmbeddingLevels(line)
  const runs: { text: string; level: number }[] = []
  for (let i = 0; i < line.length; i++) {
    const last = runs.at(-1)
    if (last && last.level === levels[i]) last.text += line[i]
    else runs.push({ text: line[i], level: levels[i] })
  }
  // L2: from the highest level down, what stands at it or above is turned over.
  const most = runs.reduce((top, { level }) => Math.max(top, level), 0)
  for (let level = most; level >= 1; level--)
    for (let i = 0; i < runs.length; i++) {
      if (runs[i].level < level) continue
      let end = i
      while (end < runs.length && runs[end].level >= level) end++
      runs.splice(i, end - i, ...runs.slice(i, end).reverse())
      i = end
    }
  return runs.map(({ text, level }) => ({ text, isRightToLeft: level % 2 === 1 }))
}
